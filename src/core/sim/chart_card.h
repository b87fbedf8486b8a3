// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "chart/chart_pose.h"
#include "chart/reference_chart.h"
#include "image/frame.h"

namespace rigmatch::sim {

/// A rendered card of patches.
struct ChartCard {
    double patchShare = 0.86;                    ///< patch width over patch step
    double border = 0.35;                        ///< card beyond the outer patches, in patch steps
    double surroundLinear = 0.035;               ///< reflectance of the card between the patches
    std::array<double, 3> light{1.0, 1.0, 1.0};  ///< light on its middle, linear BT.709
    double fallStopsAcross = 0.0;                ///< light lost from its left to its right edge
    double fallStopsDown = 0.0;
    bool isHeld = false;  ///< two thumbs on its lower border
    double blurPx = 0.0;  ///< extra softness of its edges (motion, focus)
    const chart::ReferenceChart* chart = &chart::classicChart();  ///< must outlive the card

    [[nodiscard]] double lastColumn() const { return static_cast<double>(chart->columns) - 1.0; }
    [[nodiscard]] double lastRow() const { return static_cast<double>(chart->rows) - 1.0; }
};

/// The part of a frame that the card with its patch field at `corners` may touch; empty where it is
/// outside.
[[nodiscard]] image::PixelRect chartRegion(const std::array<image::Point, 4>& corners,
                                           const ChartCard& card,
                                           int frameWidth,
                                           int frameHeight);

/// Lays the card over `linear` with its patch field at `corners` (as ChartPose::corners),
/// antialiased.
void paintChart(image::Frame& linear,
                const std::array<image::Point, 4>& corners,
                const ChartCard& card);

}  // namespace rigmatch::sim
