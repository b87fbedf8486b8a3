// SPDX-License-Identifier: GPL-3.0-or-later
// What the place decides (IEC's list of mains by country, from memory).
#include <QTemporaryDir>

#include "rig/region.h"
#include "rig/rig_store.h"
#include "rig/user_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

class TestRegion : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void territoriesLeadToMains_data() {
        QTest::addColumn<QString>("code");
        QTest::addColumn<double>("hertz");
        QTest::addColumn<double>("volts");
        QTest::addColumn<bool>("feet");
        QTest::newRow("Germany") << "DE" << 50.0 << 230.0 << false;
        QTest::newRow("United States") << "US" << 60.0 << 120.0 << true;
        QTest::newRow("in small letters") << "ca" << 60.0 << 120.0 << true;
        QTest::newRow("Mexico") << "MX" << 60.0 << 120.0 << false;
        QTest::newRow("Korea") << "KR" << 60.0 << 220.0 << false;
        QTest::newRow("Japan") << "JP" << 50.0 << 100.0 << false;
        QTest::newRow("unknown") << "ZZ" << 50.0 << 230.0 << false;
        QTest::newRow("none") << "" << 50.0 << 230.0 << false;
    }
    void territoriesLeadToMains() {
        QFETCH(QString, code);
        QFETCH(double, hertz);
        QFETCH(double, volts);
        QFETCH(bool, feet);
        const rig::Region& region = rig::regionOf(code.toStdString());
        QCOMPARE(region.mainsHz, hertz);
        QCOMPARE(region.volts, volts);
        QCOMPARE(region.isInFeet, feet);
    }
    /// It is kept in the file, and a layout that comes later takes it over.
    void aRegionIsKeptAndFollowed() {
        rig::Rig rig;
        rig::applyRegion(rig, rig::regionOf("US"));
        const QTemporaryDir folder;
        const std::string file = folder.filePath("us.rigmatch").toStdString();
        QVERIFY(rig::saveRig(rig, file).has_value());
        const auto loaded = rig::loadRig(file);
        QVERIFY(loaded.has_value());
        QCOMPARE(loaded->rig.choices.region, std::string("northAmerica"));
        QVERIFY(std::abs(loaded->rig.choices.deliveryFps - 30000.0 / 1001.0) < 1e-9);
        rig::Layout layout;
        layout.plan.circuits = {{"circuit-1", "Wall", 230.0, 10.0, 0.0, {}}};
        const rig::Rig planned = rig::withLayout(loaded->rig, layout);
        QCOMPARE(planned.plan->circuits.front().volts, 120.0);
        QVERIFY(planned.plan->isInFeet);
        QCOMPARE(rig::withLayout(rig::Rig{}, layout).plan->circuits.front().volts, 230.0);
        QVERIFY(rig::findRegion("nowhere") == nullptr);
    }
};

RIG_TEST(TestRegion);
#include "test_region.moc"
