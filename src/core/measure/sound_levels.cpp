// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/sound_levels.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::measure {
namespace {

using base::say;

constexpr double kFullScale = 0.9999;  // of any codec's integers
constexpr double kSilenceDb = -120.0;  // digital silence has no level
constexpr double kMostClipped = 1e-4;  // share of samples from which clipping is told

double decibels(double power) {
    return power > 0.0 ? std::max(10.0 * std::log10(power), kSilenceDb) : kSilenceDb;
}

}  // namespace

void SoundLevels::takeSound(const media::SoundBlock& block) {
    m_sampleRate = block.sampleRate;
    if (m_channels.size() < block.channels.size()) m_channels.resize(block.channels.size());
    for (std::size_t c = 0; c < block.channels.size(); ++c) {
        Channel& channel = m_channels[c];
        for (const float sample : block.channels[c]) {
            const double size = std::abs(double(sample));
            if (!std::isfinite(size)) continue;
            channel.power += size * size;
            channel.peak = std::max(channel.peak, size);
            channel.atFullScale += size >= kFullScale ? 1 : 0;
            ++channel.samples;
        }
    }
}

void SoundLevels::finish(rig::Reading& reading) {
    if (m_channels.empty()) return;
    rig::SoundReading sound;
    sound.sampleRate = m_sampleRate;
    std::string clipped;
    for (std::size_t c = 0; c < m_channels.size(); ++c) {
        const Channel& channel = m_channels[c];
        const double count = std::max(1.0, static_cast<double>(channel.samples));
        rig::ChannelLevel level;
        // A sine's mean power is half of its peak's square: it reads its peak.
        level.meanDbfs = decibels(2.0 * channel.power / count);
        level.peakDbfs = decibels(channel.peak * channel.peak);
        level.clippedShare = static_cast<double>(channel.atFullScale) / count;
        if (level.clippedShare > kMostClipped)
            clipped += (clipped.empty() ? "" : ", ") + std::to_string(c + 1);
        sound.channels.push_back(level);
    }
    reading.sound = std::move(sound);
    if (!clipped.empty())
        reading.warnings.push_back({"SoundClipped",
                                    say("soundClipped.seen", {{"clipped", clipped}}),
                                    say("soundClipped.hint")});
}

}  // namespace rigmatch::measure
