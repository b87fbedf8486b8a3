// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "jobs/sync_job.h"

namespace rigmatch::jobs {

/// Writes ten seconds of both as they lie on each other: the reference's picture and sound on the
/// left, the other's on the right, around `clapSeconds` of the reference or the middle of what both
/// recorded (H.264 at the reference's rate, each picture up to 640 px wide; silent where one has no
/// sound). Fails as media::MediaReader::open and writeCheckSound, with Unmeasurable where one has
/// no pictures or they have no offset, OutOfRange, WriteFailed, or Cancelled; nothing is left of a
/// clip that was not finished.
[[nodiscard]] base::Result<void> writeCheckClip(const std::string& reference,
                                                const SyncResult& result,
                                                std::optional<double> clapSeconds,
                                                const std::filesystem::path& file,
                                                const base::Progress& progress = {});

/// A check sound or a check clip, as the file's ending says: .wav, or .mov and .mp4. Fails with
/// WriteFailed, too, where the file is one of the two recordings.
[[nodiscard]] base::Result<void> writeCheck(const std::string& reference,
                                            const SyncResult& result,
                                            std::optional<double> clapSeconds,
                                            const std::filesystem::path& file,
                                            const base::Progress& progress = {});
/// Whether a file's name asks for one of them.
[[nodiscard]] bool isCheckFile(const std::filesystem::path& file);

}  // namespace rigmatch::jobs
