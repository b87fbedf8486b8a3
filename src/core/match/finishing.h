// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "match/judge.h"

namespace rigmatch::match {

/// Signal up to which finishedSignal() changes nothing that a display would not.
inline constexpr double kShoulder = 0.75;

/// A recorded signal of BT.709's primaries as a finished picture's for a BT.1886 display: what
/// `judge` makes of it (log by its curve into light and through BT.709's, HLG by the BT.2100 OOTF),
/// and highlights rolled off above `kShoulder` so that none is cut (docs/sources.md, 6.9).
[[nodiscard]] std::array<double, 3> finishedSignal(const std::array<double, 3>& signal,
                                                   const Judge& judge);

}  // namespace rigmatch::match
