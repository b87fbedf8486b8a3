// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/sound_words.h"

#include <cmath>

#include "base/format.h"

namespace rigmatch::sound {
namespace {

using base::fixed;
using base::signedFixed;

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

std::string decibelText(double value, const char* unit = " dBFS") {
    return signedFixed(value, 0) + unit;
}

std::string times(const std::vector<SoundGap>& gaps) {
    std::string text;
    const std::size_t shown = std::min<std::size_t>(gaps.size(), 5);
    for (std::size_t i = 0; i < shown; ++i)
        text += (i > 0 ? ", " : "") + fixed(gaps[i].startSeconds, 2) + " s (" +
                fixed(1000.0 * gaps[i].lengthSeconds, 0) + " ms)";
    if (gaps.size() > shown) text += " and " + std::to_string(gaps.size() - shown) + " more";
    return text;
}

void tellChannel(const ChannelReport& channel,
                 const std::string& name,
                 std::vector<base::Warning>& findings) {
    if (channel.code == "dead") {
        findings.push_back(
            {"ChannelDead", name + " hears nothing.", "Check its microphone, cable and input."});
        return;
    }
    if (channel.clippedRuns > 0) {
        findings.push_back({"SoundClipped",
                            name + " is at full scale " + std::to_string(channel.clippedRuns) +
                                (channel.clippedRuns == 1 ? " time." : " times."),
                            "Turn its input down until peaks stay below −6 dBFS."});
    }
    if (!channel.gaps.empty()) {
        findings.push_back({"SoundGap",
                            name + (channel.gaps.size() == 1 ? " has a gap at " : " has gaps at ") +
                                times(channel.gaps) + ".",
                            "Check cable, radio link, card or computer load; record again."});
    }
    if (channel.humDbfs && *channel.humDbfs > -70.0) {
        findings.push_back({"SoundHum",
                            name + " carries mains hum of " + fixed(channel.humHz, 0) + " Hz at " +
                                decibelText(*channel.humDbfs) + ".",
                            "Take mains-fed devices off one another, or put an isolating "
                            "transformer into the sound "
                            "line. Never lift the protective earth."});
    }
    if (channel.rumbleDbfs) {
        findings.push_back(
            {"SoundRumble",
             name + " carries rumble below 80 Hz at " + decibelText(*channel.rumbleDbfs) + ".",
             "Keep wind and hands off the microphone; switch on its low cut."});
    }
    if (channel.levelRisePerSecond) {
        findings.push_back({"LevelRiding",
                            "The noise of " + name + " rises by " +
                                fixed(*channel.levelRisePerSecond, 0) +
                                " dB a second in pauses: an automatic level is at work.",
                            "Set the level by hand."});
    }
    if (std::abs(channel.offsetPercent) > kDirectCurrent) {
        findings.push_back(
            {"SoundOffset",
             name + " stands off zero by " + fixed(channel.offsetPercent, 1) + " % of full scale.",
             "Check its plug-in power and input; cuts in it click."});
    }
    if (channel.bandwidthHz && *channel.bandwidthHz < kNarrowHertz && channel.speechDbfs) {
        findings.push_back(
            {"SoundNarrow",
             name + " reaches up to " + fixed(*channel.bandwidthHz, 0) +
                 " Hz only, as a telephone does.",
             "Take the sound of another source; look for a headset or call in the chain."});
    }
}

}  // namespace

void judge(ChannelReport& channel) {
    const auto say = [&](const char* code, std::string text) {
        channel.code = code;
        channel.verdict = std::move(text);
    };
    if (channel.peakDbfs < kDeadPeak)
        return say("dead", "Nothing is heard: check microphone, cable and input.");
    if (channel.clippedRuns > 0)
        return say("clipped", "Overdriven: turn its input down until peaks stay below −6 dBFS.");
    if (!channel.speechDbfs) return say("noSpeech", "No speech stands out of an even sound.");
    const double above = *channel.speechDbfs - channel.noiseDbfs.value_or(-120.0);
    if (channel.peakDbfs > kHotPeak)
        return say("hot",
                   "Peaks at " + decibelText(channel.peakDbfs) + ": turn it down by " +
                       fixed(channel.peakDbfs - kGoalPeakMiddle, 0) + " dB.");
    if (above < kLeastAbove)
        return say(
            "noisy",
            "Speech stands only " + fixed(above, 0) +
                " dB above the noise: fine for syncing, no backup. Bring the microphone closer.");
    if (channel.decaySeconds && *channel.decaySeconds > kRoomDecay)
        return say(
            "room",
            "Hears mostly the room: fine for syncing, no backup. Bring the microphone closer.");
    if (*channel.speechDbfs < kQuietSpeech)
        return say("quiet",
                   "Speech at " + decibelText(*channel.speechDbfs) + ": turn it up by " +
                       fixed(kGoalSpeech - *channel.speechDbfs, 0) + " dB.");
    // Below any room's noise stands what a computer made, or a gate.
    const bool isOverSilence = channel.noiseDbfs.value_or(kSilence) < kSilence + 30.0;
    say("good",
        "Speech at " + decibelText(*channel.speechDbfs) +
            (isOverSilence ? ", over silence." : ", " + fixed(above, 0) + " dB above the noise."));
}

void tellFindings(SoundReport& report, const std::vector<ChannelPair>& pairs, bool hasChanged) {
    for (std::size_t c = 0; c < report.channels.size(); ++c)
        tellChannel(report.channels[c], "Channel " + std::to_string(c + 1), report.findings);
    for (const ChannelPair& pair : pairs) {
        const auto dead = [&](std::size_t c) { return report.channels[c].code == "dead"; };
        if (dead(pair.first) || dead(pair.second)) continue;
        const std::string names = "Channels " + std::to_string(pair.first + 1) + " and " +
                                  std::to_string(pair.second + 1);
        if (pair.likeness > kSameLikeness) {
            report.findings.push_back(
                {"DualMono",
                 names + " hold the same sound" +
                     (std::abs(pair.levelDecibels) > 1.0
                          ? ", " + fixed(std::abs(pair.levelDecibels), 0) +
                                " dB apart (a safety track)."
                          : "."),
                 "One microphone on both is no backup: it stands and falls with its cable."});
        } else if (pair.likeness < kTurnedLikeness) {
            report.findings.push_back(
                {"PolarityTurned",
                 names + " are of opposite polarity: added together they cancel.",
                 "Turn the polarity of one of them, or use one alone."});
        }
    }
    if (hasChanged) {
        report.findings.push_back({"SoundFormatChanged",
                                   "Sample rate or number of channels change within the file; what "
                                   "comes after is not judged.",
                                   "Export the parts as files of their own."});
    }
}

}  // namespace rigmatch::sound
