// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/piece_search.h"

#include <algorithm>
#include <cmath>

#include "image/robust.h"
#include "sound/fourier.h"

namespace rigmatch::timing {
namespace {

constexpr double kPieceSeconds = 6.0;  // over which 100 ppm smear by half a millisecond
constexpr double kSlotSeconds = 10.0;  // from each of which one piece is taken
constexpr std::size_t kMostPieces = 12;
constexpr std::size_t kMostSamples = 1U << 22U;  // of the longer track at once: four minutes
constexpr double kOutOfChance = 7.5;             // spreads; chance reaches 6 in an hour
constexpr std::size_t kPeaks = 3;                // of one piece in one part of the longer track
constexpr double kPeakApart = 0.02, kOnePlace = 0.025;  // s
constexpr std::size_t kMostFound = 12;
constexpr std::size_t kSpreadStep = 17;  // samples between those that chance is learned from

struct Peak {
    double pieceStart = 0.0;  ///< s, in the shorter track
    double offset = 0.0;      ///< the longer's time minus the shorter's, s
    double height = 0.0;
};

/// The loudest piece of every slot, as first samples.
std::vector<std::size_t> loudPieces(const WhitenedTrack& track, std::size_t length) {
    const std::size_t size = track.samples.size();
    if (size <= length) return {0};
    std::vector<double> sums(size + 1, 0.0);
    for (std::size_t i = 0; i < size; ++i) {
        const auto sample = static_cast<double>(track.samples[i]);
        sums[i + 1] = sums[i] + sample * sample;
    }
    const auto slots = std::clamp<std::size_t>(
        static_cast<std::size_t>(track.seconds() / kSlotSeconds), 1, kMostPieces);
    const auto step = static_cast<std::size_t>(0.25 * track.sampleRate);
    std::vector<std::size_t> starts;
    for (std::size_t slot = 0; slot < slots; ++slot) {
        const std::size_t from = slot * size / slots;
        const std::size_t to = std::min((slot + 1) * size / slots, size - length);
        std::size_t best = std::min(from, size - length);
        for (std::size_t at = best; at <= to; at += step)
            if (sums[at + length] - sums[at] > sums[best + length] - sums[best]) best = at;
        starts.push_back(best);
    }
    return starts;
}

class PieceSearch {
public:
    PieceSearch(const WhitenedTrack& shorter, const WhitenedTrack& longer)
        : m_shorter(shorter),
          m_longer(longer),
          m_length(std::min(shorter.samples.size(),
                            static_cast<std::size_t>(kPieceSeconds * shorter.sampleRate))),
          m_part(std::min(longer.samples.size(), kMostSamples)),
          m_fourier(sound::fastLength(m_part + m_length)) {}

    std::vector<Peak> run(const base::Progress& progress) {
        const auto starts = loudPieces(m_shorter, m_length);
        std::vector<std::vector<std::complex<float>>> pieces;
        pieces.reserve(starts.size());
        for (const std::size_t start : starts)
            pieces.push_back(spectrumOf(m_shorter, start, m_length));
        std::vector<Peak> peaks;
        const std::size_t stride = std::max<std::size_t>(1, m_part - m_length);
        for (std::size_t from = 0; from < m_longer.samples.size(); from += stride) {
            if (progress.isCancelled()) return {};
            progress.report(
                static_cast<double>(from) / static_cast<double>(m_longer.samples.size()),
                base::say("progress.comparingSound"));
            const auto part = spectrumOf(m_longer, from, m_part);
            for (std::size_t p = 0; p < starts.size(); ++p)
                addPeaks(pieces[p], part, starts[p], from, peaks);
            if (from + m_part >= m_longer.samples.size()) break;
        }
        return peaks;
    }

private:
    std::vector<std::complex<float>> spectrumOf(const WhitenedTrack& track,
                                                std::size_t from,
                                                std::size_t count) {
        auto samples = m_fourier.samples();
        std::fill(samples.begin(), samples.end(), 0.0F);
        const std::size_t last = std::min(track.samples.size(), from + count);
        std::copy(track.samples.begin() + static_cast<std::ptrdiff_t>(from),
                  track.samples.begin() + static_cast<std::ptrdiff_t>(last),
                  samples.begin());
        m_fourier.forth();
        return {m_fourier.spectrum().begin(), m_fourier.spectrum().end()};
    }

