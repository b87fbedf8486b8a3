// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/spoken_sound.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <complex>
#include <numbers>

#include "sound/fourier.h"

namespace rigmatch::sim {

Samples spokenSound(std::uint64_t seed, double seconds, double rate) {
    std::mt19937_64 random(seed);
    std::uniform_real_distribution<double> uniform(0.0, 1.0);
    std::normal_distribution<double> normal;
    Samples sound(static_cast<std::size_t>(seconds * rate), 0.0F);
    const double base = 90.0 + 120.0 * uniform(random);
    double at = 0.3 * uniform(random);
    while (at < seconds) {
        const int syllables = 3 + static_cast<int>(9.0 * uniform(random));
        for (int s = 0; s < syllables && at < seconds; ++s) {
            const double length = 0.09 + 0.2 * uniform(random);
            const bool isVoiced = uniform(random) < 0.75;
            const double pitch = base * (0.85 + 0.4 * uniform(random));
            const std::array<double, 3> formants{250.0 + 600.0 * uniform(random),
                                                 900.0 + 1500.0 * uniform(random),
                                                 2400.0 + 1600.0 * uniform(random)};
            const double level = 0.12 * (0.4 + uniform(random));
            std::array<std::array<double, 2>, 3> state{};
            double phase = 0.0;
            const auto first = static_cast<std::size_t>(at * rate);
            const auto count = static_cast<std::size_t>(length * rate);
            for (std::size_t i = 0; i < count && first + i < sound.size(); ++i) {
                const double t = static_cast<double>(i) / static_cast<double>(count);
                const double envelope = std::pow(std::sin(std::numbers::pi * t), 0.7);
                phase += pitch * (1.0 + 0.05 * std::sin(9.0 * t)) / rate;
                double drive = 0.25 * normal(random) * (isVoiced ? 0.15 : 1.0);
                if (phase >= 1.0) {
                    phase -= 1.0;
                    if (isVoiced) drive += 6.0;
                }
                double value = 0.0;
                for (std::size_t f = 0; f < 3; ++f) {
                    // Two-pole resonator of some 90 Hz.
                    const double r = std::exp(-std::numbers::pi * 90.0 / rate);
                    const double c =
                        2.0 * r * std::cos(2.0 * std::numbers::pi * formants[f] / rate);
                    const double y = drive * (1.0 - r) + c * state[f][0] - r * r * state[f][1];
                    state[f][1] = state[f][0];
                    state[f][0] = y;
                    value += y / (1.0 + static_cast<double>(f));
                }
                sound[first + i] += static_cast<float>(level * envelope * value);
            }
            at += length * (0.8 + 0.5 * uniform(random));
        }
        at += 0.15 + 1.2 * uniform(random) * uniform(random);
    }
    double power = 0.0;
    for (const float value : sound)
        power += static_cast<double>(value) * static_cast<double>(value);
    const double rms = std::sqrt(power / std::max<double>(1.0, static_cast<double>(sound.size())));
    for (float& value : sound) value *= static_cast<float>(0.08 / std::max(rms, 1e-9));
    return sound;
}

Samples convolved(const Samples& sound, const Samples& response) {
    const std::size_t block = 1U << 16U;
    sound::Fourier fourier(sound::fastLength(block + response.size()));
    auto samples = fourier.samples();
    std::fill(samples.begin(), samples.end(), 0.0F);
    std::copy(response.begin(), response.end(), samples.begin());
    fourier.forth();
    const std::vector<std::complex<float>> filter(fourier.spectrum().begin(),
                                                  fourier.spectrum().end());
    Samples out(sound.size(), 0.0F);
    for (std::size_t from = 0; from < sound.size(); from += block) {
        samples = fourier.samples();
        std::fill(samples.begin(), samples.end(), 0.0F);
        const std::size_t count = std::min(block, sound.size() - from);
        std::copy_n(sound.begin() + static_cast<std::ptrdiff_t>(from), count, samples.begin());
        fourier.forth();
        const auto bins = fourier.spectrum();
        for (std::size_t k = 0; k < bins.size(); ++k) bins[k] *= filter[k];
        fourier.back();
        const auto scale = 1.0F / static_cast<float>(fourier.length());
        for (std::size_t i = 0; i < samples.size() && from + i < out.size(); ++i)
            out[from + i] += samples[i] * scale;
    }
    return out;
}

Samples roomResponse(std::mt19937_64& random,
                     double reverbSeconds,
                     double directShare,
                     double rate) {
    std::normal_distribution<double> normal;
    const auto count = static_cast<std::size_t>(std::max(1.0, reverbSeconds * rate));
    Samples response(count, 0.0F);
    double energy = 0.0;
    for (std::size_t i = static_cast<std::size_t>(0.0015 * rate); i < count; ++i) {
        const double t = static_cast<double>(i) / rate;
        response[i] = static_cast<float>(normal(random) * std::pow(10.0, -3.0 * t / reverbSeconds));
        energy += static_cast<double>(response[i]) * static_cast<double>(response[i]);
    }
    const double tail = energy > 0.0 ? std::sqrt((1.0 - directShare) / energy) : 0.0;
    for (float& value : response) value *= static_cast<float>(tail);
    response[0] = static_cast<float>(std::sqrt(directShare));
    return response;
}

}  // namespace rigmatch::sim
