// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "match/learning.h"
#include "match/measured.h"
#include "rig/rig.h"
#include "rig/turn.h"

namespace rigmatch::match {

/// By how much in-camera sharpening of two cameras may differ, % of an edge's step: good up to the
/// first, near up to the second (common practice; docs/sources.md, 5.8).
inline constexpr double kOvershootGood = 5.0;
inline constexpr double kOvershootNear = 10.0;

/// Overshoot beside the chart's edges, camera less reference, %. Nothing where one of them cannot
/// tell.
[[nodiscard]] std::optional<Measured> overshootDifference(const rig::Reading& reading,
                                                          const rig::Reading& reference);

/// The step of in-camera sharpening at which both overshoot alike. Nothing where they are near
/// enough, or as far as can be told; where it cannot be turned; or where no step comes nearer.
[[nodiscard]] std::optional<rig::Turn> sharpnessTurn(const rig::Camera& camera,
                                                     const rig::Settings& from,
                                                     const rig::Reading& reading,
                                                     const rig::Reading& reference,
                                                     const Response& answer);

}  // namespace rigmatch::match
