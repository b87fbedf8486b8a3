// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/sync_export.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/atomic_file.h"
#include "base/format.h"
#include "output/json_tidy.h"

namespace rigmatch::output {
namespace {

using base::fixed;

/// 01:02:03:04, non-drop.
std::string timecode(double seconds, double rate) {
    const auto base = static_cast<long long>(std::max(1L, std::lround(rate)));
    const long long frames = std::llround(seconds * rate);
    const auto two = [](long long value) {
        return (value < 10 ? "0" : "") + std::to_string(value);
    };
    const long long whole = frames / base;
    return two(whole / 3600 % 24) + ":" + two(whole / 60 % 60) + ":" + two(whole % 60) + ":" +
           two(frames % base);
}

std::string nameOf(const std::string& file) {
    return std::filesystem::path(file).filename().string();
}

/// A field of CSV: quoted where it must be (RFC 4180).
std::string field(const std::string& text) {
    if (text.find_first_of(",\"\n\r") == std::string::npos) return text;
    std::string quoted = "\"";
    for (const char c : text) quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
    return quoted + "\"";
}

Json rational(double seconds, double rate) {
    return {
        {"OTIO_SCHEMA", "RationalTime.1"}, {"rate", rate}, {"value", std::round(seconds * rate)}};
}
Json range(double start, double length, double rate) {
    return {{"OTIO_SCHEMA", "TimeRange.1"},
            {"start_time", rational(start, rate)},
            {"duration", rational(length, rate)}};
}

}  // namespace

std::vector<PlacedSource> placedSources(const jobs::SyncReport& report) {
    std::vector<PlacedSource> placed(1);
    placed.front().file = report.reference;
    placed.front().lengthSeconds = report.referenceSeconds;
    placed.front().hasPicture = report.referenceFrames.has_value();
    for (const jobs::SyncResult& result : report.results) {
        const auto offset = result.offsetSeconds();
        if (!offset) continue;
        PlacedSource source;
        source.file = result.file;
        source.startSeconds = -*offset;
        source.lengthSeconds = result.durationSeconds;
        source.offsetSeconds = *offset;
        source.hasPicture = result.frames.has_value();
        source.method = result.sound ? "sound" : "picture";
        source.uncertaintySeconds =
            result.sound ? result.sound->uncertaintySeconds : result.picture->uncertaintySeconds;
        if (result.sound) source.driftPpm = result.sound->driftPpm;
        placed.push_back(source);
    }
    double first = 0.0, last = 0.0;
    for (const PlacedSource& source : placed) first = std::min(first, source.startSeconds);
    for (PlacedSource& source : placed) {
        source.startSeconds -= first;
        last = std::max(last, source.startSeconds);
    }
    for (PlacedSource& source : placed) source.trimSeconds = last - source.startSeconds;
    return placed;
}

std::string syncCsv(const jobs::SyncReport& report) {
    std::string text = "file,startSeconds,offsetMs,uncertaintyMs,driftPpm,trimSeconds,method\n";
    for (const PlacedSource& source : placedSources(report)) {
        text += field(nameOf(source.file)) + "," + fixed(source.startSeconds, 5) + "," +
                fixed(1e3 * source.offsetSeconds, 3) + "," +
                fixed(1e3 * source.uncertaintySeconds, 3) + "," +
                (source.driftPpm ? fixed(*source.driftPpm, 2) : "") + "," +
                fixed(source.trimSeconds, 5) + "," + source.method + "\n";
    }
    return text;
}

std::string syncEdl(const jobs::SyncReport& report, double rate, const std::string& title) {
    std::string text = "TITLE: " + title + "\nFCM: NON-DROP FRAME\n\n";
    int number = 0;
    for (const PlacedSource& source : placedSources(report)) {
        const std::string event = std::to_string(++number);
        text += std::string(event.size() < 3 ? 3 - event.size() : 0, '0') + event +
                "  AX       AA/V  C        " + timecode(0.0, rate) + " " +
                timecode(source.lengthSeconds, rate) + " " + timecode(source.startSeconds, rate) +
                " " + timecode(source.startSeconds + source.lengthSeconds, rate) +
                "\n* FROM CLIP NAME: " + nameOf(source.file) + "\n";
    }
    return text;
}

std::string syncOtio(const jobs::SyncReport& report, double rate, const std::string& title) {
    Json tracks = Json::array();
    for (const PlacedSource& source : placedSources(report)) {
        Json children = Json::array();
        if (source.startSeconds > 0.0)
            children.push_back({{"OTIO_SCHEMA", "Gap.1"},
                                {"name", ""},
                                {"source_range", range(0.0, source.startSeconds, rate)}});
        children.push_back(
            {{"OTIO_SCHEMA", "Clip.1"},
             {"name", nameOf(source.file)},
             {"source_range", range(0.0, source.lengthSeconds, rate)},
             {"media_reference",
              {{"OTIO_SCHEMA", "ExternalReference.1"},
               {"target_url", "file://" + std::filesystem::absolute(source.file).string()},
               {"available_range", range(0.0, source.lengthSeconds, rate)}}},
             {"metadata", {{"offsetMs", std::round(1e6 * source.offsetSeconds) / 1e3}}}});
        tracks.push_back({{"OTIO_SCHEMA", "Track.1"},
                          {"name", nameOf(source.file)},
                          {"kind", source.hasPicture ? "Video" : "Audio"},
                          {"children", children}});
    }
    return Json(
               {{"OTIO_SCHEMA", "Timeline.1"},
                {"name", title},
                {"global_start_time", nullptr},
                {"tracks", {{"OTIO_SCHEMA", "Stack.1"}, {"name", "tracks"}, {"children", tracks}}}})
               .dump(2) +
           "\n";
}

base::Result<void> exportSync(const jobs::SyncReport& report,
                              const std::filesystem::path& file,
                              double rate,
                              const std::string& title) {
    if (placedSources(report).size() < 2) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("syncExport.thereNothingExport"),
                          base::say("syncExport.noFileCould"),
                          base::say("syncExport.syncSourcesHeard"));
    }
    const std::string ending = file.extension().string();
    const double frames = rate > 0.0 ? rate : 25.0;
    std::string text;
    if (ending == ".csv") text = syncCsv(report);
    if (ending == ".edl") text = syncEdl(report, frames, title);
    if (ending == ".otio") text = syncOtio(report, frames, title);
    if (text.empty()) {
        return base::fail(
            base::ErrorCode::UnsupportedFormat,
            base::say("syncExport.cannotWrite", {{"filename", file.filename().string()}}),
            base::say("syncExport.noFormOffsets", {{"ending", ending}}),
            base::say("syncExport.chooseNameEnds"));
    }
    return base::writeAtomically(file, text);
}

}  // namespace rigmatch::output
