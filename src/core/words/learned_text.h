// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "match/learning.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// How one control answered, in words: "Tint", "0.00140 ± 0.00020 Duv a step".
struct LearnedRow {
    std::string control;
    std::string effect;
    int takes = 0;  ///< turns that taught it; 0: kept with the camera, or brought by its template
};
/// Of every control of which something was learned or kept.
[[nodiscard]] std::vector<LearnedRow> learnedRows(const rig::Camera& camera,
                                                  const match::LearnedControls& learned);

}  // namespace rigmatch::words
