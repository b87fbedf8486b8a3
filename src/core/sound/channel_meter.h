// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "sound/fourier.h"
#include "sound/resampler.h"
#include "sound/sound_report.h"

namespace rigmatch::sound {

/// Digital silence has no level: it is told as this one, dB of full scale.
inline constexpr double kSilenceDb = -120.0;
/// Seconds that time stamps may differ from the count of samples.
inline constexpr double kMostWander = 0.03;

/// Everything about one channel but loudness and true peak. Blocks come in order.
class ChannelMeter {
public:
    explicit ChannelMeter(double sampleRate);

    /// `seconds`: of the first sample, by count of samples.
    void take(std::span<const float> samples, double seconds);
    void finish(ChannelReport& report);
    /// Level of every 10 ms, mean square; complete after finish().
    [[nodiscard]] std::span<const float> powers() const { return m_powers; }

private:
    void takeSample(double value);
    void takeFrame();
    void takeQuietRun(double value, double seconds);
    void takeSpectrum(float value);
    void measureSpeech(ChannelReport& report) const;
    void measureNoise(ChannelReport& report);
    void keepGaps(ChannelReport& report);
    void measureHum(ChannelReport& report) const;
    void measureBandwidth(ChannelReport& report) const;
    void measurePauses(ChannelReport& report) const;
    [[nodiscard]] std::vector<double> levels(std::size_t frames) const;
    [[nodiscard]] std::optional<std::size_t> quietestStart(std::size_t frames) const;

    double m_rate;
    std::size_t m_frameLength;  ///< samples of 10 ms
    double m_sum = 0.0;
    double m_peak = 0.0;
    long long m_samples = 0;
    double m_framePower = 0.0;
    std::size_t m_inFrame = 0;
    std::vector<float> m_powers;  ///< mean square of every 10 ms
    int m_fullScale = 0;          ///< samples at full scale in a row
    int m_clippedRuns = 0;
    // Runs of silence to the last bit, and what stood before them.
    std::vector<SoundGap> m_gaps;
    std::vector<double> m_gapBeside;  ///< lower mean square of both sides of each
    double m_before = 0.0;            ///< level just before the run, mean square
    double m_recent = 0.0;            ///< of the last milliseconds
    double m_runStart = 0.0;
    long long m_runLength = 0;
    long long m_sinceRun = -1;  ///< samples since a long run ended; -1: none waits
    double m_after = 0.0;
    double m_beforeWaiting = 0.0;
    // Largest squares of the samples right at the ends of a run.
    double m_edgeBefore = 0.0, m_edgeWaiting = 0.0, m_edgeAfter = 0.0;
    SoundGap m_waiting;
    // Low frequencies, for hum and rumble.
    Resampler m_toLow;
    std::vector<float> m_low;
    // Mean spectrum.
    Fourier m_fourier;
    std::vector<float> m_window;
    std::vector<float> m_block;
    std::vector<double> m_spectrum;
    long long m_spectra = 0;
};

}  // namespace rigmatch::sound
