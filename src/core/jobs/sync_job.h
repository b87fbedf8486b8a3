// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "base/text.h"
#include "base/warning.h"
#include "media/timecode.h"
#include "rig/rig.h"
#include "sound/sound_report.h"
#include "timing/frame_report.h"

namespace rigmatch::jobs {

/// How one source lies against the reference.
struct SyncResult {
    std::string file;
    std::optional<base::Error> failure;  ///< it could not be read; the rest is empty
    std::optional<timing::SoundOffset> sound;
    std::optional<timing::PictureOffset> picture;
    base::Text reason;  ///< why there is neither
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

/// What is to be told of a source's frames: rate, repeats, pictures left out. Damaged frames stand
/// or leap too: with some, nothing in the chain is blamed for single ones.
[[nodiscard]] std::vector<base::Warning> frameFindings(const timing::FrameReport& frames,
                                                       int damagedFrames = 0);

/// What a clock that drifts makes of a recording as long as planned, added to what is told of it.
void foretellDrift(SyncResult& result, double plannedMinutes);

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

}  // namespace rigmatch::jobs
