// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string>
#include <vector>

#include "match/match_report.h"

namespace rigmatch::jobs {

/// The match of a take to the rig's target: what the Match screen and the command line show. Where
/// the target cannot be had, the rig's reference stands in, and the report says why.
[[nodiscard]] match::MatchReport matchReport(const rig::Rig& rig,
                                             const rig::Take& take,
                                             bool hasControls = true);

/// The grey row and its curve, ready to be drawn.
struct CurveEvidence {
    std::vector<double> patchStops;    ///< against 18 % grey
    std::vector<double> patchPercent;  ///< signal, %
    std::vector<double> curveStops;
    std::vector<double> curvePercent;
    std::vector<double> curveErrorPercent;  ///< standard error of the curve there
    double greyPercent = 0.0;               ///< signal of 18 % grey, %
    double greyErrorPercent = 0.0;          ///< its standard error
    double slopePercent = 0.0;              ///< slope at grey, % per stop
    double slopeErrorPercent = 0.0;
    double greyAtReferenceStops =
        0.0;  ///< light at which this camera gives the reference's grey, stops
};
/// Empty lists where the neutrals could not be fitted.
[[nodiscard]] CurveEvidence curveEvidence(const match::CameraMatch& camera,
                                          const match::CameraMatch& reference);

/// A patch as it looks on screen, 8-bit sRGB.
using ScreenColour = std::array<unsigned char, 3>;
/// Recorded signals of a reading shown as a BT.1886 display would, in chart order.
[[nodiscard]] std::vector<ScreenColour> screenColours(const match::PatchSignals& patches);

}  // namespace rigmatch::jobs
