// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of everything.
#include "words/english_phrases.h"

namespace rigmatch::words {

namespace {

constexpr Phrase kCommonPhrases[] = {
    {"asIs", "{name}"},
    {"common.comma", ", "},
    {"common.fullStop", "."},
    {"common.hoursMinutes", "{hours} h {minutes} min"},
    {"common.infinity", "∞"},
    {"common.lockIt", "Lock it."},
    {"common.minutes", "{minutes} min"},
    {"common.none", "none"},
    {"common.percent", "{percent} %"},
    {"common.reference", "reference"},
    {"common.semicolon", "; "},
    {"common.unknown", "unknown"},
    {"length.feet", "{feet} ft"},
    {"length.metres", "{metres} m"},
    {"light.lux", "{lux} lx"},
    {"common.andMore", " and {count} more"},
    {"later.value", ""},
};

}  // namespace

std::span<const Phrase> commonPhrases() { return kCommonPhrases; }

}  // namespace rigmatch::words
