// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include <opencv2/core.hpp>

#include "image/frame.h"

namespace rigmatch::timing {

/// Share of the samples in some areas of a frame at which its lines alternate: even lines show
/// another moment than odd ones. Areas are in px of a picture `width` px wide. Works on the full
/// height, reads every second column.
[[nodiscard]] double combingIn(const image::CodedFrame& frame,
                               const std::vector<cv::Rect>& areas,
                               int width);

}  // namespace rigmatch::timing
