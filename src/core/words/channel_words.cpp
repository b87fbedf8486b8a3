// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/channel_words.h"

#include "base/format.h"
#include "sound/sound_words.h"

namespace rigmatch::words {

using base::Verdict;

namespace {

constexpr double kNoRoom = -90.0;  // dBFS

}  // namespace

LevelGoals levelGoals() { return {sound::kGoalPeakLow, sound::kGoalPeakHigh}; }

ChannelWords channelWords(const sound::ChannelReport& channel) {
    const auto decibels = [](double value) { return base::fixed(value, 0) + " dB"; };
    const std::string& code = channel.code;
    if (code == "dead") return {"hears nothing", Verdict::Off};
    if (code == "clipped") return {"overdriven: turn it down", Verdict::Off};
    if (code == "hot")
        return {decibels(channel.peakDbfs - sound::kGoalPeakMiddle) + " too loud", Verdict::Near};
    if (code == "quiet" && channel.speechDbfs)
        return {decibels(sound::kGoalSpeech - *channel.speechDbfs) + " low", Verdict::Near};
    if (code == "noisy") return {"noisy: for syncing, no backup", Verdict::Near};
    if (code == "room") return {"hears the room: no backup", Verdict::Near};
    if (code == "noSpeech") return {"no speech in it", Verdict::Unknown};
    const double over = channel.peakDbfs - sound::kGoalPeakHigh;
    if (over >= 1.0) return {"good; peaks " + decibels(over) + " high", Verdict::Good};
    return {"good", Verdict::Good};
}

std::string levelsText(const sound::ChannelReport& channel) {
    std::string text;
    const auto add = [&](const char* name, double level) {
        text += (text.empty() ? "" : " · ") + std::string(name) + " " + base::signedFixed(level, 0);
    };
    if (channel.speechDbfs) add("speech", *channel.speechDbfs);
    add("peak", channel.peakDbfs);
    // Below any room's noise stands what a computer made, or a gate.
    if (channel.noiseDbfs && *channel.noiseDbfs > kNoRoom) add("noise", *channel.noiseDbfs);
    return text + " dBFS";
}

}  // namespace rigmatch::words
