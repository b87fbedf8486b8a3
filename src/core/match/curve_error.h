// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/neutral_fit.h"

namespace rigmatch::match {

/// What makes a fitted curve unsure: the noise of each of `fit.greys`, and how far a smooth curve
/// may miss between them. The latter is measured: each grey is predicted from the others, and a
/// fifth of what that misses by is taken for the middle between two greys (set so that published
/// curves in closed form lie within; a cubic at half the spacing would ask for a sixteenth). With
/// fewer than four greys it is 0.06 stop. `errors`: standard errors of the greys, signal, in their
/// order.
void putCurveErrors(NeutralFit& fit, const std::vector<double>& errors);

/// Standard error of the curve at a light, signal. Beyond the greys it grows by 0.15 stop per stop
/// (own estimate); an assumed curve is unsure by the share of its slope.
[[nodiscard]] double signalErrorAt(const NeutralFit& fit, double stops);
/// Standard error of the curve's slope at a light, signal per stop.
[[nodiscard]] double slopeErrorAt(const NeutralFit& fit, double stops);

/// How much less sure light gets where the curve is not measured, stops.
[[nodiscard]] double beyondCurve(const ToneCurve& curve, double stops);

}  // namespace rigmatch::match
