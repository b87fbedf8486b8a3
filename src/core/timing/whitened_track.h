// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/progress.h"
#include "sound/sound_track.h"

namespace rigmatch::timing {

/// A track as it is compared with another microphone's: every frequency and every moment counts the
/// same, and only what stands above the track's own steady noise counts much. So microphones with
/// other levels, colours, hum and hiss become alike (the phase transform, sources 13.2, made in
/// short frames with a noise floor per frequency).
struct WhitenedTrack {
    double startSeconds = 0.0;
    double sampleRate = 16000.0;
    std::vector<float> samples;  ///< mean square about 1 where there is sound
    /// Level above the noise floor per frame and band, dB, less its mean over two seconds; band by
    /// band. For the coarse search.
    std::vector<std::vector<float>> bands;
    double framesPerSecond = 31.25;
    std::size_t channel = 0;  ///< of its file

    [[nodiscard]] double seconds() const {
        return static_cast<double>(samples.size()) / sampleRate;
    }
    [[nodiscard]] double endSeconds() const { return startSeconds + seconds(); }
};

/// Costs some seconds per hour of sound. Empty samples where the track is silent throughout, or
/// where the work was cancelled.
[[nodiscard]] WhitenedTrack whitened(const sound::SoundTrack& track,
                                     const base::Progress& progress = {});

}  // namespace rigmatch::timing
