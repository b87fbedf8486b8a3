// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>
#include <vector>

namespace rigmatch::timing {

/// Corners to follow in the marked parts of a picture of 8 bits, the best first, 6 px and more
/// apart, none below a fiftieth of the best; at most `most`. As the library's search over the whole
/// picture finds them, but what is not marked costs nothing (minimal eigenvalue of the gradients'
/// products: Shi and Tomasi 1994).
[[nodiscard]] std::vector<cv::Point2f> maskedCorners(const cv::Mat& picture,
                                                     const cv::Mat& mask,
                                                     int most);

}  // namespace rigmatch::timing
