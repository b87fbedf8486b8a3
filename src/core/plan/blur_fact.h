// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "plan/analysis.h"

namespace rigmatch::plan {

/// How far the background melts behind the subject, as a disc in shares of the width; against the
/// rig's goal (Choices::blur) with the f-number that reaches it, the ND that holds the exposure
/// there, and whether a speaker who leans stays sharp (sources 3.5).
[[nodiscard]] Fact blurFact(const SetAnalysis& set, const PlacedCamera& camera);

}  // namespace rigmatch::plan
