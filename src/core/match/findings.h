// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/finding.h"
#include "match/match_report.h"

namespace rigmatch::match {

/// Stable name for files: "exposureStops", "whiteBalanceMired", …, "deltaE2000".
[[nodiscard]] const char* keyOf(Quality quality);

/// A cell of the board as a finding: a camera against the reference, good and near as its
/// tolerances have them (of a ratio from its share below one to its share above).
[[nodiscard]] base::Finding findingOf(const MatchReport& report,
                                      const CameraMatch& camera,
                                      Quality quality);

/// All cells but those that the chart in use can never tell.
[[nodiscard]] std::vector<base::Finding> findingsOf(const MatchReport& report);

}  // namespace rigmatch::match
