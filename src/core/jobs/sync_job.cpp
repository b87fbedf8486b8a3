// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sync_job.h"

#include <algorithm>
#include <cmath>
#include <future>
#include <utility>

#include "base/format.h"
#include "jobs/same_microphone.h"
#include "jobs/sync_judge.h"
#include "jobs/sync_source.h"
#include "media/media_reader.h"
#include "media/read_ahead.h"
#include "media/sound_reader.h"
#include "sound/sound_meter.h"
#include "sound/sound_track.h"
#include "timing/frame_watch.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;
constexpr std::size_t kMostTries = 3;  // channels that are tried against each other
constexpr double kDay = 86400.0;
constexpr double kSecondsPerMetre = 1.0 / 343.2;  // in air of 20 °C
constexpr std::size_t kFramesAhead = 3;

/// Between loud and quiet moments of a track, dB: speech has much of it, noise and time code none.
double liveliness(const sound::SoundTrack& track) {
    constexpr std::size_t kFrame = 320;
    std::vector<double> levels;
    const std::size_t step = std::max(kFrame, track.samples.size() / 20000 / kFrame * kFrame);
    for (std::size_t i = 0; i + kFrame <= track.samples.size(); i += step) {
        double power = 0.0;
        for (std::size_t j = i; j < i + kFrame; ++j)
            power += static_cast<double>(track.samples[j]) * static_cast<double>(track.samples[j]);
        levels.push_back(10.0 * std::log10(power / kFrame + 1e-12));
    }
    if (levels.size() < 4) return 0.0;
    std::sort(levels.begin(), levels.end());
    const double loud = levels[levels.size() * 95 / 100], quiet = levels[levels.size() / 5];
    return loud < -75.0 ? 0.0 : loud - quiet;
}

void keepTracks(std::vector<sound::SoundTrack> tracks,
                SyncSource& source,
                const base::Progress& progress) {
    std::sort(tracks.begin(), tracks.end(), [](const auto& a, const auto& b) {
        return liveliness(a) > liveliness(b);
    });
    for (sound::SoundTrack& track : tracks) {
        source.durationSeconds =
            std::max(source.durationSeconds, track.startSeconds + track.seconds());
        timing::WhitenedTrack made = timing::whitened(track, progress);
        made.channel = track.channel;
        track.samples = {};
        if (!made.samples.empty()) source.tracks.push_back(std::move(made));
    }
}

base::Result<SyncSource> soundSource(const fs::path& file, const base::Progress& progress) {
    auto reader = media::SoundReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    SyncSource source;
    source.file = file.string();
    sound::TrackCollector tracks;
    sound::SoundMeter meter;
    std::optional<double> first;
    const double length = reader->durationSeconds();
    while (auto blocks = reader->next()) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        for (media::SoundBlock& block : *blocks) {
            if (!first) first = block.seconds;
            block.seconds -= *first;
            if (length > 0.0)
                progress.report(std::min(0.9, block.seconds / length),
                                base::say("progress.listening"));
            tracks.take(block);
            meter.take(block);
        }
    }
    source.heard = meter.finish();
    source.timecode = reader->timecode();
    keepTracks(tracks.finish(), source, progress);
    return source;
}

/// The first pair of channels that have something in common.
void syncSound(const SyncSource& reference,
               const SyncSource& source,
               SyncResult& result,
               const base::Progress& progress) {
    if (reference.tracks.empty() || source.tracks.empty()) {
        const SyncSource& silent = reference.tracks.empty() ? reference : source;
        const bool isReference = reference.tracks.empty();
        const bool isMute = silent.heard && !silent.heard->channels.empty();
        result.reason =
            isReference ? base::say(isMute ? "syncJob.referenceHearsNothing"
                                           : "syncJob.referenceHasNoSound")
                        : base::say(isMute ? "syncJob.fileHearsNothing" : "syncJob.fileHasNoSound");
        result.reason += base::say("syncJob.letAllHear");
        return;
    }
    for (std::size_t attempt = 0; attempt < kMostTries; ++attempt) {
        // The best of both first, then the file's other channels, then the reference's.
        const std::size_t theirs = attempt < source.tracks.size() ? attempt : 0;
        const std::size_t mine =
            attempt < source.tracks.size() ? 0 : std::min(attempt, reference.tracks.size() - 1);
        if (attempt > 0 && theirs == 0 && mine == 0) break;
        auto found =
            timing::findSoundOffset(reference.tracks[mine], source.tracks[theirs], progress);
        if (found) {
            result.sound = std::move(*found);
            return;
        }
        if (attempt == 0) result.reason = base::fullText(found.error());
        if (progress.isCancelled()) return;
    }
}

