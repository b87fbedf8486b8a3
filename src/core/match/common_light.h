// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "match/differences.h"

namespace rigmatch::match {

/// By what all cameras of a take lie off a target from outside it alike: then it is the light, and
/// one turn of it serves all better than a turn of each camera.
struct CommonLight {
    std::size_t cameras = 0;
    std::optional<double> stops;  ///< + : brighter than the target; nothing: no part in it
    double stopsUncertainty = 0.0;
    std::optional<double> mired;  ///< + : warmer
    double miredUncertainty = 0.0;
};

/// Of at least two cameras whose difference is known, each of the two apart: told where it exceeds
/// a tenth of a stop or 5 mired and twice its uncertainty, and no camera lies off it by more than a
/// third of it or twice the uncertainty (own bounds). Nothing where neither is.
[[nodiscard]] std::optional<CommonLight> commonLight(
    const std::vector<const CameraDifferences*>& cameras);

}  // namespace rigmatch::match
