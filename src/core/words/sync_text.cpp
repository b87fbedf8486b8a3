// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/sync_text.h"
#include "words/english.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::words {
namespace {

using base::fixed;
using base::signedFixed;

constexpr double kNothing = 0.0005;  // s

std::string lateText(double seconds, double doubt, double frameSeconds) {
    std::string text =
        signedFixed(1e3 * seconds, 0) + " ± " + fixed(std::max(1.0, 1e3 * doubt), 0) + " ms";
    if (frameSeconds > 0.0) text += " (" + signedFixed(seconds / frameSeconds, 1) + " frames)";
    return text;
}

}  // namespace

std::vector<std::string> syncLines(const jobs::SyncResult& result, SyncWords words) {
    std::vector<std::string> lines;
    const double rate = result.frames ? result.frames->rate : 0.0;
    if (const auto offset = result.offsetSeconds()) {
        const bool isSound = result.sound.has_value();
        const double doubt =
            isSound ? result.sound->uncertaintySeconds : result.picture->uncertaintySeconds;
        std::string line = signedFixed(1e3 * *offset, isSound ? 2 : 0) + " ms ± " +
                           fixed(1e3 * doubt, isSound ? 2 : 0) +
                           (isSound ? " by sound" : " by picture");
        if (rate > 0.0)
            line += " (" + signedFixed(*offset * rate, 2) + " frames at " + fixed(rate, 2) + ")";
        if (isSound) line += ", at " + fixed(result.sound->atSeconds, 1) + " s of the reference";
        lines.push_back(line);
        if (isSound && result.sound->driftPpm)
            lines.push_back("drift " + signedFixed(*result.sound->driftPpm, 2) + " ± " +
                            fixed(result.sound->driftUncertaintyPpm, 2) + " ppm");
        if (result.distanceSeconds && std::abs(*result.distanceSeconds) > 0.0005)
            lines.push_back("of it " + signedFixed(1e3 * *result.distanceSeconds, 1) +
                            " ms for the longer or shorter way of the sound, by the plan");
        if (isSound && result.picture)
            lines.push_back("by picture " + signedFixed(1e3 * result.picture->offsetSeconds, 0) +
                            " ms ± " + fixed(1e3 * result.picture->uncertaintySeconds, 0));
    } else if (!result.failure) {
        lines.push_back("no offset: " + inEnglish(result.reason));
    }
    if (result.timecodeSeconds)
        lines.push_back("by timecode " + signedFixed(1e3 * *result.timecodeSeconds, 0) +
                        " ms, good to a frame (" + result.timecode->text + " at its start)");
    if (words == SyncWords::WithoutFindings) return lines;
    for (const base::Warning& finding : result.findings)
        lines.push_back(inEnglish(finding.text) + " " + inEnglish(finding.hint));
    return lines;
}

std::string microphoneText(const jobs::MicrophoneRank& rank) {
    std::string text = "channel " + std::to_string(rank.channel + 1) + ": speech " +
                       base::fixed(rank.overNoiseDecibels, 0) + " dB above the noise";
    if (rank.decaySeconds) text += ", a room of " + base::fixed(*rank.decaySeconds, 1) + " s in it";
    if (rank.code == "clipped") text += ", overdriven";
    return text;
}

std::vector<std::string> feedLines(const jobs::FeedLatency& feed) {
    std::vector<std::string> lines;
    if (feed.pictureSeconds)
        lines.push_back("picture " + lateText(*feed.pictureSeconds,
                                              *feed.pictureUncertainty,
                                              feed.frameSeconds));
    if (feed.soundSeconds)
        lines.push_back("sound " + lateText(*feed.soundSeconds, *feed.soundUncertainty, 0.0));
    if (feed.isWandering) {
        lines.push_back("wanders by " + fixed(1e3 * *feed.wanderSeconds, 0) +
                        " ms: no one delay sets it right. Lock it to the others' clock (genlock), "
                        "or give it the same frame rate and a frame synchroniser.");
        return lines;
    }
    if (feed.wanderSeconds)
        lines.push_back("constant within " + fixed(std::max(1.0, 1e3 * *feed.wanderSeconds), 0) +
                        " ms");
    std::string enter;
    if (feed.pictureDelaySeconds && *feed.pictureDelaySeconds > kNothing) {
        enter = "picture " + fixed(1e3 * *feed.pictureDelaySeconds, 0) + " ms";
        if (feed.frameSeconds > 0.0)
            enter += " (" + fixed(std::round(*feed.pictureDelaySeconds / feed.frameSeconds), 0) +
                     " whole frames)";
    }
    if (feed.soundDelaySeconds && *feed.soundDelaySeconds > kNothing)
        enter += std::string(enter.empty() ? "" : ", ") + "sound " +
                 fixed(1e3 * *feed.soundDelaySeconds, 0) + " ms";
    const bool isBehind = feed.soundSeconds && !feed.soundDelaySeconds && feed.pictureDelaySeconds;
    if (!enter.empty() || !isBehind)
        lines.push_back(enter.empty() ? "no delay to enter" : "delay to enter: " + enter);
    if (isBehind) {
        const double last = *feed.pictureSeconds + *feed.pictureDelaySeconds;
        lines.push_back("its sound comes " + fixed(1e3 * (*feed.soundSeconds - last), 0) +
                        " ms after the last picture: no delay here sets that right. Take the sound "
                        "of another feed, or delay every picture by that much.");
    }
    return lines;
}

}  // namespace rigmatch::words
