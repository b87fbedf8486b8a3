// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sync_job.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "media/media_reader.h"
#include "media/read_ahead.h"
#include "media/sound_reader.h"
#include "sound/sound_meter.h"
#include "sound/sound_track.h"
#include "timing/frame_watch.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;
using base::fixed;
using base::signedFixed;

constexpr std::size_t kMostTries = 3;  // channels that are tried against each other
constexpr double kHour = 3600.0, kDay = 86400.0;
constexpr double kUsualFrame = 0.04;    // s
constexpr double kMostTimecode = 60.0;  // s; clocks that were set together are not further apart
constexpr double kSecondsPerMetre = 1.0 / 343.2;  // in air of 20 °C
constexpr std::size_t kFramesAhead = 3;
// ITU-R BT.1359-1 and EBU R37, from memory: sound early by 40 ms or late by 60 is seen.
constexpr double kMostEarly = 0.040, kMostLate = 0.060;

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
            if (length > 0.0) progress.report(std::min(0.9, block.seconds / length), "Listening");
            tracks.take(block);
            meter.take(block);
        }
    }
    source.heard = meter.finish();
    source.timecode = reader->timecode();
    keepTracks(tracks.finish(), source, progress);
    return source;
}

std::string timesText(const std::vector<double>& times) {
    std::string text;
    const std::size_t shown = std::min<std::size_t>(times.size(), 5);
    for (std::size_t i = 0; i < shown; ++i) text += (i > 0 ? ", " : "") + fixed(times[i], 2);
    text += " s";
    if (times.size() > shown) text += " and " + std::to_string(times.size() - shown) + " more";
    return text;
}

/// The first pair of channels that have something in common.
void syncSound(const SyncSource& reference,
               const SyncSource& source,
               SyncResult& result,
               const base::Progress& progress) {
    if (reference.tracks.empty() || source.tracks.empty()) {
        result.reason =
            std::string(reference.tracks.empty() ? "The reference" : "The file") +
            " has no sound. Let every camera record scratch sound, or let all see one clap.";
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

}  // namespace

std::optional<double> SyncResult::offsetSeconds() const {
    if (sound) return sound->offsetSeconds;
    if (picture) return picture->offsetSeconds;
    return std::nullopt;
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
                          "Cannot sync " + file.filename().string(),
                          "It is a still.",
                          "Choose a clip or a sound file.");
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
        if (length > 0.0) progress.report(std::min(0.9, (*frame)->seconds / length), "Reading");
    }
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
            progress.report(std::min(0.9, (*frame)->seconds / length), "Listening");
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
                      "No sound in " + file.filename().string(),
                      "It holds no sound that could be read.",
                      "Choose a file with sound.");
}

std::vector<base::Warning> frameFindings(const timing::FrameReport& frames) {
    std::vector<base::Warning> findings;
    if (frames.isVariable) {
        findings.push_back({"VariableRate",
                            "Its frame rate varies: " + fixed(1000.0 * frames.shortestSeconds, 1) +
                                " to " + fixed(1000.0 * frames.longestSeconds, 1) +
                                " ms between frames, " + fixed(frames.rate, 2) +
                                " a second on average.",
                            "Convert it to a constant rate before the edit."});
    }
    if (!frames.pattern.empty()) {
        findings.push_back({"RateHalved",
                            "In it " + frames.pattern +
                                " shows the one before once more: " + fixed(frames.uniqueRate, 2) +
                                " pictures a second stand in a file of " + fixed(frames.rate, 2) +
                                ".",
                            "Look for the box in the chain that changes the rate, and set both "
                            "its sides to the camera's."});
    } else if (!frames.repeated.empty()) {
        findings.push_back({"FramesRepeat",
                            (frames.repeated.size() == 1
                                 ? std::string("A frame shows")
                                 : std::to_string(frames.repeated.size()) + " frames show") +
                                " the one before once more, at " + timesText(frames.repeated) + ".",
                            "The chain stutters: check cable, converter and the computer's load."});
    }
    if (!frames.missing.empty()) {
        findings.push_back({"FramesMissing",
                            (frames.missing.size() == 1 ? "A frame is" : "Frames are") +
                                std::string(" left out before ") + timesText(frames.missing) + ".",
                            "Check the card's speed, or the computer's load, and record again."});
    }
    return findings;
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
            result.reason += " " + base::fullText(picture.error());
    }
    if (result.offsetSeconds()) result.reason.clear();
    const auto mine = ways.find(source.file), theirs = ways.find(reference.file);
    if (mine != ways.end() && theirs != ways.end())
        result.distanceSeconds = kSecondsPerMetre * (mine->second - theirs->second);
    result.timecode = source.timecode;
    if (reference.timecode && source.timecode) {
        // Over midnight the count begins again.
        result.timecodeSeconds =
            std::remainder(reference.timecode->seconds - source.timecode->seconds, kDay);
    }
    if (result.frames) result.findings = frameFindings(*result.frames);
    judgeOffset(result);
    judgeTimecode(result);
    return result;
}

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
    if (first->frames) report.referenceFindings = frameFindings(*first->frames);
    double done = share;
    for (const fs::path& file : files) {
        const auto source = readSyncSource(file, progress.part(done, done + 0.8 * share));
        if (source) {
            report.results.push_back(
                syncWith(*first, *source, progress.part(done + 0.8 * share, done + share), ways));
        } else {
            SyncResult failed;
            failed.file = file.string();
            failed.failure = source.error();
            report.results.push_back(std::move(failed));
        }
        done += share;
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
    }
    return report;
}

}  // namespace rigmatch::jobs
