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
void colour(Samples& sound, double lowHz, double highHz, double rate);

inline double rmsOf(const Samples& sound) {
    double power = 0.0;
    for (const float value : sound)
        power += static_cast<double>(value) * static_cast<double>(value);
    return std::sqrt(power / std::max<double>(1.0, static_cast<double>(sound.size())));
}

/// Pink-ish noise `decibels` below the sound's own level.
void addNoise(Samples& sound, double decibels, std::mt19937_64& random);

/// The sound as a clock records it that starts at `start` seconds of it and runs so that intervals
/// are longer by `ppm`: windowed-sinc interpolation, 48 taps, from a table of a thousand phases.
Samples recorded(const Samples& sound, double start, double seconds, double ppm, double rate);

}  // namespace rigmatch::support
