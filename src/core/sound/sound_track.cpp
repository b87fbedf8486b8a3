// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/sound_track.h"

#include <algorithm>
#include <cmath>

#include "sound/channel_meter.h"
#include "sound/resampler.h"

namespace rigmatch::sound {
namespace {

constexpr double kRate = 16000.0;
/// Stamps may wander by that much (containers that round them, encoders that jitter) before sound
/// is taken as missing or doubled.
constexpr double kLongestGap = 600.0;       // s; longer ones are damaged stamps
constexpr double kMostSilence = 3600.0;     // s, put in for all gaps of a file
constexpr long long kBlocksForStart = 400;  // whose stamps are averaged

}  // namespace

class TrackCollector::Impl {
public:
    void take(const media::SoundBlock& block) {
        if (block.channels.empty() || block.channels.front().empty()) return;
        if (m_resamplers.empty()) start(block);
        if (block.sampleRate != m_rate) return;  // another stream's packets
        settle(block);
        const std::size_t count = block.channels.front().size();
        weigh(block);
        for (std::size_t t = 0; t < m_tracks.size(); ++t) {
            m_mix.assign(count, 0.0F);
            for (std::size_t c = t; c < block.channels.size(); c += m_tracks.size()) {
                const auto& channel = block.channels[c];
                for (std::size_t i = 0; i < std::min(count, channel.size()); ++i)
                    m_mix[i] += std::isfinite(channel[i]) ? channel[i] : 0.0F;
            }
            m_resamplers[t].take(m_mix.data() + m_skip, count - m_skip, m_tracks[t].samples);
        }
        m_taken += static_cast<long long>(count - m_skip);
    }

    std::vector<SoundTrack> finish() {
        for (std::size_t t = 0; t < m_tracks.size(); ++t) {
            m_resamplers[t].finish(m_tracks[t].samples);
            m_tracks[t].startSeconds =
                m_firstSeconds +
                (m_stamps > 0 ? m_stampError / static_cast<double>(m_stamps) : 0.0);
            for (std::size_t c = t; c < m_power.size(); c += m_tracks.size())
                if (m_power[c] > m_power[m_tracks[t].channel]) m_tracks[t].channel = c;
        }
        return std::move(m_tracks);
    }

private:
    void start(const media::SoundBlock& block) {
        m_rate = block.sampleRate;
        m_firstSeconds = block.seconds;
        const std::size_t count = std::min(block.channels.size(), kMostChannels);
        for (std::size_t t = 0; t < count; ++t) m_tracks.push_back({0.0, kRate, {}, t});
        for (std::size_t t = 0; t < count; ++t) m_resamplers.emplace_back(m_rate, kRate);
    }

    /// Of several channels on one track the loudest gives it its name.
    void weigh(const media::SoundBlock& block) {
        if (block.channels.size() <= m_tracks.size()) return;
        m_power.resize(std::max(m_power.size(), block.channels.size()), 0.0);
        for (std::size_t c = 0; c < block.channels.size(); ++c) {
            for (const float sample : block.channels[c])
                if (std::isfinite(sample))
                    m_power[c] += static_cast<double>(sample) * static_cast<double>(sample);
        }
    }

    /// Brings the count of samples to the block's stamp where it has left it.
    void settle(const media::SoundBlock& block) {
        m_skip = 0;
        const double expected = m_firstSeconds + static_cast<double>(m_taken) / m_rate;
        const double late = block.seconds - expected;
        if (std::abs(late) <= kMostWander) {
            // Stamps of whole milliseconds lie around the truth; their mean tells it.
            if (!m_wasSettled && m_stamps < kBlocksForStart) {
                m_stampError += late;
                ++m_stamps;
            }
            return;
        }
        if (late > kLongestGap || m_silence + late > kMostSilence) return;
        m_wasSettled = true;
        if (late > 0.0) {
            m_silence += late;
            const std::vector<float> silence(static_cast<std::size_t>(m_rate), 0.0F);
            auto missing = static_cast<long long>(std::llround(late * m_rate));
            m_taken += missing;
            while (missing > 0) {
                const auto part = std::min(missing, static_cast<long long>(silence.size()));
                for (std::size_t t = 0; t < m_tracks.size(); ++t)
                    m_resamplers[t].take(
                        silence.data(), static_cast<std::size_t>(part), m_tracks[t].samples);
                missing -= part;
            }
            return;
        }
        const auto doubled = static_cast<std::size_t>(std::llround(-late * m_rate));
        m_skip = std::min(doubled, block.channels.front().size());
    }

    double m_rate = 0.0;
    double m_firstSeconds = 0.0;
    double m_stampError = 0.0;
    long long m_stamps = 0;
    double m_silence = 0.0;  ///< s, put in so far
    long long m_taken = 0;
    bool m_wasSettled = false;
    std::size_t m_skip = 0;
    std::vector<Resampler> m_resamplers;
    std::vector<SoundTrack> m_tracks;
    std::vector<float> m_mix;
    std::vector<double> m_power;  ///< of every channel, where tracks hold several
};

TrackCollector::TrackCollector() : m_impl(std::make_unique<Impl>()) {}
TrackCollector::TrackCollector(TrackCollector&&) noexcept = default;
TrackCollector& TrackCollector::operator=(TrackCollector&&) noexcept = default;
TrackCollector::~TrackCollector() = default;

void TrackCollector::take(const media::SoundBlock& block) { m_impl->take(block); }
std::vector<SoundTrack> TrackCollector::finish() { return m_impl->finish(); }

}  // namespace rigmatch::sound
