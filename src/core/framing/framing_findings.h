// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/finding.h"
#include "framing/framing_turns.h"
#include "rig/choices.h"

namespace rigmatch::framing {

/// What follows from how the cameras of a take frame their people, against the rig's goals and
/// against each other (sources 7). Quantities:
/// - of a person: "cut", "headroom", "eyeLine", "across", "lookRoom", "punchIn";
/// - of a face that is not judged: "smallFace";
/// - of the picture: "roll", "focus", "moved", "pairLevel" and "pairSpacing" of a two-shot;
/// - against the first camera that shows a lone person as large: "headSize", "eyesAlike",
///   "offsetAlike";
/// - of what stands around: addSurroundings().
///
/// A camera that has moved since its framing was saved is first to be put back: only then is it
/// told what else to turn. At most one turn of a kind a camera, the worst; nothing is turned by
/// less than twice its uncertainty. The worst first, fine ones last.
[[nodiscard]] std::vector<base::Finding> framingFindings(const std::vector<FramedCamera>& cameras,
                                                         const rig::Choices& choices);

}  // namespace rigmatch::framing
