// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "face/face_finder.h"
#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

using EyeFocus = rig::FocusReading;

/// Of the largest face; only the background where there is none. On the frame's own pixels.
[[nodiscard]] EyeFocus eyeFocus(const image::CodedFrame& frame,
                                const std::vector<face::Face>& faces);

}  // namespace rigmatch::framing
