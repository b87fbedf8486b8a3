// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "face/face_finder.h"
#include "image/frame.h"

namespace rigmatch::framing {

/// Midway between the pupils: the dark middles of the eyes, looked for about where the mesh has
/// them. The mesh's own place where the eyes are too small, or hardly darker than what is around.
[[nodiscard]] image::Point betweenPupils(const image::CodedFrame& frame, const face::Face& face);

}  // namespace rigmatch::framing
