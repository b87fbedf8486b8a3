// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <vector>

#include "rig/settings.h"

namespace rigmatch::match {

/// The part of a change (predict.h) that a knob is for; kChangeParts: of an unknown purpose.
[[nodiscard]] std::size_t partOf(rig::KnobKind kind);

/// The name of the difference that a knob is turned for; empty: none by itself.
[[nodiscard]] const char* effectOfKnob(rig::KnobKind kind);

/// The farthest of a control's steps from nothing, at least one.
[[nodiscard]] double reachOf(const std::vector<double>& steps);

/// Of what is guessed of a control, one standard deviation as a share of it.
inline constexpr double kUsualDoubt = 0.6;

/// What one step of a knob is taken to do to one part before anything is learned, and one standard
/// deviation (docs/sources.md, 6.6; common practice).
struct StepPrior {
    double mean = 0.0, deviation = 0.0;
};
[[nodiscard]] StepPrior stepPrior(const rig::Knob& knob, std::size_t part);

}  // namespace rigmatch::match
