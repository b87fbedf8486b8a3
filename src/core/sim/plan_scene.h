// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "rig/rig.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// Light that the simulator's nominal settings (ISO 800, 1/50 s, f/2.8, no ND) expose correctly:
/// E = 250 N² / (t S), ISO 2720, N = 2.828. Linear 1 of a scene is a perfect white under it.
inline constexpr double kNominalLux = 125.0;

/// The planned set as something to be rendered: room, furniture, stand-ins, lamps with their
/// stands, windows, flags, boards, cameras. Measures are those of the plan, m.
[[nodiscard]] Scene sceneOf(const rig::SetPlan& plan);

/// The view of a placed camera at its rig settings; nothing where the plan gives it no picture.
[[nodiscard]] std::optional<View> planView(const rig::Rig& rig, const rig::Camera& camera);

/// `rig` with every simulated camera standing, looking and losing light as the plan says.
[[nodiscard]] rig::Rig placedRig(const rig::Rig& rig);

/// The chart in the take, carried in from the side, held still, carried out.
struct ChartPlace {
    std::array<Vec, 4> corners;  ///< outer corners of the patch field, m, as ChartPose::corners
    Vec normal;
};

/// Where the chart of the plan is at `seconds` of a take of `length` s; nothing while it is out of
/// the set. Still from 22 % to 78 % of the length. A plan without a chart holds it before the
/// faces.
[[nodiscard]] std::optional<ChartPlace> chartPlace(const rig::SetPlan& plan,
                                                   double seconds,
                                                   double length);

}  // namespace rigmatch::sim
