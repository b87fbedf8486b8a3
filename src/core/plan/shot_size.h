// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "plan/geometry.h"

namespace rigmatch::plan {

/// A wanted framing: head height over frame height for singles; for two-shots the frame's width
/// follows from where the people sit (common practice, sources 3.2 and 7).
struct ShotSize {
    std::string name;
    double headShare = 0.0;  ///< 0: framed by width
};
[[nodiscard]] const std::vector<ShotSize>& shotSizes();
[[nodiscard]] const ShotSize& shotSizeOf(const std::string& name);

/// Width of frame that a wanted shot needs at its subject, m; nothing where the plan has nobody in
/// front of the lens.
[[nodiscard]] std::optional<double> wantedWidth(const rig::SetPlan& plan,
                                                const rig::PlanObject& camera,
                                                const CameraView& view);

/// The owned lens that comes nearest.
struct LensChoice {
    double wantedMm = 0.0;           ///< what would frame exactly so
    std::optional<double> chosenMm;  ///< of the owned lenses; a zoom is set within its range
    double largestAperture = 0.0;
    double tooWideShare = 0.0;  ///< frame of the chosen over the wanted, minus 1; - is too tight
};
[[nodiscard]] LensChoice chooseLens(const rig::SetPlan& plan,
                                    const CameraView& view,
                                    double wantedWidthMetres);

}  // namespace rigmatch::plan
