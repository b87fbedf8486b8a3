// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/whitened_track.h"

#include <algorithm>
#include <cmath>

#include "sound/fourier.h"

namespace rigmatch::timing {
namespace {

using sound::Fourier;

constexpr std::size_t kFrame = 1024;  // 64 ms
constexpr std::size_t kHop = kFrame / 2;
constexpr double kLowestHz = 120.0, kHighestHz = 6500.0;
constexpr int kSmooth = 6;             // bins to each side that a level is averaged over
constexpr double kFloorShare = 0.2;    // of the frames that lie below the noise floor
constexpr double kFloorFactor = 2.0;   // what must stand above that to be sound
constexpr float kLeastWeight = 0.05F;  // of what does not
constexpr float kMostRatio = 1000.0F;  // 30 dB
constexpr std::size_t kBands = 12;
constexpr std::size_t kFloorFrames = 1500;  // that the floor is learned from
constexpr float kSilence = 1e-16F;          // power of a bin: below 24 bit
constexpr double kMeanSeconds = 2.0;

class Whitening {
public:
    explicit Whitening(const sound::SoundTrack& track)
        : m_track(track),
          m_fourier(kFrame),
          m_window(sound::hannWindow(kFrame)),
          m_low(binOf(kLowestHz)),
          m_high(std::min(binOf(kHighestHz), m_fourier.bins() - 1)) {
        for (float& weight : m_window) weight = std::sqrt(weight);
        m_levels.resize(m_fourier.bins());
        const double octaves =
            std::log(static_cast<double>(m_high + 1) / static_cast<double>(m_low));
        m_band.assign(m_fourier.bins(), 0);
        for (std::size_t k = m_low; k <= m_high; ++k) {
            const double up =
                std::log(static_cast<double>(k) / static_cast<double>(m_low)) / octaves;
            m_band[k] =
                std::min(kBands - 1, static_cast<std::size_t>(static_cast<double>(kBands) * up));
        }
        m_sums.resize(m_fourier.bins() + 1);
    }

    WhitenedTrack run(const base::Progress& progress) {
        WhitenedTrack made;
        made.startSeconds = m_track.startSeconds;
        made.sampleRate = m_track.sampleRate;
        made.framesPerSecond = m_track.sampleRate / static_cast<double>(kHop);
        const std::size_t frames = m_track.samples.size() / kHop + 1;
        learnFloor(frames);
        if (!m_hasSound) return made;
        made.samples.assign(m_track.samples.size(), 0.0F);
        made.bands.assign(kBands, std::vector<float>(frames, 0.0F));
        for (std::size_t f = 0; f < frames; ++f) {
            if (f % 4096 == 0 && progress.isCancelled()) return {};
            analyse(f);
            whiten(f, made);
        }
        for (auto& band : made.bands) centre(band, made.framesPerSecond);
        return made;
    }

private:
    [[nodiscard]] std::size_t binOf(double hertz) const {
        return static_cast<std::size_t>(
            std::lround(hertz * static_cast<double>(kFrame) / m_track.sampleRate));
    }

    /// Spectrum of a frame, which starts half a frame before its time, and its smoothed level.
    void analyse(std::size_t frame) {
        const auto& all = m_track.samples;
        auto samples = m_fourier.samples();
        for (std::size_t i = 0; i < kFrame; ++i) {
            const std::size_t at = frame * kHop + i;
            samples[i] = at >= kHop && at - kHop < all.size() ? all[at - kHop] * m_window[i] : 0.0F;
        }
        m_fourier.forth();
        const auto bins = m_fourier.spectrum();
        m_sums[0] = 0.0;
        for (std::size_t k = 0; k < bins.size(); ++k)
            m_sums[k + 1] = m_sums[k] + static_cast<double>(std::norm(bins[k]));
        for (std::size_t k = 0; k < bins.size(); ++k) {
            const std::size_t from = k > kSmooth ? k - kSmooth : 0;
            const std::size_t to = std::min(bins.size(), k + kSmooth + 1);
            m_levels[k] =
                static_cast<float>((m_sums[to] - m_sums[from]) / static_cast<double>(to - from));
        }
    }

