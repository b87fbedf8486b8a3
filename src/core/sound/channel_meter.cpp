// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/channel_meter.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <span>

#include "image/robust.h"

namespace rigmatch::sound {
namespace {

constexpr double kFrameSeconds = 0.01;
constexpr int kEdge = 3;            // samples at the end of a run
constexpr double kStep = 0.015;     // of the power beside it: a step, not a fade
constexpr double kEdgeFade = 0.35;  // a sample, so that three of them count
constexpr double kLowRate = 2000.0;
constexpr std::size_t kSpectrum = 4096;
constexpr float kFullScale = 0.9999F;  // of any codec's integers
constexpr int kClippedRun = 3;         // common practice: from three in a row it is heard
constexpr double kZero = 3.1e-5;       // one step of 16 bit
constexpr double kShortestGap = 0.005;
constexpr double kBeside = 0.003;       // s of sound before and after a gap
constexpr double kBesidePower = 3e-8;   // -75 dBFS: what must stand there
constexpr double kSilentFloor = -85.0;  // dBFS: no room is that quiet
constexpr double kBesideSpeech = 10.0;  // dB
constexpr double kNoiseSeconds = 0.2;   // windows in which the noise floor is looked for
constexpr double kNoiseShare = 0.03;    // of the windows that are quieter still
constexpr double kSpeechMargin = 15.9;  // dB, ITU-T P.56, from memory
constexpr double kHangover = 0.2;       // s, the same
constexpr double kLeastDynamics = 6.0;  // dB between loud and quiet moments of speech
constexpr double kHumStands = 6.0;      // dB above its neighbours in the spectrum

double decibels(double power) {
    return power > 0.0 ? std::max(10.0 * std::log10(power), kSilenceDb) : kSilenceDb;
}

/// Slope of a straight line through levels that stand 10 ms apart, dB per second.
double slopeOf(std::span<const double> levels) {
    const double middle = 0.5 * (static_cast<double>(levels.size()) - 1.0);
    double tt = 0.0, tl = 0.0;
    for (std::size_t i = 0; i < levels.size(); ++i) {
        const double t = (static_cast<double>(i) - middle) * kFrameSeconds;
        tt += t * t;
        tl += t * levels[i];
    }
    return tt > 0.0 ? tl / tt : 0.0;
}

/// Time in which the room's sound falls by 60 dB. Speech leaves short holes all the time; a dry
/// sound falls into them down to the noise, a room fills them: how deep they are tells its decay
/// (sources 13.6).
std::optional<double> decayOf(const std::vector<double>& level, double speech, double noise) {
    constexpr std::size_t kReach = 100;  // frames about loud ones
    constexpr double kUnderSpeech = 10.0, kOverNoise = 6.0;
    constexpr double kHole = 0.10;               // share of the time
    constexpr double kSecondsTimesDepth = 18.0;  // of known rooms (own experiments)
    std::vector<double> near;
    std::size_t until = 0;
    for (std::size_t i = 0; i < level.size(); ++i) {
        if (level[i] > speech - kUnderSpeech) until = i + kReach;
        if (i < until) near.push_back(level[i]);
    }
    if (near.size() < 500) return std::nullopt;
    const auto at = static_cast<std::ptrdiff_t>(kHole * static_cast<double>(near.size()));
    std::nth_element(near.begin(), near.begin() + at, near.end());
    const double depth = speech - near[static_cast<std::size_t>(at)];
    // Holes that reach the noise say only that the room is no slower.
    if (depth > speech - noise - kOverNoise || depth < 1.0) return std::nullopt;
    return kSecondsTimesDepth / depth;
}

}  // namespace

ChannelMeter::ChannelMeter(double sampleRate)
    : m_rate(sampleRate),
      m_frameLength(std::max<std::size_t>(
          1, static_cast<std::size_t>(std::lround(kFrameSeconds * sampleRate)))),
      m_toLow(sampleRate, kLowRate),
      m_fourier(kSpectrum),
      m_window(hannWindow(kSpectrum)),
      m_spectrum(kSpectrum / 2 + 1, 0.0) {}

void ChannelMeter::take(std::span<const float> samples, double seconds) {
    for (std::size_t i = 0; i < samples.size(); ++i) {
        const double value = std::isfinite(samples[i]) ? static_cast<double>(samples[i]) : 0.0;
        takeSample(value);
        takeQuietRun(value, seconds + static_cast<double>(i) / m_rate);
        takeSpectrum(static_cast<float>(value));
    }
    m_toLow.take(samples.data(), samples.size(), m_low);
}

void ChannelMeter::takeSample(double value) {
    const double size = std::abs(value);
    m_sum += value;
    ++m_samples;
    m_peak = std::max(m_peak, size);
    if (size >= static_cast<double>(kFullScale)) {
        if (++m_fullScale == kClippedRun) ++m_clippedRuns;
    } else {
        m_fullScale = 0;
    }
    m_framePower += value * value;
    if (++m_inFrame < m_frameLength) return;
    m_powers.push_back(static_cast<float>(m_framePower / static_cast<double>(m_frameLength)));
    m_framePower = 0.0;
    m_inFrame = 0;
}

/// A gap is silence to the last bit with sound hard against both of its ends, and a step at one of
/// them at least; sound that fades is a pause.
void ChannelMeter::takeQuietRun(double value, double seconds) {
    const double beside = kBeside * m_rate;
    const double power = value * value;
    if (m_sinceRun >= 0) {
        m_after += power;
        if (m_sinceRun < kEdge) m_edgeAfter = std::max(m_edgeAfter, power);
        if (static_cast<double>(++m_sinceRun) >= beside) {
            const double after = m_after / static_cast<double>(m_sinceRun);
            const bool isStep =
                m_edgeWaiting > kStep * m_beforeWaiting || m_edgeAfter > kStep * after;
            if (after > kBesidePower && isStep) {
                m_gaps.push_back(m_waiting);
                m_gapBeside.push_back(std::min(m_beforeWaiting, after));
            }
            m_sinceRun = -1;
        }
    }
    if (std::abs(value) <= kZero) {
        if (m_runLength == 0) {
            m_runStart = seconds;
            m_before = m_recent;
        }
        ++m_runLength;
        m_recent *= 1.0 - 1.0 / beside;
        return;
    }
    const double length = static_cast<double>(m_runLength) / m_rate;
    if (length >= kShortestGap && m_before > kBesidePower) {
        m_waiting = {m_runStart, length};
        m_sinceRun = 0;
        m_beforeWaiting = m_before;
        m_edgeWaiting = m_edgeBefore;
        m_after = 0.0;
        m_edgeAfter = power;
    }
    m_runLength = 0;
    m_edgeBefore = std::max(power, kEdgeFade * m_edgeBefore);
    m_recent += (power - m_recent) / beside;
}

void ChannelMeter::takeSpectrum(float value) {
    m_block.push_back(value);
    if (m_block.size() < kSpectrum) return;
    auto samples = m_fourier.samples();
    for (std::size_t i = 0; i < kSpectrum; ++i) samples[i] = m_block[i] * m_window[i];
    m_fourier.forth();
    const auto bins = m_fourier.spectrum();
    for (std::size_t k = 0; k < bins.size(); ++k)
        m_spectrum[k] += static_cast<double>(std::norm(bins[k]));
    ++m_spectra;
    m_block.clear();
}

void ChannelMeter::finish(ChannelReport& report) {
    m_toLow.finish(m_low);
    const double count = std::max(1.0, static_cast<double>(m_samples));
    report.peakDbfs = decibels(m_peak * m_peak);
    report.offsetPercent = 100.0 * m_sum / count;
    report.clippedRuns = m_clippedRuns;
    measureNoise(report);
    measureSpeech(report);
    keepGaps(report);
    measureHum(report);
    measureBandwidth(report);
    measurePauses(report);
}

/// Mean level of so many frames from every second one on, dB.
std::vector<double> ChannelMeter::levels(std::size_t frames) const {
    std::vector<double> all;
    double sum = 0.0;
    for (std::size_t i = 0; i < m_powers.size(); ++i) {
        sum += static_cast<double>(m_powers[i]);
        if (i >= frames) sum -= static_cast<double>(m_powers[i - frames]);
        if (i + 1 >= frames && (i + 1 - frames) % 2 == 0)
            all.push_back(decibels(std::max(sum, 0.0) / static_cast<double>(frames)));
    }
    return all;
}

void ChannelMeter::measureNoise(ChannelReport& report) {
    const auto frames = static_cast<std::size_t>(kNoiseSeconds / kFrameSeconds);
    std::vector<double> all = levels(frames);
    // Windows that a gap reaches into are no silence of the room.
    std::vector<double> kept;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double from = 2.0 * static_cast<double>(i) * kFrameSeconds;
        const bool isHit = std::any_of(m_gaps.begin(), m_gaps.end(), [&](const SoundGap& gap) {
            return gap.startSeconds < from + kNoiseSeconds + kFrameSeconds &&
                   gap.startSeconds + gap.lengthSeconds > from - kFrameSeconds;
        });
        if (!isHit) kept.push_back(all[i]);
    }
    if (kept.empty()) return;
    const auto at = static_cast<std::ptrdiff_t>(kNoiseShare * static_cast<double>(kept.size() - 1));
    std::nth_element(kept.begin(), kept.begin() + at, kept.end());
    report.noiseDbfs = kept[static_cast<std::size_t>(at)];
}

