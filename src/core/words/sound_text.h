// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "sound/sound_report.h"

namespace rigmatch::words {

/// Sentences about one file's sound, for people: a line per channel, then findings.
enum class SoundWords { All, WithoutFindings };
[[nodiscard]] std::vector<std::string> soundLines(const sound::SoundReport& report,
                                                  SoundWords words = SoundWords::All);

}  // namespace rigmatch::words
