// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>

#include "image/frame.h"

namespace rigmatch::face {

/// A frame made ready for the networks: RGB 0..1, small, contrast restored.
struct FacePicture {
    cv::Mat rgb;                   ///< CV_32FC3
    double left = 0.0, top = 0.0;  ///< frame px that the picture begins at
    double step =
        1.0;  ///< frame px per picture px; pixel (x, y) is centred on ((x + 0.5) step - 0.5)

    [[nodiscard]] image::Point toFrame(double x, double y) const {
        return {left + (x + 0.5) * step - 0.5, top + (y + 0.5) * step - 0.5};
    }
};

/// Shrinks to about 480 rows, stretches between the 0.5th and the 99.5th percentile of brightness
/// and brings the median to 0.42 by a gamma, so that log and dark pictures look like finished ones.
[[nodiscard]] FacePicture facePicture(const image::CodedFrame& frame);
/// The same of a part of the frame, pixel by pixel.
[[nodiscard]] FacePicture facePicture(const image::CodedFrame& frame, image::PixelRect region);

}  // namespace rigmatch::face
