// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <string>
#include <vector>

#include "base/result.h"
#include "base/text.h"

namespace rigmatch::words {

/// The English words of a code, with the names of its arguments in braces.
struct Phrase {
    const char* code;
    const char* words;
};

/// A text in English. A code without words is shown in brackets, so that nothing gets lost.
[[nodiscard]] std::string inEnglish(const base::Text& text);

/// A failure in English: what failed, with which value, and what to do now.
[[nodiscard]] std::string inEnglish(const base::Error& error);

/// Each of them.
[[nodiscard]] std::vector<std::string> inEnglish(const std::vector<base::Text>& texts);

/// All phrases, for checks.
[[nodiscard]] std::vector<Phrase> englishPhrases();

}  // namespace rigmatch::words
