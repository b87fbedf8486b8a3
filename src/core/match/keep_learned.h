// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/learning.h"
#include "rig/rig.h"

namespace rigmatch::match {

/// Writes what steps of tint and of knobs do into the camera's sheet, where a template takes it to
/// other rigs.
void keepLearned(const LearnedControls& learned, rig::ControlSheet& sheet);

}  // namespace rigmatch::match
