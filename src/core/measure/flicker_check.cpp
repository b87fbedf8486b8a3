// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/flicker_check.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

#include "image/robust.h"
#include "optics/shutter.h"
#include "sound/fourier.h"

namespace rigmatch::measure {
namespace {

using base::Number;
using base::say;

constexpr std::size_t kBands = 24;
constexpr int kColumns = 96;     // samples along a row
constexpr int kRowsPerBand = 2;  // rows sampled in a band
constexpr double kLeastSeconds = 2.0;
constexpr double kLeastBeatHz = 0.8;  // slower ones are not told from movement
constexpr double kVisiblePercent = 1.0;
constexpr double kAboveOthers = 5.0;

template <class Sample>
double meanOfRow(const image::Plane& plane, int y) {
    const auto* row = reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
    const int step = std::max(1, plane.width / kColumns);
    double sum = 0.0;
    int count = 0;
    for (int x = step / 2; x < plane.width; x += step, ++count) sum += double(row[x]);
    return sum / std::max(1, count);
}

/// Code of black, so that a swing is a share of the signal.
double blackCode(const image::CodedFrame& frame) {
    const bool isLimited =
        frame.tags.range == image::Range::Limited && frame.samples != image::SampleKind::Float32;
    return isLimited ? 16.0 * std::exp2(frame.bitDepth - 8) : 0.0;
}

double meanOfRow(const image::CodedFrame& frame, int y) {
    // Luma, or green where there is none.
    const bool isRgb = frame.tags.matrix == image::Matrix::None && frame.planeCount == 3;
    const image::Plane& plane = frame.planes[isRgb ? 1 : 0];
    switch (frame.samples) {
        case image::SampleKind::Unsigned8:
            return meanOfRow<std::uint8_t>(plane, y);
        case image::SampleKind::Unsigned16:
            return meanOfRow<std::uint16_t>(plane, y);
        case image::SampleKind::Float32:
            break;
    }
    return meanOfRow<float>(plane, y);
}

/// One band's relative swing at a frequency, by a Hann-weighted Fourier sum.
std::complex<double> swingAt(const std::vector<double>& values, double hertz, double frameRate) {
    const auto count = static_cast<double>(values.size());
    // Both turn evenly from frame to frame: one multiplication instead of a sine each.
    const std::complex<double> turn = std::polar(1.0, -2.0 * std::numbers::pi * hertz / frameRate);
    const std::complex<double> hann = std::polar(1.0, 2.0 * std::numbers::pi / count);
    std::complex<double> phase = 1.0;
    std::complex<double> window = std::polar(1.0, std::numbers::pi / count);
    std::complex<double> sum = 0.0;
    double weights = 0.0;
    for (const double value : values) {
        const double weight = 0.5 - 0.5 * window.real();
        sum += weight * value * phase;
        weights += weight;
        phase *= turn;
        window *= hann;
    }
    return 2.0 * sum / weights;
}

/// Turns of the ripple from the top of the picture to its foot: the phase's slope over the bands
/// (sources 5.8: the period in rows is rows over ripple times readout).
double turnsOver(const std::vector<std::complex<double>>& bands) {
    std::complex<double> steps = 0.0;
    for (std::size_t band = 0; band + 1 < bands.size(); ++band)
        steps += bands[band + 1] * std::conj(bands[band]);
    return std::abs(std::arg(steps)) / (2.0 * std::numbers::pi) * static_cast<double>(bands.size());
}

/// One band over time: divided by its own slow course, so that only the swing is left.
std::vector<double> swingOf(const std::vector<std::vector<double>>& bands,
                            std::size_t band,
                            double frameRate) {
    const auto reach = static_cast<long>(std::max(3.0, 0.6 * frameRate));
    std::vector<double> swing;
    const auto count = static_cast<long>(bands.size());
    for (long i = 0; i < count; ++i) {
        double sum = 0.0;
        const long from = std::max(0L, i - reach);
        const long to = std::min(count - 1, i + reach);
        for (long k = from; k <= to; ++k) sum += bands[static_cast<std::size_t>(k)][band];
        const double slow = sum / static_cast<double>(to - from + 1);
        swing.push_back(bands[static_cast<std::size_t>(i)][band] / std::max(slow, 1e-9) - 1.0);
    }
    return swing;
}

base::Text bandWords(const Flicker& flicker) {
    constexpr double kAsOne = 0.3;
    if (flicker.bandsPerPicture < kAsOne) return say("flicker.asOne");
    const Number bands{flicker.bandsPerPicture, 1};
    if (flicker.readoutSeconds <= 0.0) return say("flicker.bands", {{"bands", bands}});
    return say("flicker.bandsOfReadout",
               {{"bands", bands}, {"readoutMs", Number{1000.0 * flicker.readoutSeconds}}});
}

}  // namespace

FlickerCheck::FlickerCheck(double frameRate) : m_frameRate(frameRate > 0.0 ? frameRate : 25.0) {}

void FlickerCheck::take(const image::CodedFrame& frame) {
    const int height = frame.planes[0].height;
    if (height < static_cast<int>(kBands) * kRowsPerBand) return;
    std::vector<double> bands(kBands);
    for (std::size_t band = 0; band < kBands; ++band) {
        for (int row = 0; row < kRowsPerBand; ++row) {
            const double place = (static_cast<double>(band) + (row + 0.5) / kRowsPerBand) / kBands;
            bands[band] += meanOfRow(frame, static_cast<int>(place * height)) / kRowsPerBand;
        }
        bands[band] -= blackCode(frame);
    }
    m_bands.push_back(std::move(bands));
}

namespace {

using Swings = std::vector<std::vector<double>>;

double strengthAt(const Swings& swings, double hertz, double frameRate) {
    std::vector<double> all;
    for (const auto& swing : swings) all.push_back(std::abs(swingAt(swing, hertz, frameRate)));
    return image::median(all);
}

/// The same at every half of one over the length, from the slowest beat up to half the frame rate.
struct Strengths {
    double stepHertz = 0.0;
    std::size_t first = 0;  ///< steps
    std::vector<double> values;

