// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/set_sound.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace rigmatch::sim {
namespace {

constexpr double kMetresPerSecond = 343.2;
constexpr double kBefore = 1.0;  // s of sound before the set's clock begins
constexpr double kReverbSeconds = 0.5;
constexpr double kCriticalMetres = 1.1;  // where the room is as loud as the voice
constexpr double kTurnSeconds = 2.6;     // one speaks, then the next

std::size_t samplesOf(double seconds) {
    return static_cast<std::size_t>(std::max(0.0, seconds) * SetSound::kRate);
}

/// A burst of a few milliseconds, as hands make it.
void addClap(Samples& sound, double seconds, std::mt19937_64& random) {
    std::normal_distribution<float> normal;
    const std::size_t first = samplesOf(seconds);
    for (std::size_t i = 0; i < samplesOf(0.03) && first + i < sound.size(); ++i) {
        const double t = static_cast<double>(i) / SetSound::kRate;
        sound[first + i] += normal(random) * static_cast<float>(0.3 * std::exp(-t / 0.003));
    }
}

/// Microphones hand on nothing that stands still: first order, from 60 Hz.
void cutLows(Samples& sound) {
    const double kept = std::exp(-2.0 * std::numbers::pi * 60.0 / SetSound::kRate);
    double before = 0.0, out = 0.0;
    for (float& sample : sound) {
        out = kept * (out + static_cast<double>(sample) - before);
        before = static_cast<double>(sample);
        sample = static_cast<float>(out);
    }
}

}  // namespace

SetSound::SetSound(const rig::SetPlan& plan, double seconds, std::uint64_t seed)
    : m_clapSeconds(clapAt(seconds)), m_seed(seed) {
    const double whole = seconds + 2.0 * kBefore;
    std::vector<plan::Vec> places;
    for (const rig::PlanObject& object : plan.objects) {
        if (object.kind == rig::PlanKind::Person) places.push_back(plan::placeOf(object));
    }
    if (places.empty()) places.emplace_back(0.5 * plan.widthMetres, 1.2, 0.5 * plan.depthMetres);
    std::mt19937_64 random(seed * 2654435761U + 17U);
    Samples all(samplesOf(whole), 0.0F);
    for (std::size_t p = 0; p < places.size(); ++p) {
        Samples dry = spokenSound(seed * 31U + 7U * p + 3U, whole, kRate);
        dry.resize(all.size(), 0.0F);
        for (std::size_t i = 0; i < dry.size(); ++i) {
            const double t = static_cast<double>(i) / kRate;
            const auto turn = static_cast<std::size_t>(t / kTurnSeconds) % places.size();
            // Quiet about the clap: who claps waits a moment.
            const double toClap = std::abs(t - kBefore - m_clapSeconds);
            if (turn != p || toClap < 0.5) dry[i] = 0.0F;
        }
        if (p == 0) addClap(dry, kBefore + m_clapSeconds, random);
        for (std::size_t i = 0; i < all.size(); ++i) all[i] += dry[i];
        m_voices.push_back({places[p], std::move(dry)});
    }
    m_all = std::move(all);
}

Samples SetSound::heard(const Microphone& microphone, double start, double seconds) const {
    const auto gain = static_cast<float>(std::pow(10.0, microphone.gainDecibels / 20.0));
    Samples sound(samplesOf(seconds), 0.0F);
    const auto mix = [&](const Samples& from, double delay, float level) {
        const auto shift = std::lround((kBefore + start - delay) * kRate);
        for (std::size_t i = 0; i < sound.size(); ++i) {
            const long at = static_cast<long>(i) + shift;
            if (at >= 0 && at < static_cast<long>(from.size()))
                sound[i] += level * from[static_cast<std::size_t>(at)];
        }
    };
    for (const Voice& voice : m_voices) {
        const double metres = std::max(0.15, (microphone.place - voice.place).norm());
        mix(voice.dry, metres / kMetresPerSecond, gain * static_cast<float>(1.0 / metres));
    }
    const auto number = [](double metres) {
        return static_cast<std::uint64_t>(std::llround(1e3 * (metres + 10.0)));
    };
    std::mt19937_64 random(m_seed + number(microphone.place.x()) +
                           100003U * number(microphone.place.y()) +
                           9176867U * number(microphone.place.z()));
    const Samples tail = convolved(m_all, roomResponse(random, kReverbSeconds, 0.0, kRate));
    mix(tail, 0.004, gain * static_cast<float>(microphone.roomShare / kCriticalMetres));
    cutLows(sound);
    std::normal_distribution<float> normal;
    const auto noise = static_cast<float>(std::pow(10.0, microphone.noiseDbfs / 20.0));
    for (float& sample : sound) sample = std::clamp(sample + noise * normal(random), -1.0F, 1.0F);
    return sound;
}

std::vector<Microphone> SetSound::bodyMicrophones() const {
    std::vector<Microphone> microphones;
    for (const Voice& voice : m_voices) {
        Microphone one;
        one.place = voice.place - plan::Vec(0.0, 0.22, -0.08);
        one.gainDecibels = -15.0;
        one.noiseDbfs = -74.0;
        microphones.push_back(one);
    }
    return microphones;
}

}  // namespace rigmatch::sim
