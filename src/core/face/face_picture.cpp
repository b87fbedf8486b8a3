// SPDX-License-Identifier: GPL-3.0-or-later
#include "face/face_picture.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"

namespace rigmatch::face {
namespace {

constexpr int kRows = 480;
constexpr double kTail = 0.005;
constexpr int kLevels = 4096;
constexpr double kMedian = 0.42;

float quantile(std::vector<float>& values, double share) {
    const auto at =
        values.begin() + static_cast<long>(share * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), at, values.end());
    return *at;
}

}  // namespace

namespace {

FacePicture stretched(const image::Frame& small) {
    std::vector<float> brightness(small.channels[0].size());
    for (std::size_t i = 0; i < brightness.size(); ++i) {
        const std::array<float, 3> rgb{
            small.channels[0][i], small.channels[1][i], small.channels[2][i]};
        brightness[i] = static_cast<float>(base::lumaOf(rgb));
    }
    const float low = quantile(brightness, kTail);
    const float high = std::max(quantile(brightness, 1.0 - kTail), low + 0.02F);
    const float middle = std::clamp((quantile(brightness, 0.5) - low) / (high - low), 0.02F, 0.98F);
    const auto gamma =
        static_cast<float>(std::clamp(std::log(kMedian) / std::log(double(middle)), 0.25, 4.0));
    // A table: powers of a million numbers take longer than all the rest.
    std::vector<float> lifted(kLevels + 1);
    for (std::size_t i = 0; i < lifted.size(); ++i)
        lifted[i] = std::pow(static_cast<float>(i) / kLevels, gamma);
    FacePicture picture;
    picture.rgb.create(small.height, small.width, CV_32FC3);
    for (int y = 0; y < small.height; ++y) {
        auto* row = picture.rgb.ptr<cv::Vec3f>(y);
        for (int x = 0; x < small.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const float value = (small.at(c, x, y) - low) / (high - low);
                const long level = std::lround(std::clamp(value, 0.0F, 1.0F) * kLevels);
                row[x][c] = lifted[static_cast<std::size_t>(level)];
            }
        }
    }
    return picture;
}

}  // namespace

FacePicture facePicture(const image::CodedFrame& frame) {
    const int step = std::max(1, frame.height / kRows);
    FacePicture picture = stretched(image::shrunkSignal(frame, step));
    picture.step = step;
    return picture;
}

FacePicture facePicture(const image::CodedFrame& frame, image::PixelRect region) {
    FacePicture picture = stretched(image::signalFrame(frame, region));
    picture.left = std::max(0, region.x);
    picture.top = std::max(0, region.y);
    return picture;
}

}  // namespace rigmatch::face
