// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <string>

#include "image/frame.h"

namespace rigmatch::sim {

/// The ranges from which frames for the finder's tests are drawn.
struct RandomFrameOptions {
    bool hasChart = true;
    int width = 1920;
    int height = 1080;
    double smallestShare =
        0.08;  ///< width of the patch field, seen straight, over the frame's width
    double largestShare = 0.60;
    double largestTiltDegrees = 45.0;
};

struct RandomFrame {
    image::CodedFrame frame;
    std::array<image::Point, 4> corners{};  ///< the truth, as ChartPose::corners; only with a chart
    double share = 0.0;
    double tiltDegrees = 0.0;
    std::string curve;
    double noise = 0.0;
    double blurPx = 0.0;
};

/// A frame of random clutter (shelves, windows, tiles, keyboards, cloth, swatch fans, lamps) with
/// or without a chart at a random pose, under random uneven light, exposure, white balance, tone
/// curve, blur, noise and coding (8 or 10 bit, 4:2:0). The same seed and options give the same
/// frame.
[[nodiscard]] RandomFrame randomFrame(std::uint64_t seed, const RandomFrameOptions& options = {});

}  // namespace rigmatch::sim
