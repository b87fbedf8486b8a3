// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <vector>

#include "match/differences.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// One camera's differences in one take for matching.
struct HistoryPoint {
    std::string takeId;
    int takeNumber = 0;
    std::array<match::Difference, match::kQualityCount> qualities;  ///< as the board judges them
};

/// How the differences of every camera moved from take to take, oldest first: takes for matching up
/// to and with `upTo`, at most `most` of them, all against the rig's target. By camera id.
using History = std::map<std::string, std::vector<HistoryPoint>>;
[[nodiscard]] History historyOf(const rig::Rig& rig, const rig::Take& upTo, std::size_t most = 6);

}  // namespace rigmatch::jobs
