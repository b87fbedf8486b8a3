// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/predict.h"

#include <algorithm>
#include <cmath>

#include "match/tone_curve.h"

namespace rigmatch::match {
namespace {

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

ChangeMap::ChangeMap(const NeutralFit& fit, const Change& change)
    : m_curve(fit.curve), m_shift(channelShift(fit, change)) {}

double ChangeMap::apply(std::size_t channel, double signal) const {
    if (std::abs(m_shift[channel]) < 1e-9) return signal;
    const double light = m_curve.stopsAt(signal);
    // Colours beyond the gamut lie under the pedestal: no light can be told for them.
    if (light < kDarkestStops) return signal;
    return std::min(m_curve.signalAt(light + m_shift[channel]), kHighestSignal);
}

PatchSignals predicted(const rig::Reading& reading, const NeutralFit& fit, const Change& change) {
    const ChangeMap map(fit, change);
    PatchSignals signals = signalsOf(reading);
    for (auto& signal : signals) {
        for (std::size_t c = 0; c < 3; ++c) signal[c] = map.apply(c, signal[c]);
    }
    return signals;
}

}  // namespace rigmatch::match
