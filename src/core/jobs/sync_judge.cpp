// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sync_judge.h"

#include <algorithm>
#include <cmath>

#include "timing/stretch_match.h"

namespace rigmatch::jobs {
namespace {

using base::Number;
using base::say;

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

base::Text timesText(const std::vector<double>& times) {
    std::vector<base::Text> each;
    const std::size_t shown = std::min<std::size_t>(times.size(), 5);
    for (std::size_t i = 0; i < shown; ++i)
        each.push_back(say("frames.at", {{"seconds", Number{times[i], 2}}}));
    base::Text text = base::joined(each, say("common.comma")) + say("frames.seconds");
    if (times.size() > shown)
        text += say("common.andMore", {{"count", Number{double(times.size() - shown)}}});
    return text;
}

enum class PatternKind { Even, Single };

/// What to do about frames that repeat, by where they come from.
base::Text repeatHint(const timing::FrameReport& frames, PatternKind kind, int damagedFrames) {
    if (frames.repeatCause == "shutter") return say("framesRepeat.ofShutter");
    if (frames.repeatCause == "file") return say("framesRepeat.ofFile");
    if (kind == PatternKind::Single && damagedFrames > 0) return say("framesRepeat.copyAgain");
    if (kind == PatternKind::Single) return say("framesRepeat.ofChain");
    base::Text why;
    if (frames.repeatCause == "chain")
        why = say("framesRepeat.noShutter", {{"percent", Number{100.0 * *frames.repeatBlurShare}}});
    return why + say("framesRepeat.box");
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
             say("clockDrift.seen",
                 {{"way", *sound.driftPpm > 0.0 ? say("clockDrift.fast") : say("clockDrift.slow")},
                  {"driftPpm", Number{std::abs(*sound.driftPpm), 1}},
                  {"ms", Number{1000.0 * std::abs(perHour)}},
                  {"frames", Number{std::abs(perHour) * rate, 1}}}),
             say("clockDrift.hint",
                 {{"factor", Number{1.0 + *sound.driftPpm * 1e-6, 7}},
                  {"minutes",
                   Number{std::max(1.0, 0.5 / rate / std::abs(*sound.driftPpm * 1e-6) / 60.0)}}})});
    }
    if (sound.isInverted) {
        result.findings.push_back(
            {"PolarityTurned", say("polarityTurned.seen"), say("polarityTurned.hint")});
    }
    if (sound.jump) {
        result.findings.push_back(
            {"OffsetJumps",
             say("offsetJumps.seen",
                 {{"atSeconds", Number{sound.jump->atSeconds, 1}},
                  {"offsetSeconds",
                   Number{sound.jump->offsetSeconds - sound.offsetSeconds, 3, true}}}),
             say("offsetJumps.hint")});
    }
    if (result.picture) {
        const double way = result.distanceSeconds.value_or(0.0);
        const double late = sound.offsetSeconds - result.picture->offsetSeconds - way;
        const double doubt = 2.0 * result.picture->uncertaintySeconds;
        if (late - doubt > kMostLate || -late - doubt > kMostEarly) {
            result.findings.push_back(
                {"LipSync",
                 say("lipSync.seen",
                     {{"ms", Number{1000.0 * std::abs(late)}},
                      {"way", late > 0.0 ? say("lipSync.later") : say("lipSync.earlier")},
                      {"beyond",
                       result.distanceSeconds ? say("lipSync.beyondWhatWay") : base::Text{}}}),
                 say("lipSync.hint")});
        }
    }
}

void foretellDrift(SyncResult& result, double plannedMinutes) {
    if (!result.sound || !result.sound->driftPpm || plannedMinutes <= 0.0) return;
    for (base::Warning& finding : result.findings) {
        if (finding.code != "ClockDrift") continue;
        const double seconds = std::abs(*result.sound->driftPpm) * 1e-6 * 60.0 * plannedMinutes;
        const double rate = result.frames ? result.frames->rate : 25.0;
        finding.text += say("clockDrift.planned",
                            {{"minutes", Number{plannedMinutes}},
                             {"ms", Number{1000.0 * seconds}},
                             {"frames", Number{seconds * rate, 1}}});
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
        result.findings.push_back({"TimecodeApart",
                                   say("timecodeApart.seen", {{"timecode", result.timecode->text}}),
                                   say("timecodeApart.hint")});
        return;
    }
    result.findings.push_back(
        {"TimecodeOff",
         say("timecodeOff.seen",
             {{"frames", Number{std::abs(ahead) / frame, 1}},
              {"ms", Number{1000.0 * std::abs(ahead)}},
              {"way", ahead > 0.0 ? say("timecodeOff.ahead") : say("timecodeOff.behind")}}),
         say("timecodeOff.hint")});
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
        {"ChannelsSwapped", say("channelsSwapped.seen"), say("channelsSwapped.hint")});
}

