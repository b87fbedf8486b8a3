// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/solver.h"

namespace rigmatch::match {

/// What decides between ways to the same brightness on one camera of a rig: the shutter times that
/// are free, how its motion would look against the reference's, and how much noise its ISO costs.
/// `reference`: what it is matched to. (docs/sources.md, 6.3.)
[[nodiscard]] SolverOptions turnOptions(const rig::Rig& rig,
                                        const rig::Camera& camera,
                                        const rig::Shot& shot,
                                        const rig::Shot& reference);

/// Shutter times of the sheet that may serve for exposure, the present one among them, where
/// nothing beats against them: lamps do not flicker as far as measured or planned, or the time
/// takes in whole ripples of the mains that somebody told, or the reference is shot at it already.
/// None is longer than a frame, and none farther from the reference's motion than a stop of angle,
/// or than the present one. Empty where shutter or rate is not known.
[[nodiscard]] std::vector<double> freeShutters(const rig::Rig& rig,
                                               const rig::Camera& camera,
                                               const rig::Settings& shot,
                                               const rig::Settings& reference);

}  // namespace rigmatch::match
