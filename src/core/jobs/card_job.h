// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace rigmatch::jobs {

/// Writes the card that can be printed, as PDF. `paper`: "a4" or "letter". Fails with OutOfRange
/// for another paper, or WriteFailed.
[[nodiscard]] base::Result<void> writePrintedCard(const std::filesystem::path& file,
                                                  const std::string& paper);

}  // namespace rigmatch::jobs
