// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <random>

#include "chart/edge_sharpness.h"
#include "chart/reference_chart.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

const std::vector<std::size_t> kEdges = chart::classicChart().edgePatches();
constexpr double kWidthPerSigma = 2.5631;  // 10 to 90 % of a Gaussian's integral

chart::ChartPose turnedPose(double degrees) {
    chart::ChartPose pose;
    const double c = std::cos(degrees * M_PI / 180.0);
    const double s = std::sin(degrees * M_PI / 180.0);
    const std::array<std::pair<double, double>, 4> corners{
        {{-300, -200}, {300, -200}, {300, 200}, {-300, 200}}};
    for (std::size_t i = 0; i < 4; ++i) {
        const auto [x, y] = corners[i];
        pose.corners[i] = {480.0 + c * x - s * y, 320.0 + s * x + c * y};
    }
    return pose;
}

/// Light greys on a dark card; edges are Gaussian steps of `sigma` px with `ringing` of the step
/// added beside them (the second derivative of the step, as sharpening adds).
image::Frame cardFrame(const chart::ChartPose& pose, double sigma, double ringing, double noise) {
    image::Frame frame = image::blankFrame(960, 640);
    std::mt19937 generator(3);
    std::normal_distribution<double> grain(0.0, noise);
    const image::Homography toField = pose.fieldToPicture().inverse();
    const double perUnitX = pose.widthPx();
    for (int y = 0; y < frame.height; ++y) {
        for (int x = 0; x < frame.width; ++x) {
            const image::Point at = toField.apply({double(x), double(y)});
            double signal = 0.1;
            for (std::size_t patch = chart::kFirstNeutral; patch < chart::kFirstNeutral + 3;
                 ++patch) {
                const image::Point centre = pose.patchCentre(patch);
                const double half = 0.5 * pose.patchShare / (5.0 + pose.patchShare) * perUnitX;
                const double dx = std::abs(at.x - centre.x) * perUnitX - half;
                const double dy = std::abs(at.y - centre.y) * 400.0 -
                                  0.5 * pose.patchShare / (3.0 + pose.patchShare) * 400.0;
                const double d = std::max(dx, dy) / sigma;
                const double step = 0.5 * std::erfc(d / std::sqrt(2.0));
                const double ring = -ringing * d * std::exp(0.5 * (1.0 - d * d));
                signal += 0.6 * (step + ring);
            }
            for (auto& channel : frame.channels)
                channel[static_cast<std::size_t>(y * frame.width + x)] =
                    static_cast<float>(signal + grain(generator));
        }
    }
    return frame;
}

}  // namespace

