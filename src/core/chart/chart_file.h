// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "chart/reference_chart.h"

namespace rigmatch::chart {

/// The references that ship with the program: the classic chart first, then strips, cards, and
/// areas of the set. Read from the data files of data/charts.
[[nodiscard]] const std::vector<ReferenceChart>& builtinCharts();

/// Parses a chart description (docs/chart-format.md). Patches stand in it, or in a CGATS or CSV
/// file that it names, beside it in `folder`. Fails with CorruptDocument or OutOfRange naming the
/// place, and as readChartFile for the values' file.
[[nodiscard]] base::Result<ReferenceChart> parseChart(std::string_view json,
                                                      const std::string& name,
                                                      const std::filesystem::path& folder);

/// Reads a chart of the user's: a description (.json), or measured values alone (CGATS text, .csv),
/// whose patches are then laid out by their number or by names such as A1 to F4. Fails with
/// NotFound, TooLarge (over 1 MB), UnsupportedFormat, CorruptDocument or OutOfRange; names file and
/// place.
[[nodiscard]] base::Result<ReferenceChart> readChartFile(const std::filesystem::path& file);

/// A built-in chart by its id, or the user's by the path of its file.
[[nodiscard]] base::Result<ReferenceChart> chartOf(const std::string& idOrPath);

}  // namespace rigmatch::chart
