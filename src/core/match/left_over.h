// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/setting_choice.h"

namespace rigmatch::match {

/// Puts into `plan` what its controls, set to `to`, do not reach, and what would help.
void nameLeftOver(const Problem& p, const rig::Settings& to, TurnPlan& plan);

}  // namespace rigmatch::match
