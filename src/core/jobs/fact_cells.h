// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "jobs/reading_facts.h"
#include "match/skin.h"

namespace rigmatch::jobs {

/// A cell that says why nothing is known.
[[nodiscard]] FactCell unknown(const std::string& why);
/// A cell of words.
[[nodiscard]] FactCell words(const std::string& text, const std::string& why = {});
/// A number with its uncertainty, at least one unit of the last place.
[[nodiscard]] FactCell number(const match::Measured& measured,
                              int decimals,
                              bool isSigned,
                              const std::string& why = {});

/// Skin of every person, a row for each quantity.
[[nodiscard]] std::vector<FactRow> skinFacts(const match::MatchReport& report, std::size_t cameras);

}  // namespace rigmatch::jobs
