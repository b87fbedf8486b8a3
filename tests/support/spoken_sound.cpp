// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/spoken_sound.h"

namespace rigmatch::support {

void colour(Samples& sound, double lowHz, double highHz, double rate) {
    const double high = std::exp(-2.0 * std::numbers::pi * lowHz / rate);
    const double low = std::exp(-2.0 * std::numbers::pi * highHz / rate);
    double bass = 0.0, kept = 0.0;
    for (float& value : sound) {
        bass = high * bass + (1.0 - high) * static_cast<double>(value);
        kept = low * kept + (1.0 - low) * (static_cast<double>(value) - bass);
        value = static_cast<float>(kept);
    }
}

void addNoise(Samples& sound, double decibels, std::mt19937_64& random) {
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

Samples recorded(const Samples& sound, double start, double seconds, double ppm, double rate) {
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
        const bool isInside = first >= 0 && first + 2 * kHalf <= size;
        for (int k = 0; k < 2 * kHalf; ++k) {
            const long long at = first + k;
            if (!isInside && (at < 0 || at >= size)) continue;
            const auto tap = static_cast<std::size_t>(k);
            sum +=
                sound[static_cast<std::size_t>(at)] * (taps[tap] + rest * (next[tap] - taps[tap]));
        }
        out[i] = sum;
    }
    return out;
}

}  // namespace rigmatch::support
