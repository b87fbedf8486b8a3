// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "jobs/sync_job.h"

namespace rigmatch::output {

/// A source on the common clock, which begins where the first of them does.
struct PlacedSource {
    std::string file;
    double startSeconds = 0.0;  ///< on the common clock, 0 and more
    double lengthSeconds = 0.0;
    double offsetSeconds = 0.0;  ///< as SyncResult
    double uncertaintySeconds = 0.0;
    std::string method = "reference";  ///< or "sound", "picture"
    bool hasPicture = true;
    std::optional<double> driftPpm;
    double trimSeconds = 0.0;  ///< of the file, until the last of them has begun
};

/// The reference first, then what could be laid on it, in their order.
[[nodiscard]] std::vector<PlacedSource> placedSources(const jobs::SyncReport& report);

/// Offsets for a spreadsheet: file, start on the common clock, offset, uncertainty, drift, trim.
[[nodiscard]] std::string syncCsv(const jobs::SyncReport& report);
/// The common plain-text edit list (CMX 3600): one event per source on its own track's time, at
/// `rate` frames a second, non-drop.
[[nodiscard]] std::string syncEdl(const jobs::SyncReport& report,
                                  double rate,
                                  const std::string& title);
/// OpenTimelineIO's JSON: a track per source with a gap before it.
[[nodiscard]] std::string syncOtio(const jobs::SyncReport& report,
                                   double rate,
                                   const std::string& title);

/// Writes the form that the file's ending names: .csv, .edl or .otio. Fails with UnsupportedFormat,
/// WriteFailed, or Unmeasurable where nothing is placed.
[[nodiscard]] base::Result<void> exportSync(const jobs::SyncReport& report,
                                            const std::filesystem::path& file,
                                            double rate,
                                            const std::string& title);

}  // namespace rigmatch::output
