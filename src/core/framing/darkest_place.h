// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// The darkest that a picture shows over more than single pixels: luma signal of the darkest
/// half per cent of cells of 8 px, bars at its edges left out. A veil of glare or of a dirty lens
/// lifts it. Nothing for pictures of less than some 100 px.
[[nodiscard]] std::optional<rig::Doubted> darkestPlace(const image::CodedFrame& frame);

}  // namespace rigmatch::framing
