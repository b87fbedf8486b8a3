// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "image/frame.h"

namespace rigmatch::image {

/// The part `part` of shrunkSignal(frame, step), in its pixels; clipped to it, at least one pixel.
[[nodiscard]] Frame shrunkPart(const CodedFrame& frame, PixelRect part, int step);

}  // namespace rigmatch::image
