// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/progress.h"
#include "timing/whitened_track.h"

namespace rigmatch::timing {

/// A place where a piece of the reference may stand in the other track.
struct CoarsePlace {
    double startSeconds = 0.0;  ///< of the piece, in the reference
    double lengthSeconds = 0.0;
    double offsetSeconds = 0.0;  ///< the other's time minus the reference's, to a few hundredths
    double likeness = 0.0;       ///< correlation of the levels there, -1..1
    double height = 0.0;         ///< of the sound itself, over chance; 0: not looked at
};

/// Lays pieces of the reference, `pieceSeconds` long, on the whole other track by their levels in
/// bands, and gives the most alike places of each, the most alike first.
[[nodiscard]] std::vector<CoarsePlace> coarsePlaces(const WhitenedTrack& reference,
                                                    const WhitenedTrack& other,
                                                    double pieceSeconds,
                                                    const base::Progress& progress);

}  // namespace rigmatch::timing
