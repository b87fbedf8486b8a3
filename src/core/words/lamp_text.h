// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "plan/lamp_advice.h"

namespace rigmatch::words {

/// "key soft box: dimmer 100 → 76 %".
[[nodiscard]] std::string lampTurnText(const plan::LampAdvice& advice);
/// "Dimmer", "Colour temperature", "ND film on the glass".
[[nodiscard]] std::string lampControlText(rig::LampControl control);
/// "76 %", "5000 K", "1 stop".
[[nodiscard]] std::string lampValueText(rig::LampControl control, double value);
/// "−0.40 ± 0.06 stop on the chart, by the plan; it gives 72 % of the light".
[[nodiscard]] std::string lampEffectText(const plan::LampAdvice& advice);

}  // namespace rigmatch::words
