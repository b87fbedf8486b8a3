// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>

#include "image/frame.h"

namespace rigmatch::timing {

/// Luma (or green) of a frame as it stands in memory, not copied: codes of 8 or 16 bit, or float.
[[nodiscard]] cv::Mat lumaPlane(const image::CodedFrame& frame);
/// Factor that brings its codes to 0..255.
[[nodiscard]] double toEightBit(const image::CodedFrame& frame);

/// Luma (or green) of a frame, brought down to `width` px (never up), 8 bit.
[[nodiscard]] cv::Mat smallLuma(const image::CodedFrame& frame, int width);

/// The part of a picture that a mask marks, with `margin` px about it: points are sought and
/// followed there alone.
[[nodiscard]] cv::Rect maskedPart(const cv::Mat& mask, int margin);

}  // namespace rigmatch::timing
