// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <opencv2/core.hpp>
#include <vector>

#include "image/frame.h"

namespace rigmatch::chart {

/// A flat, square-ish area of a picture: a candidate for one patch.
struct FlatPatch {
    Eigen::Vector2d centre;      ///< px of the working picture
    Eigen::Matrix2d covariance;  ///< of its pixels, px²
    double area = 0.0;           ///< px²
    double squareness = 0.0;     ///< 0 = as a square's moments, larger = less so
};

/// A working picture: planes of 8 bit, contrast stretched between its darkest and brightest
/// percent. The stretch makes log pictures as plain to the finder as standard ones.
using StretchedPicture = std::vector<cv::Mat>;

/// Red, green and blue of the frame shrunken by the whole factor `step`.
[[nodiscard]] StretchedPicture stretchedColour(const image::CodedFrame& frame, int step);
/// The same at half the size, averaged; odd rests are dropped.
[[nodiscard]] StretchedPicture halved(const StretchedPicture& picture);
/// The luma (or green) plane alone at full size: chroma is coarser there anyway.
[[nodiscard]] StretchedPicture stretchedLuma(const image::CodedFrame& frame);

/// All flat areas whose moments are those of a square seen at up to steep tilt. Flat means: the
/// local range stays below a threshold; several thresholds are tried, so that both noisy and faint
/// charts show.
[[nodiscard]] std::vector<FlatPatch> flatPatches(const StretchedPicture& stretched);

}  // namespace rigmatch::chart
