// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "rig/lamp_turn.h"
#include "rig/set_plan.h"

namespace rigmatch::plan {

/// By what the light is to change; nothing: it stays.
struct LightChange {
    std::optional<double> stops;  ///< + : brighter
    std::optional<double> mired;  ///< + : warmer
};

/// A turn of a lamp or window, and what it does to the light where the chart is held.
struct LampAdvice {
    rig::LampTurn turn;
    std::string name;    ///< of the lamp
    double stops = 0.0;  ///< by which the light there changes, predicted from the plan
    double mired = 0.0;
    double share = 0.0;  ///< of the light there that comes from it, before
    /// Of what is turned, stops or mired: what the plan does not know of lamps (0.3 stop of the
    /// others, its own as the field has it), and a tenth of the change for its dial (own bound).
    double uncertainty = 0.0;
};

/// How lamps and windows of a plan are to be turned so that the light on its chart (without one: on
/// its faces) changes as wanted. One lamp where it gives half of that light or more; else all that
/// give a twentieth, each by the same, so that their ratio stays. Dimmers go in percent from 1 to
/// 100, colours of LED lamps in 50 K from 2700 to 6500 K (common practice: lamps of two colours),
/// film on windows in whole stops. Empty where that leaves more than a third of what is wanted, or
/// where nobody planned a light: the cameras are turned then.
[[nodiscard]] std::vector<LampAdvice> lampAdvice(const rig::SetPlan& plan,
                                                 const LightChange& wanted);

/// The plan with the turn carried out, or taken back. Unchanged where the lamp is gone.
[[nodiscard]] rig::SetPlan withLampTurn(rig::SetPlan plan, const rig::LampTurn& turn, bool isDone);

}  // namespace rigmatch::plan
