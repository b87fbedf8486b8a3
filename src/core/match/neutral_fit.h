// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>

#include "base/result.h"
#include "colour/transfer.h"
#include "colour/white_point.h"
#include "match/measured.h"
#include "match/tone_curve.h"
#include "rig/reading.h"

namespace rigmatch::match {

/// One stop of red against blue is that many mired on the daylight locus, and one of green against
/// both that much Duv (sources 11.5).
inline constexpr double kMiredPerStop = 66.0;
inline constexpr double kDuvPerStop = 0.019;

/// What the neutral patches of one reading tell: the camera's tone curve and the colour of its
/// neutrals.
///
/// All three channels are taken to follow one curve. Green's signals against the light of the
/// patches give the curve; red and blue then lie on it shifted sideways, and that shift is the
/// ratio of their linear light to green's. So stops and white balance come out right whatever the
/// profile, without knowing it. Where the shift changes with brightness (a body that takes colour
/// out of its highlights), the one at 18 % grey is stated, and half a stop of the change is added
/// to its uncertainty.
struct NeutralFit {
    ToneCurve curve{{}};                   ///< of the green channel
    std::array<double, 3> channelStops{};  ///< linear light of R, G, B relative to green, stops
    std::array<double, 3> channelStopsError{};  ///< standard errors
    /// By how much red and blue move against green for every stop of light, stops: a cast that
    /// fades toward white, or grows; with its standard error. Taken from the greys within 1.3 stops
    /// of 18 %; 0 where fewer than three of them are usable.
    std::array<double, 3> channelFade{};
    std::array<double, 3> channelFadeError{};
    bool isCastKnown =
        true;  ///< false: no grey lies on the curve in red and in blue, so that there
               ///< is no white balance to tell; `white` is then D65 and means nothing
    double luminanceStops = 0.0;        ///< luminance of a neutral relative to its green
    double greyError = 0.0;             ///< standard error of light at grey, stops
    colour::WhitePoint white;           ///< of the rendered neutral
    std::vector<CurvePoint> greys;      ///< as measured, green against the light of the patch
    std::vector<double> greyErrors;     ///< standard errors of those, signal; see curve_error.h
    std::vector<double> betweenErrors;  ///< from each of them to the next, signal
    int patchesUsed = 0;
    bool isCurveAssumed = false;  ///< too few greys for a curve of its own: a declared, tagged or
                                  ///< usual one was laid through them
    double slopeError = 0.0;      ///< share by which the assumed curve's slope may be wrong
    std::optional<Measured> veil{};  ///< light over all of the picture, of diffuse white, where
                                     ///< the curve is declared

    /// Signal of a colourless patch of `stops` against 18 % grey.
    [[nodiscard]] double greySignal(double stops) const {
        return curve.signalAt(stops + luminanceStops);
    }
    /// Light of a colourless patch whose signal is that.
    [[nodiscard]] double greyStops(double signal) const {
        return curve.stopsAt(signal) - luminanceStops;
    }
};

/// Where the reference has three greys or more, they give the curve. With one or two (a grey card,
/// an area of the set) the curve is assumed: `declared` where the camera has one, else that of the
/// file's tag, else BT.709, laid through the greys. Then stops, mired and Duv are unsure by as much
/// as they are themselves (a log picture read so shows a third of them), by 2 % where declared or
/// tagged HLG or linear. Fails with Unmeasurable, naming what is missing, where too few neutrals
/// are unclipped or the colour is too far from any white.
[[nodiscard]] base::Result<NeutralFit> fitNeutrals(const rig::Reading& reading,
                                                   const colour::TransferCurve* declared = nullptr);

/// Linear gains of R, G, B (green 1) that render a neutral as `white`, in BT.709 primaries.
[[nodiscard]] base::Result<std::array<double, 3>> gainsOf(const colour::WhitePoint& white);

}  // namespace rigmatch::match
