// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <cstdint>
#include <numbers>

namespace rigmatch::sim {

/// A small repeatable random source (splitmix64, public domain): the same seed gives the same
/// footage on every machine, which the standard library's distributions do not promise.
class Random {
public:
    explicit Random(std::uint64_t seed) : m_state(seed) {}

    std::uint64_t next() {
        std::uint64_t z = (m_state += 0x9E3779B97F4A7C15ULL);
        z = (z ^ (z >> 30U)) * 0xBF58476D1CE4E5B9ULL;
        z = (z ^ (z >> 27U)) * 0x94D049BB133111EBULL;
        return z ^ (z >> 31U);
    }
    /// 0 <= value < 1.
    double unit() { return static_cast<double>(next() >> 11U) * 0x1.0p-53; }
    double between(double low, double high) { return low + (high - low) * unit(); }
    int whole(int low, int high) {
        return low + static_cast<int>(next() % static_cast<std::uint64_t>(high - low + 1));
    }
    bool chance(double share) { return unit() < share; }
    /// Standard normal (Box-Muller).
    double normal() {
        const double radius = std::sqrt(-2.0 * std::log(1.0 - unit()));
        return radius * std::cos(2.0 * std::numbers::pi * unit());
    }

private:
    std::uint64_t m_state;
};

}  // namespace rigmatch::sim
