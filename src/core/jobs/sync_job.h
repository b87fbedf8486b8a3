// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "base/warning.h"
#include "timing/frame_report.h"
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
};

/// Reads sound and pictures in one pass. Fails as media::MediaReader::open and
/// media::SoundReader::open do, or with Cancelled.
[[nodiscard]] base::Result<SyncSource> readSyncSource(const std::filesystem::path& file,
                                                      const base::Progress& progress = {});

/// How one source lies against the reference.
struct SyncResult {
    std::string file;
    std::optional<base::Error> failure;  ///< it could not be read; the rest is empty
    std::optional<timing::SoundOffset> sound;
    std::optional<timing::PictureOffset> picture;
    std::string reason;  ///< why there is neither
    std::optional<timing::FrameReport> frames;
    double durationSeconds = 0.0;
    std::vector<base::Warning> findings;

    /// By sound where there is one, else by picture.
    [[nodiscard]] std::optional<double> offsetSeconds() const;
};

[[nodiscard]] SyncResult syncWith(const SyncSource& reference,
                                  const SyncSource& source,
                                  const base::Progress& progress = {});

/// What is to be told of a source's frames: rate, repeats, pictures left out.
[[nodiscard]] std::vector<base::Warning> frameFindings(const timing::FrameReport& frames);

struct SyncReport {
    std::string reference;
    double referenceSeconds = 0.0;
    std::optional<timing::FrameReport> referenceFrames;
    std::vector<base::Warning> referenceFindings;
    std::vector<SyncResult> results;
};

/// Lays all files on the reference, one after the other, so that no more than two are held. Fails
/// where the reference cannot be read.
[[nodiscard]] base::Result<SyncReport> syncFiles(const std::filesystem::path& reference,
                                                 const std::vector<std::filesystem::path>& files,
                                                 const base::Progress& progress = {});

/// Sentences about one result, for people.
enum class SyncWords { All, WithoutFindings };
[[nodiscard]] std::vector<std::string> syncLines(const SyncResult& result,
                                                 SyncWords words = SyncWords::All);

/// The document of `rigmatch-cli sync --json`, version 1.
[[nodiscard]] std::string syncJson(const SyncReport& report);

}  // namespace rigmatch::jobs
