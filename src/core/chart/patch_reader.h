// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "base/result.h"
#include "chart/chart_pose.h"
#include "chart/reference_chart.h"
#include "image/frame.h"

namespace rigmatch::chart {

/// One patch in one frame.
struct PatchSample {
    image::Point centrePx;
    std::array<double, 3> signal{};    ///< R' G' B', trimmed mean of the middle of the patch
    std::array<double, 3> noise{};     ///< robust spatial standard deviation, signal
    std::array<double, 3> rounding{};  ///< what whole codes add to a pixel, see roundingError()
    double clippedShare =
        0.0;  ///< 0..1 of its pixels at the top of the code range or on a plateau below it
    double glareShare = 0.0;  ///< 0..1 of its pixels that stand out upward only: a reflection
    int pixels = 0;
};

using PatchSamples = std::vector<PatchSample>;  ///< in the order of the chart

/// Reads the middle 55 % of each patch's width; `pose` must have the columns and rows of `chart`.
/// Fails with TooFewPixels, naming patch and size, where the smallest patch has a side under 6 px,
/// and with OutOfRange where the corners make no quad inside the frame.
[[nodiscard]] base::Result<PatchSamples> readPatches(const image::CodedFrame& frame,
                                                     const ChartPose& pose,
                                                     const ReferenceChart& chart = classicChart());

}  // namespace rigmatch::chart
