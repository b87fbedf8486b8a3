// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/format.h"
#include "jobs/feed_latency.h"
#include "jobs/json_tidy.h"
#include "jobs/sync_job.h"

namespace rigmatch::jobs {
namespace {

using base::fixed;
using base::signedFixed;

Json valueJson(double value, double uncertainty) {
    return {{"value", tidy(value)}, {"uncertainty", tidy(uncertainty)}};
}

Json timesJson(const std::vector<double>& times) {
    Json all = Json::array();
    for (const double time : times) all.push_back(tidy(time));
    return all;
}

Json spansJson(const std::vector<timing::TimeSpan>& spans) {
    Json all = Json::array();
    for (const timing::TimeSpan& span : spans)
        all.push_back({tidy(span.startSeconds), tidy(span.endSeconds)});
    return all;
}

Json framesJson(const std::optional<timing::FrameReport>& frames) {
    if (!frames) return nullptr;
    std::vector<timing::TimeSpan> notJudged = frames->notJudged;
    notJudged.insert(notJudged.end(), frames->unsteady.begin(), frames->unsteady.end());
    std::sort(notJudged.begin(), notJudged.end(), [](const auto& a, const auto& b) {
        return a.startSeconds < b.startSeconds;
    });
    // What touches or overlaps is one span.
    std::vector<timing::TimeSpan> spans;
    for (const timing::TimeSpan& one : notJudged) {
        if (!spans.empty() && one.startSeconds <= spans.back().endSeconds)
            spans.back().endSeconds = std::max(spans.back().endSeconds, one.endSeconds);
        else
            spans.push_back(one);
    }
    Json intervals = Json::array();
    for (const timing::IntervalCount& bar : frames->intervals)
        intervals.push_back({{"seconds", tidy(bar.seconds, 1e6)}, {"frames", bar.frames}});
    return {
        {"count", frames->frames},
        {"rate", frames->rateText},
        {"isVariable", frames->isVariable},
        {"intervalSeconds",
         {{"min", tidy(frames->shortestSeconds, 1e6)},
          {"mean", tidy(frames->meanSeconds, 1e6)},
          {"max", tidy(frames->longestSeconds, 1e6)}}},
        {"intervals", intervals},
        {"uniqueRate", tidy(frames->uniqueRate)},
        {"repeatCause", frames->repeatCause.empty() ? Json(nullptr) : Json(frames->repeatCause)},
        {"repeatBlurShare",
         frames->repeatBlurShare ? Json(tidy(*frames->repeatBlurShare)) : Json(nullptr)},
        {"combedShare", tidy(frames->combedShare)},
        {"pattern", frames->pattern.empty() ? Json(nullptr) : Json(frames->pattern)},
        {"repeated", timesJson(frames->repeated)},
        {"missing", timesJson(frames->missing)},
        {"late", timesJson(frames->late)},
        {"notJudged", spansJson(spans)},
        {"unsteady", spansJson(frames->unsteady)}};
}

Json findingsJson(const std::vector<base::Warning>& findings) {
    Json all = Json::array();
    for (const base::Warning& finding : findings)
        all.push_back({{"code", finding.code}, {"text", finding.text}, {"hint", finding.hint}});
    return all;
}

Json timecodeJson(const std::optional<media::Timecode>& timecode) {
    return timecode ? Json(timecode->text) : Json(nullptr);
}

Json resultJson(const SyncResult& result) {
    if (result.failure) return {{"file", result.file}, {"error", base::fullText(*result.failure)}};
    Json one = {{"file", result.file}};
    if (result.sound) {
        const timing::SoundOffset& sound = *result.sound;
        one["offsetMs"] = valueJson(1e3 * sound.offsetSeconds, 1e3 * sound.uncertaintySeconds);
        one["atSeconds"] = tidy(sound.atSeconds);
        one["driftPpm"] =
            sound.driftPpm ? valueJson(*sound.driftPpm, sound.driftUncertaintyPpm) : Json(nullptr);
        one["method"] = "sound";
        one["confidence"] = tidy(sound.confidence);
        one["overlapSeconds"] = tidy(sound.overlapSeconds);
        one["polarityTurned"] = sound.isInverted;
    } else if (result.picture) {
        one["offsetMs"] = valueJson(1e3 * result.picture->offsetSeconds,
                                    1e3 * result.picture->uncertaintySeconds);
        one["atSeconds"] = 0.0;
        one["driftPpm"] = nullptr;
        one["method"] = "picture";
        one["confidence"] = tidy(result.picture->likeness);
    } else {
        one["offsetMs"] = nullptr;
        one["reason"] = result.reason;
    }
    one["pictureOffsetMs"] = result.picture ? valueJson(1e3 * result.picture->offsetSeconds,
                                                        1e3 * result.picture->uncertaintySeconds)
                                            : Json(nullptr);
    if (result.distanceSeconds) one["distanceCorrectionMs"] = tidy(1e3 * *result.distanceSeconds);
    one["timecode"] = timecodeJson(result.timecode);
    one["timecodeOffsetMs"] =
        result.timecodeSeconds ? Json(tidy(1e3 * *result.timecodeSeconds)) : Json(nullptr);
    one["frames"] = framesJson(result.frames);
    one["findings"] = findingsJson(result.findings);
    return one;
}

Json feedJson(const FeedLatency& feed) {
    const auto late = [](const std::optional<double>& value, const std::optional<double>& doubt) {
        return value ? valueJson(1e3 * *value, 1e3 * doubt.value_or(0.0)) : Json(nullptr);
    };
    const auto milliseconds = [](const std::optional<double>& value) {
        return value ? Json(tidy(1e3 * *value)) : Json(nullptr);
    };
    return {{"file", feed.file},
            {"pictureMs", late(feed.pictureSeconds, feed.pictureUncertainty)},
            {"soundMs", late(feed.soundSeconds, feed.soundUncertainty)},
            {"wanderMs", milliseconds(feed.wanderSeconds)},
            {"isWandering", feed.isWandering},
            {"pictureDelayMs", milliseconds(feed.pictureDelaySeconds)},
            {"soundDelayMs", milliseconds(feed.soundDelaySeconds)}};
}

}  // namespace

std::vector<std::string> syncLines(const SyncResult& result, SyncWords words) {
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
        lines.push_back("no offset: " + result.reason);
    }
    if (result.timecodeSeconds)
        lines.push_back("by timecode " + signedFixed(1e3 * *result.timecodeSeconds, 0) +
                        " ms, good to a frame (" + result.timecode->text + " at its start)");
    if (words == SyncWords::WithoutFindings) return lines;
    for (const base::Warning& finding : result.findings)
        lines.push_back(finding.text + " " + finding.hint);
    return lines;
}

std::string syncJson(const SyncReport& report, SyncFeeds feeds) {
    Json results = Json::array();
    for (const SyncResult& result : report.results) results.push_back(resultJson(result));
    Json document = {{"version", 1},
                     {"reference", report.reference},
                     {"referenceTimecode", timecodeJson(report.referenceTimecode)},
                     {"referenceFrames", framesJson(report.referenceFrames)},
                     {"referenceFindings", findingsJson(report.referenceFindings)},
                     {"results", results}};
    if (feeds == SyncFeeds::OneDevice) {
        document["feeds"] = Json::array();
        for (const FeedLatency& feed : feedLatencies(report))
            document["feeds"].push_back(feedJson(feed));
    }
    return document.dump(2) + "\n";
}

}  // namespace rigmatch::jobs
