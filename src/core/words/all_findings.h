// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/finding.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// Where a finding comes from.
enum class FindingArea { Match, Numbers, Framing, Timing, Sound, File, Sheet, Plan };
/// "match", "numbers", …
[[nodiscard]] const char* nameOf(FindingArea area);

/// A finding with its words.
struct ToldFinding {
    FindingArea area = FindingArea::Match;
    base::Finding finding;
    std::string headline;  ///< "B: Exposure −0.63 ± 0.02 stop"
    std::string why;
    std::string change;  ///< what to do; empty: nothing, or nothing is known
};

/// Everything that follows from the plan, the camera sheets and the newest take of each purpose,
/// in one vocabulary: what is off first, then near, unknown, good; within that by area. Measures
/// nothing. Takes as long as matching the newest take.
[[nodiscard]] std::vector<ToldFinding> allFindings(const rig::Rig& rig);

/// Those that are not good, a line or three each, single numbers counted; or that nothing is.
[[nodiscard]] std::string findingsText(const std::vector<ToldFinding>& findings);

}  // namespace rigmatch::words
