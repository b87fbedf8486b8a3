// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "match/body_model.h"
#include "match/differences.h"
#include "match/learning.h"
#include "match/skin_aim.h"
#include "rig/rig.h"
#include "rig/turn.h"

namespace rigmatch::match {

/// Penalties that decide between ways to the same brightness (sources 6.3), in stops of rest they
/// may cost.
struct SolverOptions {
    double perTurn = 0.03;  ///< no turn for less than this gain
    double isoPerStopAboveNative = 0.015;
    double aperturePerStop = 0.12;  ///< depth of field changes
    double shutterPerStop = 0.1;    ///< of angle, away from how the reference shows motion
    double ndPerChange = 0.02;
    double perKnob = 0.03;           ///< ΔE2000: no knob of a profile for less
    double worthMired = 1.0;         ///< no white-balance turn for less gain
    double worthTintShare = 0.4;     ///< of a tint step
    std::vector<double> shutters{};  ///< times it may be turned to; empty: it stays
    double openShare = 0.0;          ///< of a frame, the reference's shutter; 0: nobody told
    bool isIsoKnown = true;     ///< false: an automatic chose it and nobody told; no exposure turn
    bool isKelvinKnown = true;  ///< the same for the white balance
    std::vector<SkinAim> skin{};  ///< people whom both see: judged beside the patches
    LearnedControls learned{};    ///< how this camera's controls answer
    double referenceGrey = 0.0;   ///< signal of the reference's 18 % grey; 0: this camera's own
    Judge judge{};                ///< how this camera's colours are judged …
    Judge referenceJudge{};       ///< … and the reference's
};

/// What the controls of a camera cannot reach, and what would help, in words.
struct LeftOver {
    Quality quality = Quality::Exposure;
    base::Text text;
};

/// What to turn on one camera and where that leads.
struct TurnPlan {
    std::vector<rig::Turn> turns;
    Change dial;                 ///< all turns together, on the body's own gains
    Change total;                ///< the same as it shows on the recorded neutral
    PatchSignals after;          ///< predicted patches
    ColourDifference predicted;  ///< of those against the reference
    std::vector<LeftOver> leftOver;
};

/// Chooses among the camera's own allowed values: exposure by the nearest step with the least harm
/// (ND, ISO or gain, then aperture; the shutter only where it is free, and toward the reference's),
/// then Kelvin, amber and tint; where two choices are as near, the predicted ΔE2000 decides. Knobs
/// of the profile are turned to where that is smallest, sharpening to where edges overshoot alike.
/// `camera` null: amounts instead of values. The reading's own settings are the starting point.
/// Differences must come from compare() on the same readings; without a fit the plan is empty.
/// `body`: of `reading`; the dials act on its gains, and what they do is seen through its matrix,
/// curve and saturation.
[[nodiscard]] TurnPlan solveTurns(const rig::Camera* camera,
                                  const rig::Settings& shotSettings,
                                  const rig::Reading& reading,
                                  const rig::Reading& reference,
                                  const CameraDifferences& differences,
                                  const BodyModel& body,
                                  const SolverOptions& options = {});

}  // namespace rigmatch::match
