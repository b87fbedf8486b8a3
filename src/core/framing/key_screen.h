// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "framing/head_box.h"
#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// A green or blue screen behind a person, and how well it keys. Light is taken from the codes as a
/// finished picture shows it (BT.1886); of a log recording evenness is told too small by what the
/// curve flattens (sources 14.8). Nothing where no one hue fills a seventh of the picture and
/// surrounds a head.
[[nodiscard]] std::optional<rig::KeyScreen> keyScreen(const image::CodedFrame& frame,
                                                      const std::vector<HeadBox>& heads);

}  // namespace rigmatch::framing
