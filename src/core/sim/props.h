// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/set_plan.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// Renders a table, riser, backdrop or prop of the plan by its surface: wood, plaster, cloth, or
/// one of the demo's own things (a clock movement with tools, a shelf of clock cases, a lamp's
/// foot).
void addFurniture(const rig::PlanObject& object, Scene& scene);

}  // namespace rigmatch::sim
