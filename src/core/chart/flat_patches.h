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

/// The working picture in 8 bit, contrast stretched between its darkest and brightest percent, R G B.
/// The stretch makes log pictures as plain to the finder as standard ones.
[[nodiscard]] cv::Mat stretchedPicture(const image::Frame& picture);

/// All flat areas whose moments are those of a square seen at up to steep tilt. Flat means: the local
/// range stays below a threshold; several thresholds are tried, so that both noisy and faint charts show.
[[nodiscard]] std::vector<FlatPatch> flatPatches(const cv::Mat& stretched);

}  // namespace rigmatch::chart
