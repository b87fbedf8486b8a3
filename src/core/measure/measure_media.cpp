// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/measure_media.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "base/format.h"
#include "chart/chart_finder.h"
#include "measure/clip_scan.h"
#include "measure/face_scan.h"
#include "measure/large_clip_gate.h"
#include "measure/long_clip.h"
#include "measure/measurer.h"
#include "measure/patch_average.h"
#include "measure/reading_warnings.h"
#include "measure/span_reading.h"
#include "media/media_reader.h"
#include "media/read_ahead.h"
#include "media/sound_reader.h"

namespace rigmatch::measure {
namespace {

using base::Number;
using base::Result;
using base::say;
using media::MediaReader;

constexpr int kSecondLooks =
    10;  // frames searched with full effort when the quick pass found nothing

rig::Reading readingOf(const media::MediaInfo& info) {
    rig::Reading reading;
    reading.isStill = info.isStill;
    reading.width = info.width;
    reading.height = info.height;
    reading.bitDepth = info.bitDepth;
    reading.range = image::nameOf(info.tags.range);
    reading.matrix = image::nameOf(info.tags.matrix);
    reading.transfer = image::nameOf(info.tags.transfer);
    reading.primaries = image::nameOf(info.tags.primaries);
    reading.frameRate = info.frameRate;
    reading.durationSeconds = info.durationSeconds;
    reading.warnings = info.warnings;
    if (info.rotationDegrees != 0) {
        reading.warnings.push_back(
            {"Rotated",
             say("rotated.seen", {{"rotation", base::whole(info.rotationDegrees)}}),
             say("rotated.hint")});
    }
    return reading;
}

chart::ChartPose poseOf(const rig::PictureQuad& corners, const chart::ReferenceChart& chart) {
    chart::ChartPose pose;
    pose.patchShare = chart.patchShare;
    pose.columns = chart.columns;
    pose.rows = chart.rows;
    for (std::size_t i = 0; i < 4; ++i) pose.corners[i] = {corners[i].x, corners[i].y};
    return pose;
}

/// One frame, with the given corners or a search of full effort.
Result<SteadySpan> measureFrame(const image::CodedFrame& frame, const MeasureOptions& options) {
    chart::FoundChart found;
    if (options.corners) {
        found.pose = poseOf(*options.corners, options.chart);
        found.confidence = 1.0;
        if (options.chart.isSearchable())
            found.confidence =
                std::clamp(chart::coloursAgree(frame, found.pose, options.chart), 0.0, 1.0);
        // Corners set by hand stay where they are; the edges only tell how wide the patches are.
        const auto followed = options.chart.isSearchable()
                                  ? chart::followChart(frame, found.pose, options.chart)
                                  : tl::unexpected(base::Error{});
        if (followed) found.pose.patchShare = followed->pose.patchShare;
    } else {
        const auto search = chart::findChart(frame, {}, options.chart);
        if (!search) return tl::unexpected(search.error());
        found = *search;
    }
    const auto samples = chart::readPatches(frame, found.pose, options.chart);
    if (!samples) return tl::unexpected(samples.error());
    SteadySpan span;
    span.chart = found;
    span.startSeconds = span.endSeconds = frame.seconds;
    span.frames.push_back({frame.seconds, *samples});
    if (const auto edge = chart::edgeSharpness(frame, found.pose, options.chart.edgePatches()))
        span.edges.push_back(*edge);
    return span;
}

/// Manual corners on a clip: every frame of a stretch around `middle` is read at those corners.
Result<SteadySpan> measureAround(MediaReader& reader,
                                 double middle,
                                 const MeasureOptions& options) {
    constexpr double kReach = 0.4;
    constexpr std::size_t kFrames = 20;
    if (auto moved = reader.seek(base::Seconds(std::max(0.0, middle - kReach))); !moved) {
        return tl::unexpected(moved.error());
    }
    auto first = reader.next();
    if (!first) return tl::unexpected(first.error());
    if (!*first)
        return base::fail(base::ErrorCode::NotFound,
                          say("measure.noFrameThere"),
                          say("measure.clipShorter"),
                          say("measure.chooseEarlierTime"));
    auto span = measureFrame(**first, options);
    if (!span) return span;
    while (span->frames.size() < kFrames) {
        const auto frame = reader.next();
        if (!frame || !*frame || (*frame)->seconds > middle + kReach) break;
        const auto samples = chart::readPatches(**frame, span->chart.pose, options.chart);
        if (!samples) break;
        span->frames.push_back({(*frame)->seconds, *samples});
        span->endSeconds = (*frame)->seconds;
    }
    return span;
}

/// A search with full effort on some frames over the clip, for charts too small for the quick pass.
Result<SteadySpan> lookHarder(MediaReader& reader,
                              double duration,
                              const MeasureOptions& options,
                              const base::Progress& progress) {
    base::Error last{base::ErrorCode::ChartNotFound,
                     say("chartFinder.noChartFound"),
                     say("measure.noFrameShows"),
                     say("measure.holdStill")};
    if (!options.chart.isSearchable()) {
        return base::fail(base::ErrorCode::ChartNotFound,
                          say("measure.notMarkedYet"),
                          say("measure.markedHand", {{"chart", options.chart.name}}),
                          say("measure.putFourCorners"));
    }
    for (int look = 0; look < kSecondLooks; ++look) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        progress.report(static_cast<double>(look) / kSecondLooks,
                        base::say("progress.lookingCloser"));
        if (!reader.seek(base::Seconds(duration * (look + 0.5) / kSecondLooks))) break;
        const auto frame = reader.next();
        if (!frame || !*frame) break;
        const auto found = chart::findChart(**frame, {}, options.chart);
        if (!found) {
            last = found.error();
            continue;
        }
        MeasureOptions here = options;
        here.corners = rig::PictureQuad{};
        for (std::size_t i = 0; i < 4; ++i)
            (*here.corners)[i] = {found->pose.corners[i].x, found->pose.corners[i].y};
        auto span = measureAround(reader, (*frame)->seconds, here);
        if (span) span->chart = *found;
        return span;
    }
    return tl::unexpected(last);
}

constexpr std::size_t kFramesAhead = 4;

/// What is watched of one clip, and by whom.
struct Watch {
    MediaReader& reader;
    const MeasureOptions& options;
    base::Progress progress;
    rig::Reading& reading;
    Measurers& measurers;
    std::optional<ClipPart> part;  ///< of a long clip; nothing: all of it
};

/// One pass over the clip or its part; `chart` looks for the chart on the way. Its last moment.
Result<double> watchClip(const Watch& watch, ClipScan& chart) {
    auto& [reader, options, progress, reading, measurers, part] = watch;
    const double duration = std::max(reader.info().durationSeconds, 0.01);
    const double from = part ? part->from : 0.0;
    const double to = part ? part->to : duration;
    if (from > 0.0) {
        if (auto moved = reader.seek(base::Seconds(from)); !moved)
            return tl::unexpected(moved.error());
    }
    double last = 0.0;
    {
        const auto frameSize = static_cast<long long>(reader.info().width) * reader.info().height;
        media::ReadAhead frames(reader, isLarge(frameSize) ? 1 : kFramesAhead);
        for (int count = 0;; ++count) {
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            const auto frame = frames.next();
            if (!frame) return tl::unexpected(frame.error());
            if (!*frame || (part && (*frame)->seconds > to)) {
                for (const media::SoundBlock& block : frames.takeSound())
                    measurers.takeSound(block);
                break;
            }
            if (count % 10 == 0)
                progress.report(
                    std::min(0.9 * ((*frame)->seconds - from) / std::max(to - from, 0.01), 0.9),
                    base::say("progress.scanning"));
            for (const media::SoundBlock& block : frames.takeSound()) measurers.takeSound(block);
            chart.take(**frame);
            measurers.take(**frame, count);
            last = (*frame)->seconds;
        }
    }
    measurers.finish(reading);
    if (reader.damagedFrames() > 0 || (!part && last < 0.9 * duration - 0.5)) {
        reading.warnings.push_back({"ClipTruncated",
                                    say("clipTruncated.seen",
                                        {{"last", Number{last, 1}},
                                         {"duration", Number{duration, 1}},
                                         {"damagedFrames", base::whole(reader.damagedFrames())}}),
                                    say("clipTruncated.hint")});
    }
    reading.durationSeconds = std::max(reading.durationSeconds, last);
    return part ? reading.durationSeconds : last;
}

Result<SteadySpan> scanClip(const Watch& watch) {
    rig::Reading& reading = watch.reading;
    ClipScan scan(watch.reader.info().frameRate, watch.options.chart);
    const auto last = watchClip(watch, scan);
    if (!last) return tl::unexpected(last.error());
    auto span = scan.finish();
    if (span) span->chart.otherCharts = scan.otherCharts();
    if (scan.isAlwaysMoving()) {
        reading.warnings.push_back({"ChartMoves", say("chartMoves.seen"), say("chartMoves.hint")});
    }
    if (span && span->isHeld) {
        reading.warnings.push_back(
            {"ChartHeld",
             say("chartHeld.seen",
                 {{"frames", base::whole(span->frames.size())},
                  {"seconds", Number{span->endSeconds - span->startSeconds, 1}}}),
             say("chartHeld.hint")});
    }
    if (span) return *span;
    return lookHarder(watch.reader, *last, watch.options, watch.progress.part(0.9, 1.0));
}

/// Corners set by hand on a clip: the whole of it is watched for faces and traps, then the frames
/// around the corners are read.
Result<SteadySpan> measureMarked(const Watch& watch) {
    const MeasureOptions& options = watch.options;
    if (options.isWholeClip) {
        static const chart::ReferenceChart kNone;
        ClipScan none(watch.reader.info().frameRate, kNone);
        const auto last = watchClip(watch, none);
        if (!last) return tl::unexpected(last.error());
    }
    return measureAround(
        watch.reader, options.atSeconds.value_or(0.5 * watch.reading.durationSeconds), options);
}

/// A take that is not about the chart: the clip is watched, and nothing is looked for in it.
Result<SteadySpan> watchOnly(const Watch& watch) {
    if (watch.reader.info().isStill) {
        const auto frame = watch.reader.next();
        if (!frame) return tl::unexpected(frame.error());
        watch.measurers.take(**frame, 0);
        watch.measurers.finish(watch.reading);
    } else {
        static const chart::ReferenceChart kNone;
        ClipScan none(watch.reader.info().frameRate, kNone);
        const auto last = watchClip(watch, none);
        if (!last) return tl::unexpected(last.error());
    }
    return base::fail(base::ErrorCode::ChartNotFound,
                      say("measure.noChartLooked"),
                      say("measure.takeNotMatching"),
                      say("measure.letTakeMatching"));
}

Result<SteadySpan> measureSpan(const Watch& watch) {
    auto& [reader, options, progress, reading, measurers, part] = watch;
    if (!options.isChartWanted) return watchOnly(watch);
    if (reader.info().isStill) {
        const auto frame = reader.next();
        if (!frame) return tl::unexpected(frame.error());
        measurers.take(**frame, 0);
        measurers.finish(reading);
        return measureFrame(**frame, options);
    }
    if (options.corners) return measureMarked(watch);
    if (!options.atSeconds) return scanClip(watch);
    if (auto moved = reader.seek(base::Seconds(*options.atSeconds)); !moved)
        return tl::unexpected(moved.error());
    const auto frame = reader.next();
    if (!frame) return tl::unexpected(frame.error());
    if (!*frame) {
        return base::fail(
            base::ErrorCode::OutOfRange,
            say("measure.noFrameAt", {{"seconds", Number{*options.atSeconds, 2}}}),
            say("measure.clipLength", {{"seconds", Number{reading.durationSeconds, 2}}}),
            say("measure.chooseEarlierTime"));
    }
    measurers.take(**frame, 0);
    return measureFrame(**frame, options);
}

/// Which part of a clip is worth watching; nothing: all of it.
Result<std::optional<ClipSearch>> searched(MediaReader& reader,
                                           const MeasureOptions& options,
                                           const base::Progress& progress) {
    const bool isWhole = options.isEndToEnd || options.isTimingWanted;
    if (isWhole || !isLongClip(reader.info())) return std::optional<ClipSearch>();
    const bool isLookOnly = options.corners ? !options.isWholeClip : options.atSeconds.has_value();
    if (isLookOnly) return std::optional<ClipSearch>();
    if (!options.corners) {
        auto found = searchClip(reader, options.isChartWanted ? &options.chart : nullptr, progress);
        if (!found) return tl::unexpected(found.error());
        return std::optional(*found);
    }
    ClipSearch here;
    here.chartAt = options.atSeconds.value_or(0.5 * reader.info().durationSeconds);
    here.part = partAround(*here.chartAt, reader.info().durationSeconds);
    return std::optional(here);
}

ClipPart partOf(const media::MediaInfo& info, const std::optional<ClipSearch>& search) {
    if (search) return search->part;
    return {0.0, info.isStill ? 0.0 : info.durationSeconds};
}

/// Spots of skin marked by hand, each read on the frame on which it was marked.
void putSkinMarks(MediaReader& reader, const MeasureOptions& options, rig::Reading& reading) {
    for (const rig::SkinMark& mark : options.skinMarks) {
        std::optional<image::CodedFrame> frame;
        if (reader.seek(base::Seconds(std::max(0.0, mark.atSeconds)))) {
            if (auto next = reader.next(); next && *next) frame = std::move(**next);
        }
        const auto face = frame ? markedFace(*frame, mark) : std::nullopt;
        if (face) {
            reading.faces.push_back(*face);
            continue;
        }
        reading.warnings.push_back(
            {"SkinMarkUnreadable", say("skinMarkUnreadable.seen"), say("skinMarkUnreadable.hint")});
    }
    std::sort(reading.faces.begin(), reading.faces.end(), [](const auto& a, const auto& b) {
        return a.left + 0.5 * a.width < b.left + 0.5 * b.width;
    });
}

/// A file of sound alone, as recorders write them.
Result<MeasuredMedia> measureSound(const std::filesystem::path& path,
                                   const MeasureOptions& options,
                                   const base::Progress& progress) {
    auto reader = media::SoundReader::open(path);
    if (!reader) return tl::unexpected(reader.error());
    MeasuredMedia result;
    rig::Reading& reading = result.reading;
    reading.hasPicture = false;
    reading.width = reading.height = reading.bitDepth = 0;
    reading.durationSeconds = reader->durationSeconds();
    reading.reason = say("measure.soundOnly");
    media::MediaInfo none;
    none.durationSeconds = reading.durationSeconds;
    Measurers measurers({none, false, false, options.isTimingWanted, {}, {}});
    double last = 0.0;
    while (const auto blocks = reader->next()) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        for (const media::SoundBlock& block : *blocks) {
            measurers.takeSound(block);
            const double samples = block.channels.empty() ? 0.0 : double(block.channels[0].size());
            last = block.seconds + samples / std::max(block.sampleRate, 1.0);
        }
        progress.report(std::min(last / std::max(reading.durationSeconds, 0.01), 1.0),
                        base::say("progress.listening"));
    }
    measurers.finish(reading);
    reading.durationSeconds = std::max(reading.durationSeconds, last);
    return result;
}

