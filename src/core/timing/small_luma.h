// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>

#include "image/frame.h"

namespace rigmatch::timing {

/// The brightness of a frame, 8 bit, by areas down to `width` px at most.
[[nodiscard]] cv::Mat smallLuma(const image::CodedFrame& frame, int width);

}  // namespace rigmatch::timing
