// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "base/result.h"

namespace rigmatch::media {

/// "Cannot read NAME", with what is wrong and what to do.
[[nodiscard]] tl::unexpected<base::Error> openError(const std::filesystem::path& path,
                                                    base::ErrorCode code,
                                                    base::Text detail,
                                                    base::Text hint);
/// Fails with NotFound, Unreadable (not a file), or Truncated (0 bytes).
[[nodiscard]] base::Result<void> checkFile(const std::filesystem::path& path);
/// What FFmpeg's error number means for a file that does not open.
[[nodiscard]] tl::unexpected<base::Error> demuxError(const std::filesystem::path& path, int number);

}  // namespace rigmatch::media
