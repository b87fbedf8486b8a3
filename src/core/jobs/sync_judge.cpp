// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sync_judge.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "timing/stretch_match.h"

namespace rigmatch::jobs {
namespace {

using base::fixed;
using base::signedFixed;

constexpr double kHour = 3600.0;
constexpr double kUsualFrame = 0.04;    // s
constexpr double kMostTimecode = 60.0;  // s; clocks that were set together are not further apart
// ITU-R BT.1359-1 and EBU R37, from memory: sound early by 40 ms or late by 60 is seen.
constexpr double kMostEarly = 0.040, kMostLate = 0.060;
constexpr double kToldUnsteady = 0.1;  // of the time
constexpr double kToldCombing = 0.2;   // of frames; two of five where 24 in 30 went through fields
constexpr int kStretches = 6;          // in which channels are compared
constexpr double kStretchSeconds = 3.0, kStretchReach = 0.01;
constexpr double kTurned = 1.3;  // times more alike crossed than straight

std::string timesText(const std::vector<double>& times) {
    std::string text;
    const std::size_t shown = std::min<std::size_t>(times.size(), 5);
    for (std::size_t i = 0; i < shown; ++i) text += (i > 0 ? ", " : "") + fixed(times[i], 2);
    text += " s";
    if (times.size() > shown) text += " and " + std::to_string(times.size() - shown) + " more";
    return text;
}

enum class PatternKind { Even, Single };

/// What to do about frames that repeat, by where they come from.
std::string repeatHint(const timing::FrameReport& frames, PatternKind kind, int damagedFrames) {
    if (frames.repeatCause == "shutter") {
        return "Things blur over the whole way between two pictures: the camera itself exposes "
               "that long, as an automatic shutter does in the dark. Set the shutter by hand, and "
               "give it more light or ISO.";
    }
    if (frames.repeatCause == "file") {
        return "The time stamps are uneven there too: the program that wrote the file could not "
               "keep up. Lower its load or size, and record again.";
    }
    if (kind == PatternKind::Single && damagedFrames > 0) {
        return "Copy the file from the card again first: damaged frames stand still too. What "
               "stays "
               "comes from the chain.";
    }
    if (kind == PatternKind::Single)
        return "The chain stutters: check cable, converter and the computer's load.";
    return std::string(frames.repeatCause == "chain"
                           ? "Things blur over " + fixed(100.0 * *frames.repeatBlurShare, 0) +
                                 " % of the way between two pictures only, so it is not the "
                                 "shutter. "
                           : "") +
           "Look for the box in the chain that changes the rate, and set both its sides to the "
           "camera's.";
}

/// How alike a channel of each is at one moment; 0 where they do not overlap.
double alike(const timing::WhitenedTrack& mine,
             const timing::WhitenedTrack& theirs,
             const timing::Stretch& stretch) {
    const auto match = timing::matchStretch(mine, theirs, stretch);
    return match && std::abs(match->height) >= timing::kLeastHeight ? match->likeness : 0.0;
}

const timing::WhitenedTrack* channelOf(const SyncSource& source, std::size_t channel) {
    for (const timing::WhitenedTrack& track : source.tracks) {
        if (track.channel == channel) return &track;
    }
    return nullptr;
}

}  // namespace

void judgeOffset(SyncResult& result) {
    if (!result.sound) return;
    const timing::SoundOffset& sound = *result.sound;
    if (sound.driftPpm && std::abs(*sound.driftPpm) > 3.0 * sound.driftUncertaintyPpm &&
        std::abs(*sound.driftPpm) > 1.0) {
        const double perHour = *sound.driftPpm * 1e-6 * kHour;
        const double rate = result.frames ? result.frames->rate : 25.0;
        result.findings.push_back(
            {"ClockDrift",
             "Its clock runs " + std::string(*sound.driftPpm > 0.0 ? "fast" : "slow") + " by " +
                 fixed(std::abs(*sound.driftPpm), 1) +
                 " ppm: " + fixed(1000.0 * std::abs(perHour), 0) + " ms or " +
                 fixed(std::abs(perHour) * rate, 1) + " frames in an hour.",
             "For long takes resample it by " + fixed(1.0 + *sound.driftPpm * 1e-6, 7) +
                 ", or sync again every " +
                 fixed(std::max(1.0, 0.5 / rate / std::abs(*sound.driftPpm * 1e-6) / 60.0), 0) +
                 " minutes."});
    }
    if (sound.isInverted) {
        result.findings.push_back({"PolarityTurned",
                                   "Its sound has the opposite polarity of the reference's.",
                                   "Turn it before the two are mixed."});
    }
    if (sound.jump) {
        result.findings.push_back(
            {"OffsetJumps",
             "From " + fixed(sound.jump->atSeconds, 1) +
                 " s of the reference on it stands elsewhere, by " +
                 signedFixed(sound.jump->offsetSeconds - sound.offsetSeconds, 3) +
                 " s: a cut, a pause, or a second take in the file.",
             "Sync the parts on their own."});
    }
    if (result.picture) {
        const double way = result.distanceSeconds.value_or(0.0);
        const double late = sound.offsetSeconds - result.picture->offsetSeconds - way;
        const double doubt = 2.0 * result.picture->uncertaintySeconds;
        if (late - doubt > kMostLate || -late - doubt > kMostEarly) {
            result.findings.push_back(
                {"LipSync",
                 "Against the reference its sound is " + fixed(1000.0 * std::abs(late), 0) +
                     " ms " + (late > 0.0 ? "later" : "earlier") + " than its picture" +
                     (result.distanceSeconds ? ", beyond what the way to it makes" : "") +
                     ": a viewer sees that.",
                 "Sound needs 2.9 ms a metre; what is more comes from the chain: delay the "
                 "earlier of the two by that much."});
        }
    }
}

void foretellDrift(SyncResult& result, double plannedMinutes) {
    if (!result.sound || !result.sound->driftPpm || plannedMinutes <= 0.0) return;
    for (base::Warning& finding : result.findings) {
        if (finding.code != "ClockDrift") continue;
        const double seconds = std::abs(*result.sound->driftPpm) * 1e-6 * 60.0 * plannedMinutes;
        const double rate = result.frames ? result.frames->rate : 25.0;
        finding.text += " In the " + fixed(plannedMinutes, 0) +
                        " minutes that are planned: " + fixed(1000.0 * seconds, 0) + " ms or " +
                        fixed(seconds * rate, 1) + " frames.";
    }
}

/// Timecodes count from a clock that was set on each device: right, a little off, or not at all.
void judgeTimecode(SyncResult& result) {
    const auto offset = result.offsetSeconds();
    if (!offset || !result.timecodeSeconds) return;
    const double frame =
        result.frames && result.frames->rate > 0.0 ? 1.0 / result.frames->rate : kUsualFrame;
    const double doubt =
        result.sound ? result.sound->uncertaintySeconds : result.picture->uncertaintySeconds;
    // Positive: this file's timecode shows a later time than the reference's at the same moment.
    const double ahead = *offset - *result.timecodeSeconds;
    if (std::abs(ahead) <= frame + 2.0 * doubt) return;
    if (std::abs(ahead) > kMostTimecode) {
        result.findings.push_back(
            {"TimecodeApart",
             "Its timecode (" + result.timecode->text +
                 " at the start) does not run with the reference's: it counts "
                 "recorded time, or was never set.",
             "Sync by sound, or set free-running timecode from one clock on "
             "all before the take."});
        return;
    }
    result.findings.push_back(
        {"TimecodeOff",
         "Its timecode is " + fixed(std::abs(ahead) / frame, 1) + " frames (" +
             fixed(1000.0 * std::abs(ahead), 0) + " ms) " + (ahead > 0.0 ? "ahead of" : "behind") +
             " the reference's.",
         "Sync by the offset above instead, and set the timecode again before the next take."});
}

void judgeChannels(const SyncSource& reference, const SyncSource& source, SyncResult& result) {
    if (!result.sound) return;
    const auto* mine1 = channelOf(reference, 0);
    const auto* mine2 = channelOf(reference, 1);
    const auto* theirs1 = channelOf(source, 0);
    const auto* theirs2 = channelOf(source, 1);
    if (mine1 == nullptr || mine2 == nullptr || theirs1 == nullptr || theirs2 == nullptr) return;
    const timing::SoundOffset& sound = *result.sound;
    const double drift = 1e-6 * sound.driftPpm.value_or(0.0);
    const double from = std::max(mine1->startSeconds, theirs1->startSeconds - sound.offsetSeconds);
    const double to = std::min(mine1->endSeconds(), theirs1->endSeconds() - sound.offsetSeconds);
    const double step = std::max(kStretchSeconds, (to - from) / kStretches);
    double straight = 0.0, crossed = 0.0;
    int heard = 0, turned = 0;
    for (double start = from; start + kStretchSeconds <= to; start += step) {
        const timing::Stretch at{start,
                                 kStretchSeconds,
                                 sound.offsetSeconds + drift * (start - sound.atSeconds),
                                 drift,
                                 kStretchReach};
        const double one = alike(*mine1, *theirs1, at) + alike(*mine2, *theirs2, at);
        const double other = alike(*mine1, *theirs2, at) + alike(*mine2, *theirs1, at);
        if (one + other <= 0.0) continue;
        ++heard;
        turned += other > kTurned * one ? 1 : 0;
        straight += one;
        crossed += other;
    }
    if (heard == 0 || crossed <= kTurned * straight || 3 * turned < 2 * heard) return;
    result.findings.push_back(
        {"ChannelsSwapped",
         "Its channels 1 and 2 are the reference's turned round: what is on 1 here is on 2 there.",
         "Change the two plugs, or swap the channels in the edit."});
}

std::vector<base::Warning> damageFindings(const SyncSource& source) {
    const int count = source.damagedFrames;
    if (count == 0) return {};
    return {{"FramesDamaged",
             count == 1 ? "One of its frames is damaged: the decoder left it out or made up a part "
                          "of it."
                        : std::to_string(count) +
                              " of its frames are damaged: the decoder left them out or made up a "
                              "part of them.",
             "Copy the file from the card again; frames that repeat or miss may come from that."}};
}

std::vector<base::Warning> timecodeFindings(const SyncSource& source) {
    const auto& jumps = source.timecodeJumps;
    if (jumps.empty()) return {};
    const media::TimecodeJump& first = jumps.front();
    std::string text = "Its timecode jumps at " + fixed(first.atSeconds, 2) + " s, from " +
                       first.before + " to " + first.after + ", by " +
                       signedFixed(first.bySeconds, 2) + " s";
    if (jumps.size() > 1)
        text += ", and at " + std::to_string(jumps.size() - 1) + " more " +
                (jumps.size() == 2 ? "place" : "places");
    return {{"TimecodeJumps",
             text + ".",
             "Do not sync this file by timecode; find what interrupts its source (a loose cable, "
             "a pause, a clock that was set while recording)."}};
}

namespace {

/// The three most frequent steps between frames.
std::string mostlyText(std::vector<timing::IntervalCount> bars) {
    constexpr std::size_t kTold = 3;
    if (bars.size() < 2) return {};
    std::sort(
        bars.begin(), bars.end(), [](const auto& a, const auto& b) { return a.frames > b.frames; });
    std::string text = ": ";
    for (std::size_t i = 0; i < std::min(bars.size(), kTold); ++i)
        text += (i > 0 ? ", " : "") + std::to_string(bars[i].frames) + " × " +
                fixed(1000.0 * bars[i].seconds, 1) + " ms";
    return text + (bars.size() > kTold ? " and others" : "");
}

/// Share of the time, 0 to 1.
double unsteadyShare(const timing::FrameReport& frames) {
    double seconds = 0.0;
    for (const timing::TimeSpan& span : frames.unsteady)
        seconds += span.endSeconds - span.startSeconds;
    const double whole = frames.meanSeconds * (frames.frames - 1);
    return whole > 0.0 ? seconds / whole : 0.0;
}

}  // namespace

std::vector<base::Warning> frameFindings(const timing::FrameReport& frames, int damagedFrames) {
    std::vector<base::Warning> findings;
    if (frames.isVariable) {
        findings.push_back({"VariableRate",
                            "Its frame rate varies: " + fixed(1000.0 * frames.shortestSeconds, 1) +
                                " to " + fixed(1000.0 * frames.longestSeconds, 1) +
                                " ms between frames, " + fixed(frames.rate, 2) +
                                " a second on average" + mostlyText(frames.intervals) + ".",
                            "Convert it to a constant rate before the edit."});
    }
    if (!frames.pattern.empty()) {
        findings.push_back({"RateHalved",
                            "In it " + frames.pattern +
                                " shows the one before once more: " + fixed(frames.uniqueRate, 2) +
                                " pictures a second stand in a file of " + fixed(frames.rate, 2) +
                                ".",
                            repeatHint(frames, PatternKind::Even, damagedFrames)});
    } else if (!frames.repeated.empty()) {
        findings.push_back({"FramesRepeat",
                            (frames.repeated.size() == 1
                                 ? std::string("A frame shows")
                                 : std::to_string(frames.repeated.size()) + " frames show") +
                                " the one before once more, at " + timesText(frames.repeated) + ".",
                            repeatHint(frames, PatternKind::Single, damagedFrames)});
    }
    if (!frames.missing.empty()) {
        findings.push_back({"FramesMissing",
                            (frames.missing.size() == 1 ? "A frame is" : "Frames are") +
                                std::string(" left out before ") + timesText(frames.missing) + ".",
                            damagedFrames > 0
                                ? "Copy the file from the card again first: damaged frames are "
                                  "left out too."
                                : "Check the card's speed, or the computer's load, and record "
                                  "again."});
    }
    if (const double share = unsteadyShare(frames); share >= kToldUnsteady) {
        findings.push_back({"FramesUnsteady",
                            "In " + fixed(100.0 * share, 0) +
                                " % of it what moves jumps from frame to frame, as under strong "
                                "compression: frames that repeat or are left out singly cannot be "
                                "told there.",
                            "To be sure of its frames, record some seconds of motion at a higher "
                            "bit rate."});
    }
    if (frames.combedShare >= kToldCombing) {
        findings.push_back({"Combed",
                            "Its moving edges are combed in " +
                                fixed(100.0 * frames.combedShare, 0) +
                                " % of the frames: even and odd lines show two moments, and the "
                                "file does not say that it is interlaced.",
                            "Set camera and converter to a progressive mode; what is recorded "
                            "already needs deinterlacing before the edit."});
    }
    return findings;
}

}  // namespace rigmatch::jobs
