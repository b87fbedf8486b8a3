// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "jobs/sync_job.h"
#include "sound/sound_track.h"
#include "timing/picture_curve.h"
#include "timing/whitened_track.h"

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

/// Lays one source on the reference.
[[nodiscard]] SyncResult syncWith(const SyncSource& reference,
                                  const SyncSource& source,
                                  const base::Progress& progress = {},
                                  const SoundWays& ways = {});

}  // namespace rigmatch::jobs
