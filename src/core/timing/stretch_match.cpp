// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/stretch_match.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "image/robust.h"
#include "sound/fourier.h"

namespace rigmatch::timing {
namespace {

constexpr std::size_t kStretchBlock = 8192;  // 0.5 s
constexpr double kSmoothSeconds = 0.004;
constexpr double kLeastShare = 0.5;  // of a block that must lie in both tracks
/// Whitened sound is not white within its band: neighbouring samples are alike, voices repeat with
/// their pitch. By so much chance alone is larger than of independent samples.
constexpr double kChanceFactor = 1.0;

/// One block of a track: samples from `first` on (0 where there are none).
void place(std::span<float> out,
           const std::vector<float>& samples,
           long long first,
           std::size_t count) {
    std::fill(out.begin(), out.end(), 0.0F);
    const auto size = static_cast<long long>(samples.size());
    for (std::size_t i = 0; i < count; ++i) {
        const long long at = first + static_cast<long long>(i);
        if (at >= 0 && at < size) out[i] = samples[static_cast<std::size_t>(at)];
    }
}

/// Mean power around every sample.
std::vector<double> powerAround(const std::vector<float>& block, std::size_t half) {
    std::vector<double> sums(block.size() + 1, 0.0);
    for (std::size_t i = 0; i < block.size(); ++i)
        sums[i + 1] = sums[i] + static_cast<double>(block[i]) * static_cast<double>(block[i]);
    std::vector<double> power(block.size());
    for (std::size_t i = 0; i < block.size(); ++i) {
        const std::size_t from = i > half ? i - half : 0;
        const std::size_t to = std::min(block.size(), i + half + 1);
        power[i] = (sums[to] - sums[from]) / static_cast<double>(to - from);
    }
    return power;
}

class StretchCorrelation {
public:
    StretchCorrelation(const WhitenedTrack& reference,
                       const WhitenedTrack& other,
                       const Stretch& stretch)
        : m_reference(reference),
          m_other(other),
          m_stretch(stretch),
          m_reach(std::max(8LL, std::llround(stretch.reachSeconds * reference.sampleRate))),
          m_first(sound::fastLength(kStretchBlock + 2 * static_cast<std::size_t>(m_reach))),
          m_second(m_first.length()),
          m_sum(m_first.bins(), 0.0F) {}

    std::optional<StretchMatch> run() {
        const auto blocks = static_cast<std::size_t>(std::max(
            1.0, std::floor(m_stretch.lengthSeconds * m_reference.sampleRate / kStretchBlock)));
        for (std::size_t b = 0; b < blocks; ++b) add(b);
        if (m_blocks == 0 || m_chance <= 0.0) return std::nullopt;
        return peak();
    }

private:
    void add(std::size_t block) {
        const double rate = m_reference.sampleRate;
        const double start =
            m_stretch.startSeconds + static_cast<double>(block * kStretchBlock) / rate;
        const long long from = std::llround((start - m_reference.startSeconds) * rate);
        // The middle of the block decides by how much it is shifted.
        const double into = (static_cast<double>(block) + 0.5) * kStretchBlock / rate;
        const double offset = m_stretch.offsetSeconds + m_stretch.driftShare * into;
        const double exact = static_cast<double>(from) +
                             (m_reference.startSeconds + offset - m_other.startSeconds) * rate;
        const long long to = std::llround(exact);
        const double rest = exact - static_cast<double>(to);
        if (overlap(from, m_reference) < kLeastShare || overlap(to, m_other) < kLeastShare) return;
        place(m_first.samples(), m_reference.samples, from, kStretchBlock);
        place(m_second.samples(),
              m_other.samples,
              to - m_reach,
              kStretchBlock + 2 * static_cast<std::size_t>(m_reach));
        addChance();
        m_first.forth();
        m_second.forth();
        const auto a = m_first.spectrum();
        const auto b = m_second.spectrum();
        // The peak's place counts from the exact expectation: the block is turned by the rest.
        const double turn = 2.0 * std::numbers::pi * rest / static_cast<double>(m_first.length());
        for (std::size_t k = 0; k < a.size(); ++k) {
            const auto phase = std::polar(1.0F, static_cast<float>(turn * static_cast<double>(k)));
            m_sum[k] += std::conj(a[k]) * b[k] * phase;
        }
        m_middle += start + 0.5 * kStretchBlock / rate;
        m_offset += offset;
        ++m_blocks;
    }

