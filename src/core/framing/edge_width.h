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

/// Where an edge ends: where the picture is flat, or already where its slope falls to that of
/// shading (faces have no flat places; a Gaussian's rise is told 8 % narrower so, a disc's is not).
enum class EdgeEnds { Flat, Shading };

/// Looks at single steps in brightness inside `region` (and `mask`, where it is given), across
/// their own direction; the lower fifth of their widths. Nothing under eight of them.
[[nodiscard]] std::optional<EdgeWidth> edgeWidth(const cv::Mat& luma,
                                                 const cv::Rect& region,
                                                 const cv::Mat& mask = {},
                                                 EdgeEnds ends = EdgeEnds::Flat);

}  // namespace rigmatch::framing
