// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "base/result.h"

namespace rigmatch::timing {

struct PictureCurve;

/// When the same things happen in two cameras' pictures.
struct PictureOffset {
    double offsetSeconds = 0.0;  ///< event's time in the file minus its time in the reference
    double uncertaintySeconds = 0.0;
    double likeness = 0.0;  ///< of the two curves there, -1..1
    /// Between the least and the largest offset of parts of 10 s; nothing where fewer than three
    /// tell one. Parts of an offset that stands differ by two thirds of a frame.
    std::optional<double> wanderSeconds;

    bool operator==(const PictureOffset&) const = default;
};

/// Lays how much moves, and how the brightness jumps, on each other: hands that close, a lamp that
/// is switched on, a person who starts to move (sources 13.5). Resolves about a third of a frame.
/// Fails with Unmeasurable where nothing moves in one of them, or nothing alike.
[[nodiscard]] base::Result<PictureOffset> findPictureOffset(const PictureCurve& reference,
                                                            const PictureCurve& other);

}  // namespace rigmatch::timing
