// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/progress.h"
#include "timing/coarse_offset.h"

namespace rigmatch::timing {

/// Lays loud pieces of the shorter track on the whole of the longer one by their sound itself
/// (phase transform, sources 13.2), and gives the places that stand out of chance, the surest
/// first. Finds microphones that hear mostly the room, whose levels tell nothing any more; but
/// costs a Fourier transform of all the sound.
[[nodiscard]] std::vector<CoarsePlace> piecePlaces(const WhitenedTrack& reference,
                                                   const WhitenedTrack& other,
                                                   const base::Progress& progress);

}  // namespace rigmatch::timing
