// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>

#include "output/json_tidy.h"
#include "words/fact_cells.h"
#include "words/reading_facts.h"

namespace rigmatch::output {

/// One column of the table of facts, for the documents that show it.
[[nodiscard]] Json factsJson(const words::FactTable& table, std::size_t column);

/// Red, green and blue.
/// The number, or null where it is not known.
[[nodiscard]] Json orNull(const std::optional<double>& value);
[[nodiscard]] Json triple(const std::array<double, 3>& values);

}  // namespace rigmatch::output