std::vector<base::Warning> damageFindings(const SyncSource& source) {
    const int count = source.damagedFrames;
    if (count == 0) return {};
    return {{"FramesDamaged",
             count == 1 ? say("framesDamaged.one")
                        : say("framesDamaged.several", {{"count", Number{double(count)}}}),
             say("framesDamaged.hint")}};
}

std::vector<base::Warning> timecodeFindings(const SyncSource& source) {
    const auto& jumps = source.timecodeJumps;
    if (jumps.empty()) return {};
    const media::TimecodeJump& first = jumps.front();
    base::Text text = say("timecodeJumps.seen",
                          {{"at", Number{first.atSeconds, 2}},
                           {"before", first.before},
                           {"after", first.after},
                           {"by", Number{first.bySeconds, 2, true}}});
    if (jumps.size() > 1)
        text += say(jumps.size() == 2 ? "timecodeJumps.onePlace" : "timecodeJumps.places",
                    {{"count", Number{double(jumps.size() - 1)}}});
    return {{"TimecodeJumps", text + say("common.fullStop"), say("timecodeJumps.hint")}};
}

namespace {

/// The three most frequent steps between frames.
base::Text mostlyText(std::vector<timing::IntervalCount> bars) {
    constexpr std::size_t kTold = 3;
    if (bars.size() < 2) return {};
    std::sort(
        bars.begin(), bars.end(), [](const auto& a, const auto& b) { return a.frames > b.frames; });
    std::vector<base::Text> each;
    for (std::size_t i = 0; i < std::min(bars.size(), kTold); ++i)
        each.push_back(say("variableRate.step",
                           {{"frames", Number{double(bars[i].frames)}},
                            {"ms", Number{1000.0 * bars[i].seconds, 1}}}));
    base::Text text = say("variableRate.colon") + base::joined(each, say("common.comma"));
    return bars.size() > kTold ? text + say("variableRate.others") : text;
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
                            say("variableRate.seen",
                                {{"shortestMs", Number{1000.0 * frames.shortestSeconds, 1}},
                                 {"longestMs", Number{1000.0 * frames.longestSeconds, 1}},
                                 {"rate", Number{frames.rate, 2}},
                                 {"mostly", mostlyText(frames.intervals)}}),
                            say("variableRate.hint")});
    }
    if (!frames.pattern.empty()) {
        findings.push_back({"RateHalved",
                            say("rateHalved.seen",
                                {{"pattern", frames.pattern},
                                 {"uniqueRate", Number{frames.uniqueRate, 2}},
                                 {"rate", Number{frames.rate, 2}}}),
                            repeatHint(frames, PatternKind::Even, damagedFrames)});
    } else if (!frames.repeated.empty()) {
        findings.push_back(
            {"FramesRepeat",
             say(frames.repeated.size() == 1 ? "framesRepeat.one" : "framesRepeat.several",
                 {{"count", Number{double(frames.repeated.size())}},
                  {"times", timesText(frames.repeated)}}),
             repeatHint(frames, PatternKind::Single, damagedFrames)});
    }
    if (!frames.missing.empty()) {
        findings.push_back(
            {"FramesMissing",
             say(frames.missing.size() == 1 ? "framesMissing.one" : "framesMissing.several",
                 {{"times", timesText(frames.missing)}}),
             damagedFrames > 0 ? say("framesMissing.copyFileCard")
                               : say("framesMissing.checkCardsSpeed")});
    }
    if (const double share = unsteadyShare(frames); share >= kToldUnsteady) {
        findings.push_back({"FramesUnsteady",
                            say("framesUnsteady.seen", {{"percent", Number{100.0 * share}}}),
                            say("framesUnsteady.hint")});
    }
    if (frames.combedShare >= kToldCombing) {
        findings.push_back({"Combed",
                            say("combed.seen", {{"percent", Number{100.0 * frames.combedShare}}}),
                            say("combed.hint")});
    }
    return findings;
}

}  // namespace rigmatch::jobs
