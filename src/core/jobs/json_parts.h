// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "jobs/fact_cells.h"
#include "jobs/json_tidy.h"
#include "jobs/reading_facts.h"

namespace rigmatch::jobs {

/// One column of the table of facts, for the documents that show it.
[[nodiscard]] Json factsJson(const FactTable& table, std::size_t column);

/// Red, green and blue.
[[nodiscard]] Json triple(const std::array<double, 3>& values);

}  // namespace rigmatch::jobs
