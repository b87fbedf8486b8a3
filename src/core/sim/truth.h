// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "rig/rig.h"

namespace rigmatch::sim {

/// What an ideal measurement of a simulated camera against a simulated reference would find.
struct TrueDifference {
    double exposureStops =
        0.0;  ///< camera-referred: the reference's grey through this camera's own curve
    double sceneExposureStops = 0.0;  ///< scene-referred: gain against gain
    double whiteBalanceMired = 0.0;
    double tintDuv = 0.0;
};

/// By the definitions (sources 5) on how the two render neutrals, looks and knobs with them; both
/// cameras must be simulated.
[[nodiscard]] TrueDifference trueDifference(const rig::Camera& camera,
                                            const rig::Camera& reference);

/// The truth of a take as JSON text: per camera settings and differences to the reference.
[[nodiscard]] std::string truthJson(const rig::Rig& rig);

}  // namespace rigmatch::sim
