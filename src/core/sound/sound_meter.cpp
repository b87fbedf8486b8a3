// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/sound_meter.h"

#include <ebur128.h>

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "sound/channel_meter.h"
#include "sound/sound_words.h"

namespace rigmatch::sound {
namespace {
constexpr std::size_t kMostPairs = 8;  // channels that are compared with each other

struct LoudnessDeleter {
    void operator()(ebur128_state* state) const { ebur128_destroy(&state); }
};
using Loudness = std::unique_ptr<ebur128_state, LoudnessDeleter>;

Loudness loudnessOf(std::size_t channels, double rate, int mode) {
    return Loudness(ebur128_init(
        static_cast<unsigned>(channels), static_cast<unsigned long>(std::lround(rate)), mode));
}

/// Integrated loudness, or nothing where all of it lies below the gate.
std::optional<double> globalLoudness(ebur128_state* state) {
    double value = 0.0;
    if (state == nullptr || ebur128_loudness_global(state, &value) != EBUR128_SUCCESS ||
        !std::isfinite(value))
        return std::nullopt;
    return value;
}

/// Highest level of even parts, dBFS.
std::vector<double> envelopeOf(const std::vector<float>& powers) {
    std::vector<double> envelope;
    const std::size_t parts = std::min(kEnvelopeParts, powers.size());
    for (std::size_t p = 0; p < parts; ++p) {
        const std::size_t from = p * powers.size() / parts, to = (p + 1) * powers.size() / parts;
        const float most = *std::max_element(powers.begin() + static_cast<std::ptrdiff_t>(from),
                                             powers.begin() + static_cast<std::ptrdiff_t>(to));
        const double level = 10.0 * std::log10(std::max(static_cast<double>(most), 1e-12));
        envelope.push_back(std::round(10.0 * level) / 10.0);
    }
    return envelope;
}

/// A clap jumps out of a quiet third of a second, is loudest at once, and fades: the one that
/// jumps furthest, by 25 dB at least, and by 6 dB more than any other (common practice: one clap).
std::optional<double> clapOf(const std::vector<float>& powers) {
    constexpr std::size_t kBefore = 30, kAfter = 30;  // of 10 ms
    constexpr double kLeast = 25.0, kClear = 6.0, kFade = 12.0, kAtOnce = 3.0;
    constexpr std::size_t kSoon = 15;
    const auto decibels = [](double power) { return 10.0 * std::log10(std::max(power, 1e-12)); };
    double best = 0.0, second = 0.0;
    std::size_t at = 0;
    for (std::size_t i = kBefore; i + kAfter < powers.size(); ++i) {
        if (static_cast<double>(powers[i]) < 1e-5) continue;
        const auto mean = [&](std::size_t from, std::size_t to) {
            double sum = 0.0;
            for (std::size_t j = from; j < to; ++j) sum += static_cast<double>(powers[j]);
            return sum / static_cast<double>(to - from);
        };
        const double here = decibels(std::max(powers[i], powers[i + 1]));
        const double jump = here - decibels(mean(i - kBefore, i - 1));
        const double fall = here - decibels(mean(i + kAfter / 2, i + kAfter));
        const auto next = powers.begin() + static_cast<std::ptrdiff_t>(i);
        const double later = decibels(*std::max_element(next + 2, next + kSoon));
        const double stands = fall < kFade || here < later + kAtOnce ? 0.0 : jump;
        if (stands > best) {
            if (i > at + kAfter) second = best;
            best = stands;
            at = i;
        } else if (i > at + kAfter) {
            second = std::max(second, stands);
        }
    }
    if (best < kLeast || best < second + kClear) return std::nullopt;
    return 0.01 * static_cast<double>(at);
}

double peakDecibels(double peak) {
    return peak > 0.0 ? std::max(20.0 * std::log10(peak), kSilenceDb) : kSilenceDb;
}

}  // namespace

class SoundMeter::Impl {
public:
    void take(const media::SoundBlock& block) {
        if (block.channels.empty() || block.channels.front().empty()) return;
        if (m_channels.empty()) start(block);
        if (block.channels.size() != m_channels.size() || block.sampleRate != m_rate) {
            m_hasChanged = true;
            return;
        }
        const double expected = m_start + static_cast<double>(m_taken) / m_rate;
        const double late = block.seconds - expected;
        if (std::abs(late) > kMostWander) {
            if (late > 0.0) m_stampGaps.push_back({expected, late});
            m_start += late;
        }
        const std::size_t count = block.channels.front().size();
        const double seconds = m_start + static_cast<double>(m_taken) / m_rate;
        for (std::size_t c = 0; c < m_channels.size(); ++c) {
            m_channels[c].take(block.channels[c], seconds);
            if (m_loudness[c])
                ebur128_add_frames_float(m_loudness[c].get(), block.channels[c].data(), count);
        }
        m_mixed.resize(count * m_channels.size());
        for (std::size_t i = 0; i < count; ++i) {
            for (std::size_t c = 0; c < m_channels.size(); ++c)
                m_mixed[i * m_channels.size() + c] = block.channels[c][i];
        }
        if (m_programme) ebur128_add_frames_float(m_programme.get(), m_mixed.data(), count);
        compare(block);
        m_taken += static_cast<long long>(count);
    }

