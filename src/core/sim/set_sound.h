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
};

/// What is heard on a set during a take: people speak one after the other, and once somebody
/// claps. Sound comes straight, later and weaker with the distance, and through a room that rings
/// for half a second. Deterministic by seed.
class SetSound {
public:
    static constexpr int kRate = 48000;

    /// `seconds` of the set's clock; people without a plan: one in the middle.
    SetSound(const rig::SetPlan& plan, double seconds, std::uint64_t seed);

    /// When it claps, s of the set's clock.
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
    Samples m_tail;  ///< what the room makes of all of it
    double m_clapSeconds;
    std::uint64_t m_seed;
};

}  // namespace rigmatch::sim
