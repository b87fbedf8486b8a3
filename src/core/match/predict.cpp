// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/predict.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::match {
namespace {

constexpr double kHighestSignal = 1.09;  // the top of limited range
constexpr double kDarkestStops = -11.9;  // where the tone curve's model ends

/// Gain of each channel, in stops.
std::array<double, 3> channelShift(const NeutralFit& fit, const Change& change) {
    std::array<double, 3> shift{change.exposureStops, change.exposureStops, change.exposureStops};
    const auto before = gainsOf(fit.white);
    const auto after = gainsOf(changedWhite(fit, change));
    if (!before || !after) return shift;
    for (std::size_t c = 0; c < 3; ++c) shift[c] += std::log2((*after)[c] / (*before)[c]);
    return shift;
}

}  // namespace

PatchSignals signalsOf(const rig::Reading& reading) {
    PatchSignals signals;
    for (const rig::PatchReading& patch : reading.patches) signals.push_back(patch.signal);
    return signals;
}

colour::WhitePoint changedWhite(const NeutralFit& fit, const Change& change) {
    return {
        base::Mired(std::clamp(fit.white.mired.value() + change.whiteBalanceMired, 20.0, 900.0)),
        fit.white.duv + base::Duv(change.tintDuv)};
}

PatchSignals predicted(const rig::Reading& reading, const NeutralFit& fit, const Change& change) {
    const std::array<double, 3> shift = channelShift(fit, change);
    PatchSignals signals = signalsOf(reading);
    for (auto& signal : signals) {
        for (std::size_t c = 0; c < 3; ++c) {
            if (std::abs(shift[c]) < 1e-9) continue;
            const double light = fit.curve.stopsAt(signal[c]);
            // Colours beyond the gamut lie under the pedestal: no light can be told for them.
            if (light < kDarkestStops) continue;
            signal[c] = std::min(fit.curve.signalAt(light + shift[c]), kHighestSignal);
        }
    }
    return signals;
}

}  // namespace rigmatch::match
