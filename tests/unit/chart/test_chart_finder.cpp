// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_finder.h"
#include "chart/patch_reader.h"
#include "sim/random_frames.h"
#include "support/chart_frame.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::chartFrame;

namespace {

constexpr double kHalfPixel = 0.5;

/// Several charts in one picture.
image::CodedFrame chartsFrame(const std::vector<std::array<image::Point, 4>>& charts) {
    image::Frame signal = image::signalFrame(chartFrame(charts.front()));
    for (std::size_t i = 1; i < charts.size(); ++i) {
        const image::Frame other = image::signalFrame(chartFrame(charts[i]));
        double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
        for (const image::Point& p : charts[i]) {
            left = std::min(left, p.x - 14);
            right = std::max(right, p.x + 14);
            top = std::min(top, p.y - 14);
            bottom = std::max(bottom, p.y + 14);
        }
        for (int y = int(top); y < int(bottom); ++y) {
            for (int x = int(left); x < int(right); ++x) {
                const auto at = static_cast<std::size_t>(y * signal.width + x);
                for (std::size_t c = 0; c < 3; ++c) signal.channels[c][at] = other.channels[c][at];
            }
        }
    }
    return image::codedFromSignal(signal, {}, 10, 1);
}

/// The mean over a window of the given reach to each side.
image::Frame blurred(const image::Frame& signal, int reachX, int reachY) {
    image::Frame result = image::blankFrame(signal.width, signal.height);
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                float sum = 0.0F;
                int count = 0;
                for (int dy = -reachY; dy <= reachY; ++dy) {
                    for (int dx = -reachX; dx <= reachX; ++dx, ++count)
                        sum += signal.at(c,
                                         std::clamp(x + dx, 0, signal.width - 1),
                                         std::clamp(y + dy, 0, signal.height - 1));
                }
                result.channels[static_cast<std::size_t>(c)]
                               [static_cast<std::size_t>(y * signal.width + x)] =
                    sum / static_cast<float>(count);
            }
        }
    }
    return result;
}

/// A round spot of a colour, mixed in by `share`.
void spot(image::Frame& signal,
          image::Point at,
          double radius,
          std::array<float, 3> colour,
          float share) {
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            if (std::hypot(x - at.x, y - at.y) > radius) continue;
            for (std::size_t c = 0; c < 3; ++c) {
                float& value = signal.channels[c][static_cast<std::size_t>(y * signal.width + x)];
                value = value * (1.0F - share) + colour[c] * share;
            }
        }
    }
}

/// A third-order barrel: places move toward the middle by one percent at the corner.
image::Frame barrel(const image::Frame& signal) {
    image::Frame result = image::blankFrame(signal.width, signal.height);
    const double cx = 0.5 * signal.width;
    const double cy = 0.5 * signal.height;
    const double corner = cx * cx + cy * cy;
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            const double dx = x - cx;
            const double dy = y - cy;
            const double scale = 1.0 + 0.01 * (dx * dx + dy * dy) / corner;
            const int sx = std::clamp(int(std::lround(cx + scale * dx)), 0, signal.width - 1);
            const int sy = std::clamp(int(std::lround(cy + scale * dy)), 0, signal.height - 1);
            for (int c = 0; c < 3; ++c)
                result.channels[static_cast<std::size_t>(c)]
                               [static_cast<std::size_t>(y * signal.width + x)] =
                    signal.at(c, sx, sy);
        }
    }
    return result;
}

image::CodedFrame troubled(const std::array<image::Point, 4>& corners, int trouble) {
    image::Frame signal = image::signalFrame(chartFrame(corners));
    chart::ChartPose pose;
    pose.corners = corners;
    if (trouble == 0) {
        for (const std::size_t patch : {std::size_t{0}, std::size_t{6}, std::size_t{22}})
            spot(signal, pose.patchCentrePx(patch), 26.0, {0.62F, 0.45F, 0.37F}, 1.0F);
    }
    if (trouble == 1) spot(signal, pose.patchCentrePx(9), 22.0, {1.0F, 1.0F, 1.0F}, 0.8F);
    if (trouble == 2) {
        for (int y = 0; y < signal.height; ++y) {
            for (int x = 0; x < signal.width; ++x) {
                const double stops = -(x - corners[0].x) / (corners[1].x - corners[0].x);
                for (auto& channel : signal.channels)
                    channel[static_cast<std::size_t>(y * signal.width + x)] *=
                        static_cast<float>(std::exp2(0.5 * std::clamp(stops, -2.0, 2.0)));
            }
        }
    }
    if (trouble == 3) signal = barrel(signal);
    if (trouble == 4) signal = blurred(signal, 4, 4);
    if (trouble == 5) signal = blurred(signal, 3, 0);
    return image::codedFromSignal(signal, {}, 10, 1);
}

