// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "base/finding.h"
#include "sound/sound_report.h"

namespace rigmatch::words {

/// Where peaks are to lie, dBFS (sources 13.6).
struct LevelGoals {
    double peakLow = 0.0, peakHigh = 0.0;
};
[[nodiscard]] LevelGoals levelGoals();

/// What to do about a channel, as short as it goes; its whole sentence is ChannelReport::verdict.
struct ChannelWords {
    std::string text;  ///< "21 dB low"
    base::Verdict verdict = base::Verdict::Good;
};
[[nodiscard]] ChannelWords channelWords(const sound::ChannelReport& channel);

/// "speech −21 · peak −9 · noise −62 dBFS".
[[nodiscard]] std::string levelsText(const sound::ChannelReport& channel);

}  // namespace rigmatch::words
