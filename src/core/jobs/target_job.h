// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "match/match_report.h"
#include "match/target.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// What one target asks of the others: how many turns, how far they go, what is left.
struct TargetCost {
    std::string cameraId;
    int turns = 0;
    double change = 0.0;  ///< of all turns together, each over what is accepted of its kind
    std::optional<double> worstAfter;  ///< mean ΔE2000 of the worst pair after the turns
    int leftOver = 0;                  ///< what no control reaches
    bool isStiff = false;              ///< it has no white balance or no exposure to turn
};
/// Of every camera of the take that shows a chart, as the reference; in the order of the rig.
[[nodiscard]] std::vector<TargetCost> targetCosts(const rig::Rig& rig, const rig::Take& take);

/// The reference that is recommended, and why; empty where no camera shows a chart. Never an
/// average: the camera to which the others come nearest, of those the one that asks the least, a
/// stiff one first.
struct Recommendation {
    std::string cameraId;
    std::vector<base::Text> reasons;
};
[[nodiscard]] Recommendation recommendedReference(const std::vector<TargetCost>& costs);

/// A target by its words: a camera's letter, "least" (the camera that asks for the least change of
/// all others), "chart" (its published values), "take:ID" or "FILE.rigmatch:ID" (what the reference
/// of that take looked like; ID: of the take, or its number). Fails with OutOfRange for other
/// words, with Unmeasurable where that take shows nothing to match to, or as rig::loadRig().
[[nodiscard]] base::Result<match::Target> targetOf(const std::string& words,
                                                   const rig::Rig& rig,
                                                   const rig::Take& take);

/// The match of a take to that target.
[[nodiscard]] match::MatchReport matchReport(const rig::Rig& rig,
                                             const rig::Take& take,
                                             const match::Target& target,
                                             bool hasControls);

}  // namespace rigmatch::jobs
