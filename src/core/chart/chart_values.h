// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "base/result.h"
#include "chart/reference_chart.h"

namespace rigmatch::chart {

/// Measured values of patches in the order of the file, from CGATS.17 text (read by Little CMS) or
/// from comma, semicolon or tab separated columns with a head line. Columns: a name (SAMPLE_NAME,
/// SAMPLE_ID, name, patch, id) and L a b (LAB_L, LAB_A, LAB_B; L*, a*, b*) or X Y Z (XYZ_X, …; of
/// 1 or of 100), for D50 and 2 degree. Patches of little chroma (C* under 4) are taken as neutral.
/// Fails with UnsupportedFormat where the columns are not there, OutOfRange naming the line where a
/// value is no colour or there are none or too many.
[[nodiscard]] base::Result<std::vector<ReferencePatch>> readPatchValues(
    const std::filesystem::path& file);

/// One patch of a given colour; neutral where C* is under 4.
[[nodiscard]] ReferencePatch patchOfLab(std::string name, const colour::Lab& lab);

}  // namespace rigmatch::chart
