// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "base/result.h"
#include "chart/chart_pose.h"
#include "image/frame.h"

namespace rigmatch::chart {

/// One patch in one frame.
struct PatchSample {
    image::Point centrePx;
    std::array<double, 3> signal{};  ///< R' G' B', trimmed mean of the middle of the patch
    std::array<double, 3> noise{};   ///< robust spatial standard deviation, signal
    double clippedShare =
        0.0;  ///< 0..1 of its pixels at the top of the code range or on a plateau below it
    int pixels = 0;
};

using PatchSamples = std::array<PatchSample, kPatchCount>;

/// Reads the middle 55 % of each patch's width. Fails with TooFewPixels, naming patch and size,
/// where the smallest patch has a side under 6 px, and with OutOfRange where the corners make no
/// quad inside the frame.
[[nodiscard]] base::Result<PatchSamples> readPatches(const image::CodedFrame& frame,
                                                     const ChartPose& pose);

}  // namespace rigmatch::chart
