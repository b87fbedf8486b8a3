// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <numbers>

namespace rigmatch::base {

inline constexpr double kRadiansPerDegree = std::numbers::pi / 180.0;
inline constexpr double kDegreesPerRadian = 180.0 / std::numbers::pi;
/// Reflectance of mid-grey, which stops are counted from (docs/sources.md 2).
inline constexpr double kMidGrey = 0.18;

}  // namespace rigmatch::base
