// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// Why nothing turns what is left.
enum class RestCause {
    BelowStep,   ///< less than half of the control's smallest step
    Unsure,      ///< less than the reading is good to
    OutOfReach,  ///< the control ends before, or the light has to change
    NoControl,   ///< no control of this camera moves it
    Follows      ///< made of what other rows say
};

/// Name in files: "belowStep", "unsure", "outOfReach", "noControl", "follows".
[[nodiscard]] std::string nameOf(RestCause cause);

/// A row of one camera that is near or off though no turn is for it.
struct RestReason {
    std::string cameraId;
    match::Quality quality;
    RestCause cause;
    std::string text;  ///< what is left and why, with what would help
};

/// Of all cameras, in the order of the board. What a turn sees to, what is good and what is unknown
/// is left out.
[[nodiscard]] std::vector<RestReason> restReasons(const rig::Rig& rig,
                                                  const rig::Take& take,
                                                  const match::MatchReport& report);

/// What to say where no turn is left, or only such for what is good already: all is good, or when
/// to stop, or what stays.
[[nodiscard]] std::string restHeadline(const std::vector<RestReason>& reasons,
                                       bool hasFineTurns = false);

}  // namespace rigmatch::words
