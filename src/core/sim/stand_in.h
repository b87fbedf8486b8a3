// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "rig/set_plan.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// Adds a stand-in for a person of the plan: head with face, hair and glasses; body, arms and
/// hands, and legs to the floor, each one smooth surface. `index` chooses hair and clothes. The
/// head's proportions are those that plan/geometry.h measures by.
void addStandIn(const rig::PlanObject& person, std::size_t index, Scene& scene);

/// Linear reflectance of skin whose luminance is `reflectance`, 0.03..0.6.
[[nodiscard]] Vec skinColour(double reflectance);

}  // namespace rigmatch::sim
