// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "optics/lens.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using namespace rigmatch::optics;

namespace {

const SensorArea kFullFrame{36.0, 20.25};

bool isPrinted(double value, double printed, double lastDigit) {
    return std::abs(value - printed) <= 0.5001 * lastDigit;
}

}  // namespace

/// sources 3.2–3.5, 11.6 and 11.7 (calculated there from published lens theory); tolerance is half
/// of the last printed digit.
class TestLens : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void fieldOfViewFollowsTheTable_data() {
        QTest::addColumn<double>("width");
        QTest::addColumn<double>("height");
        QTest::addColumn<double>("focal");
        QTest::addColumn<double>("across");
        QTest::addColumn<double>("down");
        QTest::newRow("full frame 16") << 36.0 << 20.25 << 16.0 << 96.7 << 64.7;
        QTest::newRow("full frame 24") << 36.0 << 20.25 << 24.0 << 73.7 << 45.7;
        QTest::newRow("full frame 35") << 36.0 << 20.25 << 35.0 << 54.4 << 32.3;
        QTest::newRow("full frame 50") << 36.0 << 20.25 << 50.0 << 39.6 << 22.9;
        QTest::newRow("full frame 85") << 36.0 << 20.25 << 85.0 << 23.9 << 13.6;
        QTest::newRow("full frame 135") << 36.0 << 20.25 << 135.0 << 15.2 << 8.6;
        QTest::newRow("1.5x crop 35") << 23.5 << 13.22 << 35.0 << 37.1 << 21.4;
        QTest::newRow("four thirds 25") << 17.3 << 9.73 << 25.0 << 38.2 << 22.0;
        QTest::newRow("phone 6.9") << 9.8 << 5.5 << 6.9 << 70.8 << 43.5;
    }
    void fieldOfViewFollowsTheTable() {
        QFETCH(double, width);
        QFETCH(double, height);
        QFETCH(double, focal);
        QFETCH(double, across);
        QFETCH(double, down);
        QVERIFY2(isPrinted(fieldOfViewDegrees(width, focal), across, 0.1),
                 qPrintable(QString::number(fieldOfViewDegrees(width, focal))));
        QVERIFY2(isPrinted(fieldOfViewDegrees(height, focal), down, 0.1),
                 qPrintable(QString::number(fieldOfViewDegrees(height, focal))));
    }
    void frameSizeAndItsInverse_data() {
        QTest::addColumn<double>("focal");
        QTest::addColumn<double>("width");
        QTest::addColumn<double>("height");
        QTest::addColumn<int>("headPercent");
        QTest::newRow("16") << 16.0 << 4.46 << 2.51 << 9;
        QTest::newRow("24") << 24.0 << 2.96 << 1.67 << 14;
        QTest::newRow("50") << 50.0 << 1.40 << 0.79 << 29;
        QTest::newRow("85") << 85.0 << 0.81 << 0.46 << 50;
        QTest::newRow("135") << 135.0 << 0.50 << 0.28 << 82;
    }
    void frameSizeAndItsInverse() {
        QFETCH(double, focal);
        QFETCH(double, width);
        QFETCH(double, height);
        QFETCH(int, headPercent);
        const double across = frameExtentMm(36.0, focal, 2000.0);
        QVERIFY(isPrinted(across / 1000.0, width, 0.01));
        QVERIFY(isPrinted(frameExtentMm(20.25, focal, 2000.0) / 1000.0, height, 0.01));
        QCOMPARE(qRound(100.0 * 230.0 / frameExtentMm(20.25, focal, 2000.0)), headPercent);
        QVERIFY(std::abs(focalLengthForWidth(36.0, across, 2000.0) - focal) < 1e-9);
    }
    void equivalenceFollowsTheTable() {
        QVERIFY(isPrinted(equivalentFocalLength(35.0, {23.5, 13.2}), 53.6, 0.1));
        QVERIFY(isPrinted(equivalentFocalLength(25.0, {17.3, 9.73}), 52.0, 0.1));
        QVERIFY(isPrinted(equivalentFocalLength(8.8, {13.2, 7.43}), 24.0, 0.1));
        QVERIFY(isPrinted(equivalentFocalLength(6.9, {9.8, 5.5}), 25.3, 0.1));
        QVERIFY(isPrinted(cropFactor({24.9, 14.0}), 1.45, 0.01));
        QVERIFY(isPrinted(circleOfConfusionMm(kFullFrame), 0.0275, 0.0001));
        QVERIFY(isPrinted(criticalCircleMm(kFullFrame, 3840.0), 0.019, 0.001));
        QCOMPARE(sensorFormats().size(), std::size_t{8});
    }
    void depthOfFieldFollowsTheTable_data() {
        QTest::addColumn<double>("circle");
        QTest::addColumn<double>("focal");
        QTest::addColumn<double>("fNumber");
        QTest::addColumn<double>("distance");
        QTest::addColumn<double>("hyperfocal");
        QTest::addColumn<double>("nearest");
        QTest::addColumn<double>("farthest");
        QTest::newRow("ff 50 f/1.8") << 0.030 << 50.0 << 1.8 << 2.0 << 46.346 << 1.919 << 2.088;
        QTest::newRow("ff 50 f/2.8") << 0.030 << 50.0 << 2.8 << 2.0 << 29.812 << 1.877 << 2.140;
        QTest::newRow("ff 50 f/4") << 0.030 << 50.0 << 4.0 << 2.0 << 20.883 << 1.829 << 2.207;
        QTest::newRow("ff 2 px") << 0.01875 << 50.0 << 1.8 << 2.0 << 74.124 << 1.949 << 2.054;
        QTest::newRow("ff 85 f/1.4") << 0.030 << 85.0 << 1.4 << 3.0 << 172.109 << 2.950 << 3.052;
        QTest::newRow("ff 35 f/1.8") << 0.030 << 35.0 << 1.8 << 1.5 << 22.720 << 1.409 << 1.604;
        QTest::newRow("ff 24 f/1.4") << 0.030 << 24.0 << 1.4 << 1.0 << 13.738 << 0.934 << 1.077;
        QTest::newRow("1.5x 35 f/1.8") << 0.020 << 35.0 << 1.8 << 2.0 << 34.063 << 1.891 << 2.123;
        QTest::newRow("4/3 25 f/2.8") << 0.015 << 25.0 << 2.8 << 2.0 << 14.906 << 1.766 << 2.306;
        QTest::newRow("phone") << 0.008 << 6.9 << 1.8 << 1.5 << 3.313 << 1.033 << 2.735;
    }
    void depthOfFieldFollowsTheTable() {
        QFETCH(double, circle);
        QFETCH(double, focal);
        QFETCH(double, fNumber);
        QFETCH(double, distance);
        QFETCH(double, hyperfocal);
        QFETCH(double, nearest);
        QFETCH(double, farthest);
        const auto depth = depthOfField({focal, fNumber, distance * 1000.0, kFullFrame}, circle);
        QVERIFY(depth && depth->farMm);
        QVERIFY(isPrinted(depth->hyperfocalMm / 1000.0, hyperfocal, 0.001));
        QVERIFY(isPrinted(depth->nearMm / 1000.0, nearest, 0.001));
        QVERIFY(isPrinted(*depth->farMm / 1000.0, farthest, 0.001));
    }
    void beyondHyperfocalAllIsSharp() {
        const auto depth = depthOfField({6.9, 1.8, 4000.0, {9.8, 5.5}}, 0.008);
        QVERIFY(depth && !depth->farMm);
        QVERIFY(depth->nearMm < 4000.0);
    }
    /// sources 3.5: pixels of a UHD frame.
    void blurFollowsTheWorkedExamples() {
        const auto px = [](double f, double n, double s, double d, double width) {
            return backgroundBlurShare({f, n, s * 1000.0, {width, width * 9.0 / 16.0}}, d * 1000.0)
                       .value() *
                   3840.0;
        };
        QCOMPARE(qRound(px(50, 1.8, 2, 4, 36)), 38);
        QCOMPARE(qRound(px(50, 4, 2, 4, 36)), 17);
        QCOMPARE(qRound(px(85, 1.4, 3, 6, 36)), 94);
        QCOMPARE(qRound(px(6.9, 1.8, 1.5, 3.5, 9.8)), 4);
        QCOMPARE(px(50, 2, 2, 1.5, 36), 0.0);
    }
    /// sources 3.1: 1.10 at 1 m, 1.05 at 2 m.
    void nearLensesDrawTheNose() {
        QVERIFY(isPrinted(noseRatio(1.0), 1.10, 0.01));
        QVERIFY(isPrinted(noseRatio(2.0), 1.05, 0.01));
    }
    void impossibleLensesAreRefusedWithRange() {
        QCOMPARE(
            words::inEnglish(depthOfField({0.0, 2.8, 2000.0, kFullFrame}, 0.03).error().detail),
            std::string("0.00 mm was given; allowed is 1.0 to 2000.0 mm."));
        QVERIFY(!depthOfField({50.0, 0.0, 2000.0, kFullFrame}, 0.03));
        QVERIFY(!depthOfField({50.0, 2.8, 0.0, kFullFrame}, 0.03));
        QVERIFY(!depthOfField({50.0, 2.8, 40.0, kFullFrame}, 0.03));
        QVERIFY(!depthOfField({50.0, 2.8, std::nan(""), kFullFrame}, 0.03));
        QVERIFY(!depthOfField({50.0, 2.8, 2000.0, kFullFrame}, 0.0));
        QVERIFY(!backgroundBlurShare({50.0, 2.8, 2000.0, {0.0, 0.0}}, 4000.0));
    }
};

RIG_TEST(TestLens);
#include "test_lens.moc"
