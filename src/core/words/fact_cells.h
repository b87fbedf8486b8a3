// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/skin.h"
#include "words/reading_facts.h"

namespace rigmatch::words {

/// A cell that says why nothing is known.
[[nodiscard]] FactCell unknownCell(const std::string& why);
/// A cell of words.
[[nodiscard]] FactCell wordCell(const std::string& text, const std::string& why = {});
/// A number with its uncertainty, at least one unit of the last place.
[[nodiscard]] FactCell numberCell(const match::Measured& measured,
                                  int decimals,
                                  bool isSigned,
                                  const std::string& why = {});

/// Skin of every person, a row for each quantity.
[[nodiscard]] std::vector<FactRow> skinFacts(const match::MatchReport& report, std::size_t cameras);

}  // namespace rigmatch::words
