// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "rig/set_plan.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// Parts of a stand-in that move apart (Figure::part).
enum BodyPart { kTrunk, kLeftForearm, kRightForearm };
/// A hand that is held before the chest, m from the middle of the head at scale 1: its palm's
/// middle aside, down and ahead, half its thickness; and how far down the wrist is.
inline constexpr double kHandAside = 0.117, kHandDown = 0.375, kHandAhead = 0.295, kPalm = 0.017,
                        kWristDown = 0.42;

/// Adds a stand-in for a person of the plan: head with face, hair and glasses; body, arms and
/// hands, and legs to the floor, each one smooth surface; `index`, among the plan's people, chooses
/// hair and clothes. The head's proportions are those that plan/geometry.h measures by.
void addStandIn(const rig::PlanObject& person, std::size_t index, Scene& scene);

/// Linear reflectance of skin whose luminance is `reflectance`, 0.03..0.6.
[[nodiscard]] Vec skinColour(double reflectance);

}  // namespace rigmatch::sim
