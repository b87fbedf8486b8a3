// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "words/english.h"

namespace rigmatch::words {

// The English of all codes, a file for each part of the work.
[[nodiscard]] std::span<const Phrase> cameraPhrases();
[[nodiscard]] std::span<const Phrase> sheetPhrases();
[[nodiscard]] std::span<const Phrase> setPhrases();
[[nodiscard]] std::span<const Phrase> commonPhrases();
[[nodiscard]] std::span<const Phrase> picturePhrases();
[[nodiscard]] std::span<const Phrase> timingPhrases();
[[nodiscard]] std::span<const Phrase> matchPhrases();
[[nodiscard]] std::span<const Phrase> filePhrases();
[[nodiscard]] std::span<const Phrase> refusalPhrases();
[[nodiscard]] std::span<const Phrase> fieldPhrases();

}  // namespace rigmatch::words
