// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "timing/whitened_track.h"

namespace rigmatch::timing {

/// What to compare: a stretch of the reference, and where it is expected in the other track.
struct Stretch {
    double startSeconds = 0.0;  ///< in the reference
    double lengthSeconds = 4.0;
    double offsetSeconds = 0.0;  ///< expected: the other's time minus the reference's, at its start
    double driftShare = 0.0;     ///< by which the offset grows per second of the reference
    double reachSeconds = 0.05;  ///< how far from there it is looked for
    /// That the two belong together is known: what a room makes of one sound is then no chance, as
    /// it is where pitches repeat.
    bool isProved = false;
};

struct StretchMatch {
    double atSeconds = 0.0;      ///< middle of the stretch
    double offsetSeconds = 0.0;  ///< there
    double height = 0.0;      ///< of the peak, in standard deviations of chance; signed: polarity
    double likeness = 0.0;    ///< 0..1: of the two there, over all moments and frequencies
    std::vector<float> lags;  ///< all heights, from -reach to +reach about what was expected
};

/// Correlates a stretch in blocks of half a second, each shifted as the drift asks, and gives the
/// highest peak. Nothing where the two do not overlap for a block.
[[nodiscard]] std::optional<StretchMatch> matchStretch(const WhitenedTrack& reference,
                                                       const WhitenedTrack& other,
                                                       const Stretch& stretch);

}  // namespace rigmatch::timing
