// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "plan/fact.h"
#include "rig/rig.h"

namespace rigmatch::plan {

/// What follows from a camera's settings, lens and equipment, with the plan's lights where there is
/// a plan; the rows "Computed" of the camera sheet. Keys are the same for every camera.
[[nodiscard]] std::vector<Fact> sheetFacts(const rig::Rig& rig, const rig::Camera& camera);

/// A value of the sheet that must agree over the rig and does not.
struct SheetMark {
    std::string field;  ///< as in files: "frameRate", "shutter", "profile", …
    base::Verdict verdict = base::Verdict::Near;
    base::Text text;

    bool operator==(const SheetMark&) const = default;
};
[[nodiscard]] std::vector<SheetMark> sheetMarks(const rig::Rig& rig, const rig::Camera& camera);

/// All cards, copies and power of one day.
struct DayNeeds {
    double gigabytes = 0.0;
    double copyMinutes = 0.0;  ///< all copies, one after another
    int cards = 0;
    double watts = 0.0;
};
[[nodiscard]] DayNeeds dayNeeds(const rig::Rig& rig);

}  // namespace rigmatch::plan