std::array<image::Point, 4> turnedChart(double degrees) {
    return support::turnedField(360.0, 238.0, degrees);
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
    /// Flipped by a selfie view or a capture chain: corners keep their patches, in the mirror's
    /// order.
    void mirroredPicturesAreFoundAndTold() {
        for (double degrees : {0.0, 25.0, 180.0}) {
            auto corners = turnedChart(degrees);
            for (image::Point& corner : corners) corner.x = 1279.0 - corner.x;
            const auto found = chart::findChart(chartFrame(corners));
            QVERIFY2(found.has_value(), qPrintable(QString::number(degrees)));
            QVERIFY(found->pose.isMirrored());
            for (std::size_t i = 0; i < 4; ++i)
                QVERIFY(image::distancePx(found->pose.corners[i], corners[i]) < kHalfPixel);
        }
        QVERIFY(!chart::findChart(chartFrame(turnedChart(0)))->pose.isMirrored());
    }
    void ofSeveralChartsTheLargestIsTaken() {
        const auto placed = [](double x, double y, double half) {
            return std::array<image::Point, 4>{image::Point{x - half, y - 0.66 * half},
                                               {x + half, y - 0.66 * half},
                                               {x + half, y + 0.66 * half},
                                               {x - half, y + 0.66 * half}};
        };
        const auto large = placed(850, 420, 220);
        const auto found =
            chart::findChart(chartsFrame({placed(260, 180, 120), large, placed(280, 520, 150)}));
        QVERIFY(found.has_value());
        QVERIFY(found->otherCharts >= 1);
        for (std::size_t i = 0; i < 4; ++i)
            QVERIFY(image::distancePx(found->pose.corners[i], large[i]) < 1.0);
        QCOMPARE(chart::findChart(chartFrame(large))->otherCharts, 0);
    }
    /// What hands, lamps and lenses do to a chart; each within two pixels of the true corners.
    void hardChartsAreFound_data() {
        QTest::addColumn<int>("trouble");
        QTest::newRow("fingers over three patches") << 0;
        QTest::newRow("glare on one patch") << 1;
        QTest::newRow("light falling off by a stop") << 2;
        QTest::newRow("barrel distortion of one percent") << 3;
        QTest::newRow("defocus of four pixels") << 4;
        QTest::newRow("motion of six pixels") << 5;
    }
    void hardChartsAreFound() {
        QFETCH(int, trouble);
        const auto corners = turnedChart(8);
        const auto found = chart::findChart(troubled(corners, trouble));
        QVERIFY2(found.has_value(), found ? "" : words::inEnglish(found.error()).c_str());
        for (std::size_t i = 0; i < 4; ++i) {
            QVERIFY2(
                image::distancePx(found->pose.corners[i], corners[i]) < 2.0,
                qPrintable(QString::number(image::distancePx(found->pose.corners[i], corners[i]))));
        }
    }
    void patchWidthIsMeasured() {
        const auto found = chart::findChart(chartFrame(turnedChart(10)));
        QVERIFY(found && std::abs(found->pose.patchShare - 0.86) < 0.02);
        QVERIFY(found->confidence > 0.9);
    }
    /// sources 11.9: a perfectly exposed chart gives the published BT.709 lumas.
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
        QVERIFY2(words::inEnglish(found.error().detail).find("partly outside") != std::string::npos,
                 words::inEnglish(found.error().detail).c_str());
    }
    void blackAndWhiteFramesSayWhy() {
        image::Frame frame = image::blankFrame(640, 360);
        const auto black = chart::findChart(image::codedFromSignal(frame, {}, 8));
        QVERIFY(!black && words::inEnglish(black.error().detail) == "The picture is black.");
        for (auto& channel : frame.channels) std::fill(channel.begin(), channel.end(), 1.05F);
        const auto white = chart::findChart(image::codedFromSignal(frame, {}, 8));
        QVERIFY(!white && words::inEnglish(white.error().detail).find("clipped to white") !=
                              std::string::npos);
    }
    void tinyFramesAreRefused() {
        const auto found =
            chart::findChart(image::codedFromSignal(image::blankFrame(20, 12), {}, 8));
        QVERIFY(!found &&
                words::inEnglish(found.error().detail).find("20 × 12") != std::string::npos);
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
        QVERIFY(words::inEnglish(chart::readPatches(frame, pose).error().detail)
                    .find("outside the picture") != std::string::npos);
    }
};

RIG_TEST(TestChartFinder);
#include "test_chart_finder.moc"
