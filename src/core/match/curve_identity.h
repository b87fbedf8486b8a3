// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "colour/curve_fit.h"
#include "match/neutral_fit.h"

namespace rigmatch::match {

using colour::CurveCandidate;

/// What the grey row says of the curve behind it.
struct CurveIdentity {
    std::vector<CurveCandidate> candidates;  ///< best first, those within reach of the best
    bool isIdentified = false;               ///< one fits, and no other fits nearly as well

    [[nodiscard]] const CurveCandidate& best() const { return candidates.front(); }
};

/// Fits every published curve to the grey row by one unknown, the exposure: each grey is predicted
/// from the others (leave one out), so that no curve is praised for what it was fitted to. A curve
/// fits where the error stays within 0.6 % of signal or three of its standard errors; it is
/// identified where every other curve errs at least twice as much. Candidates: BT.709, sRGB,
/// BT.1886, HLG, PQ, and the curves that OpenColorIO carries, by the names it brings. Nothing where
/// fewer than four greys are unclipped.
[[nodiscard]] std::optional<CurveIdentity> identifyCurve(const rig::Reading& reading);

/// The published curve that identifyCurve() names, as a table over light (1 = diffuse white as the
/// standard or maker has it); nothing where none is named.
[[nodiscard]] std::optional<colour::TransferCurve> identifiedCurve(const rig::Reading& reading);

/// How well a declared curve agrees with the grey row: each grey predicted from the others through
/// it, % of signal. Nothing where fewer than four greys are unclipped.
[[nodiscard]] std::optional<double> curveAgreement(const rig::Reading& reading,
                                                   const colour::TransferCurve& curve);

/// What kind of picture a camera gives, in words, from its own grey row.
struct ProfileClass {
    std::string name;                  ///< "finished", "flat", "log" or "HLG"
    double slopePercentPerStop = 0.0;  ///< at grey
    double blackPercent = 0.0;         ///< signal of the black patch
    double shoulder = 1.0;  ///< slope over the two lightest greys against that at grey: a knee is
                            ///< under 0.7
    double shoulderError = 0.0;
};
/// Log: under 9 % per stop and nearly as steep in the shadows as at grey; flat: under 13 %;
/// finished: steeper (bounds are our own, between the published curves of sources 5.5). HLG by the
/// file's tag or by identity.
[[nodiscard]] ProfileClass profileClass(const rig::Reading& reading,
                                        const NeutralFit& fit,
                                        const std::optional<CurveIdentity>& identity);

}  // namespace rigmatch::match
