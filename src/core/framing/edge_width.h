// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>
#include <optional>

namespace rigmatch::framing {

/// Width of the sharpest edges in a region, 10 to 90 % of the step, px of the picture (the usual
/// rise distance; ISO 12233 has it for slanted edges).
struct EdgeWidth {
    double px = 0.0;
    int edges = 0;
};

/// Looks at single steps in brightness inside `region` (and `mask`, where it is given), across
/// their own direction; the lower fifth of their widths. Nothing under eight of them.
[[nodiscard]] std::optional<EdgeWidth> edgeWidth(const cv::Mat& luma,
                                                 const cv::Rect& region,
                                                 const cv::Mat& mask = {});

}  // namespace rigmatch::framing
