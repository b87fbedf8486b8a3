// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"

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

/// A three-dimensional table over signals 0 to 1, red changing fastest.
struct Table3d {
    int size = 33;  ///< points to a side
    std::vector<std::array<double, 3>> values;
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

/// What stands beside the numbers: a title and comments, one line each.
struct GradeWords {
    std::string id;  ///< a plain word
    std::string title;
    std::vector<std::string> comments;
};

/// The file's text, of a table (Cube, Clf) or of a decision list (the others), the latter and CLF
/// as OpenColorIO writes them. Fails with UnsupportedFormat and the library's own words.
[[nodiscard]] base::Result<std::string> gradeText(GradeFormat format,
                                                  const Table3d& table,
                                                  const GradeWords& words);
[[nodiscard]] base::Result<std::string> gradeText(GradeFormat format,
                                                  const Cdl& cdl,
                                                  const GradeWords& words);

}  // namespace rigmatch::colour
