// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "sound/sound_report.h"

namespace rigmatch::sound {

/// Goals by common practice, dBFS: speech, and its peaks.
inline constexpr double kGoalSpeech = -20.0;
inline constexpr double kGoalPeakLow = -12.0, kGoalPeakMiddle = -9.0, kGoalPeakHigh = -6.0;

/// Two channels of one file against each other.
struct ChannelPair {
    std::size_t first = 0, second = 0;
    double likeness = 0.0;       ///< correlation without shift, -1..1
    double levelDecibels = 0.0;  ///< of the second over the first
};

/// Puts a channel's verdict into words, by common practice (sources 13.6).
void judge(ChannelReport& channel);

/// What is to be told of the file as a whole, the gravest first.
void tellFindings(SoundReport& report, const std::vector<ChannelPair>& pairs, bool hasChanged);

}  // namespace rigmatch::sound
