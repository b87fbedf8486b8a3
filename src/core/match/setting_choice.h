// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/solver.h"

namespace rigmatch::match {

/// Everything that choosing settings and listing turns need, gathered once (solver.cpp).
struct Problem {
    const rig::Camera* camera;
    const rig::Settings& from;
    const rig::Reading& reading;
    PatchSignals reference;
    const CameraDifferences& differences;
    const BodyModel& body;
    const SolverOptions& options;
    double referenceGrey;
    double exposure, mired, duv;  // measured differences
    bool isExposureTurned;        // false: unknown, or an automatic chose it and nobody told

    /// What those settings do to the body's gains.
    [[nodiscard]] Change dialTo(const rig::Settings& to) const {
        return answered(nominalChange(*camera, from, to), options.learned);
    }
    [[nodiscard]] Change effectOf(const Change& dial) const {
        return body.effectOf(dial, referenceGrey);
    }
    /// What the dials would have to do for white balance and tint to agree.
    [[nodiscard]] Change wantedDial() const {
        return body.dialFor({0.0, -mired, -duv}, referenceGrey);
    }
};

/// A body with an ISO dial that nobody read is told by how much: its f-number, which depth of field
/// hangs on, is not turned in its place.
[[nodiscard]] bool canTurnExposure(const rig::Camera& camera, const rig::Settings& from);

/// Of the choices that are as near as the controls allow, the one with the smallest predicted ΔE.
[[nodiscard]] rig::Settings chooseSettings(const Problem& p);

}  // namespace rigmatch::match
