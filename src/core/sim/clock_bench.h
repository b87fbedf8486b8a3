// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "rig/rig.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// The demo set: a clock restorer and an apprentice behind a workbench, a window, a practical lamp.
[[nodiscard]] Scene clockBenchScene();

/// The chart in the take, carried in from the side, held still over the bench, carried out.
struct ChartPlace {
    std::array<Vec, 4> corners;  ///< outer corners of the patch field, m, as ChartPose::corners
    Vec normal;
};

/// Where the chart is at `seconds` of a take of `length` s; nothing while it is out of the set.
/// Still from 22 % to 78 % of the length.
[[nodiscard]] std::optional<ChartPlace> chartPlace(double seconds, double length);

/// The four cameras of the demo, unmatched as such rigs are: A wide front, B and C close on each
/// person, D on the bench with its automatics on.
[[nodiscard]] rig::Rig clockBenchRig();

}  // namespace rigmatch::sim
