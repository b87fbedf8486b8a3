// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "base/progress.h"
#include "measure/measure_media.h"
#include "rig/observations.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// A file measured for a camera: a shot with its reading, or with the failure in words.
struct MeasuredShot {
    rig::Shot shot;
    media::RecordedSettings recorded;  ///< what the file's metadata says of the settings: an offer
    bool isCancelled = false;
};
/// What was measured, apart from what a person decided.
[[nodiscard]] rig::Observation observationOf(const MeasuredShot& measured,
                                             const std::string& chart);

/// Measures the media of `shot` for the rig's reference (Rig::chart) with its manual corners, skin
/// marks, range and matrix; the reading replaces the old one. Where only corners were moved, the
/// clip is not watched again: faces and what was told of the clip are kept. Failures of the file or
/// of the reference stand in `shot.failure`; nothing else fails.
[[nodiscard]] MeasuredShot measureShot(const rig::Shot& shot,
                                       const std::string& chart,
                                       const base::Progress& progress);

/// Clips and stills in `folder`, by name; hidden files and other kinds are left out.
[[nodiscard]] std::vector<std::filesystem::path> mediaInFolder(const std::filesystem::path& folder);

/// Which file belongs to which camera: by a camera letter in the file's name ("B_0012.mov",
/// "cam-b.mp4", "…_B.mov"), else in the order of names to the cameras that are left. Index into
/// `files` per camera; -1 for none.
[[nodiscard]] std::vector<int> assignFiles(const rig::Rig& rig,
                                           const std::vector<std::filesystem::path>& files);

}  // namespace rigmatch::jobs
