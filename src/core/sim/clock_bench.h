// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/rig.h"

namespace rigmatch::sim {

/// The demo set: a clock restorer and an apprentice behind a workbench, a window, a practical lamp,
/// four cameras at their places.
[[nodiscard]] rig::SetPlan clockBenchPlan();

/// The four cameras of the demo, unmatched as such rigs are: A wide front, B and C close on each
/// person, D on the bench with its automatics on.
[[nodiscard]] rig::Rig clockBenchRig();

}  // namespace rigmatch::sim
