// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

using PictureRoll = rig::RollReading;

/// From long straight lines: those that stand nearly upright, whose lean is a line over the width
/// of the picture (a lens that looks up or down makes them converge); else those that lie nearly
/// level. Nothing where there are too few (sources 14.3).
[[nodiscard]] std::optional<PictureRoll> pictureRoll(const image::CodedFrame& frame);

}  // namespace rigmatch::framing