    std::optional<SoundReport> finish() {
        if (m_channels.empty()) return std::nullopt;
        SoundReport report;
        report.sampleRate = m_rate;
        report.durationSeconds = static_cast<double>(m_taken) / m_rate;
        for (std::size_t c = 0; c < m_channels.size(); ++c) {
            ChannelReport channel;
            m_channels[c].finish(channel);
            channel.gaps.insert(channel.gaps.end(), m_stampGaps.begin(), m_stampGaps.end());
            std::sort(
                channel.gaps.begin(), channel.gaps.end(), [](const SoundGap& a, const SoundGap& b) {
                    return a.startSeconds < b.startSeconds;
                });
            // A single channel is the programme.
            const bool isAlone = m_channels.size() == 1;
            channel.loudnessLufs =
                globalLoudness(isAlone ? m_programme.get() : m_loudness[c].get());
            double peak = 0.0;
            if (m_programme &&
                ebur128_true_peak(m_programme.get(), static_cast<unsigned>(c), &peak) ==
                    EBUR128_SUCCESS)
                channel.truePeakDbtp = peakDecibels(peak);
            judge(channel);
            report.truePeakDbtp =
                std::max(report.truePeakDbtp.value_or(kSilenceDb), channel.truePeakDbtp);
            report.channels.push_back(std::move(channel));
        }
        report.loudnessLufs = globalLoudness(m_programme.get());
        double range = 0.0;
        if (report.loudnessLufs &&
            ebur128_loudness_range(m_programme.get(), &range) == EBUR128_SUCCESS)
            report.loudnessRangeLu = range;
        const std::vector<float> loudest = loudestPowers();
        report.envelopeDbfs = envelopeOf(loudest);
        report.clapSeconds = clapOf(loudest);
        if (report.clapSeconds) *report.clapSeconds += m_first;
        tellFindings(report, pairs(), m_hasChanged);
        return report;
    }

private:
    void start(const media::SoundBlock& block) {
        m_rate = block.sampleRate;
        m_start = m_first = block.seconds;
        const std::size_t count = block.channels.size();
        for (std::size_t c = 0; c < count; ++c) {
            m_channels.emplace_back(m_rate);
            m_loudness.push_back(
                count > 1 ? loudnessOf(1, m_rate, EBUR128_MODE_I | EBUR128_MODE_HISTOGRAM)
                          : Loudness());
        }
        m_programme = loudnessOf(
            count,
            m_rate,
            EBUR128_MODE_I | EBUR128_MODE_LRA | EBUR128_MODE_TRUE_PEAK | EBUR128_MODE_HISTOGRAM);
        const std::size_t compared = std::min(count, kMostPairs);
        m_products.assign(compared * compared, 0.0);
    }

    /// Of every 10 ms, in the channel that is loudest there.
    [[nodiscard]] std::vector<float> loudestPowers() const {
        std::vector<float> loudest;
        for (const ChannelMeter& channel : m_channels) {
            const auto powers = channel.powers();
            loudest.resize(std::max(loudest.size(), powers.size()), 0.0F);
            for (std::size_t i = 0; i < powers.size(); ++i)
                loudest[i] = std::max(loudest[i], powers[i]);
        }
        return loudest;
    }

    void compare(const media::SoundBlock& block) {
        const std::size_t count = std::min(m_channels.size(), kMostPairs);
        for (std::size_t a = 0; a < count; ++a) {
            for (std::size_t b = a; b < count; ++b) {
                double sum = 0.0;
                const auto &first = block.channels[a], &second = block.channels[b];
                for (std::size_t i = 0; i < std::min(first.size(), second.size()); ++i)
                    sum += static_cast<double>(first[i]) * static_cast<double>(second[i]);
                m_products[a * count + b] += sum;
            }
        }
    }

    [[nodiscard]] std::vector<ChannelPair> pairs() const {
        std::vector<ChannelPair> all;
        const std::size_t count = std::min(m_channels.size(), kMostPairs);
        for (std::size_t a = 0; a < count; ++a) {
            for (std::size_t b = a + 1; b < count; ++b) {
                const double mine = m_products[a * count + a], theirs = m_products[b * count + b];
                if (mine <= 0.0 || theirs <= 0.0) continue;
                const double product = m_products[a * count + b];
                const double likeness = product / std::sqrt(mine * theirs);
                all.push_back({a, b, likeness, 10.0 * std::log10(theirs / mine)});
            }
        }
        return all;
    }

    double m_rate = 0.0;
    double m_start = 0.0;
    double m_first = 0.0;  ///< of the first sample, s
    long long m_taken = 0;
    bool m_hasChanged = false;
    std::vector<ChannelMeter> m_channels;
    std::vector<Loudness> m_loudness;
    Loudness m_programme;
    std::vector<float> m_mixed;
    std::vector<SoundGap> m_stampGaps;
    std::vector<double> m_products;
};

SoundMeter::SoundMeter() : m_impl(std::make_unique<Impl>()) {}
SoundMeter::SoundMeter(SoundMeter&&) noexcept = default;
SoundMeter& SoundMeter::operator=(SoundMeter&&) noexcept = default;
SoundMeter::~SoundMeter() = default;

void SoundMeter::take(const media::SoundBlock& block) { m_impl->take(block); }
std::optional<SoundReport> SoundMeter::finish() { return m_impl->finish(); }

}  // namespace rigmatch::sound
