// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::app {

class MatchController;

/// What no turn is left for, a line each, under what is to be said of all of it.
[[nodiscard]] QString restHtml(const MatchController& controller, bool hasTurns);

}  // namespace rigmatch::app
