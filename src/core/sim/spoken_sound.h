// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <random>
#include <vector>

namespace rigmatch::sim {

using Samples = std::vector<float>;

/// Speech-like sound: syllables of a few formants over a pulse train or breath, in phrases with
/// pauses. Nothing of it repeats. Deterministic by seed; 1 = full scale, phrases near -20 dBFS.
[[nodiscard]] Samples spokenSound(std::uint64_t seed, double seconds, double rate);

/// Convolution by blocks; as long as `sound`.
[[nodiscard]] Samples convolved(const Samples& sound, const Samples& response);

/// A room: the direct sound, then a dense tail that has fallen by 60 dB after `reverbSeconds`
/// (Sabine's definition). `directShare` of the whole energy comes straight.
[[nodiscard]] Samples roomResponse(std::mt19937_64& random,
                                   double reverbSeconds,
                                   double directShare,
                                   double rate);

}  // namespace rigmatch::sim
