// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>

#include "image/frame.h"

namespace rigmatch::framing {

/// The brightness of a frame, 8 bit, stretched so that log and dark pictures show their edges.
struct LumaPicture {
    cv::Mat luma;
    double step = 1.0;  ///< frame px per picture px

    /// Frame px of a place in the picture.
    [[nodiscard]] cv::Point2d toFrame(double x, double y) const {
        return {(x + 0.5) * step - 0.5, (y + 0.5) * step - 0.5};
    }
};

/// By whole areas down to `width` px at most.
[[nodiscard]] LumaPicture lumaPicture(const image::CodedFrame& frame, int width);

}  // namespace rigmatch::framing
