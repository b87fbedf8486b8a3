// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "base/result.h"

namespace rigmatch::sound {

/// Writes channels of one length as a RIFF/WAVE file of 16 bit; what is beyond full scale is cut
/// off. Fails with WriteFailed.
[[nodiscard]] base::Result<void> writeWave(const std::filesystem::path& file,
                                           const std::vector<std::vector<float>>& channels,
                                           int sampleRate);

}  // namespace rigmatch::sound
