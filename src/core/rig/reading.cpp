// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/reading.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"

namespace rigmatch::rig {
namespace {

constexpr double kLeastRise = 1e-5;  // signal

using Greys = std::vector<const PatchReading*>;

Greys usableNeutrals(const Reading& reading) {
    Greys greys;
    for (const PatchReading& patch : reading.patches) {
        if (patch.isNeutral && patch.nominalLinear[1] > 0.0 && isUsable(patch))
            greys.push_back(&patch);
    }
    std::sort(greys.begin(), greys.end(), [](const auto* a, const auto* b) {
        return a->nominalLinear[1] < b->nominalLinear[1];
    });
    return greys;
}

bool isRising(const Greys& greys) {
    for (std::size_t i = 0; i + 1 < greys.size(); ++i) {
        if (greys[i + 1]->signal[1] <= greys[i]->signal[1] + kLeastRise) return false;
    }
    return true;
}

/// How much the slope, signal per stop, changes along the row: of two rows that rise, the one with
/// less is the truer one, as tone curves are smooth.
double unevenness(const Greys& greys) {
    double sum = 0.0;
    for (std::size_t i = 0; i + 2 < greys.size(); ++i) {
        const auto slope = [&](std::size_t k) {
            return (greys[k + 1]->signal[1] - greys[k]->signal[1]) /
                   std::max(std::log2(greys[k + 1]->nominalLinear[1] / greys[k]->nominalLinear[1]),
                            1e-3);
        };
        sum += std::pow(slope(i + 1) - slope(i), 2.0);
    }
    return greys.size() > 2 ? sum / static_cast<double>(greys.size() - 2) : sum;
}

/// The rising row that is left when up to `most` greys are taken out; the most even of those that
/// lose the fewest. Empty where none rises.
Greys risingRow(const Greys& greys, int most) {
    if (isRising(greys)) return greys;
    Greys best;
    for (std::size_t i = 0; most > 0 && i < greys.size(); ++i) {
        Greys rest = greys;
        rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(i));
        const Greys row = risingRow(rest, most - 1);
        const bool isBetter =
            row.size() > best.size() ||
            (row.size() == best.size() && !row.empty() && unevenness(row) < unevenness(best));
        if (isBetter) best = row;
    }
    return best;
}

/// Longest rising row by throwing out what falls, for charts of so many greys that trying all
/// would take long.
Greys withoutFalls(const Greys& greys) {
    Greys row;
    for (const PatchReading* grey : greys) {
        if (row.empty() || grey->signal[1] > row.back()->signal[1] + kLeastRise)
            row.push_back(grey);
    }
    return row;
}

}  // namespace

bool isUsable(const PatchReading& patch) {
    const bool isFinite = std::all_of(
        patch.signal.begin(), patch.signal.end(), [](double v) { return std::isfinite(v); });
    return isFinite && !isClipped(patch) && !isCrushed(patch) && !isGlared(patch);
}

std::vector<const PatchReading*> usableGreys(const Reading& reading) {
    constexpr int kMostRefused = 2;
    const Greys greys = usableNeutrals(reading);
    Greys row = risingRow(greys, kMostRefused);
    return row.empty() ? withoutFalls(greys) : row;
}

std::vector<std::string> fallingGreys(const Reading& reading) {
    const Greys row = usableGreys(reading);
    std::vector<std::string> names;
    for (const PatchReading* grey : usableNeutrals(reading)) {
        if (std::find(row.begin(), row.end(), grey) == row.end()) names.push_back(grey->name);
    }
    return names;
}

std::optional<std::size_t> greyPatch(const Reading& reading) {
    std::optional<std::size_t> best;
    const auto away = [&](std::size_t i) {
        return std::abs(
            std::log2(std::max(reading.patches[i].nominalLinear[1], 1e-4) / base::kMidGrey));
    };
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        if (reading.patches[i].isNeutral && (!best || away(i) < away(*best))) best = i;
    }
    return best;
}

std::optional<std::size_t> blackPatch(const Reading& reading) {
    constexpr double kBlackUnder = 0.06;
    std::optional<std::size_t> best;
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        const double light = reading.patches[i].nominalLinear[1];
        if (!reading.patches[i].isNeutral || light > kBlackUnder) continue;
        if (!best || light < reading.patches[*best].nominalLinear[1]) best = i;
    }
    return best;
}

bool isCrushed(const PatchReading& patch) {
    constexpr double kFloor = 0.003;   // signal
    constexpr double kQuiet = 0.0007;  // standard deviation: any light has more noise
    return *std::max_element(patch.signal.begin(), patch.signal.end()) < kFloor &&
           *std::max_element(patch.noise.begin(), patch.noise.end()) < kQuiet;
}

bool isGlared(const PatchReading& patch) {
    constexpr double kTrimmed = 0.15;  // what the trimmed mean leaves out by itself
    return patch.glareShare > kTrimmed;
}

std::optional<ChartTilt> chartTilt(const Reading& reading) {
    if (!reading.hasChart || reading.columns < 2 || reading.rows < 2) return std::nullopt;
    const auto& c = reading.corners;
    const double across = reading.columns - 1.0 + reading.patchShare;
    const double down = reading.rows - 1.0 + reading.patchShare;
    // One step across and one down at the middle of the field: the means of opposite sides.
    const double ax = (c[1].x - c[0].x + c[2].x - c[3].x) / (2.0 * across);
    const double ay = (c[1].y - c[0].y + c[2].y - c[3].y) / (2.0 * across);
    const double bx = (c[3].x - c[0].x + c[2].x - c[1].x) / (2.0 * down);
    const double by = (c[3].y - c[0].y + c[2].y - c[1].y) / (2.0 * down);
    // Singular values of that 2 x 2 map: their ratio is the cosine of the tilt.
    const double sum = ax * ax + ay * ay + bx * bx + by * by;
    const double area = std::abs(ax * by - ay * bx);
    const double root = std::sqrt(std::max(0.0, 0.25 * sum * sum - area * area));
    const double largest = std::sqrt(0.5 * sum + root);
    const double smallest = std::sqrt(std::max(0.0, 0.5 * sum - root));
    if (!(largest > 0.0)) return std::nullopt;
    // A corner is off by about 0.4 px (docs/figures.md), a side's mean length as much: near 0° the
    // cosine hardly moves, so that little is known of small angles.
    constexpr double kCornerPx = 0.4;
    const double height = smallest * std::min(across, down);
    const double unsure = height > 0.0 ? std::numbers::sqrt2 * kCornerPx / height : 1.0;
    const double ratio = smallest / largest;
    const auto degrees = [](double cosine) {
        return std::acos(std::clamp(cosine, 0.0, 1.0)) * 180.0 / std::numbers::pi;
    };
    const double tilt = degrees(ratio);
    const double off = std::max(degrees(ratio - unsure) - tilt, tilt - degrees(ratio + unsure));
    return ChartTilt{tilt, off};
}

bool isOutsideGamut(const PatchReading& patch) {
    return *std::min_element(patch.nominalLinear.begin(), patch.nominalLinear.end()) < 0.0;
}

}  // namespace rigmatch::rig
