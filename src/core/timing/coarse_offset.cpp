// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/coarse_offset.h"

#include <algorithm>
#include <cmath>

#include "sound/fourier.h"

namespace rigmatch::timing {
namespace {

constexpr std::size_t kPlacesPerPiece = 6;
constexpr std::size_t kLeastFrames = 8;  // of overlap, a quarter of a second
constexpr std::size_t kApart = 4;        // frames between two places that count as two

/// Sums of the squares of all bands up to each frame.
std::vector<double> energySums(const WhitenedTrack& track) {
    const std::size_t frames = track.bands.empty() ? 0 : track.bands.front().size();
    std::vector<double> sums(frames + 1, 0.0);
    for (std::size_t f = 0; f < frames; ++f) {
        double sum = 0.0;
        for (const auto& band : track.bands)
            sum += static_cast<double>(band[f]) * static_cast<double>(band[f]);
        sums[f + 1] = sums[f] + sum;
    }
    return sums;
}

class LevelSearch {
public:
    LevelSearch(const WhitenedTrack& reference, const WhitenedTrack& other, std::size_t piece)
        : m_reference(reference),
          m_other(other),
          m_piece(piece),
          m_frames(other.bands.front().size()),
          m_fourier(sound::fastLength(m_frames + 2 * piece)),
          m_mine(energySums(reference)),
          m_theirs(energySums(other)) {
        // The other's spectra are the same for every piece.
        for (const auto& band : other.bands) {
            auto samples = m_fourier.samples();
            std::fill(samples.begin(), samples.end(), 0.0F);
            std::copy(
                band.begin(), band.end(), samples.begin() + static_cast<std::ptrdiff_t>(piece));
            m_fourier.forth();
            const auto bins = m_fourier.spectrum();
            m_spectra.emplace_back(bins.begin(), bins.end());
        }
    }

    void search(std::size_t from, std::vector<CoarsePlace>& places) {
        const std::size_t count = std::min(m_piece, m_reference.bands.front().size() - from);
        std::vector<std::complex<float>> sum(m_fourier.bins(), 0.0F);
        for (std::size_t b = 0; b < m_reference.bands.size(); ++b) {
            auto samples = m_fourier.samples();
            std::fill(samples.begin(), samples.end(), 0.0F);
            const auto begin = m_reference.bands[b].begin() + static_cast<std::ptrdiff_t>(from);
            std::copy(begin, begin + static_cast<std::ptrdiff_t>(count), samples.begin());
            m_fourier.forth();
            const auto bins = m_fourier.spectrum();
            for (std::size_t k = 0; k < bins.size(); ++k)
                sum[k] += std::conj(bins[k]) * m_spectra[b][k];
        }
        std::copy(sum.begin(), sum.end(), m_fourier.spectrum().begin());
        m_fourier.back();
        pick(from, count, places);
    }

private:
    /// Lag i of the result lays the piece's first frame on frame i - piece of the other track.
    void pick(std::size_t from, std::size_t count, std::vector<CoarsePlace>& places) {
        const auto lags = m_fourier.samples();
        const std::size_t all = m_frames + m_piece;
        std::vector<float> likeness(all, 0.0F);
        for (std::size_t i = 0; i < all; ++i) {
            // The part of the piece that lies on the other track.
            const std::size_t skipped = i < m_piece ? m_piece - i : 0;
            if (skipped >= count) continue;
            const std::size_t first = i + skipped - m_piece;
            const std::size_t length =
                std::min(count - skipped, m_frames - std::min(m_frames, first));
            if (length < kLeastFrames) continue;
            const double mine = m_mine[from + skipped + length] - m_mine[from + skipped];
            const double theirs = m_theirs[first + length] - m_theirs[first];
            const double whole = m_mine[from + count] - m_mine[from];
            // Small overlaps are alike by chance: what is left out of the piece counts against.
            const double scale = std::sqrt(std::max(mine, 0.05 * whole) * theirs);
            if (scale > 0.0)
                likeness[i] = static_cast<float>(static_cast<double>(lags[i]) /
                                                 static_cast<double>(m_fourier.length()) / scale);
        }
        for (std::size_t p = 0; p < kPlacesPerPiece; ++p) {
            const auto best = static_cast<std::size_t>(
                std::max_element(likeness.begin(), likeness.end()) - likeness.begin());
            if (likeness[best] <= 0.0F) break;
            const double rate = m_reference.framesPerSecond;
            const double start = m_reference.startSeconds + static_cast<double>(from) / rate;
            const double there = m_other.startSeconds +
                                 (static_cast<double>(best) - static_cast<double>(m_piece)) / rate;
            places.push_back({start,
                              static_cast<double>(count) / rate,
                              there - start,
                              static_cast<double>(likeness[best])});
            const std::size_t low = best > kApart ? best - kApart : 0;
            for (std::size_t i = low; i < std::min(all, best + kApart + 1); ++i) likeness[i] = 0.0F;
        }
    }

    const WhitenedTrack& m_reference;
    const WhitenedTrack& m_other;
    std::size_t m_piece;
    std::size_t m_frames;
    sound::Fourier m_fourier;
    std::vector<double> m_mine, m_theirs;
    std::vector<std::vector<std::complex<float>>> m_spectra;
};

}  // namespace

std::vector<CoarsePlace> coarsePlaces(const WhitenedTrack& reference,
                                      const WhitenedTrack& other,
                                      double pieceSeconds,
                                      const base::Progress& progress) {
    std::vector<CoarsePlace> places;
    if (reference.bands.empty() || other.bands.empty()) return places;
    const std::size_t frames = reference.bands.front().size();
    const auto wanted = static_cast<std::size_t>(pieceSeconds * reference.framesPerSecond);
    const std::size_t pieces =
        std::max<std::size_t>(1, (frames + wanted / 2) / std::max<std::size_t>(wanted, 1));
    const std::size_t piece = (frames + pieces - 1) / pieces;
    LevelSearch search(reference, other, piece);
    for (std::size_t from = 0; from < frames; from += piece) {
        if (progress.isCancelled()) return {};
        progress.report(static_cast<double>(from) / static_cast<double>(frames),
                        base::say("progress.comparingLevels"));
        search.search(from, places);
    }
    std::sort(places.begin(), places.end(), [](const CoarsePlace& a, const CoarsePlace& b) {
        return a.likeness > b.likeness;
    });
    return places;
}

}  // namespace rigmatch::timing
