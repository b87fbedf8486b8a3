// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/learning.h"
#include "rig/rig.h"

namespace rigmatch::match {

/// Writes what ISO or gain, the body's own ND, white balance, steps of tint and of knobs do into
/// the camera's sheet, where a template takes it to other rigs. What an f-number does is the lens's
/// and stays with the rig.
void keepLearned(const LearnedControls& learned, rig::ControlSheet& sheet);
/// Exposure, ND and white balance do what they say again; tint and knobs keep what their steps do,
/// which the sheet shows.
void forgetKept(rig::ControlSheet& sheet);

}  // namespace rigmatch::match
