// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/sound_words.h"

#include <cmath>

namespace rigmatch::sound {
namespace {

using base::Number;
using base::say;

// Common practice: speech about -20 dBFS with peaks of -12 to -6; a room's noise below -55.
constexpr double kSilence = -120.0;
constexpr double kDeadPeak = -70.0;
constexpr double kHotPeak = -3.0;
constexpr double kQuietSpeech = -38.0;
constexpr double kLeastAbove = 20.0;  // dB of speech over noise
constexpr double kRoomDecay = 0.6;    // s
constexpr double kNarrowHertz = 4500.0;
constexpr double kDirectCurrent = 1.0;  // percent
constexpr double kSameLikeness = 0.9995, kTurnedLikeness = -0.9;

base::Text decibelText(double value) {
    return say("sound.dbfs", {{"dbfs", Number{value, 0, true}}});
}

base::Text times(const std::vector<SoundGap>& gaps) {
    std::vector<base::Text> each;
    const std::size_t shown = std::min<std::size_t>(gaps.size(), 5);
    for (std::size_t i = 0; i < shown; ++i)
        each.push_back(say("soundGap.one",
                           {{"at", Number{gaps[i].startSeconds, 2}},
                            {"ms", Number{1000.0 * gaps[i].lengthSeconds}}}));
    base::Text text = base::joined(each, say("common.comma"));
    if (gaps.size() > shown)
        text += say("common.andMore", {{"count", Number{double(gaps.size() - shown)}}});
    return text;
}

void tellChannel(const ChannelReport& channel,
                 const base::Text& name,
                 std::vector<base::Warning>& findings) {
    if (channel.code == "dead") {
        findings.push_back(
            {"ChannelDead", say("channelDead.seen", {{"name", name}}), say("channelDead.hint")});
        return;
    }
    if (channel.clippedRuns > 0) {
        findings.push_back(
            {"SoundClipped",
             say(channel.clippedRuns == 1 ? "soundClipped.once" : "soundClipped.often",
                 {{"name", name}, {"times", Number{double(channel.clippedRuns)}}}),
             say("soundClipped.turnInputDown")});
    }
    if (!channel.gaps.empty()) {
        findings.push_back({"SoundGap",
                            say(channel.gaps.size() == 1 ? "soundGap.seen" : "soundGap.several",
                                {{"name", name}, {"times", times(channel.gaps)}}),
                            say("soundGap.hint")});
    }
    if (channel.humDbfs && *channel.humDbfs > -70.0) {
        findings.push_back({"SoundHum",
                            say("soundHum.seen",
                                {{"name", name},
                                 {"humHz", Number{channel.humHz}},
                                 {"decibel", decibelText(*channel.humDbfs)}}),
                            say("soundHum.hint")});
    }
    if (channel.rumbleDbfs) {
        findings.push_back({"SoundRumble",
                            say("soundRumble.seen",
                                {{"name", name}, {"decibel", decibelText(*channel.rumbleDbfs)}}),
                            say("soundRumble.hint")});
    }
    if (channel.levelRisePerSecond) {
        findings.push_back(
            {"LevelRiding",
             say("levelRiding.seen",
                 {{"name", name}, {"levelRisePerSecond", Number{*channel.levelRisePerSecond}}}),
             say("levelRiding.hint")});
    }
    if (std::abs(channel.offsetPercent) > kDirectCurrent) {
        findings.push_back(
            {"SoundOffset",
             say("soundOffset.seen",
                 {{"name", name}, {"offsetPercent", Number{channel.offsetPercent, 1}}}),
             say("soundOffset.hint")});
    }
    if (channel.bandwidthHz && *channel.bandwidthHz < kNarrowHertz && channel.speechDbfs) {
        findings.push_back({"SoundNarrow",
                            say("soundNarrow.seen",
                                {{"name", name}, {"bandwidthHz", Number{*channel.bandwidthHz}}}),
                            say("soundNarrow.hint")});
    }
}

}  // namespace

void judge(ChannelReport& channel) {
    const auto is = [&](const char* code, base::Text text) {
        channel.code = code;
        channel.verdict = std::move(text);
    };
    if (channel.peakDbfs < kDeadPeak) return is("dead", say("channel.dead"));
    if (channel.clippedRuns > 0) return is("clipped", say("channel.clipped"));
    if (!channel.speechDbfs) return is("noSpeech", say("channel.noSpeech"));
    const double above = *channel.speechDbfs - channel.noiseDbfs.value_or(-120.0);
    if (channel.peakDbfs > kHotPeak)
        return is("hot",
                  say("channel.hot",
                      {{"peak", decibelText(channel.peakDbfs)},
                       {"down", Number{channel.peakDbfs - kGoalPeakMiddle}}}));
    if (above < kLeastAbove) return is("noisy", say("channel.noisy", {{"above", Number{above}}}));
    if (channel.decaySeconds && *channel.decaySeconds > kRoomDecay)
        return is("room", say("channel.room"));
    const base::Text speech = decibelText(*channel.speechDbfs);
    if (*channel.speechDbfs < kQuietSpeech)
        return is("quiet",
                  say("channel.quiet",
                      {{"speech", speech}, {"up", Number{kGoalSpeech - *channel.speechDbfs}}}));
    // Below any room's noise stands what a computer made, or a gate.
    const bool isOverSilence = channel.noiseDbfs.value_or(kSilence) < kSilence + 30.0;
    is("good",
       isOverSilence ? say("channel.overSilence", {{"speech", speech}})
                     : say("channel.good", {{"speech", speech}, {"above", Number{above}}}));
}

void tellFindings(SoundReport& report, const std::vector<ChannelPair>& pairs, bool hasChanged) {
    for (std::size_t c = 0; c < report.channels.size(); ++c)
        tellChannel(report.channels[c],
                    say("sound.channel", {{"channel", Number{double(c + 1)}}}),
                    report.findings);
    for (const ChannelPair& pair : pairs) {
        const auto dead = [&](std::size_t c) { return report.channels[c].code == "dead"; };
        if (dead(pair.first) || dead(pair.second)) continue;
        const base::Text names = say("sound.channels",
                                     {{"first", Number{double(pair.first + 1)}},
                                      {"second", Number{double(pair.second + 1)}}});
        if (pair.likeness > kSameLikeness) {
            report.findings.push_back(
                {"DualMono",
                 std::abs(pair.levelDecibels) > 1.0
                     ? say("dualMono.safetyTrack",
                           {{"names", names}, {"decibels", Number{std::abs(pair.levelDecibels)}}})
                     : say("dualMono.seen", {{"names", names}}),
                 say("dualMono.hint")});
        } else if (pair.likeness < kTurnedLikeness) {
            report.findings.push_back(
                {"PolarityTurned",
                 say("polarityTurned.oppositePolarityAdded", {{"names", names}}),
                 say("polarityTurned.turnPolarityOne")});
        }
    }
    if (hasChanged) {
        report.findings.push_back(
            {"SoundFormatChanged", say("soundFormatChanged.seen"), say("soundFormatChanged.hint")});
    }
}

}  // namespace rigmatch::sound
