// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace rigmatch::chart {

/// The text of a small file, without a byte-order mark. Fails with NotFound, Unreadable, or
/// TooLarge over 1 MB.
[[nodiscard]] base::Result<std::string> readChartText(const std::filesystem::path& file);

}  // namespace rigmatch::chart
