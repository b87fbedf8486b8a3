// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "sound/sound_report.h"

namespace rigmatch::jobs {

/// Listens to a file with or without pictures. Fails as media::SoundReader::open does, or with
/// Cancelled.
[[nodiscard]] base::Result<sound::SoundReport> listenTo(const std::filesystem::path& file,
                                                        const base::Progress& progress = {});

/// A file and what was heard in it.
struct HeardFile {
    std::string file;
    base::Result<sound::SoundReport> report;
};

}  // namespace rigmatch::jobs
