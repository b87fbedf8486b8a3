// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <string>
#include <string_view>

#include "colour/lab.h"

namespace rigmatch::chart {

inline constexpr std::size_t kColumns = 6;
inline constexpr std::size_t kRows = 4;
inline constexpr std::size_t kPatchCount = kColumns * kRows;
/// The six neutrals are the last row, white to black.
inline constexpr std::size_t kFirstNeutral = 18;
inline constexpr std::size_t kNeutralCount = 6;
/// "neutral 5", the patch nearest to mid-grey.
inline constexpr std::size_t kNeutral5 = 21;
/// Cyan lies outside BT.709 (negative red): not used where colours are fitted.
inline constexpr std::size_t kCyan = 17;

/// Name of the layout in files and on screens.
inline constexpr std::string_view kLayoutName = "classic-24";

/// Names in chart order, as the command line's contract lists them.
[[nodiscard]] const std::array<std::string_view, kPatchCount>& patchNames();

/// Nominal L*a*b* (D50, 2 degree) of the classic 24-patch chart, pre-2014 formulation
/// (sources 11.9).
[[nodiscard]] const std::array<colour::Lab, kPatchCount>& nominalLab();

/// Linear BT.709 RGB of each patch under D65 (Bradford from D50), 1 = perfect white. Cyan's red is
/// negative.
[[nodiscard]] const std::array<colour::Vector3, kPatchCount>& nominalLinear();

}  // namespace rigmatch::chart
