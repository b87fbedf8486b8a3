// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "base/warning.h"
#include "media/timecode.h"
#include "rig/rig.h"
#include "sound/sound_report.h"
#include "sound/sound_track.h"
#include "timing/frame_report.h"
#include "timing/picture_curve.h"
#include "timing/picture_offset.h"
#include "timing/sound_offset.h"

namespace rigmatch::jobs {

/// One source of a take as it is laid on another: read once, then compared as often as wanted.
/// Memory: 230 MB per hour and channel of sound (four channels at most).
struct SyncSource {
    std::string file;
    double durationSeconds = 0.0;
    std::vector<timing::WhitenedTrack> tracks;  ///< the most telling channel first; none: no sound
    std::optional<timing::FrameReport> frames;  ///< none: no pictures
    timing::PictureCurve curve;
    std::optional<sound::SoundReport> heard;  ///< none: no sound
    std::optional<media::Timecode> timecode;  ///< of its first frame or sample
    std::vector<media::TimecodeJump> timecodeJumps;
    int damagedFrames = 0;  ///< left out or made up in part by the decoder
};

/// Reads sound and pictures in one pass. Fails as media::MediaReader::open and
/// media::SoundReader::open do, or with Cancelled.
[[nodiscard]] base::Result<SyncSource> readSyncSource(const std::filesystem::path& file,
                                                      const base::Progress& progress = {});

/// The most telling channel of a file's sound, at 16 kHz. Fails as readSyncSource(), or with
/// NoSound.
[[nodiscard]] base::Result<sound::SoundTrack> soundOf(const std::filesystem::path& file,
                                                      const base::Progress& progress = {});

/// How one source lies against the reference.
struct SyncResult {
    std::string file;
    std::optional<base::Error> failure;  ///< it could not be read; the rest is empty
    std::optional<timing::SoundOffset> sound;
    std::optional<timing::PictureOffset> picture;
    std::string reason;  ///< why there is neither
    std::optional<timing::FrameReport> frames;
    std::optional<sound::SoundReport> heard;
    double durationSeconds = 0.0;
    std::optional<double> distanceSeconds;  ///< by which its sound comes later for the longer way
    std::optional<media::Timecode> timecode;
    /// What the timecodes of both say of the offset; nothing where one carries none.
    std::optional<double> timecodeSeconds;
    std::vector<base::Warning> findings;

    /// By sound where there is one, else by picture.
    [[nodiscard]] std::optional<double> offsetSeconds() const;
    /// At a moment of the reference, as its drift has it there.
    [[nodiscard]] std::optional<double> offsetAt(double referenceSeconds) const;
};

/// How far sound has to go to a file's microphone, m, by file.
using SoundWays = std::map<std::string, double>;

[[nodiscard]] SyncResult syncWith(const SyncSource& reference,
                                  const SyncSource& source,
                                  const base::Progress& progress = {},
                                  const SoundWays& ways = {});

/// What is to be told of a source's frames: rate, repeats, pictures left out. Damaged frames stand
/// or leap too: with some, nothing in the chain is blamed for single ones.
[[nodiscard]] std::vector<base::Warning> frameFindings(const timing::FrameReport& frames,
                                                       int damagedFrames = 0);

struct SyncReport {
    std::string reference;
    double referenceSeconds = 0.0;
    std::optional<timing::FrameReport> referenceFrames;
    std::optional<sound::SoundReport> referenceHeard;
    std::optional<media::Timecode> referenceTimecode;
    std::vector<base::Warning> referenceFindings;
    std::vector<SyncResult> results;
};

/// Lays all files on the reference, one after the other, so that no more than two are held. Fails
/// where the reference cannot be read.
[[nodiscard]] base::Result<SyncReport> syncFiles(const std::filesystem::path& reference,
                                                 const std::vector<std::filesystem::path>& files,
                                                 const base::Progress& progress = {},
                                                 const SoundWays& ways = {});

/// Lays all files of a take on the reference's, or on the first of them where the reference has
/// none. With a plan, what the sound's way to each camera makes of it is told too. Fails as
/// syncFiles(), or with Unmeasurable for fewer than two files that were measured.
[[nodiscard]] base::Result<SyncReport> syncTake(const rig::Rig& rig,
                                                const rig::Take& take,
                                                const base::Progress& progress = {});
/// What was found for one shot, as it is kept with its reading; nothing for a file that the report
/// does not know. One that could not be read keeps why.
[[nodiscard]] std::optional<rig::Reading> withSync(const rig::Shot& shot, const SyncReport& report);
/// The report that the readings of a take hold; nothing where it was not synced, or other files
/// have come since.
[[nodiscard]] std::optional<SyncReport> keptSync(const rig::Rig& rig, const rig::Take& take);

/// A microphone among all that heard the take.
struct MicrophoneRank {
    std::string file;
    std::size_t channel = 0;
    double overNoiseDecibels = 0.0;      ///< speech over noise, at most 60
    std::optional<double> decaySeconds;  ///< of the room in it
    std::string code;                    ///< sound::ChannelReport::code
    double worth = 0.0;                  ///< higher is better
};
/// Channels with speech, the one to be the main first, the next to be its backup (common practice:
/// close before far, clean before loud).
[[nodiscard]] std::vector<MicrophoneRank> rankMicrophones(const SyncReport& report);
/// "channel 1: speech 34 dB above the noise".
[[nodiscard]] std::string microphoneText(const MicrophoneRank& rank);

/// Sentences about one result, for people.
enum class SyncWords { All, WithoutFindings };
[[nodiscard]] std::vector<std::string> syncLines(const SyncResult& result,
                                                 SyncWords words = SyncWords::All);

/// Whether the files are feeds that one device began to record at once; see FeedLatency.
enum class SyncFeeds { Apart, OneDevice };
/// The document of `rigmatch-cli sync --json`, version 1.
[[nodiscard]] std::string syncJson(const SyncReport& report, SyncFeeds feeds = SyncFeeds::Apart);

}  // namespace rigmatch::jobs