    /// The level that a fifth of the frames do not reach, for every frequency.
    void learnFloor(std::size_t frames) {
        const std::size_t step = std::max<std::size_t>(1, frames / kFloorFrames);
        std::vector<std::vector<float>> seen(m_high + 1);
        for (std::size_t f = 0; f < frames; f += step) {
            analyse(f);
            for (std::size_t k = m_low; k <= m_high; ++k) {
                if (m_levels[k] > kSilence) seen[k].push_back(m_levels[k]);
            }
        }
        m_floor.assign(m_high + 1, 0.0F);
        for (std::size_t k = m_low; k <= m_high; ++k) {
            if (seen[k].empty()) continue;
            m_hasSound = true;
            const auto at =
                static_cast<std::ptrdiff_t>(kFloorShare * static_cast<double>(seen[k].size() - 1));
            std::nth_element(seen[k].begin(), seen[k].begin() + at, seen[k].end());
            m_floor[k] = seen[k][static_cast<std::size_t>(at)];
        }
    }

    /// The frame with every bin at one level, weighed by how far it stands above the floor, laid
    /// over its neighbours; and the levels of its bands.
    void whiten(std::size_t frame, WhitenedTrack& made) {
        auto bins = m_fourier.spectrum();
        std::array<float, kBands> sums{};
        std::array<float, kBands> products;
        products.fill(1.0F);
        std::array<int, kBands> counts{};
        for (std::size_t k = 0; k < bins.size(); ++k) {
            if (k < m_low || k > m_high || m_levels[k] <= kSilence) {
                bins[k] = 0.0F;
                continue;
            }
            const double above = m_levels[k] / (kFloorFactor * m_floor[k] + kSilence);
            const auto weight = std::max(kLeastWeight, static_cast<float>(1.0 - 1.0 / above));
            bins[k] *= weight / std::sqrt(m_levels[k]);
            const std::size_t band = m_band[k];
            // A product of a few ratios has the logarithm of their sum, for one logarithm's price.
            products[band] *= std::clamp(static_cast<float>(above), 1.0F, kMostRatio);
            if (products[band] > 1e30F) {
                sums[band] += std::log10(products[band]);
                products[band] = 1.0F;
            }
            ++counts[band];
        }
        for (std::size_t b = 0; b < kBands; ++b)
            made.bands[b][frame] = counts[b] > 0 ? 10.0F * (sums[b] + std::log10(products[b])) /
                                                       static_cast<float>(counts[b])
                                                 : 0.0F;
        m_fourier.back();
        const auto samples = m_fourier.samples();
        // A bin of one gives samples of mean square 2 / N before the inverse is scaled.
        const auto scale = static_cast<float>(1.0 / std::sqrt(2.0 * static_cast<double>(kFrame)));
        for (std::size_t i = 0; i < kFrame; ++i) {
            const std::size_t at = frame * kHop + i;
            if (at >= kHop && at - kHop < made.samples.size())
                made.samples[at - kHop] += samples[i] * m_window[i] * scale;
        }
    }

    /// Less the mean over the seconds around.
    static void centre(std::vector<float>& band, double rate) {
        const auto half = static_cast<std::size_t>(kMeanSeconds * rate / 2.0);
        std::vector<double> sums(band.size() + 1, 0.0);
        for (std::size_t i = 0; i < band.size(); ++i)
            sums[i + 1] = sums[i] + static_cast<double>(band[i]);
        for (std::size_t i = 0; i < band.size(); ++i) {
            const std::size_t from = i > half ? i - half : 0;
            const std::size_t to = std::min(band.size(), i + half + 1);
            band[i] -= static_cast<float>((sums[to] - sums[from]) / static_cast<double>(to - from));
        }
    }

    const sound::SoundTrack& m_track;
    Fourier m_fourier;
    std::vector<float> m_window;
    std::size_t m_low, m_high;
    std::vector<float> m_levels;
    std::vector<std::size_t> m_band;  ///< of each bin
    std::vector<double> m_sums;
    std::vector<float> m_floor;
    bool m_hasSound = false;
};

}  // namespace

WhitenedTrack whitened(const sound::SoundTrack& track, const base::Progress& progress) {
    return Whitening(track).run(progress);
}

}  // namespace rigmatch::timing
