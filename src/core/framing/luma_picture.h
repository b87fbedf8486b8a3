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

/// The luma of a frame as it is held, 8 or 16 bit codes or floats; of RGB frames it is made. The
/// frame must outlive it.
[[nodiscard]] cv::Mat lumaPlane(const image::CodedFrame& frame);
/// What stretches values of a picture over 8 bit: 8-bit code = gain × value + offset, from its
/// darkest to its brightest half per cent. `perSignal`: values that one of signal is; `apart`: px,
/// one in so many of which is looked at.
struct LumaStretch {
    double gain = 1.0, offset = 0.0;
};
[[nodiscard]] LumaStretch lumaStretch(const cv::Mat& values, double perSignal, int apart = 7);
/// Values of lumaPlane() that one of signal is.
[[nodiscard]] double lumaPerSignal(const image::CodedFrame& frame);

}  // namespace rigmatch::framing
