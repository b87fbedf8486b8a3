// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "match/compare_parts.h"

namespace rigmatch::match {

/// Light that lies over the whole chart of one camera, or a lifted black: both raise the dark greys
/// most, and one picture does not tell which it is.
struct Veil {
    Measured share;  ///< of diffuse white; + on the camera, - on the reference
    double exposureStops =
        0.0;  ///< what the exposure difference would be without it, less what it is
};
/// Fits the camera's grey row to the reference's curve by exposure alone, and by exposure and a
/// veil. Nothing unless the veil explains what exposure does not: it must bring the greys onto one
/// curve (within 0.6 % of signal or three of their errors), take away two thirds of what was left,
/// and exceed 0.4 % of white and three of its own errors (own bounds, above the spread of cameras
/// of one curve in test_real_pictures).
[[nodiscard]] std::optional<Veil> veilBetween(const NeutralFit& mine, const NeutralFit& theirs);

/// By how many mired a cast changes for every stop of light: bodies that take colour out of their
/// highlights. Nothing without three middle greys.
[[nodiscard]] std::optional<Measured> castFade(const NeutralFit& fit);

/// How much brighter a patch is drawn for every stop that its neighbours are darker, stops: 0 for a
/// tone curve alone; local contrast, clarity and dynamic-range functions push neighbours apart.
/// From the coloured patches and the greys through the camera's own curve. Nothing under sixteen
/// usable patches in four rows.
[[nodiscard]] std::optional<Measured> localContrast(const rig::Reading& reading,
                                                    const NeutralFit& fit);

/// Tells what is found, and makes the numbers that it touches less sure by what it may change them.
void applyTraps(const Comparison& both, CameraDifferences& result);

}  // namespace rigmatch::match
