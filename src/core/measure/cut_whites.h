// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/warning.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// Whites that are cut below the top of the codes (a limiter, a clipped log, a capture chain): the
/// brightest patches of a channel stand at one level although the chart reflects unlike light
/// there. Marks every patch at that level as clipped, so that none enters a fit, and tells the
/// level. Found where two greys within 0.4 % of signal should lie over 0.2 stop apart, or where
/// patches of any colour do and have under a third of the noise of the other greys (own bounds:
/// real shoulders keep 2 % per stop and more).
[[nodiscard]] std::optional<base::Warning> markCutWhites(std::vector<rig::PatchReading>& patches);

}  // namespace rigmatch::measure
