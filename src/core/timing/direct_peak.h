// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <vector>

namespace rigmatch::timing {

/// The direct sound among the peaks of a correlation, as its place in `heights` (in spreads of
/// chance, by lag): as a rule the highest. A room's tail lies behind it, on one side where one of
/// the microphones stands much farther off; a reflection that is higher has sound on both its
/// sides. `sampleRate`: lags per second; peaks below `leastHeight` are not asked.
[[nodiscard]] std::size_t directPeak(const std::vector<double>& heights,
                                     double sampleRate,
                                     double leastHeight);

/// Seconds from the direct sound to the farthest peak that is nearly as high as the highest: where
/// the direct sound is faint, reflections stand as high, and any of those peaks may be it. 0: none.
[[nodiscard]] double rivalSeconds(const std::vector<double>& heights,
                                  std::size_t direct,
                                  double sampleRate);

}  // namespace rigmatch::timing
