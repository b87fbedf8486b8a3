// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/warning.h"

namespace rigmatch::sound {

/// A stretch without sound where there should be some.
struct SoundGap {
    double startSeconds = 0.0;
    double lengthSeconds = 0.0;
    std::string unknownFields{};  ///< of a later program's file; kept as they are

    bool operator==(const SoundGap&) const = default;
};

/// What one channel of a recording holds. Levels are dBFS as RMS (a full-scale sine reads −3.01)
/// unless said otherwise. Nothing: the recording does not tell.
struct ChannelReport {
    std::optional<double> speechDbfs;    ///< active speech level (sources 13.6)
    double peakDbfs = -120.0;            ///< highest sample
    double truePeakDbtp = -120.0;        ///< between samples, ITU-R BS.1770 annex 2
    std::optional<double> loudnessLufs;  ///< of this channel alone, ITU-R BS.1770
    std::optional<double> noiseDbfs;     ///< in the quietest moments
    std::optional<double> humDbfs;       ///< of mains hum and its harmonics, where it stands out
    double humHz = 0.0;                  ///< 50 or 60, with humDbfs
    int clippedRuns = 0;                 ///< of three samples and more at full scale
    std::vector<SoundGap> gaps;
    double offsetPercent = 0.0;          ///< mean of all samples (direct current), of full scale
    std::optional<double> bandwidthHz;   ///< up to where the sound reaches
    std::optional<double> decaySeconds;  ///< in which the room's sound falls by 60 dB, estimated
    std::optional<double> levelRisePerSecond;  ///< dB, of the noise in pauses: an automatic gain
    std::optional<double> rumbleDbfs;          ///< below 80 Hz, where it stands out: wind, handling
    std::string code;    ///< "good", "dead", "clipped", "hot", "quiet", "noisy", "room", "noSpeech"
    base::Text verdict;  ///< a sentence, with what to do
    std::string unknownFields{};  ///< of a later program's file; kept as they are

    bool operator==(const ChannelReport&) const = default;
};

/// The sound of one file.
struct SoundReport {
    double sampleRate = 0.0;
    double durationSeconds = 0.0;
    std::vector<ChannelReport> channels;
    std::optional<double> loudnessLufs;     ///< of the programme, all channels
    std::optional<double> loudnessRangeLu;  ///< EBU Tech 3342
    std::optional<double> truePeakDbtp;     ///< the highest of all channels
    std::vector<double> envelopeDbfs;   ///< highest level of even parts of the file, to be drawn
    std::optional<double> clapSeconds;  ///< a clap, slate or knock that stands out of all else
    std::vector<base::Warning> findings;

    bool operator==(const SoundReport&) const = default;
};

inline constexpr std::size_t kEnvelopeParts = 400;

}  // namespace rigmatch::sound