    [[nodiscard]] static double overlap(long long from, const WhitenedTrack& track) {
        const auto size = static_cast<long long>(track.samples.size());
        const long long to = std::min(from + static_cast<long long>(kStretchBlock), size);
        return static_cast<double>(to - std::max(from, 0LL)) / kStretchBlock;
    }

    /// What the square of the correlation would be by chance: the powers of both, moment by moment.
    void addChance() {
        const auto half = static_cast<std::size_t>(kSmoothSeconds * m_reference.sampleRate / 2.0);
        const auto a = m_first.samples();
        const auto b = m_second.samples();
        const std::vector<float> mine(a.begin(), a.begin() + kStretchBlock);
        const std::vector<float> theirs(b.begin() + m_reach, b.begin() + m_reach + kStretchBlock);
        const auto mineAround = powerAround(mine, half);
        const auto theirsAround = powerAround(theirs, half);
        for (std::size_t i = 0; i < kStretchBlock; ++i) {
            m_chance += mineAround[i] * theirsAround[i];
            m_mine += static_cast<double>(mine[i]) * static_cast<double>(mine[i]);
            m_theirs += static_cast<double>(theirs[i]) * static_cast<double>(theirs[i]);
        }
    }

    StretchMatch peak() {
        std::copy(m_sum.begin(), m_sum.end(), m_first.spectrum().begin());
        m_first.back();
        const auto lags = m_first.samples().first(2 * static_cast<std::size_t>(m_reach) + 1);
        std::size_t best = 0;
        std::vector<double> sizes(lags.size());
        for (std::size_t i = 0; i < lags.size(); ++i) {
            sizes[i] = std::abs(static_cast<double>(lags[i]));
            if (sizes[i] > sizes[best]) best = i;
        }
        double lag = static_cast<double>(best);
        double top = std::abs(static_cast<double>(lags[best]));
        if (best > 0 && best + 1 < lags.size()) {
            // Vertex of the parabola through the highest three.
            const double before = lags[best - 1], at = lags[best], after = lags[best + 1];
            const double bend = before - 2.0 * at + after;
            if (bend != 0.0) {
                const double into = std::clamp(0.5 * (before - after) / bend, -0.5, 0.5);
                lag += into;
                top += std::abs(0.25 * (before - after) * into);
            }
        }
        const double length = static_cast<double>(m_first.length());
        // Spread of chance: by the powers of both, and as the other lags show it.
        const double byPower = kChanceFactor * std::sqrt(m_chance) * length;
        const double byLags = 1.4826 * image::median(std::move(sizes));
        const double count = m_blocks;
        StretchMatch match;
        match.atSeconds = m_middle / count;
        match.offsetSeconds =
            m_offset / count + (lag - static_cast<double>(m_reach)) / m_reference.sampleRate;
        const double byLagsAtMost = m_stretch.isProved ? byPower : 4.0 * byPower;
        const double scale = std::max(byPower, std::min(byLags, byLagsAtMost));
        match.height = static_cast<double>(lags[best]) / scale;
        const double most = std::sqrt(m_mine * m_theirs) * length;
        match.likeness = most > 0.0 ? std::min(1.0, top / most) : 0.0;
        match.lags.reserve(lags.size());
        for (const float one : lags)
            match.lags.push_back(static_cast<float>(static_cast<double>(one) / scale));
        return match;
    }

    const WhitenedTrack& m_reference;
    const WhitenedTrack& m_other;
    const Stretch& m_stretch;
    long long m_reach;
    sound::Fourier m_first, m_second;
    std::vector<std::complex<float>> m_sum;
    double m_chance = 0.0;
    double m_mine = 0.0, m_theirs = 0.0;  ///< energies
    double m_middle = 0.0;
    double m_offset = 0.0;
    int m_blocks = 0;
};

}  // namespace

std::optional<StretchMatch> matchStretch(const WhitenedTrack& reference,
                                         const WhitenedTrack& other,
                                         const Stretch& stretch) {
    return StretchCorrelation(reference, other, stretch).run();
}

}  // namespace rigmatch::timing
