// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/direct_peak.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::timing {
namespace {

constexpr double kPeakSeconds = 0.0004;  // half the width of a peak
constexpr double kTailSeconds = 0.03;    // of a room's tail that is looked at
constexpr double kLateSeconds = 0.012;   // that the highest reflection lies behind, at most
constexpr double kChanceEnergy = 4.0;    // square of heights that chance makes
constexpr double kCleaner = 0.25;        // of the highest peak's, for another to be taken
constexpr double kRivalShare = 0.75;     // of the highest peak
constexpr double kPeakShare = 0.4;       // of its height

}  // namespace

std::size_t directPeak(const std::vector<double>& heights, double sampleRate, double leastHeight) {
    const auto size = static_cast<std::ptrdiff_t>(heights.size());
    const auto at = [&](std::ptrdiff_t i) {
        return i >= 0 && i < size ? std::abs(heights[static_cast<std::size_t>(i)]) : 0.0;
    };
    const auto side = [&](std::ptrdiff_t peak, std::ptrdiff_t step) {
        double energy = 0.0;
        const auto from = static_cast<std::ptrdiff_t>(kPeakSeconds * sampleRate);
        const auto to = static_cast<std::ptrdiff_t>(kTailSeconds * sampleRate);
        for (std::ptrdiff_t i = from; i < to; ++i)
            energy += std::max(0.0, std::pow(at(peak + step * i), 2.0) - kChanceEnergy);
        return energy;
    };
    const auto lower = [&](std::ptrdiff_t peak) { return std::min(side(peak, -1), side(peak, 1)); };
    std::ptrdiff_t highest = 0;
    for (std::ptrdiff_t i = 1; i < size; ++i) highest = at(i) > at(highest) ? i : highest;
    std::ptrdiff_t best = highest;
    double least = kCleaner * lower(highest);
    const auto reach = static_cast<std::ptrdiff_t>(kLateSeconds * sampleRate);
    for (std::ptrdiff_t i = highest - reach; i <= highest + reach; ++i) {
        const bool isPeak = at(i) > at(i - 1) && at(i) >= at(i + 1);
        if (!isPeak || at(i) < std::max(kPeakShare * at(highest), leastHeight)) continue;
        const double here = lower(i);
        if (here >= least) continue;
        least = here;
        best = i;
    }
    return static_cast<std::size_t>(best);
}

double rivalSeconds(const std::vector<double>& heights, std::size_t direct, double sampleRate) {
    const auto own = static_cast<std::size_t>(2.0 * kPeakSeconds * sampleRate);
    double top = 0.0, farthest = 0.0;
    for (const double height : heights) top = std::max(top, std::abs(height));
    for (std::size_t i = 0; i < heights.size(); ++i) {
        const std::size_t away = i > direct ? i - direct : direct - i;
        if (away <= own || std::abs(heights[i]) < kRivalShare * top) continue;
        farthest = std::max(farthest, static_cast<double>(away) / sampleRate);
    }
    return farthest;
}

}  // namespace rigmatch::timing
