// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::app {

class MatchController;

/// What no turn is left for, a line each, under what is to be said of all of it.
[[nodiscard]] QString restHtml(const MatchController& controller, bool hasTurns);

/// What to know before trusting the board, a line each: of the target, the light and the cameras.
[[nodiscard]] QString notesHtml(const MatchController& controller);

}  // namespace rigmatch::app
