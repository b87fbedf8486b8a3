// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/value_trust.h"
#include "colour/lab.h"

namespace rigmatch::chart {

/// One patch of a reference.
struct ReferencePatch {
    std::string name;
    colour::Vector3 linear{0, 0, 0};  ///< linear BT.709 RGB under D65, 1 = perfect white; may be
                                      ///< negative outside the gamut
    bool isNeutral = false;

    bool operator==(const ReferencePatch&) const = default;
};

/// What is held into the light of the set and measured: patches in rows and columns with known
/// values. The classic chart, strips, cards, or an area of the set.
struct ReferenceChart {
    std::string id;      ///< "classic-24", or the path of the user's file
    std::string name;    ///< "24-patch chart"
    std::string source;  ///< where the values come from, one sentence
    base::ValueTrust trust = base::ValueTrust::Nominal;
    std::size_t columns = 6;
    std::size_t rows = 4;
    double patchShare = 0.86;             ///< width of a patch over the step to the next, 0.5..1
    std::vector<ReferencePatch> patches;  ///< columns x rows, row by row

    bool operator==(const ReferenceChart&) const = default;

    /// True where the finder can tell the reference from other things by itself: at least twelve
    /// patches in two rows or more, four of them coloured. Others are marked by hand.
    [[nodiscard]] bool isSearchable() const;
    /// The neutral nearest to 18 % in stops; nothing without neutrals.
    [[nodiscard]] std::optional<std::size_t> greyPatch() const;
    /// The darkest neutral.
    [[nodiscard]] std::optional<std::size_t> darkestPatch() const;
    /// Up to three of the lightest neutrals in the last row, beyond whose lower edges the card is.
    [[nodiscard]] std::vector<std::size_t> edgePatches() const;
};

inline constexpr std::size_t kMostColumns = 16;
inline constexpr std::size_t kMostRows = 12;
inline constexpr std::size_t kMostPatches = 96;

/// The classic 24-patch chart with its nominal values (sources 11.9).
[[nodiscard]] const ReferenceChart& classicChart();

/// Linear BT.709 under D65 of a CIE L*a*b* value for D50, 2 degree (Bradford).
[[nodiscard]] colour::Vector3 linearOfLab(const colour::Lab& lab);
/// The same of CIE XYZ for D50, Y = 1 for a perfect white.
[[nodiscard]] colour::Vector3 linearOfXyz(const colour::Vector3& xyz);

}  // namespace rigmatch::chart
