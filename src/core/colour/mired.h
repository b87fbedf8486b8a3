// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/result.h"
#include "base/units.h"

namespace rigmatch::colour {

/// 10^6 / K. `kelvin` must be positive.
[[nodiscard]] base::Mired miredOf(base::Kelvin kelvin);
/// 10^6 / mired. `mired` must be positive.
[[nodiscard]] base::Kelvin kelvinOf(base::Mired mired);

/// Shift that turns light of `from` into light of `to`; positive is toward amber.
/// Both must lie in 1000..100000 K, else OutOfRange, naming the value given.
[[nodiscard]] base::Result<base::Mired> miredShift(base::Kelvin from, base::Kelvin to);

/// The dial that takes `tooWarm` mired out of a picture made at `dial` (sources 4.7):
/// 10^6 / (10^6 / dial + tooWarm). 5600 K and 20 mired too warm give 5036 K.
/// Fails with OutOfRange where no dial of 1000..100000 K does that.
[[nodiscard]] base::Result<base::Kelvin> dialFor(base::Kelvin dial, base::Mired tooWarm);

}  // namespace rigmatch::colour
