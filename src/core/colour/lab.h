// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "colour/primaries.h"

namespace rigmatch::colour {

/// CIE 1976 L*a*b*.
struct Lab {
    double lightness = 0.0;  ///< L*, 0..100
    double a = 0.0;
    double b = 0.0;

    bool operator==(const Lab&) const = default;
};

/// L*a*b* of XYZ (white at Y = 1) against `white` (CIE 15).
[[nodiscard]] Lab labOf(const Vector3& xyz, Chromaticity white);
/// The inverse of labOf().
[[nodiscard]] Vector3 xyzOf(const Lab& lab, Chromaticity white);

/// CIEDE2000 colour difference, kL = kC = kH = 1 (CIE 142; Sharma, Wu, Dalal 2005). Symmetric, 0 at
/// equality.
[[nodiscard]] double deltaE2000(const Lab& first, const Lab& second);

}  // namespace rigmatch::colour