    [[nodiscard]] double hertzOf(std::size_t i) const {
        return stepHertz * static_cast<double>(first + i);
    }
};

Strengths strengthsOf(const Swings& swings, double frameRate) {
    const std::size_t count = swings.front().size();
    sound::Fourier fourier(2 * count);
    const double turn = 2.0 * std::numbers::pi / static_cast<double>(count);
    std::vector<float> window(count);
    for (std::size_t i = 0; i < count; ++i)
        window[i] = static_cast<float>(0.5 - 0.5 * std::cos(turn * (static_cast<double>(i) + 0.5)));
    const double scale = 2.0 / (0.5 * static_cast<double>(count));  // the window adds up to half
    Strengths all;
    all.stepHertz = 0.5 * frameRate / static_cast<double>(count);
    all.first = static_cast<std::size_t>(std::ceil(kLeastBeatHz / all.stepHertz));
    std::vector<std::vector<double>> sizes(fourier.bins());
    for (const auto& swing : swings) {
        const auto samples = fourier.samples();
        std::fill(samples.begin(), samples.end(), 0.0F);
        for (std::size_t i = 0; i < count; ++i)
            samples[i] = window[i] * static_cast<float>(swing[i]);
        fourier.forth();
        const auto spectrum = fourier.spectrum();
        for (std::size_t k = all.first; k < fourier.bins(); ++k)
            sizes[k].push_back(scale * static_cast<double>(std::abs(spectrum[k])));
    }
    for (std::size_t k = all.first; k < fourier.bins(); ++k)
        all.values.push_back(image::median(sizes[k]));
    return all;
}

/// Swing and bands at one frequency, where it is strong enough against `usual`.
std::optional<Flicker> flickerAt(
    const Swings& swings, double hertz, double frameRate, double mains, double usual) {
    const double here = strengthAt(swings, hertz, frameRate);
    const double percent = 200.0 * here;
    if (percent < kVisiblePercent || here < kAboveOthers * usual) return std::nullopt;
    std::vector<std::complex<double>> bands;
    for (const auto& swing : swings) bands.push_back(swingAt(swing, hertz, frameRate));
    const double turns = turnsOver(bands);
    return Flicker{mains, hertz, percent, turns, mains > 0.0 ? turns / (2.0 * mains) : 0.0};
}

/// True where the weaker quarter of the bands swings at least half as much as the middle one.
bool isEverywhere(const Swings& swings, double hertz, double frameRate) {
    constexpr double kLeastShare = 0.5;
    std::vector<double> all;
    for (const auto& swing : swings) all.push_back(std::abs(swingAt(swing, hertz, frameRate)));
    std::sort(all.begin(), all.end());
    return all[all.size() / 4] >= kLeastShare * all[all.size() / 2];
}

/// The strongest swing that is none of the mains' beats.
std::optional<Flicker> otherFlicker(const Swings& swings,
                                    const Strengths& strengths,
                                    double frameRate) {
    const double seconds = static_cast<double>(swings.front().size()) / frameRate;
    const std::vector<double>& all = strengths.values;
    if (all.empty()) return std::nullopt;
    const auto most = std::max_element(all.begin(), all.end()) - all.begin();
    const double at = strengths.hertzOf(static_cast<std::size_t>(most));
    if (!isEverywhere(swings, at, frameRate)) return std::nullopt;
    // A lamp is one line in the spectrum; a moving camera raises all slow frequencies together.
    constexpr double kLineWidth = 3.0;  // of one over the length, with the Hann window
    constexpr double kAround = 14.0;
    std::vector<double> around;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double away = std::abs(strengths.hertzOf(i) - at) * seconds;
        if (away > kLineWidth && away < kAround) around.push_back(all[i]);
    }
    if (around.empty()) return std::nullopt;
    return flickerAt(
        swings, at, frameRate, 0.0, std::max(image::median(all), image::median(around)));
}

}  // namespace

