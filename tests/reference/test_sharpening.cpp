// SPDX-License-Identifier: GPL-3.0-or-later
// In-camera sharpening of the stand-ins, against OpenCV's filter, and the turn that takes it back.
#include <numeric>
#include <opencv2/imgproc.hpp>

#include "chart/edge_sharpness.h"
#include "chart/reference_chart.h"
#include "match/sharpness_turn.h"
#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "support/chart_frame.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

rig::Camera bodyAt(double detailSteps) {
    rig::Camera camera;
    camera.id = "b";
    for (double step = -7.0; step <= 7.0; step += 1.0) camera.sheet.detailSteps.push_back(step);
    camera.settings = sim::nominalSettings();
    camera.settings.detailSteps = detailSteps;
    camera.settings.profile = "none";
    rig::SimulatedBody body;
    body.curve = colour::curveOf(colour::CurveKind::Bt709);
    body.noiseAtBase = 0.001;
    camera.simulated = body;
    return camera;
}

image::Frame chartLight(const std::array<image::Point, 4>& corners) {
    image::Frame linear = image::blankFrame(1280, 720);
    for (auto& channel : linear.channels) std::fill(channel.begin(), channel.end(), 0.10F);
    sim::ChartCard card;
    card.light = {1.0, 1.0, 1.0};
    card.chart = &chart::classicChart();
    card.patchShare = card.chart->patchShare;
    card.blurPx = 1.5;
    sim::paintChart(linear, corners, card);
    return linear;
}

/// The chart as such a body records it, with what its edges tell.
rig::Reading readingAt(double detailSteps) {
    const auto corners = support::turnedField(900.0, 600.0, 1.5);
    const auto frame = sim::CameraModel(bodyAt(detailSteps)).develop(chartLight(corners), 5);
    chart::ChartPose pose;
    pose.corners = corners;
    const auto edges = chart::edgeSharpness(
        image::codedFromSignal(frame, {}, 10, 1), pose, chart::classicChart().edgePatches());
    rig::Reading reading;
    if (edges)
        reading.sharpness =
            rig::SharpnessReading{edges->widthPx, 0.1, edges->overshootPercent, 0.5};
    return reading;
}

}  // namespace

class TestSharpening : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Unsharp masking with binomial weights, as OpenCV's separable filter has it.
    void standInsSharpenAsAnUnsharpMaskDoes() {
        image::Frame frame = chartLight(support::turnedField(700.0, 500.0, 3.0));
        std::vector<float> luma;
        for (std::size_t i = 0; i < frame.channels[0].size(); ++i)
            luma.push_back(0.2126F * frame.channels[0][i] + 0.7152F * frame.channels[1][i] +
                           0.0722F * frame.channels[2][i]);
        const cv::Mat plain(720, 1280, CV_32F, luma.data());
        const cv::Mat kernel = (cv::Mat_<float>(1, 5) << 1, 4, 6, 4, 1) / 16.0;
        cv::Mat soft;
        cv::sepFilter2D(plain, soft, CV_32F, kernel, kernel, {-1, -1}, 0.0, cv::BORDER_REPLICATE);
        const image::Frame before = frame;
        sim::CameraModel(bodyAt(1.0)).sharpen(frame);
        double worst = 0.0, most = 0.0;
        for (int i = 0; i < 1280 * 720; ++i) {
            const auto at = static_cast<std::size_t>(i);
            const float added = 0.2F * (plain.at<float>(i) - soft.at<float>(i));
            worst = std::max<double>(
                worst, std::abs(frame.channels[1][at] - before.channels[1][at] - added));
            most = std::max<double>(most, std::abs(added));
        }
        QVERIFY2(most > 0.02 && worst < 1e-5, qPrintable(QString::number(worst)));
        const image::Frame sharpened = frame;
        sim::CameraModel(bodyAt(0.0)).sharpen(frame);
        QVERIFY2(frame.channels == sharpened.channels, "0 is none");
    }
    /// A body that stands at +5 beside one at 0: two rounds of what the program says bring the
    /// edges together, though what a step does is only guessed at first.
    void edgesComeTogetherInTwoRounds() {
        const rig::Reading reference = readingAt(0.0);
        QVERIFY(reference.sharpness.has_value());
        rig::Camera camera = bodyAt(5.0);
        match::LearnedControls learned(camera.sheet);
        double left = match::overshootDifference(readingAt(5.0), reference)->value;
        const double first = left;
        QVERIFY2(first > 8.0, qPrintable(QString::number(first)));
        for (int round = 0; round < 2; ++round) {
            const rig::Reading now = readingAt(camera.settings.detailSteps);
            const auto turn =
                match::sharpnessTurn(camera, camera.settings, now, reference, learned.sharpness);
            if (!turn) break;
            const double from = camera.settings.detailSteps;
            camera.settings = rig::applied(camera.settings, *turn);
            const double seen =
                match::overshootDifference(readingAt(camera.settings.detailSteps), reference)
                    ->value;
            QVERIFY(learned.learnSharpness(camera.settings.detailSteps - from, seen - left, 1.0));
            left = seen;
        }
        qInfo("overshoot against the reference: %.1f %%, then %.1f %%", first, left);
        QVERIFY(std::abs(left) <= match::kOvershootGood);
        QVERIFY(learned.sharpness.takes > 0);
    }
};

RIG_TEST(TestSharpening);
#include "test_sharpening.moc"
