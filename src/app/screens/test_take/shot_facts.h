// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

#include "app/models/shot_list_model.h"
#include "rig/rig.h"

namespace rigmatch::app {

[[nodiscard]] QString kindText(rig::SourceKind kind);
/// "matching", "framing", …
[[nodiscard]] QString purposeText(rig::Purpose purpose);

/// Puts file and state of a shot into the row of its camera or source. `measuredShare` below 0: not
/// being measured.
void putShot(const rig::Shot* shot,
             bool isChartWanted,
             double measuredShare,
             ShotListModel::Row& row);

/// What was found in a shot, in words, as rich text: span, frames, clipped patches, warnings with
/// their remedy.
[[nodiscard]] QString shotFacts(const rig::Shot* shot);

}  // namespace rigmatch::app
