// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/combing.h"

#include <cmath>

#include "timing/small_luma.h"

namespace rigmatch::timing {
namespace {

constexpr float kLeastLineStep = 8.0F;  // 8-bit codes between neighbouring lines
constexpr float kMostDrift = 0.5F;      // of that step, over two lines
constexpr int kLines = 5;               // that alternate

/// Up and down from line to line, four times, and back to the same level each time.
bool alternates(const cv::Mat& area, int y, int x) {
    float before = 0.0F;
    for (int i = 0; i + 1 < kLines; ++i) {
        const float step = area.at<float>(y + i + 1, x) - area.at<float>(y + i, x);
        if (std::abs(step) < kLeastLineStep) return false;
        if (i > 0 &&
            (step * before > 0.0F || std::abs(step + before) > kMostDrift * std::abs(step)))
            return false;
        before = step;
    }
    return true;
}

}  // namespace

double combingIn(const image::CodedFrame& frame, const std::vector<cv::Rect>& areas, int width) {
    const cv::Mat whole = lumaPlane(frame);
    const double scale = static_cast<double>(whole.cols) / width;
    const auto large = [&](int value) { return static_cast<int>(std::lround(value * scale)); };
    const cv::Rect all(0, 0, whole.cols, whole.rows);
    long long combed = 0, seen = 0;
    for (const cv::Rect& area : areas) {
        const cv::Rect at =
            cv::Rect(large(area.x), large(area.y), large(area.width), large(area.height)) & all;
        if (at.height < kLines || at.width < 1) continue;
        cv::Mat part;
        whole(at).convertTo(part, CV_32F, toEightBit(frame));
        for (int y = 0; y + kLines <= part.rows; ++y) {
            for (int x = 0; x < part.cols; x += 2) {
                ++seen;
                combed += alternates(part, y, x) ? 1 : 0;
            }
        }
    }
    return seen > 0 ? static_cast<double>(combed) / static_cast<double>(seen) : 0.0;
}

}  // namespace rigmatch::timing
