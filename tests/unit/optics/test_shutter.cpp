// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "optics/shutter.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::optics;

/// sources 4.3 (calculated there).
class TestShutter : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void safeTimesFollowTheTable_data() {
        QTest::addColumn<double>("fps");
        QTest::addColumn<double>("mains");
        QTest::addColumn<QList<double>>("angles");
        QTest::newRow("23.976 at 50") << 23.976 << 50.0 << QList<double>{86.3, 172.6, 258.9, 345.3};
        QTest::newRow("24 at 60") << 24.0 << 60.0 << QList<double>{72, 144, 216, 288, 360};
        QTest::newRow("25 at 50") << 25.0 << 50.0 << QList<double>{90, 180, 270, 360};
        QTest::newRow("29.97 at 50") << 29.97 << 50.0 << QList<double>{107.9, 215.8, 323.7};
        QTest::newRow("50 at 60") << 50.0 << 60.0 << QList<double>{150, 300};
        QTest::newRow("60 at 50") << 60.0 << 50.0 << QList<double>{216};
    }
    void safeTimesFollowTheTable() {
        QFETCH(double, fps);
        QFETCH(double, mains);
        QFETCH(QList<double>, angles);
        const auto safe = safeShutters(fps, mains);
        QCOMPARE(static_cast<qsizetype>(safe.size()), angles.size());
        for (std::size_t i = 0; i < safe.size(); ++i) {
            QVERIFY(std::abs(safe[i].angleDegrees - angles[static_cast<qsizetype>(i)]) < 0.051);
            QVERIFY(rippleResidual(safe[i].time, mains) < 1e-9);
        }
    }
    void defaultsAreThoseOfTheTrade_data() {
        QTest::addColumn<double>("fps");
        QTest::addColumn<double>("mains");
        QTest::addColumn<double>("below");
        QTest::newRow("24 at 50") << 24.0 << 50.0 << 50.0;
        QTest::newRow("25 at 60") << 25.0 << 60.0 << 60.0;
        QTest::newRow("30 at 50") << 30.0 << 50.0 << 50.0;
        QTest::newRow("24 at 60, a near tie") << 24.0 << 60.0 << 60.0;
        QTest::newRow("25 at 50") << 25.0 << 50.0 << 50.0;
        QTest::newRow("60 at 60") << 60.0 << 60.0 << 120.0;
    }
    void defaultsAreThoseOfTheTrade() {
        QFETCH(double, fps);
        QFETCH(double, mains);
        QFETCH(double, below);
        QVERIFY(std::abs(1.0 / recommendedShutter(fps, mains).time.value() - below) < 0.01);
    }
    void noSafeTimeLeavesHalfTheFrame() {
        const SafeShutter shutter = recommendedShutter(240.0, 50.0);
        QVERIFY(std::abs(shutter.angleDegrees - 180.0) < 1e-9);
    }
    void residualsFollowTheList() {
        const auto left = [](double below, double mains) {
            return rippleResidual(base::Seconds(1.0 / below), mains);
        };
        QVERIFY(std::abs(left(48, 50) - 0.040) < 0.0006);
        QVERIFY(std::abs(left(48, 60) - 0.127) < 0.0006);
        QVERIFY(std::abs(left(50, 60) - 0.126) < 0.0006);
        QVERIFY(std::abs(left(60, 50) - 0.165) < 0.0006);
        QVERIFY(std::abs(left(125, 50) - 0.234) < 0.0006);
        QVERIFY(std::abs(left(500, 50) - 0.94) < 0.006);
        QVERIFY(std::abs(flickerStops(base::Seconds(1.0 / 48.0), 60, 0.3).value() - 0.11) < 0.006);
        QVERIFY(std::abs(flickerStops(base::Seconds(1.0 / 60.0), 50, 0.3).value() - 0.14) < 0.006);
    }
    void beatsFollowTheList() {
        QVERIFY(std::abs(beatHz(24, 50) - 4.0) < 1e-9);
        QVERIFY(std::abs(beatHz(23.976, 50) - 4.10) < 0.006);
        QVERIFY(std::abs(beatHz(25, 60) - 5.0) < 1e-9);
        QVERIFY(std::abs(beatHz(30, 50) - 10.0) < 1e-9);
        QVERIFY(std::abs(beatHz(29.97, 60) - 0.12) < 0.001);
        QVERIFY(std::abs(beatHz(59.94, 50) - 19.9) < 0.05);
        QVERIFY(beatHz(24, 60) < 1e-9 && beatHz(25, 50) < 1e-9 && beatHz(50, 50) < 1e-9);
    }
    void angleAndTimeAreInverse() {
        QVERIFY(std::abs(shutterOfAngle(180.0, 24.0).value() - 1.0 / 48.0) < 1e-12);
        QVERIFY(std::abs(shutterAngleDegrees(shutterOfAngle(172.8, 24.0), 24.0) - 172.8) < 1e-9);
    }
    void slowMotionNeedsRateAndLight() {
        const SlowMotion slow = slowMotion(25.0, 2.0);
        QCOMPARE(slow.recordFps, 50.0);
        QVERIFY(std::abs(slow.shutter.value() - 0.01) < 1e-12);
        QVERIFY(std::abs(slow.lightNeeded.value() - 1.0) < 1e-12);
    }
};

RIG_TEST(TestShutter);
#include "test_shutter.moc"
