// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "chart/chart_definition.h"
#include "image/geometry.h"

namespace rigmatch::chart {

/// Where the field of patches lies in a picture.
struct ChartPose {
    /// Outer corners of the field (not of the card), px: at the first patch, the end of the first
    /// row, the last patch, the start of the last row (classic chart: dark skin, bluish green,
    /// black, white).
    std::array<image::Point, 4> corners{};
    /// Width of a patch over the distance from patch to patch, 0.5..1.
    double patchShare = 0.86;
    std::size_t columns = kColumns;
    std::size_t rows = kRows;

    bool operator==(const ChartPose&) const = default;

    /// Map from the unit square (0,0 the first patch's outer corner; 1,1 the last's) to the
    /// picture. Corners that make no quad give a map whose isSane(1, 1) is false.
    [[nodiscard]] image::Homography fieldToPicture() const;

    [[nodiscard]] std::size_t patchCount() const { return columns * rows; }
    /// Width and height of the field in steps from patch to patch.
    [[nodiscard]] double stepsAcross() const {
        return static_cast<double>(columns) - 1.0 + patchShare;
    }
    [[nodiscard]] double stepsDown() const { return static_cast<double>(rows) - 1.0 + patchShare; }

    /// Centre of a patch in the unit square.
    [[nodiscard]] image::Point patchCentre(std::size_t patch) const;
    /// Centre of a patch in the picture, px.
    [[nodiscard]] image::Point patchCentrePx(std::size_t patch) const;
    /// Corners of the middle `share` of a patch's width, in the picture, px; clockwise.
    [[nodiscard]] std::array<image::Point, 4> patchQuad(std::size_t patch, double share) const;

    /// Mean side of the shortest patch, px: decides whether it can be measured.
    [[nodiscard]] double patchSizePx() const;
    /// True where the picture shows the chart as a mirror does.
    [[nodiscard]] bool isMirrored() const { return image::signedArea(corners) < 0.0; }
    /// Mean length of the field's two long sides, px.
    [[nodiscard]] double widthPx() const;
};

/// Largest distance between corresponding corners, px.
[[nodiscard]] double largestCornerShift(const ChartPose& first, const ChartPose& second);

}  // namespace rigmatch::chart
