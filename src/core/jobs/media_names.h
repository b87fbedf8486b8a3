// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace rigmatch::jobs {

/// A recording of sound alone, by its suffix.
[[nodiscard]] bool isSoundFile(const std::filesystem::path& file);
/// True where `letter` stands alone in the file's stem, between separators, digits or the ends, or
/// after "cam".
[[nodiscard]] bool namesLetter(const std::filesystem::path& file, char letter);

/// "clip9" before "clip10": runs of digits count by their value, letters alike in both cases.
[[nodiscard]] bool isNameBefore(const std::string& a, const std::string& b);

/// Clips, stills and recordings of sound in `folder`, by name; hidden files and other kinds are
/// left out.
[[nodiscard]] std::vector<std::filesystem::path> mediaInFolder(const std::filesystem::path& folder);

}  // namespace rigmatch::jobs
