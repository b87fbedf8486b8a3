// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "chart/reference_chart.h"

namespace rigmatch::chart {

/// Patches of a values file, and what was taken for granted about them.
struct PatchValues {
    std::vector<ReferencePatch> patches;
    std::string white;  ///< one sentence: which white XYZ values were taken for, and why; empty for
                        ///< L a b
};

/// Measured values of patches in the order of the file, from CGATS.17 text (read by Little CMS) or
/// from comma, semicolon or tab separated columns with a head line. Columns: a name (SAMPLE_NAME,
/// SAMPLE_ID, name, patch, id) and L a b (LAB_L, LAB_A, LAB_B; L*, a*, b*) or X Y Z (XYZ_X, …; of
/// 1 or of 100), 2 degree. L a b is for D50. X Y Z is for the white that the file's own words
/// before the values name (D50, D55, D65, D75), else for the one of these that makes most patches
/// neutral, and D50 where they tell nothing; it is brought to D50 by Bradford. Patches of little
/// chroma (C* under 4) are taken as neutral. Fails with UnsupportedFormat where the columns are not
/// there, OutOfRange naming the line where a value is no colour or there are none or too many.
[[nodiscard]] base::Result<PatchValues> readPatchValues(const std::filesystem::path& file);

/// One patch of a given colour; neutral where C* is under 4.
[[nodiscard]] ReferencePatch patchOfLab(std::string name, const colour::Lab& lab);

}  // namespace rigmatch::chart