/// Where pauses are silent to the last bit as well (sound from a computer, a gate), only silence in
/// the midst of loud sound is a gap.
void ChannelMeter::keepGaps(ChannelReport& report) {
    const bool isFloorSilent = report.noiseDbfs.value_or(kSilenceDb) < kSilentFloor;
    for (std::size_t i = 0; i < m_gaps.size(); ++i) {
        const bool isLoudBeside =
            report.speechDbfs && decibels(m_gapBeside[i]) > *report.speechDbfs - kBesideSpeech;
        if (!isFloorSilent || isLoudBeside) report.gaps.push_back(m_gaps[i]);
    }
}

/// Method B of ITU-T P.56: the level over the time in which speech lies above a threshold that is
/// the margin below that level, with a hangover.
void ChannelMeter::measureSpeech(ChannelReport& report) const {
    if (m_powers.empty() || !report.noiseDbfs) return;
    std::vector<double> sorted;
    sorted.reserve(m_powers.size());
    for (const float power : m_powers) sorted.push_back(decibels(static_cast<double>(power)));
    const std::vector<double> inOrder = sorted;
    const auto high = static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(sorted.size() - 1));
    std::nth_element(sorted.begin(), sorted.begin() + high, sorted.end());
    const double loud = sorted[static_cast<std::size_t>(high)];
    if (loud < -75.0 || loud - *report.noiseDbfs < kLeastDynamics) return;
    double energy = 0.0;
    for (const float power : m_powers) energy += static_cast<double>(power);
    const auto hangover = static_cast<int>(kHangover / kFrameSeconds);
    double last = 0.0;
    for (double threshold = loud; threshold > kSilenceDb; threshold -= 0.25) {
        double active = 0.0;
        int left = 0;
        for (const double level : inOrder) {
            left = level >= threshold ? hangover : left - 1;
            if (left > 0) active += 1.0;
        }
        if (active == 0.0) continue;
        last = decibels(energy / active);
        if (last - threshold >= kSpeechMargin) break;
    }
    report.speechDbfs = last;
}

