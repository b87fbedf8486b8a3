// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>
#include <vector>

#include "sim/spoken_sound.h"

namespace rigmatch::support {

using sim::convolved;
using sim::roomResponse;
using sim::Samples;
using sim::spokenSound;

/// A microphone's colour: falling bass below `lowHz` and treble above `highHz`, 6 dB an octave.
inline void colour(Samples& sound, double lowHz, double highHz, double rate) {
    const double high = std::exp(-2.0 * std::numbers::pi * lowHz / rate);
    const double low = std::exp(-2.0 * std::numbers::pi * highHz / rate);
    double bass = 0.0, kept = 0.0;
    for (float& value : sound) {
        bass = high * bass + (1.0 - high) * static_cast<double>(value);
        kept = low * kept + (1.0 - low) * (static_cast<double>(value) - bass);
        value = static_cast<float>(kept);
    }
}

inline double rmsOf(const Samples& sound) {
    double power = 0.0;
    for (const float value : sound)
        power += static_cast<double>(value) * static_cast<double>(value);
    return std::sqrt(power / std::max<double>(1.0, static_cast<double>(sound.size())));
}

/// Pink-ish noise `decibels` below the sound's own level.
inline void addNoise(Samples& sound, double decibels, std::mt19937_64& random) {
    std::normal_distribution<double> normal;
    Samples noise(sound.size());
    double slow = 0.0;
    for (float& value : noise) {
        const double white = normal(random);
        slow = 0.95 * slow + 0.05 * white;
        value = static_cast<float>(0.5 * white + 4.0 * slow);
    }
    const double scale = rmsOf(sound) / rmsOf(noise) * std::pow(10.0, -decibels / 20.0);
    for (std::size_t i = 0; i < sound.size(); ++i) sound[i] += static_cast<float>(scale) * noise[i];
}

/// The sound as a clock records it that starts at `start` seconds of it and runs so that intervals
/// are longer by `ppm`: windowed-sinc interpolation, 48 taps, from a table of a thousand phases.
inline Samples recorded(
    const Samples& sound, double start, double seconds, double ppm, double rate) {
    constexpr int kHalf = 24, kPhases = 1024;
    std::vector<std::array<float, 2 * kHalf>> table(kPhases + 1);
    for (int p = 0; p <= kPhases; ++p) {
        for (int k = 0; k < 2 * kHalf; ++k) {
            const double x = static_cast<double>(p) / kPhases - (k - kHalf + 1);
            const double arg = std::numbers::pi * x;
            const double sinc = std::abs(arg) < 1e-9 ? 1.0 : std::sin(arg) / arg;
            table[static_cast<std::size_t>(p)][static_cast<std::size_t>(k)] =
                static_cast<float>(sinc * (0.5 + 0.5 * std::cos(arg / kHalf)));
        }
    }
    Samples out(static_cast<std::size_t>(seconds * rate));
    const auto size = static_cast<long long>(sound.size());
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double place = (start + static_cast<double>(i) / rate / (1.0 + 1e-6 * ppm)) * rate;
        const double near = std::floor(place);
        const double phase = (place - near) * kPhases;
        const auto& taps = table[static_cast<std::size_t>(phase)];
        const auto& next =
            table[std::min<std::size_t>(kPhases, static_cast<std::size_t>(phase) + 1)];
        const auto rest = static_cast<float>(phase - std::floor(phase));
        const long long first = static_cast<long long>(near) - kHalf + 1;
        float sum = 0.0F;
        for (int k = 0; k < 2 * kHalf; ++k) {
            const long long at = first + k;
            if (at < 0 || at >= size) continue;
            const auto tap = static_cast<std::size_t>(k);
            sum +=
                sound[static_cast<std::size_t>(at)] * (taps[tap] + rest * (next[tap] - taps[tap]));
        }
        out[i] = sum;
    }
    return out;
}

}  // namespace rigmatch::support