    void addPeaks(const std::vector<std::complex<float>>& piece,
                  const std::vector<std::complex<float>>& part,
                  std::size_t pieceStart,
                  std::size_t partStart,
                  std::vector<Peak>& peaks) {
        auto bins = m_fourier.spectrum();
        for (std::size_t k = 0; k < bins.size(); ++k) bins[k] = std::conj(piece[k]) * part[k];
        m_fourier.back();
        const auto lags = m_fourier.samples();
        std::vector<double> some;
        for (std::size_t i = 0; i < m_part; i += kSpreadStep)
            some.push_back(std::abs(static_cast<double>(lags[i])));
        const double spread = 1.4826 * image::median(std::move(some));
        if (spread <= 0.0) return;
        const auto apart = static_cast<std::size_t>(kPeakApart * m_longer.sampleRate);
        for (std::size_t n = 0; n < kPeaks; ++n) {
            std::size_t best = 0;
            for (std::size_t i = 1; i < lags.size(); ++i)
                if (std::abs(lags[i]) > std::abs(lags[best])) best = i;
            const double height = std::abs(static_cast<double>(lags[best])) / spread;
            if (height < kOutOfChance) return;
            // Lags beyond the part are those at which the piece begins before it.
            const double lag = best < m_part
                                   ? static_cast<double>(best)
                                   : static_cast<double>(best) - static_cast<double>(lags.size());
            const double there = m_longer.startSeconds +
                                 (static_cast<double>(partStart) + lag) / m_longer.sampleRate;
            const double here =
                m_shorter.startSeconds + static_cast<double>(pieceStart) / m_shorter.sampleRate;
            peaks.push_back({here, there - here, height});
            const std::size_t low = best > apart ? best - apart : 0;
            const std::size_t high = std::min(lags.size(), best + apart + 1);
            std::fill(lags.begin() + static_cast<std::ptrdiff_t>(low),
                      lags.begin() + static_cast<std::ptrdiff_t>(high),
                      0.0F);
        }
    }

    const WhitenedTrack& m_shorter;
    const WhitenedTrack& m_longer;
    std::size_t m_length;
    std::size_t m_part;
    sound::Fourier m_fourier;
};

}  // namespace

std::vector<CoarsePlace> piecePlaces(const WhitenedTrack& reference,
                                     const WhitenedTrack& other,
                                     const base::Progress& progress) {
    const bool isOtherShorter = other.samples.size() < reference.samples.size();
    const WhitenedTrack& shorter = isOtherShorter ? other : reference;
    const WhitenedTrack& longer = isOtherShorter ? reference : other;
    std::vector<Peak> peaks = PieceSearch(shorter, longer).run(progress);
    std::sort(peaks.begin(), peaks.end(), [](const Peak& a, const Peak& b) {
        return a.height > b.height;
    });
    // Places that several pieces name are surer than any one of them.
    struct Place {
        Peak best;
        double evidence = 0.0;
        std::vector<double> pieces;  ///< that named it: each has one say
    };
    std::vector<Place> places;
    for (const Peak& peak : peaks) {
        const auto known = std::find_if(places.begin(), places.end(), [&](const Place& one) {
            return std::abs(one.best.offset - peak.offset) < kOnePlace;
        });
        if (known == places.end())
            places.push_back({peak, peak.height, {peak.pieceStart}});
        else if (std::find(known->pieces.begin(), known->pieces.end(), peak.pieceStart) ==
                 known->pieces.end()) {
            known->evidence += peak.height;
            known->pieces.push_back(peak.pieceStart);
        }
    }
    std::stable_sort(places.begin(), places.end(), [](const Place& a, const Place& b) {
        return a.evidence > b.evidence;
    });
    if (places.size() > kMostFound) places.resize(kMostFound);
    std::vector<CoarsePlace> found;
    for (const Place& place : places) {
        CoarsePlace one;
        one.offsetSeconds = isOtherShorter ? -place.best.offset : place.best.offset;
        // The piece as it lies in the reference.
        one.startSeconds = place.best.pieceStart - (isOtherShorter ? one.offsetSeconds : 0.0);
        one.lengthSeconds = kPieceSeconds;
        one.height = place.best.height;
        found.push_back(one);
    }
    return found;
}

}  // namespace rigmatch::timing