/// Start, in frames, of the quietest stretch of that length without a gap in it.
std::optional<std::size_t> ChannelMeter::quietestStart(std::size_t frames) const {
    if (m_powers.size() < frames) return std::nullopt;
    std::optional<std::size_t> best;
    double least = 0.0, sum = 0.0;
    for (std::size_t i = 0; i < m_powers.size(); ++i) {
        sum += static_cast<double>(m_powers[i]);
        if (i >= frames) sum -= static_cast<double>(m_powers[i - frames]);
        if (i + 1 < frames) continue;
        const double from = static_cast<double>(i + 1 - frames) * kFrameSeconds;
        const double to = from + static_cast<double>(frames) * kFrameSeconds;
        const bool isHit = std::any_of(m_gaps.begin(), m_gaps.end(), [&](const SoundGap& gap) {
            return gap.startSeconds < to && gap.startSeconds + gap.lengthSeconds > from;
        });
        if (!isHit && (!best || sum < least)) {
            least = sum;
            best = i + 1 - frames;
        }
    }
    return best;
}

/// Lines at the mains frequency and its harmonics in the quietest second, against what stands
/// beside them.
void ChannelMeter::measureHum(ChannelReport& report) const {
    constexpr double kSeconds = 1.0;
    const auto start = quietestStart(static_cast<std::size_t>(kSeconds / kFrameSeconds));
    const auto length = static_cast<std::size_t>(kSeconds * kLowRate);
    if (!start || m_low.size() < length) return;
    const auto from =
        std::min(static_cast<std::size_t>(static_cast<double>(*start) * kFrameSeconds * kLowRate),
                 m_low.size() - length);
    Fourier fourier(length);
    const auto window = hannWindow(length);
    double windowPower = 0.0;
    auto samples = fourier.samples();
    for (std::size_t i = 0; i < length; ++i) {
        samples[i] = m_low[from + i] * window[i];
        windowPower += static_cast<double>(window[i]) * static_cast<double>(window[i]);
    }
    fourier.forth();
    const auto bins = fourier.spectrum();
    // Power of one side of the spectrum per bin of one hertz.
    const auto power = [&](std::size_t bin) {
        return 2.0 * static_cast<double>(std::norm(bins[bin])) /
               (static_cast<double>(length) * windowPower);
    };
    double rumble = 0.0, around = 0.0;
    for (std::size_t k = 8; k < 80; ++k) rumble += power(k);
    for (std::size_t k = 80; k < 320; ++k) around += power(k);
    double best = 0.0;
    for (const double mains : {50.0, 60.0}) {
        double sum = 0.0, beside = 0.0;
        for (int harmonic = 1; harmonic * mains < 0.45 * kLowRate && harmonic <= 10; ++harmonic) {
            const auto at = static_cast<std::size_t>(harmonic * mains * kSeconds);
            double line = 0.0, floor = 0.0;
            for (std::size_t k = at - 2; k <= at + 2; ++k) line += power(k);
            for (std::size_t k = 3; k <= 7; ++k) floor += power(at - k) + power(at + k);
            floor /= 2.0;  // ten bins beside, five in the line
            if (line < 4.0 * floor) continue;
            sum += line - floor;
            beside += floor;
        }
        if (sum > best && decibels(sum) - decibels(beside) > kHumStands && decibels(sum) > -95.0) {
            best = sum;
            report.humHz = mains;
            report.humDbfs = decibels(sum);
        }
    }
    const bool isHum = report.humDbfs && best > 0.5 * rumble;
    if (!isHum && rumble > 4.0 * around && decibels(rumble) > -65.0)
        report.rumbleDbfs = decibels(rumble);
}

