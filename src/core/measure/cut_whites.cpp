// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/cut_whites.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::measure {
namespace {

using base::Number;
using base::say;

constexpr double kSameLevel = 0.004;  // signal
constexpr double kApartStops = 0.2;
constexpr double kQuietShare = 0.33;
constexpr double kLeastLevel = 0.3;  // signal: no camera cuts its whites below that

using Patches = std::vector<rig::PatchReading>;

/// Patches of a channel that stand at its highest level.
std::vector<std::size_t> topOf(const Patches& patches, std::size_t channel) {
    double top = 0.0;
    for (const rig::PatchReading& patch : patches) top = std::max(top, patch.signal[channel]);
    std::vector<std::size_t> members;
    for (std::size_t i = 0; i < patches.size(); ++i) {
        if (patches[i].signal[channel] >= top - kSameLevel) members.push_back(i);
    }
    return top >= kLeastLevel ? members : std::vector<std::size_t>();
}

/// Stops between the most and the least light that the chart reflects there.
double apart(const Patches& patches,
             const std::vector<std::size_t>& members,
             std::size_t channel,
             bool areNeutral) {
    double low = 1e9;
    double high = 0.0;
    for (const std::size_t i : members) {
        if (areNeutral && !patches[i].isNeutral) continue;
        low = std::min(low, std::max(patches[i].nominalLinear[channel], 1e-4));
        high = std::max(high, patches[i].nominalLinear[channel]);
    }
    return high > 0.0 ? std::log2(high / low) : 0.0;
}

/// True where the top has far less noise than the greys below it: cut light has none.
bool isQuiet(const Patches& patches, const std::vector<std::size_t>& members, std::size_t channel) {
    std::vector<double> others;
    double most = 0.0;
    for (std::size_t i = 0; i < patches.size(); ++i) {
        const bool isTop = std::find(members.begin(), members.end(), i) != members.end();
        if (isTop) most = std::max(most, patches[i].noise[channel]);
        if (!isTop && patches[i].isNeutral) others.push_back(patches[i].noise[channel]);
    }
    if (others.size() < 3) return false;
    std::nth_element(
        others.begin(), others.begin() + static_cast<long>(others.size() / 2), others.end());
    const double usual = others[others.size() / 2];
    return usual > 0.0 && most < kQuietShare * usual;
}

}  // namespace

std::optional<base::Warning> markCutWhites(Patches& patches) {
    double level = 0.0;
    std::string names;
    std::vector<bool> isCut(patches.size());
    for (std::size_t c = 0; c < 3; ++c) {
        const std::vector<std::size_t> members = topOf(patches, c);
        if (members.size() < 2) continue;
        const bool isLevel =
            apart(patches, members, c, true) > kApartStops ||
            (apart(patches, members, c, false) > kApartStops && isQuiet(patches, members, c));
        if (!isLevel) continue;
        for (const std::size_t i : members) {
            // Where the codes themselves end, clipping is told already.
            if (!rig::isClipped(patches[i])) isCut[i] = true;
            level = std::max(level, patches[i].signal[c]);
        }
    }
    for (std::size_t i = 0; i < patches.size(); ++i) {
        if (!isCut[i]) continue;
        patches[i].clippedShare = 1.0;
        names += (names.empty() ? "" : ", ") + patches[i].name;
    }
    if (names.empty()) return std::nullopt;
    return base::Warning{
        "WhitesCut",
        say("whitesCut.seen", {{"level", Number{100.0 * level, 1}}, {"names", names}}),
        say("whitesCut.hint")};
}

}  // namespace rigmatch::measure
