// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>

#include "chart/chart_pose.h"
#include "image/frame.h"

namespace rigmatch::chart {

/// How a picture renders the edges of the chart's light greys against the card, in luma as
/// recorded: the edge spread function of ISO 12233, gathered along the edge at a quarter of a
/// pixel.
struct EdgeSharpness {
    double widthPx = 0.0;           ///< from 10 to 90 % of the step
    double overshootPercent = 0.0;  ///< of the step, mean of both sides: what sharpening leaves;
                                    ///< noise may take it a little below 0
    int edges = 0;                  ///< edges averaged
};

/// Reads the lower edges of `patches`, light greys of the last row (what lies below them is the
/// card's border; ReferenceChart::edgePatches), leaving out clipped ones. Nothing where the patches
/// are under 20 px or no edge is clear.
[[nodiscard]] std::optional<EdgeSharpness> edgeSharpness(const image::CodedFrame& frame,
                                                         const ChartPose& pose,
                                                         std::span<const std::size_t> patches);

/// Temporal noise of one patch: standard deviation of its pixels' difference between two frames,
/// over the square root of two; texture and shading drop out (sources 5.8). Nothing where fewer
/// than 30 pixels lie in its middle.
[[nodiscard]] std::optional<std::array<double, 3>> temporalNoise(const image::CodedFrame& first,
                                                                 const image::CodedFrame& second,
                                                                 const ChartPose& pose,
                                                                 std::size_t patch);

}  // namespace rigmatch::chart
