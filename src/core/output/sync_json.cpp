// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/sync_json.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "jobs/feed_latency.h"
#include "output/json_tidy.h"
#include "words/english.h"

namespace rigmatch::output {
namespace {

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
        {"pattern",
         frames->pattern.empty() ? Json(nullptr) : Json(words::inEnglish(frames->pattern))},
        {"repeated", timesJson(frames->repeated)},
        {"missing", timesJson(frames->missing)},
        {"late", timesJson(frames->late)},
        {"notJudged", spansJson(spans)},
        {"unsteady", spansJson(frames->unsteady)}};
}

Json findingsJson(const std::vector<base::Warning>& findings) {
    Json all = Json::array();
    for (const base::Warning& finding : findings)
        all.push_back({{"code", finding.code},
                       {"text", words::inEnglish(finding.text)},
                       {"hint", words::inEnglish(finding.hint)}});
    return all;
}

Json timecodeJson(const std::optional<media::Timecode>& timecode) {
    return timecode ? Json(timecode->text) : Json(nullptr);
}

Json resultJson(const jobs::SyncResult& result) {
    if (result.failure)
        return {{"file", result.file}, {"error", words::inEnglish(*result.failure)}};
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
        one["reason"] = words::inEnglish(result.reason);
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

Json feedJson(const jobs::FeedLatency& feed) {
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

std::string syncJson(const jobs::SyncReport& report, SyncFeeds feeds) {
    Json results = Json::array();
    for (const jobs::SyncResult& result : report.results) results.push_back(resultJson(result));
    Json document = {{"version", 1},
                     {"reference", report.reference},
                     {"referenceTimecode", timecodeJson(report.referenceTimecode)},
                     {"referenceFrames", framesJson(report.referenceFrames)},
                     {"referenceFindings", findingsJson(report.referenceFindings)},
                     {"results", results}};
    if (feeds == SyncFeeds::OneDevice) {
        document["feeds"] = Json::array();
        for (const jobs::FeedLatency& feed : jobs::feedLatencies(report))
            document["feeds"].push_back(feedJson(feed));
    }
    return document.dump(2) + "\n";
}

}  // namespace rigmatch::output
