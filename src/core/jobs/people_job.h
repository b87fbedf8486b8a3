// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/skin.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// Who is where in a take. With a set plan a face belongs to the person whose head the plan puts
/// nearest to it, within a quarter of the picture's width. Without one, people are counted from
/// left to right, and only cameras that see as many as the others take part (one face alone is
/// always "person 1"). People that no camera sees are left out. No face is
/// recognised: place decides.
[[nodiscard]] match::People peopleOf(const rig::Rig& rig, const rig::Take& take);

}  // namespace rigmatch::jobs
