// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/format.h"
#include "base/progress.h"
#include "base/result.h"
#include "base/units.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch::base;

class TestUnits : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void likeUnitsAddUp() {
        QCOMPARE((Stops(1.5) + Stops(-0.5)).value(), 1.0);
        QVERIFY(Kelvin(3200.0) < Kelvin(5600.0));
        QCOMPARE((-Mired(20.0)).value(), -20.0);
    }
    void numbersUseARealMinusAndNoSignAtZero() {
        QCOMPARE(signedFixed(-0.634, 2), std::string("\u22120.63"));
        QCOMPARE(signedFixed(0.634, 2), std::string("+0.63"));
        QCOMPARE(signedFixed(-0.0001, 2), std::string("0.00"));
        QCOMPARE(fixed(-0.0001, 2), std::string("0.00"));
        QCOMPARE(fixed(1234.5, 1), std::string("1234.5"));
    }
    void infinityIsNotWrittenAsANumber() { QCOMPARE(fixed(1.0 / 0.0 * 1.0, 2), std::string("?")); }
    void errorTextJoinsItsSentences() {
        const Error error{ErrorCode::NotFound,
                          say("media.cannotRead", {{"filename", "b.mov"}}),
                          say("media.holdsNoFrame"),
                          say("media.copyAgain")};
        QCOMPARE(rigmatch::words::inEnglish(error),
                 std::string("Cannot read b.mov. It holds no frame. Copy it again."));
        // What is not told leaves no gap.
        const Error bare{ErrorCode::NotFound, asIs("Nothing here"), {}, {}};
        QCOMPARE(rigmatch::words::inEnglish(bare), std::string("Nothing here."));
    }
    void partsOfWorkReportIntoTheWhole() {
        double last = -1.0;
        const Progress progress([&](double fraction, const Text&) { last = fraction; });
        progress.part(0.5, 1.0).part(0.0, 0.5).report(0.5, asIs("half of a quarter"));
        QCOMPARE(last, 0.625);
    }
    void copiesShareTheStopFlag() {
        const Progress progress;
        const Progress part = progress.part(0.0, 0.1);
        QVERIFY(!part.isCancelled());
        progress.cancel();
        QVERIFY(part.isCancelled());
    }
};

RIG_TEST(TestUnits);
#include "test_units.moc"
