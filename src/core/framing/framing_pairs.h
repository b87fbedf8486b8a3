// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/finding.h"
#include "framing/framing_turns.h"

namespace rigmatch::framing {

/// Two people in one picture: "pairLevel", "pairSpacing".
void addTwoShot(const FramedCamera& camera,
                const rig::FramedPerson& left,
                const rig::FramedPerson& right,
                std::vector<base::Finding>& findings);

/// What cameras that are close on one person each show beside each other. Against the first of
/// them: "headSize", "eyesAlike", "offsetAlike". Of any two, as far as faces are turned (sources
/// 3.7): "looksMeet" (two people of whom both look the same way), "lookFlips" (one person whom one
/// camera has look left and another right), "anglesAlike" (one person from less than 30° apart in
/// one size), "looksAlike" (either of the two, where the plan does not tell whom a camera sees).
void addPairs(const std::vector<FramedCamera>& cameras, std::vector<base::Finding>& findings);

}  // namespace rigmatch::framing
