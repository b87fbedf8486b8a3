// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/finding.h"
#include "framing/framing_turns.h"

namespace rigmatch::framing {

/// A finding about a camera's picture as a whole.
[[nodiscard]] base::Finding pictureFinding(const std::string& quantity,
                                           const FramedCamera& camera,
                                           double value,
                                           double uncertainty,
                                           const std::string& unit);
/// A turn is proposed where the value lies further from its goal than twice what it is unsure of.
[[nodiscard]] bool isSure(const base::Finding& finding, double goal);

/// What stands around the people of a picture: bright things at its edges or over a head, lines
/// that run into a head, a focus that hunts, and a key screen. Quantities: "spotAtLeft",
/// "spotAtRight", "spotAtTop", "spotAtBottom", "spotOverHead", "lineOverHead", "focusHunts",
/// "keyEvenness", "keyLevel", "keySaturation", "keySpill".
void addSurroundings(const FramedCamera& camera, std::vector<base::Finding>& findings);

/// Contrast that is lost where pictures are darkest: "veilSince" against the camera's last take of
/// the same settings, "veil" against the other cameras of the take in the same profile (three and
/// more together; their pictures hold other things, so the bound is wider).
void addVeils(const std::vector<FramedCamera>& cameras, std::vector<base::Finding>& findings);

}  // namespace rigmatch::framing
