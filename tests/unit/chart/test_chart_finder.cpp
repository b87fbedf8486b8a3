// SPDX-License-Identifier: GPL-3.0-or-later
#include <QtTest>

#include "chart/chart_finder.h"
#include "chart/patch_reader.h"
#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "sim/random_frames.h"

using namespace rigmatch;

namespace {

constexpr double kHalfPixel = 0.5;

/// A grey wall with the chart at `corners`, as a nominal BT.709 camera records it.
image::CodedFrame chartFrame(const std::array<image::Point, 4>& corners,
                             double gain = 1.0,
                             int bitDepth = 10) {
    image::Frame linear = image::blankFrame(1280, 720);
    for (auto& channel : linear.channels) std::fill(channel.begin(), channel.end(), 0.10F);
    sim::ChartCard card;
    card.light = {gain, gain, gain};
    sim::paintChart(linear, corners, card);
    rig::Camera camera;
    camera.settings = sim::nominalSettings();
    camera.settings.profile = "none";
    rig::SimulatedBody body;
    body.curve = colour::curveOf(colour::CurveKind::Bt709);
    body.vignetteStops = 0.0;
    body.noiseAtBase = 0.001;
    camera.simulated = body;
    return image::codedFromSignal(sim::CameraModel(camera).develop(linear, 3), {}, bitDepth, 1);
}

std::array<image::Point, 4> turnedChart(double degrees) {
    std::array<image::Point, 4> corners{
        image::Point{-180, -119}, {180, -119}, {180, 119}, {-180, 119}};
    const double angle = degrees * 3.14159265358979 / 180.0;
    for (image::Point& p : corners) {
        p = {640 + p.x * std::cos(angle) - p.y * std::sin(angle),
             360 + p.x * std::sin(angle) + p.y * std::cos(angle)};
    }
    return corners;
}

}  // namespace

class TestChartFinder : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void anyRollIsFoundInItsOwnOrder() {
        for (double degrees : {0.0, 33.0, 90.0, 135.0, 180.0, 222.0, 270.0, 301.0}) {
            const auto corners = turnedChart(degrees);
            const auto found = chart::findChart(chartFrame(corners));
            QVERIFY2(found.has_value(), qPrintable(QString::number(degrees)));
            for (std::size_t i = 0; i < 4; ++i) {
                QVERIFY2(image::distancePx(found->pose.corners[i], corners[i]) < kHalfPixel,
                         qPrintable(QString::number(degrees)));
            }
        }
    }
    void patchWidthIsMeasured() {
        const auto found = chart::findChart(chartFrame(turnedChart(10)));
        QVERIFY(found && std::abs(found->pose.patchShare - 0.86) < 0.02);
        QVERIFY(found->confidence > 0.9);
    }
    /// Handbook 11.9: a perfectly exposed chart gives the published BT.709 lumas.
    void patchesReadTheirPublishedLuma() {
        const auto frame = chartFrame(turnedChart(0));
        const auto found = chart::findChart(frame);
        QVERIFY(found.has_value());
        const auto patches = chart::readPatches(frame, found->pose);
        QVERIFY(patches.has_value());
        const std::array<double, 24> luma{28.4, 57.4, 41.1, 33.9, 46.8, 62.3, 50.3, 30.4,
                                          37.1, 21.0, 64.6, 62.1, 18.9, 44.6, 24.7, 73.8,
                                          38.8, -1,   95.6, 76.7, 59.8, 42.3, 27.0, 13.1};
        for (std::size_t i = 0; i < luma.size(); ++i) {
            if (luma[i] < 0) continue;  // cyan lies outside BT.709
            const auto& s = (*patches)[i].signal;
            const double y = 100.0 * (0.2126 * s[0] + 0.7152 * s[1] + 0.0722 * s[2]);
            QVERIFY2(std::abs(y - luma[i]) < 0.35,
                     qPrintable(QString("%1: %2 for %3").arg(i).arg(y).arg(luma[i])));
        }
    }
    void overexposedPatchesAreReportedClipped() {
        const auto frame = chartFrame(turnedChart(0), 2.0);
        const auto found = chart::findChart(frame);
        QVERIFY(found.has_value());
        const auto patches = chart::readPatches(frame, found->pose);
        QVERIFY((*patches)[18].clippedShare > 0.5);
        QCOMPARE((*patches)[21].clippedShare, 0.0);
    }
    void chartHalfOutOfFrameIsRefusedWithItsReason() {
        auto corners = turnedChart(0);
        for (image::Point& p : corners) p.x += 520;
        const auto found = chart::findChart(chartFrame(corners));
        QVERIFY(!found.has_value());
        QCOMPARE(found.error().code, base::ErrorCode::ChartNotFound);
        QVERIFY2(found.error().detail.find("partly outside") != std::string::npos,
                 found.error().detail.c_str());
    }
    void blackAndWhiteFramesSayWhy() {
        image::Frame frame = image::blankFrame(640, 360);
        const auto black = chart::findChart(image::codedFromSignal(frame, {}, 8));
        QVERIFY(!black && black.error().detail == "The picture is black.");
        for (auto& channel : frame.channels) std::fill(channel.begin(), channel.end(), 1.05F);
        const auto white = chart::findChart(image::codedFromSignal(frame, {}, 8));
        QVERIFY(!white && white.error().detail.find("clipped to white") != std::string::npos);
    }
    void tinyFramesAreRefused() {
        const auto found =
            chart::findChart(image::codedFromSignal(image::blankFrame(20, 12), {}, 8));
        QVERIFY(!found && found.error().detail.find("20 × 12") != std::string::npos);
    }
    void gridsInOtherColoursAreNotTheChart() {
        auto corners = turnedChart(0);
        image::CodedFrame frame = chartFrame(corners);
        image::Frame signal = image::signalFrame(frame);
        std::swap(signal.channels[0],
                  signal.channels[2]);  // the same fields with red and blue exchanged
        const auto found = chart::findChart(image::codedFromSignal(signal, {}, 10));
        QVERIFY(!found.has_value());
    }
    void followingMovesWithTheChart() {
        const auto before = turnedChart(4);
        auto after = before;
        for (image::Point& p : after) p = {p.x + 5.0, p.y - 4.0};
        const auto followed = chart::followChart(chartFrame(after), chart::ChartPose{before, 0.86});
        QVERIFY(followed.has_value());
        QVERIFY(image::distancePx(followed->pose.corners[0], after[0]) < kHalfPixel);
        QVERIFY(!chart::followChart(chartFrame(turnedChart(180)), chart::ChartPose{before, 0.86})
                     .has_value());
    }
    void senselessCornersAreRefusedInWords() {
        const auto frame = chartFrame(turnedChart(0));
        chart::ChartPose pose;
        pose.corners = {image::Point{0, 0}, {100, 100}, {100, 0}, {0, 100}};
        QCOMPARE(chart::readPatches(frame, pose).error().code, base::ErrorCode::OutOfRange);
        pose.corners = {image::Point{10, 10}, {30, 10}, {30, 22}, {10, 22}};
        QCOMPARE(chart::readPatches(frame, pose).error().code, base::ErrorCode::TooFewPixels);
        pose.corners = {image::Point{1200, 10}, {1500, 10}, {1500, 200}, {1200, 200}};
        QVERIFY(chart::readPatches(frame, pose).error().detail.find("outside the picture") !=
                std::string::npos);
    }
};

QTEST_APPLESS_MAIN(TestChartFinder)
#include "test_chart_finder.moc"
