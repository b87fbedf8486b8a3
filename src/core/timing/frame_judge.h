// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "timing/frame_report.h"

namespace rigmatch::timing {

/// What was measured of one frame against the one before.
struct FrameFacts {
    double seconds = 0.0;
    double change = 0.0;              ///< root mean square where things move, 8-bit codes
    double stillness = 0.0;           ///< the same of the median block: noise and codec
    double motion = 0.0;              ///< of the whole picture
    double brightening = 0.0;         ///< of the mean level
    std::optional<double> stepRatio;  ///< way of points against the steps beside it
    std::optional<double> blurShare;  ///< of the step from before a repeat, see blurOverStep()
    std::optional<bool> isCombed;     ///< nothing where too little moves to tell
};

/// Least that must change where things move before it counts as motion, 8-bit codes, and how much
/// more than what changes where nothing moves: a key frame changes the whole picture a little.
inline constexpr double kLeastMotion = 1.2;
inline constexpr double kAboveStill = 2.0;
/// What the median block changes from here on is a pan, 8-bit codes: then nothing is still.
inline constexpr double kPanned = 3.0 * kLeastMotion;

/// Tells repeated, missing and late frames from the facts of all of them.
[[nodiscard]] FrameReport judgedFrames(const std::vector<FrameFacts>& facts);

}  // namespace rigmatch::timing
