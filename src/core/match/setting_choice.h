// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/solver.h"

namespace rigmatch::match {

/// Everything that choosing settings and listing turns need, gathered once (solver.cpp).
struct Problem {
    const rig::Camera* camera;
    const rig::Settings& from;
    const rig::Reading& reading;
    PatchSignals reference;  ///< and skin, as `predictor` has it
    const CameraDifferences& differences;
    const BodyModel& body;
    const SolverOptions& options;
    const Predictor predictor;       ///< of the reading
    const LearnedControls& learned;  ///< how the camera's controls answer
    double referenceGrey;
    double exposure, mired, duv;  // measured differences
    bool isExposureTurned;        // false: unknown, or an automatic chose it and nobody told

    /// What those settings do to the body.
    [[nodiscard]] Change dialTo(const rig::Settings& to) const {
        return learned.answer(movesBetween(camera->sheet, from, to));
    }
    [[nodiscard]] Change effectOf(const Change& dial) const {
        return body.effectOf(dial, referenceGrey);
    }
    /// Predicted mean ΔE2000 against the reference.
    [[nodiscard]] double predictedDeltaE(const rig::Settings& to) const;
    /// What the dials would have to do for white balance and tint to agree, with the knobs as
    /// `look` has them.
    [[nodiscard]] Change wantedDial(const Change& look = {}) const {
        Change wanted = look;
        wanted.exposureStops = 0.0;
        wanted.whiteBalanceMired = -mired;
        wanted.tintDuv = -duv;
        return body.dialFor(wanted, referenceGrey);
    }
};

/// A body with an ISO dial that nobody read is told by how much: its f-number, which depth of field
/// hangs on, is not turned in its place.
[[nodiscard]] bool canTurnExposure(const rig::Camera& camera,
                                   const rig::Settings& from,
                                   const SolverOptions& options);

/// Of the choices that are as near as the controls allow, the one with the smallest predicted ΔE.
[[nodiscard]] rig::Settings chooseSettings(const Problem& p);

}  // namespace rigmatch::match
