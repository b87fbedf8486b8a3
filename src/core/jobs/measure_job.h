// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
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

/// What is looked for in a file.
struct LookFor {
    // NOLINTNEXTLINE(google-explicit-constructor): a chart is what is mostly looked for.
    LookFor(std::string chartId) : chart(std::move(chartId)) {}
    std::string chart;           ///< id or path, as Rig::chart; empty: no chart
    bool isSoundEnough = false;  ///< files without pictures are no failure
};
/// By what the take is for, and by the source: a camera without a picture has failed.
[[nodiscard]] LookFor lookFor(const rig::Rig& rig,
                              const rig::Take& take,
                              const std::string& sourceId);

/// Measures the media of `shot` for the rig's reference (Rig::chart) with its manual corners, skin
/// marks, range and matrix; the reading replaces the old one. Where only corners were moved, the
/// clip is not watched again: faces and what was told of the clip are kept. Failures of the file or
/// of the reference stand in `shot.failure`; nothing else fails.
[[nodiscard]] MeasuredShot measureShot(const rig::Shot& shot,
                                       const LookFor& lookFor,
                                       const base::Progress& progress);

/// Clips, stills and recordings of sound in `folder`, by name; hidden files and other kinds are
/// left out.
[[nodiscard]] std::vector<std::filesystem::path> mediaInFolder(const std::filesystem::path& folder);

/// Files by the id of the camera or source that they belong to.
using Assigned = std::map<std::string, std::vector<std::filesystem::path>>;

/// Which file belongs to which camera: by a camera letter in the file's name ("B_0012.mov",
/// "cam-b.mp4", "…_B.mov"), else in the order of names to the cameras that are left. Recordings of
/// sound alone, by their suffix, go to the sound recorders in their order.
[[nodiscard]] Assigned assignFiles(const rig::Rig& rig,
                                   const std::vector<std::filesystem::path>& files);

}  // namespace rigmatch::jobs
