// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

#include "app/models/shot_list_model.h"
#include "rig/rig.h"

namespace rigmatch::app {

/// The row of one camera in the list of a take. `measuredShare` below 0: not being measured.
[[nodiscard]] ShotListModel::Row shotRow(const rig::Camera& camera,
                                         const rig::Shot* shot,
                                         double measuredShare);

/// What was found in a shot, in words, as rich text: span, frames, clipped patches, warnings with
/// their remedy.
[[nodiscard]] QString shotFacts(const rig::Shot* shot);

}  // namespace rigmatch::app
