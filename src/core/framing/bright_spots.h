// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "framing/head_box.h"
#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// Bright things that draw the eye: at the picture's edge, or standing over a head as if they grew
/// out of it. Brighter than the faces, or than anything usual in a picture without (sources 14.7).
/// The largest first, four at most.
[[nodiscard]] std::vector<rig::BrightSpot> brightSpots(const image::CodedFrame& frame,
                                                       const std::vector<HeadBox>& heads);

/// An upright line that runs down into a head: a door frame, a stand, a shelf's side.
[[nodiscard]] bool hasLineOver(const image::CodedFrame& frame, const HeadBox& head);

}  // namespace rigmatch::framing
