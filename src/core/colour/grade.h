// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

namespace rigmatch::colour {

/// A colour decision list of the ASC, version 1.2: out = clamp(in × slope + offset)^power per
/// channel, then saturation about the luma of BT.709; all within 0 to 1.
struct Cdl {
    std::array<double, 3> slope{1.0, 1.0, 1.0};   ///< 0 and above
    std::array<double, 3> offset{0.0, 0.0, 0.0};  ///< signal
    std::array<double, 3> power{1.0, 1.0, 1.0};   ///< above 0
    double saturation = 1.0;                      ///< 0 and above

    [[nodiscard]] std::array<double, 3> apply(const std::array<double, 3>& signal) const;
};

enum class GradeFormat {
    Cube,    ///< .cube
    Clf,     ///< Common LUT Format of the Academy and the ASC
    Cc,      ///< one ColorCorrection of an ASC CDL
    Ccc,     ///< ColorCorrectionCollection
    CdlList  ///< ColorDecisionList, .cdl
};
/// ".cube", ".clf", ".cc", ".ccc" or ".cdl".
[[nodiscard]] const char* suffixOf(GradeFormat format);
[[nodiscard]] bool isCdl(GradeFormat format);

}  // namespace rigmatch::colour
