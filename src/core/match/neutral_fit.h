// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "base/result.h"
#include "colour/white_point.h"
#include "match/tone_curve.h"
#include "rig/reading.h"

namespace rigmatch::match {

/// What the neutral patches of one reading tell: the camera's tone curve and the colour of its
/// neutrals.
///
/// All three channels are taken to follow one curve. Green's signals against the light of the
/// patches give the curve; red and blue then lie on it shifted sideways, and that shift is the
/// ratio of their linear light to green's. So stops and white balance come out right whatever the
/// profile, without knowing it.
struct NeutralFit {
    ToneCurve curve{{}};                   ///< of the green channel
    std::array<double, 3> channelStops{};  ///< linear light of R, G, B relative to green, stops
    std::array<double, 3> channelStopsError{};  ///< standard errors
    double luminanceStops = 0.0;                ///< luminance of a neutral relative to its green
    double greyError = 0.0;                     ///< standard error of light at grey, stops
    colour::WhitePoint white;                   ///< of the rendered neutral
    int patchesUsed = 0;

    /// Signal of a colourless patch of `stops` against 18 % grey.
    [[nodiscard]] double greySignal(double stops) const {
        return curve.signalAt(stops + luminanceStops);
    }
    /// Light of a colourless patch whose signal is that.
    [[nodiscard]] double greyStops(double signal) const {
        return curve.stopsAt(signal) - luminanceStops;
    }
};

/// Fails with Unmeasurable, naming what is missing, where fewer than three unclipped neutrals are
/// there or the colour is too far from any white.
[[nodiscard]] base::Result<NeutralFit> fitNeutrals(const rig::Reading& reading);

/// Linear gains of R, G, B (green 1) that render a neutral as `white`, in BT.709 primaries.
[[nodiscard]] base::Result<std::array<double, 3>> gainsOf(const colour::WhitePoint& white);

}  // namespace rigmatch::match
