// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>
#include <optional>

namespace rigmatch::timing {

/// Over how much of their step from one picture to the next moving things are blurred: the share of
/// the time between the two in which the shutter was open. Both are 8-bit pictures; `mask` marks
/// where things move. Nothing where the step is too short, or too little moves together.
[[nodiscard]] std::optional<double> blurOverStep(const cv::Mat& before,
                                                 const cv::Mat& now,
                                                 const cv::Mat& mask);

}  // namespace rigmatch::timing
