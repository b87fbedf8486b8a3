// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "base/result.h"

namespace rigmatch::base {

/// Puts `bytes` at `path` whole or not at all: written beside it, flushed to the disk, then renamed
/// over it. Whatever stood there before survives any failure and a kill at any moment. Fails with
/// WriteFailed (folder not there or not writable, disk full), leaving no temporary file.
[[nodiscard]] Result<void> writeAtomically(const std::filesystem::path& path,
                                           std::string_view bytes);

/// Puts `bytes` behind what is in the file and flushes them to the disk. Fails with WriteFailed (no
/// such file, not writable, disk full); the file is then as it was.
[[nodiscard]] Result<void> appendDurably(const std::filesystem::path& path, std::string_view bytes);

/// The whole file. Fails with NotFound, Unreadable, or TooLarge above `limitBytes`.
[[nodiscard]] Result<std::string> readWhole(const std::filesystem::path& path,
                                            std::size_t limitBytes = 256U << 20U);

}  // namespace rigmatch::base
