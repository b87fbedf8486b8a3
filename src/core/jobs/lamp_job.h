// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "match/match_report.h"
#include "plan/lamp_advice.h"

namespace rigmatch::jobs {

/// A turn of the light that serves all cameras of a take.
struct SetLightTurn {
    plan::LampAdvice advice;
    bool isDone = false;
};

/// What of the planned lamps and windows makes the light as it was, where all cameras of the take
/// lie off their target alike (MatchReport::commonLight). Counted from the plan as the take was
/// shot in it: turns that were ticked since are in it as done. Empty without a plan, or where
/// turning the cameras serves better (plan::lampAdvice()).
[[nodiscard]] std::vector<SetLightTurn> lightTurns(const rig::Rig& rig,
                                                   const rig::Take& take,
                                                   const match::MatchReport& report);

/// Turns that were ticked at that take and that `asked` does not ask for any more, as after a
/// change of the target: turn and name alone. A lamp that is gone from the plan is none.
[[nodiscard]] std::vector<plan::LampAdvice> formerLightTurns(
    const rig::Rig& rig, const rig::Take& take, const std::vector<SetLightTurn>& asked);

/// The rig with such a turn of that take carried out in its plan, or taken back.
[[nodiscard]] rig::Rig withLightTurn(rig::Rig rig,
                                     const std::string& takeId,
                                     const rig::LampTurn& turn,
                                     bool isDone);

/// Carries the open ones of the newest take for matching out in the rig's plan; gives them. Nothing
/// where it is not the light that is to be turned.
[[nodiscard]] std::optional<std::vector<plan::LampAdvice>> carryOutLightTurns(rig::Rig& rig);

}  // namespace rigmatch::jobs
