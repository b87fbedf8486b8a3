// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "colour/grade.h"

namespace rigmatch::colour {

/// A three-dimensional table over signals 0 to 1, red changing fastest.
struct Table3d {
    int size = 33;  ///< points to a side
    std::vector<std::array<double, 3>> values;
};

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