double millisecondsSince(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start)
        .count();
}

bool isAboutTheChart(base::ErrorCode code) {
    return code == base::ErrorCode::ChartNotFound || code == base::ErrorCode::TooFewPixels ||
           code == base::ErrorCode::OutOfRange;
}

}  // namespace

Result<MeasuredMedia> measureMedia(const std::filesystem::path& path,
                                   const MeasureOptions& options,
                                   const base::Progress& progress) {
    const auto start = std::chrono::steady_clock::now();
    LargeClipGate gate;  // outlives the reader
    media::ReaderOptions codes;
    codes.range = options.range;
    codes.matrix = options.matrix;
    codes.threads = options.threads;
    codes.hasSound = true;
    codes.mayDecode = [&](long long pixels, bool isClip) {
        return gate.enter(pixels, isClip, progress);
    };
    auto reader = MediaReader::open(path, codes);
    if (!reader && options.isSoundEnough && reader.error().code == base::ErrorCode::NoPicture) {
        auto sound = measureSound(path, options, progress);
        // Without picture and without sound: what was looked for first is told.
        if (!sound && sound.error().code == base::ErrorCode::NoSound)
            return tl::unexpected(reader.error());
        if (sound) sound->reading.elapsedMs = millisecondsSince(start);
        return sound;
    }
    if (!reader) return tl::unexpected(reader.error());
    MeasuredMedia result{readingOf(reader->info()), reader->info().recorded};
    rig::Reading& reading = result.reading;
    const auto search = searched(*reader, options, progress.part(0.0, 0.5));
    if (!search) return tl::unexpected(search.error());
    Measurers measurers({reader->info(),
                         options.range.has_value(),
                         options.isFramingWanted,
                         options.isTimingWanted,
                         partOf(reader->info(), *search),
                         *search ? (*search)->facesAt : std::nullopt});
    const Watch watch{*reader,
                      options,
                      *search ? progress.part(0.5, 1.0) : progress,
                      reading,
                      measurers,
                      *search ? std::optional((*search)->part) : std::nullopt};
    const auto span = measureSpan(watch);
    if (*search) reading.warnings.push_back(partWarning(**search, reading.durationSeconds));
    if (span) {
        putSpan(reading, *span, options.chart);
        reading.areCornersManual = options.corners.has_value();
        if (reading.areCornersManual) judgeMarkedColours(reading, options.chart);
        warnOfPlace(reading, span->chart);
        warnOfPatches(reading, span->chart.pose);
    } else if (isAboutTheChart(span.error().code)) {
        reading.reason = span.error().detail;
        if (!options.isChartWanted)
            reading.reasonCode = "NotLookedFor";
        else if (!options.corners && !options.chart.isSearchable())
            reading.reasonCode = "NotMarked";
        reading.hint = span.error().hint;
    } else {
        return tl::unexpected(span.error());
    }
    putSkinMarks(*reader, options, reading);
    measurers.judge(reading);
    reading.elapsedMs = millisecondsSince(start);
    progress.report(1.0, base::say("progress.measured"));
    return result;
}

}  // namespace rigmatch::measure
