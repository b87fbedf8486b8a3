// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "media/sound_block.h"

namespace rigmatch::sound {

/// Sound of one channel at an even rate, for what is compared between sources.
struct SoundTrack {
    double startSeconds = 0.0;  ///< of the first sample, on the file's presentation clock
    double sampleRate = 16000.0;
    std::vector<float> samples;  ///< 1 = full scale
    std::size_t channel = 0;     ///< of its file; the first of those that were added

    [[nodiscard]] double seconds() const {
        return static_cast<double>(samples.size()) / sampleRate;
    }
};

/// Gathers the blocks of a file into one track per channel at 16 kHz (libswresample), whatever
/// their own rate. Samples stand where the file's time stamps say: what is missing becomes silence,
/// stamps rounded to milliseconds are averaged out. Memory: 230 MB per hour and channel; of a file
/// with more than `kMostChannels`, neighbours are added.
class TrackCollector {
public:
    static constexpr std::size_t kMostChannels = 4;

    TrackCollector();
    TrackCollector(TrackCollector&&) noexcept;
    TrackCollector& operator=(TrackCollector&&) noexcept;
    ~TrackCollector();

    void take(const media::SoundBlock& block);
    /// Ends the gathering. Empty where there was no sound.
    [[nodiscard]] std::vector<SoundTrack> finish();

private:
    class Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace rigmatch::sound
