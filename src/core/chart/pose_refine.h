// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "chart/chart_pose.h"
#include "image/frame.h"

namespace rigmatch::chart {

/// A pose whose corners follow the patches' own edges.
struct RefinedPose {
    ChartPose pose;
    int patchesUsed = 0;      ///< patches whose four edges were seen
    double residualPx = 0.0;  ///< median distance of the patch centres from the fitted plane
};

/// Moves a rough map (chart columns and rows to px of `frame`) onto the edges of the patches, to a
/// fraction of a pixel. Nothing where fewer than eight patches show their edges or the map does not
/// settle. `columns` and `rows` are the chart's.
[[nodiscard]] std::optional<RefinedPose> refinePose(const image::CodedFrame& frame,
                                                    const image::Homography& rough,
                                                    std::size_t columns = kColumns,
                                                    std::size_t rows = kRows);

/// The rough map of a pose, for following a chart from frame to frame.
[[nodiscard]] image::Homography roughMap(const ChartPose& pose);

}  // namespace rigmatch::chart
