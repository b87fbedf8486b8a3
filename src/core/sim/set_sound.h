// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>

#include "plan/geometry.h"
#include "rig/rig.h"
#include "sim/spoken_sound.h"

namespace rigmatch::sim {

/// A microphone on the set.
struct Microphone {
    plan::Vec place{0.0, 1.2, 0.0};  ///< m
    double gainDecibels = 0.0;
    double noiseDbfs = -66.0;
    double roomShare = 1.0;  ///< of the room's sound that it hears: 0.58 where it is a cardioid
};

/// What is heard on a set during a take: people speak one after the other, and once somebody
/// claps. Sound comes straight, later and weaker with the distance, and through a room that rings
/// for half a second, at every place in its own way. Deterministic by seed.
class SetSound {
public:
    static constexpr int kRate = 48000;

    /// `seconds` of the set's clock; people without a plan: one in the middle.
    SetSound(const rig::SetPlan& plan, double seconds, std::uint64_t seed);

    /// When it claps in a take of that length, s of the set's clock.
    [[nodiscard]] static double clapAt(double seconds) { return 0.86 * seconds; }
    [[nodiscard]] double clapSeconds() const { return m_clapSeconds; }
    /// As `microphone` hears it from `start` of the set's clock on (from -1 s); 1 = full scale.
    [[nodiscard]] Samples heard(const Microphone& microphone, double start, double seconds) const;
    /// Microphones on the people themselves, one each.
    [[nodiscard]] std::vector<Microphone> bodyMicrophones() const;

private:
    struct Voice {
        plan::Vec place;
        Samples dry;  ///< from -1 s of the set's clock on, at a metre
    };
    std::vector<Voice> m_voices;
    Samples m_all;  ///< what the room hears
    double m_clapSeconds;
    std::uint64_t m_seed;
};

}  // namespace rigmatch::sim
