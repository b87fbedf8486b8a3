// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>
#include <optional>
#include <vector>

namespace rigmatch::framing {

/// A homography made exact on the brightness itself.
struct Alignment {
    cv::Matx33d h;  ///< first picture's px to the second's, after the bend
    /// Of lines that bow: a place at r widths from the first picture's middle lies r² times this
    /// farther out before `h` is laid on.
    double bend = 0.0;
    cv::Matx<double, 9, 9> spread;  ///< covariance of the small change in the nine numbers below
    int tiles = 0;                  ///< that told something
    double offShare = 0.0;          ///< of them, that move otherwise than the rest
    double likeness = 0.0;          ///< of the two pictures laid on each other, -1..1
};

/// The homography of points that were found again, robustly (Huber), with the same holds as below:
/// a handful of points cannot bend it. From a similarity to start with; nothing under eight points
/// that agree.
/// `reach`: px, within which points count as one at the start.
[[nodiscard]] std::optional<cv::Matx33d> homographyOf(const std::vector<cv::Point2f>& before,
                                                      const std::vector<cv::Point2f>& after,
                                                      cv::Size size,
                                                      double reach);

/// Two pictures with local means and contrast taken out, so that other light matters little, as
/// smooth as one stage of laying them on each other wants them.
struct EvenedPair {
    int rounds = 0;
    cv::Mat first, second;
};

/// Coarse to fine; made once, however often the two are laid on each other.
[[nodiscard]] std::vector<EvenedPair> evenedPairs(const cv::Mat& first, const cv::Mat& second);

/// Least squares over tiles of 48 px (32 in small pictures) (Lucas and Kanade 1981; Baker and
/// Matthews 2004); tiles that do not follow the rest lose their say. `h` must be right to about two
/// px. Nothing where too few tiles have structure.
///
/// The nine numbers: u = p0 + p1 x + p2 y + x (p6 x + p7 y) + p8 x r², v = p3 + p4 x + p5 y + y (p6
/// x
/// + p7 y) + p8 y r²; u, v in px, x, y from the picture's middle in units of its width. The ninth
/// is held at nothing unless `isBent`.
[[nodiscard]] std::optional<Alignment> aligned(const std::vector<EvenedPair>& pairs,
                                               const cv::Mat& firstMask,
                                               const cv::Mat& secondMask,
                                               const cv::Matx33d& h,
                                               bool isBent = false);

}  // namespace rigmatch::framing