/// Up to where the mean spectrum, in sixths of an octave, reaches 55 dB below its height in the
/// range of speech.
void ChannelMeter::measureBandwidth(ChannelReport& report) const {
    if (m_spectra < 4 || report.peakDbfs < -70.0) return;
    const double perBin = m_rate / static_cast<double>(kSpectrum);
    const auto band = [&](double hertz) {
        const auto low = static_cast<std::size_t>(hertz / 1.06 / perBin);
        const auto high =
            std::min(m_spectrum.size() - 1, static_cast<std::size_t>(hertz * 1.06 / perBin));
        double sum = 0.0;
        for (std::size_t k = low; k <= high; ++k) sum += m_spectrum[k];
        return sum / static_cast<double>(std::max<std::size_t>(high - low + 1, 1));
    };
    double highest = 0.0;
    for (double hertz = 200.0; hertz < std::min(3000.0, 0.4 * m_rate); hertz *= 1.12)
        highest = std::max(highest, band(hertz));
    if (highest <= 0.0) return;
    double reach = 200.0;
    for (double hertz = 300.0; hertz < 0.47 * m_rate; hertz *= 1.03) {
        if (decibels(band(hertz) / highest) > -55.0) reach = hertz;
    }
    report.bandwidthHz = reach;
}

/// How the level goes in pauses of speech: it falls at first as the room does, then stays; where it
/// rises, an automatic turns up.
void ChannelMeter::measurePauses(ChannelReport& report) const {
    if (!report.speechDbfs || !report.noiseDbfs) return;
    const double speech = *report.speechDbfs, noise = *report.noiseDbfs;
    const double quiet = std::max(noise, speech - 40.0) + 0.3 * std::min(speech - noise, 40.0);
    std::vector<double> rises, level;
    for (const float power : m_powers) level.push_back(decibels(static_cast<double>(power)));
    for (std::size_t i = 1; i < level.size(); ++i) {
        if (level[i] >= quiet || level[i - 1] < quiet) continue;
        std::size_t end = i;
        while (end < level.size() && level[end] < quiet) ++end;
        if (end - i < 60) continue;
        const std::size_t from = i + 25, to = end - 5;
        rises.push_back(slopeOf(std::span(level).subspan(from, to - from)));
    }
    constexpr std::size_t kLeastPauses = 3;
    if (rises.size() >= kLeastPauses) {
        const double rise = image::median(rises);
        if (rise > 3.0) report.levelRisePerSecond = rise;
    }
    report.decaySeconds = decayOf(level, speech, noise);
}

}  // namespace rigmatch::sound