class TestEdgeSharpness : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Synthetic edges of known width, as ISO 12233's method is commonly checked.
    void edgesComeOutAsWideAsTheyAre_data() {
        QTest::addColumn<double>("degrees");
        QTest::addColumn<double>("sigma");
        for (const double degrees : {0.0, 3.0, 17.0}) {
            for (const double sigma : {0.7, 1.2, 2.5})
                QTest::addRow("turned %g, sigma %g px", degrees, sigma) << degrees << sigma;
        }
    }
    void edgesComeOutAsWideAsTheyAre() {
        QFETCH(double, degrees);
        QFETCH(double, sigma);
        const chart::ChartPose pose = turnedPose(degrees);
        const auto frame = image::codedFromSignal(cardFrame(pose, sigma, 0.0, 0.002), {}, 10, 1);
        const auto edge = chart::edgeSharpness(frame, pose, kEdges);
        QVERIFY(edge.has_value());
        QCOMPARE(edge->edges, 3);
        const double width = kWidthPerSigma * sigma;
        // Quarter-pixel bins widen the edge a little; upright edges are sampled once a pixel.
        QVERIFY2(std::abs(edge->widthPx - width) < std::max(0.3, 0.06 * width),
                 qPrintable(QString::number(edge->widthPx)));
        QVERIFY2(edge->overshootPercent < 2.0, qPrintable(QString::number(edge->overshootPercent)));
    }
    void sharpeningShowsAsOvershoot() {
        const chart::ChartPose pose = turnedPose(4.0);
        const auto soft = chart::edgeSharpness(
            image::codedFromSignal(cardFrame(pose, 1.2, 0.0, 0.001), {}, 10, 1), pose, kEdges);
        const auto sharp = chart::edgeSharpness(
            image::codedFromSignal(cardFrame(pose, 1.2, 0.15, 0.001), {}, 10, 1), pose, kEdges);
        QVERIFY(soft && sharp);
        QVERIFY(sharp->overshootPercent > soft->overshootPercent + 4.0);
        QVERIFY(sharp->widthPx < soft->widthPx);
    }
    void aPoseSlightlyOffDoesNotWidenTheEdge() {
        const chart::ChartPose pose = turnedPose(4.0);
        chart::ChartPose off = pose;
        for (auto& corner : off.corners) corner.y += 0.6;
        off.corners[2].y += 0.8;
        const auto frame = image::codedFromSignal(cardFrame(pose, 1.2, 0.0, 0.001), {}, 10, 1);
        const auto edge = chart::edgeSharpness(frame, off, kEdges);
        QVERIFY(edge.has_value());
        QVERIFY(std::abs(edge->widthPx - kWidthPerSigma * 1.2) < 0.3);
    }
    /// A thumb holds the card just below neutral 8.
    void aFingerOnTheCardsBorderIsLeftOut() {
        const chart::ChartPose pose = turnedPose(0.0);
        image::Frame frame = cardFrame(pose, 1.2, 0.0, 0.001);
        const auto quad = pose.patchQuad(chart::kFirstNeutral + 1, 1.0);
        for (int y = int(quad[2].y) + 12; y < frame.height; ++y) {
            for (int x = int(quad[3].x); x < int(quad[2].x); ++x) {
                for (auto& channel : frame.channels)
                    channel[static_cast<std::size_t>(y * frame.width + x)] = 0.5F;
            }
        }
        const auto edge =
            chart::edgeSharpness(image::codedFromSignal(frame, {}, 10, 1), pose, kEdges);
        QVERIFY(edge.has_value());
        QCOMPARE(edge->edges, 2);
        QVERIFY(edge->overshootPercent < 2.0);
    }
    void smallPatchesAndFlatPicturesAreNotGuessed() {
        chart::ChartPose small = turnedPose(0.0);
        for (auto& corner : small.corners) corner = {0.1 * corner.x, 0.1 * corner.y};
        const auto frame = image::codedFromSignal(image::blankFrame(960, 640), {}, 8, 1);
        QVERIFY(!chart::edgeSharpness(frame, small, kEdges).has_value());
        QVERIFY(!chart::edgeSharpness(frame, turnedPose(0.0), kEdges).has_value());
    }
    void temporalNoiseLeavesTextureOut() {
        const chart::ChartPose pose = turnedPose(0.0);
        image::Frame texture = cardFrame(pose, 1.2, 0.0, 0.02);  // the same grain in both frames
        const auto noisy = [&](unsigned seed) {
            image::Frame frame = texture;
            std::mt19937 generator(seed);
            std::normal_distribution<float> grain(0.0F, 0.01F);
            for (auto& channel : frame.channels) {
                for (float& value : channel) value += grain(generator);
            }
            image::SignalTags rgb;
            rgb.matrix = image::Matrix::None;
            rgb.range = image::Range::Full;
            return image::codedFromSignal(frame, rgb, 10, 0);
        };
        const auto noise = chart::temporalNoise(noisy(1), noisy(2), pose, chart::kNeutral5);
        QVERIFY(noise.has_value());
        for (const double sigma : *noise) QVERIFY(std::abs(sigma - 0.01) < 0.0012);
        const auto none = chart::temporalNoise(noisy(1), noisy(1), pose, chart::kNeutral5);
        QCOMPARE((*none)[1], 0.0);
    }
};

RIG_TEST(TestEdgeSharpness);
#include "test_edge_sharpness.moc"
