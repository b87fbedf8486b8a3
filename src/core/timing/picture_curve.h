// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

namespace rigmatch::timing {

/// How much a clip moves and how bright it is, frame by frame, to be laid on another camera's.
struct PictureCurve {
    std::vector<double> seconds;  ///< middle between a frame and the one before
    std::vector<double> motion;   ///< root mean square of the change, 8-bit codes
    /// How far what is seen goes down, mean over the picture, px of a picture 128 px wide. Cameras
    /// round about a person see the same of it.
    std::vector<double> sinking;
    std::vector<double> brightening;  ///< change of the mean level, 8-bit codes
    double frameSeconds = 0.0;
    int movingFrames = 0;           ///< in which something moves, beyond noise and codec
    double largestBrightening = 0;  ///< size of the largest jump of the mean level, 8-bit codes
};

}  // namespace rigmatch::timing
