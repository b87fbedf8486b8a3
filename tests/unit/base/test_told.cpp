// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/told.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using base::Told;

class TestTold : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void whatIsToldReadsAsItsValue() {
        Told<double> iso = 800.0;
        QVERIFY(iso.isTold());
        QCOMPARE(iso / 2.0, 400.0);
        iso = 1600.0;
        QCOMPARE(*iso.told(), 1600.0);
    }
    void whatNobodyToldIsAssumedAndNeverStated() {
        Told<double> iso = Told<double>::assumed(800.0);
        QVERIFY(!iso.isTold() && !iso.told());
        QCOMPARE(iso.value(), 800.0);
        iso = 800.0;
        QVERIFY(iso.isTold());
        iso.forget();
        QVERIFY(!iso.isTold());
    }
    void theUnknownIsAlikeAndUnlikeEverythingKnown() {
        Told<std::string> log = std::string("worklog");
        Told<std::string> unknown = Told<std::string>::assumed("worklog");
        QVERIFY(unknown == Told<std::string>::assumed("flat"));
        QVERIFY(!(unknown == log));
        QVERIFY(log == "worklog");
        QVERIFY(!(unknown == "worklog"));
    }
};

RIG_TEST(TestTold);
#include "test_told.moc"
