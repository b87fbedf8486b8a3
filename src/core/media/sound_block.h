// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

namespace rigmatch::media {

/// A stretch of a file's sound: samples of each channel, 1 = full scale.
struct SoundBlock {
    double seconds = 0.0;  ///< of its first sample, on the clock of the frames
    double sampleRate = 48000.0;
    std::vector<std::vector<float>> channels;
};

}  // namespace rigmatch::media
