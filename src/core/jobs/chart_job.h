// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "base/value_trust.h"

namespace rigmatch::measure {
struct MeasureOptions;
}

namespace rigmatch::jobs {

/// A reference on the set, as a list offers it.
struct ReferenceEntry {
    std::string id;  ///< of chart::builtinCharts, or the path of a file
    std::string name;
    std::string source;
    std::size_t columns = 0;
    std::size_t rows = 0;
    double patchShare = 0.86;
    base::ValueTrust trust = base::ValueTrust::Nominal;
    bool isSearched = false;  ///< found by itself; otherwise its corners are set by hand
};

/// The references that ship with the program, the classic chart first.
[[nodiscard]] std::vector<ReferenceEntry> builtinReferences();
/// One of them, or the user's file. Fails as chart::readChartFile.
[[nodiscard]] base::Result<ReferenceEntry> referenceOf(const std::string& idOrPath);

/// Options to measure with that reference.
[[nodiscard]] base::Result<measure::MeasureOptions> measureOptionsFor(const std::string& idOrPath);

}  // namespace rigmatch::jobs
