// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "rig/rig.h"

namespace rigmatch::jobs {

/// A recording of sound alone, by its suffix.
[[nodiscard]] bool isSoundFile(const std::filesystem::path& file);
/// True where `letter` stands alone in the file's stem, between separators, digits or the ends, or
/// after "cam".
[[nodiscard]] bool namesLetter(const std::filesystem::path& file, char letter);

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