/// One clap in each and nothing else in common is no proof that it is the same.
base::Text clapsText(const SyncSource& reference, const SyncSource& source) {
    if (!reference.heard || !source.heard || !reference.heard->clapSeconds ||
        !source.heard->clapSeconds)
        return {};
    const double mine = *reference.heard->clapSeconds, theirs = *source.heard->clapSeconds;
    return base::say("syncJob.oneClapEach",
                     {{"mine", base::Number{mine, 2}},
                      {"theirs", base::Number{theirs, 2}},
                      {"offset", base::Number{1000.0 * (theirs - mine), 0, true}}});
}

}  // namespace

std::optional<double> SyncResult::offsetSeconds() const {
    if (sound) return sound->offsetSeconds;
    if (picture) return picture->offsetSeconds;
    return std::nullopt;
}

std::optional<double> SyncResult::offsetAt(double referenceSeconds) const {
    auto offset = offsetSeconds();
    if (offset && sound && sound->driftPpm)
        *offset += 1e-6 * *sound->driftPpm * (referenceSeconds - sound->atSeconds);
    return offset;
}

base::Result<SyncSource> readSyncSource(const fs::path& file, const base::Progress& progress) {
    media::ReaderOptions options;
    options.hasSound = true;
    auto reader = media::MediaReader::open(file, options);
    if (!reader) {
        if (reader.error().code != base::ErrorCode::NoPicture)
            return tl::unexpected(reader.error());
        return soundSource(file, progress);
    }
    SyncSource source;
    source.file = file.string();
    if (reader->info().isStill) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("syncJob.cannotSync", {{"filename", file.filename().string()}}),
                          base::say("syncJob.still"),
                          base::say("syncJob.chooseClipSound"));
    }
    const double length = reader->info().durationSeconds;
    source.timecode = reader->info().timecode;
    timing::FrameWatch frames;
    sound::TrackCollector tracks;
    sound::SoundMeter meter;
    media::ReadAhead ahead(*reader, kFramesAhead);
    while (true) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        auto frame = ahead.next();
        if (!frame) return tl::unexpected(frame.error());
        for (const media::SoundBlock& block : ahead.takeSound()) {
            tracks.take(block);
            meter.take(block);
        }
        if (!*frame) break;
        frames.take(**frame);
        source.durationSeconds = (*frame)->seconds;
        if (length > 0.0)
            progress.report(std::min(0.9, (*frame)->seconds / length),
                            base::say("progress.reading"));
    }
    source.timecodeJumps = reader->timecodeJumps();
    source.damagedFrames = reader->damagedFrames() + reader->patchedFrames();
    source.frames = frames.report();
    source.curve = frames.curve();
    source.heard = meter.finish();
    keepTracks(tracks.finish(), source, progress);
    return source;
}

base::Result<sound::SoundTrack> soundOf(const fs::path& file, const base::Progress& progress) {
    media::ReaderOptions options;
    options.hasSound = true;
    sound::TrackCollector tracks;
    auto reader = media::MediaReader::open(file, options);
    if (reader) {
        const double length = std::max(0.01, reader->info().durationSeconds);
        media::ReadAhead ahead(*reader, kFramesAhead);
        while (true) {
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            const auto frame = ahead.next();
            if (!frame) return tl::unexpected(frame.error());
            for (const media::SoundBlock& block : ahead.takeSound()) tracks.take(block);
            if (!*frame) break;
            progress.report(std::min(0.9, (*frame)->seconds / length),
                            base::say("progress.listening"));
        }
    } else {
        if (reader.error().code != base::ErrorCode::NoPicture)
            return tl::unexpected(reader.error());
        auto sound = media::SoundReader::open(file);
        if (!sound) return tl::unexpected(sound.error());
        std::optional<double> first;
        while (auto blocks = sound->next()) {
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            for (media::SoundBlock& block : *blocks) {
                if (!first) first = block.seconds;
                block.seconds -= *first;
                tracks.take(block);
            }
        }
    }
    auto all = tracks.finish();
    const auto best = std::max_element(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return liveliness(a) < liveliness(b);
    });
    if (best != all.end()) return std::move(*best);
    return base::fail(base::ErrorCode::NoSound,
                      base::say("syncJob.noSound", {{"filename", file.filename().string()}}),
                      base::say("syncJob.holdsNoSound"),
                      base::say("syncJob.chooseFileSound"));
}

