// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "jobs/sync_job.h"

namespace rigmatch::jobs {

/// Samples per second of a check sound.
inline constexpr int kCheckRate = 16000;

/// Both sounds as they lie on each other, at kCheckRate, each at the same loudness.
struct CheckStretch {
    double startSeconds = 0.0;  ///< of the reference
    std::vector<float> left, right;
};
/// Up to `seconds` of it around `clapSeconds` of the reference, or the middle of what both heard.
/// Fails as writeCheckSound() but for writing.
[[nodiscard]] base::Result<CheckStretch> checkStretch(const std::string& reference,
                                                      const SyncResult& result,
                                                      std::optional<double> clapSeconds,
                                                      double seconds,
                                                      const base::Progress& progress = {});

/// Writes twenty seconds of both sounds as they lie on each other: the reference on the left, the
/// other on the right, each at the same loudness, around `clapSeconds` of the reference or the
/// middle of what both heard (WAV, 16 kHz). Who listens on headphones hears one sound in the
/// middle where they agree, and two where they do not. Fails as media::MediaReader::open, with
/// Unmeasurable where one has no sound or there is no offset, WriteFailed, or Cancelled.
[[nodiscard]] base::Result<void> writeCheckSound(const std::string& reference,
                                                 const SyncResult& result,
                                                 std::optional<double> clapSeconds,
                                                 const std::filesystem::path& file,
                                                 const base::Progress& progress = {});

}  // namespace rigmatch::jobs
