// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "plan/lamp_advice.h"

namespace rigmatch::words {

/// "key soft box: dimmer 100 → 76 %".
[[nodiscard]] std::string lampTurnText(const plan::LampAdvice& advice);
/// "−0.40 stop on the chart, by the plan; it gives 72 % of it".
[[nodiscard]] std::string lampEffectText(const plan::LampAdvice& advice);

}  // namespace rigmatch::words