std::optional<Flicker> FlickerCheck::flicker() const {
    if (static_cast<double>(m_bands.size()) < kLeastSeconds * m_frameRate) return std::nullopt;
    Swings swings;
    for (std::size_t band = 0; band < kBands; ++band)
        swings.push_back(swingOf(m_bands, band, m_frameRate));
    const Strengths strengths = strengthsOf(swings, m_frameRate);
    std::optional<Flicker> found;
    for (const double mains : {50.0, 60.0}) {
        const double beat = optics::beatHz(m_frameRate, mains);
        if (beat < kLeastBeatHz || beat > 0.5 * m_frameRate + 1e-6) continue;
        std::vector<double> others;
        for (std::size_t i = 0; i < strengths.values.size(); ++i) {
            if (std::abs(strengths.hertzOf(i) - beat) > 0.8) others.push_back(strengths.values[i]);
        }
        const auto here = flickerAt(swings, beat, m_frameRate, mains, image::median(others));
        if (here && (!found || here->peakToPeakPercent > found->peakToPeakPercent)) found = here;
    }
    return found ? found : otherFlicker(swings, strengths, m_frameRate);
}

std::optional<base::Warning> FlickerCheck::warning() const {
    const auto found = flicker();
    if (!found) return std::nullopt;
    const Number beat{found->beatHz, 1}, percent{found->peakToPeakPercent, 1};
    if (found->mainsHz <= 0.0) {
        return base::Warning{
            "Flicker",
            say("flicker.ofItself",
                {{"beat", beat}, {"percent", percent}, {"bands", bandWords(*found)}}),
            say("flicker.ofItselfHint")};
    }
    const optics::SafeShutter safe = optics::recommendedShutter(m_frameRate, found->mainsHz);
    return base::Warning{
        "Flicker",
        say("flicker.ofMains",
            {{"beat", beat},
             {"percent", percent},
             {"mains", Number{found->mainsHz}},
             {"rate", Number{m_frameRate, 2}},
             {"bands", bandWords(*found)}}),
        say("flicker.ofMainsHint", {{"perSecond", Number{1.0 / safe.time.value()}}})};
}

void TimingCheck::take(double seconds) {
    if (m_last) m_steps.push_back(seconds - *m_last);
    m_last = seconds;
}

std::optional<base::Warning> TimingCheck::warning() const {
    if (m_steps.size() < 20) return std::nullopt;
    const double usual = image::median(m_steps);
    const auto odd = std::count_if(m_steps.begin(), m_steps.end(), [&](double step) {
        return std::abs(step - usual) > usual / 3.0;
    });
    if (usual <= 0.0 || odd * 100 < static_cast<long>(m_steps.size())) return std::nullopt;
    const auto [shortest, longest] = std::minmax_element(m_steps.begin(), m_steps.end());
    return base::Warning{"VariableFrameRate",
                         say("variableFrameRate.seen",
                             {{"shortestMs", Number{1000.0 * *shortest, 1}},
                              {"longestMs", Number{1000.0 * *longest, 1}}}),
                         say("variableFrameRate.hint")};
}

}  // namespace rigmatch::measure
