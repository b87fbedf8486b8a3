// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/progress.h"
#include "jobs/lut_job.h"

namespace rigmatch::jobs {

/// Writes one PNG that shows chart and largest face of every corrected camera beside the
/// reference's: as recorded, and through the correction as it stands in its file. A row is left out
/// where the take does not show it. Fails as media::MediaReader::open, with Unmeasurable where
/// there is nothing to show, WriteFailed, or Cancelled.
[[nodiscard]] base::Result<void> writeCheckPicture(const rig::Rig& rig,
                                                   const rig::Take& take,
                                                   const std::vector<WrittenLut>& written,
                                                   const LutOptions& options,
                                                   const std::filesystem::path& file,
                                                   const base::Progress& progress = {});

}  // namespace rigmatch::jobs
