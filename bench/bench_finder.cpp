// SPDX-License-Identifier: GPL-3.0-or-later
// Our finder and OpenCV's own 24-patch detector (contrib module mcc) on the same random frames,
// side by side, one thread. Usage: bench_finder [FRAMES] [FIRST_SEED]
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <opencv2/core/utility.hpp>
#include <opencv2/mcc/checker_detector.hpp>
#include <vector>

#include "chart/chart_finder.h"
#include "sim/random_frames.h"

using namespace rigmatch;

namespace {

double nowMs() {
    return std::chrono::duration<double, std::milli>(
               std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

cv::Mat bgrOf(const image::CodedFrame& frame) {
    const image::Frame signal = image::signalFrame(frame);
    cv::Mat bgr(signal.height, signal.width, CV_8UC3);
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                bgr.at<cv::Vec3b>(y, x)[2 - c] =
                    cv::saturate_cast<unsigned char>(255.0F * signal.at(c, x, y));
            }
        }
    }
    return bgr;
}

/// True where the detector's box lies on the chart: its middle within a tenth of the chart's width
/// of the true middle.
bool isOnChart(const std::vector<cv::Point2f>& box, const sim::RandomFrame& frame) {
    image::Point theirs, truth;
    for (std::size_t i = 0; i < 4; ++i) {
        theirs = {theirs.x + static_cast<double>(box[i].x) / 4.0,
                  theirs.y + static_cast<double>(box[i].y) / 4.0};
        truth = {truth.x + frame.corners[i].x / 4.0, truth.y + frame.corners[i].y / 4.0};
    }
    return image::distancePx(theirs, truth) < 0.1 * frame.share * frame.frame.width;
}

double middle(std::vector<double> values, double share) {
    if (values.empty()) return 0.0;
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

}  // namespace

int main(int argc, char** argv) {
    const int frames = argc > 1 ? std::atoi(argv[1]) : 200;
    const int first = argc > 2 ? std::atoi(argv[2]) : 0;
    cv::setNumThreads(1);
    std::vector<double> ourMs, theirMs, errors, emptyMs;
    int ours = 0, theirs = 0, falseFinds = 0;
    for (int i = 0; i < frames; ++i) {
        const sim::RandomFrame frame = sim::randomFrame(static_cast<std::uint64_t>(first + i));
        double start = nowMs();
        const auto found = chart::findChart(frame.frame);
        ourMs.push_back(nowMs() - start);
        if (found) {
            double error = 0.0;
            for (std::size_t k = 0; k < 4; ++k) {
                error =
                    std::max(error, image::distancePx(found->pose.corners[k], frame.corners[k]));
            }
            if (error < 0.05 * frame.share * frame.frame.width) {
                ++ours;
                errors.push_back(error);
            }
        }
        const cv::Mat bgr = bgrOf(frame.frame);
        const auto detector = cv::mcc::CCheckerDetector::create();
        start = nowMs();
        const bool isFound = detector->process(bgr, cv::mcc::MCC24, 1);
        theirMs.push_back(nowMs() - start);
        if (isFound && !detector->getListColorChecker().empty() &&
            isOnChart(detector->getListColorChecker().front()->getBox(), frame)) {
            ++theirs;
        }
    }
    int small = 0;
    for (int i = 0; i < frames / 2; ++i) {
        sim::RandomFrameOptions options;
        options.smallestShare = 0.05;
        options.largestShare = 0.08;
        const sim::RandomFrame frame =
            sim::randomFrame(static_cast<std::uint64_t>(first + 200000 + i), options);
        const auto found = chart::findChart(frame.frame);
        if (found && image::distancePx(found->pose.corners[0], frame.corners[0]) <
                         0.05 * frame.share * frame.frame.width)
            ++small;
    }
    for (int i = 0; i < frames / 2; ++i) {
        sim::RandomFrameOptions options;
        options.hasChart = false;
        const sim::RandomFrame frame =
            sim::randomFrame(static_cast<std::uint64_t>(first + 100000 + i), options);
        const double start = nowMs();
        if (chart::findChart(frame.frame)) ++falseFinds;
        emptyMs.push_back(nowMs() - start);
    }
    double ourSum = 0.0, theirSum = 0.0;
    for (double ms : ourMs) ourSum += ms;
    for (double ms : theirMs) theirSum += ms;
    std::printf(
        "frames with chart        %d (1080p, 8-60 %% of the width, any roll, tilt to 45 degrees)\n",
        frames);
    std::printf("found, ours              %.1f %%\n", 100.0 * ours / frames);
    std::printf("found at 5-8 %% of width  %.1f %% of %d\n", 200.0 * small / frames, frames / 2);
    std::printf("found, OpenCV mcc        %.1f %%\n", 100.0 * theirs / frames);
    std::printf("corner error, ours       median %.2f px, 95th %.2f px\n",
                middle(errors, 0.5),
                middle(errors, 0.95));
    std::printf("time per frame, ours     mean %.1f ms, median %.1f, 95th %.1f\n",
                ourSum / frames,
                middle(ourMs, 0.5),
                middle(ourMs, 0.95));
    std::printf("time per frame, mcc      mean %.1f ms, median %.1f, 95th %.1f\n",
                theirSum / frames,
                middle(theirMs, 0.5),
                middle(theirMs, 0.95));
    std::printf("ratio of mean times      %.3f\n", ourSum / theirSum);
    std::printf("without chart            %d false finds in %d, median %.1f ms, 95th %.1f ms\n",
                falseFinds,
                frames / 2,
                middle(emptyMs, 0.5),
                middle(emptyMs, 0.95));
    return 0;
}