SyncResult syncWith(const SyncSource& reference,
                    const SyncSource& source,
                    const base::Progress& progress,
                    const SoundWays& ways) {
    SyncResult result;
    result.file = source.file;
    result.frames = source.frames;
    result.heard = source.heard;
    result.durationSeconds = source.durationSeconds;
    syncSound(reference, source, result, progress);
    if (reference.frames && source.frames) {
        const auto picture = timing::findPictureOffset(reference.curve, source.curve);
        if (picture)
            result.picture = *picture;
        else if (!result.sound)
            result.reason +=
                base::say("error.more", {{"sentence", base::fullText(picture.error())}});
    }
    if (result.offsetSeconds())
        result.reason = {};
    else
        result.reason += clapsText(reference, source);
    const auto mine = ways.find(source.file), theirs = ways.find(reference.file);
    if (mine != ways.end() && theirs != ways.end())
        result.distanceSeconds = kSecondsPerMetre * (mine->second - theirs->second);
    result.timecode = source.timecode;
    if (reference.timecode && source.timecode) {
        // Over midnight the count begins again.
        result.timecodeSeconds =
            std::remainder(reference.timecode->seconds - source.timecode->seconds, kDay);
    }
    if (result.frames) result.findings = frameFindings(*result.frames, source.damagedFrames);
    judgeOffset(result);
    judgeTimecode(result);
    for (base::Warning& finding : timecodeFindings(source))
        result.findings.push_back(std::move(finding));
    for (base::Warning& finding : damageFindings(source))
        result.findings.insert(result.findings.begin(), std::move(finding));
    judgeChannels(reference, source, result);
    return result;
}

namespace {

bool isSoundAlone(const fs::path& file) {
    const auto reader = media::MediaReader::open(file, {});
    return !reader && reader.error().code == base::ErrorCode::NoPicture;
}

}  // namespace

base::Result<SyncReport> syncFiles(const fs::path& reference,
                                   const std::vector<fs::path>& files,
                                   const base::Progress& progress,
                                   const SoundWays& ways) {
    const double share = 1.0 / static_cast<double>(files.size() + 1);
    const auto first = readSyncSource(reference, progress.part(0.0, share));
    if (!first) return tl::unexpected(first.error());
    SyncReport report;
    report.reference = reference.string();
    report.referenceSeconds = first->durationSeconds;
    report.referenceFrames = first->frames;
    report.referenceHeard = first->heard;
    report.referenceTimecode = first->timecode;
    if (first->frames)
        report.referenceFindings = frameFindings(*first->frames, first->damagedFrames);
    for (base::Warning& finding : timecodeFindings(*first))
        report.referenceFindings.push_back(std::move(finding));
    for (base::Warning& finding : damageFindings(*first))
        report.referenceFindings.insert(report.referenceFindings.begin(), std::move(finding));
    MicrophoneTwins twins(*first);
    double done = share;
    using Read = std::future<base::Result<SyncSource>>;
    const auto reading = [&](std::size_t i) {
        if (i >= files.size()) return Read();
        const double from = share * static_cast<double>(i + 1);
        // Clips keep every core busy by themselves; sound is read while the one before is laid.
        return std::async(
            isSoundAlone(files[i]) ? std::launch::async : std::launch::deferred, [&, i, from] {
                return readSyncSource(files[i], progress.part(from, from + 0.8 * share));
            });
    };
    Read next = reading(0);
    for (std::size_t i = 0; i < files.size(); ++i) {
        const fs::path& file = files[i];
        Read now = std::exchange(next, Read());
        next = reading(i + 1);
        const auto source = now.get();
        if (source) {
            report.results.push_back(
                syncWith(*first, *source, progress.part(done + 0.8 * share, done + share), ways));
            if (const auto& sound = report.results.back().sound) twins.add(*source, *sound);
        } else {
            SyncResult failed;
            failed.file = file.string();
            failed.failure = source.error();
            report.results.push_back(std::move(failed));
        }
        done += share;
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
    }
    twins.tell(report);
    return report;
}

}  // namespace rigmatch::jobs
