// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/result.h"
#include "base/units.h"
#include "colour/primaries.h"

namespace rigmatch::colour {

/// CIE 1960 u,v: the plane in which colour temperature and Duv are defined.
struct Uv {
    double u = 0.0;
    double v = 0.0;
};

[[nodiscard]] Uv uvOf(Chromaticity chromaticity);
[[nodiscard]] Chromaticity chromaticityOf(Uv uv);

/// A white as shooters speak of it: where along the Planckian locus, and how far off it.
struct WhitePoint {
    base::Mired mired;
    base::Duv duv;
};

/// Chromaticity of a black body, by integrating Planck's law (c2 = 1.4388e-2 m K) over the CIE 1931
/// 2-degree observer at 10 nm. 1000..100000 K, else OutOfRange naming the value.
[[nodiscard]] base::Result<Chromaticity> planckian(base::Kelvin temperature);

/// CIE daylight locus (CIE 15). 4000..25000 K, else OutOfRange naming the value.
[[nodiscard]] base::Result<Chromaticity> daylight(base::Kelvin temperature);

/// Correlated colour temperature and Duv: the nearest point of the Planckian locus in u,v.
/// Fails with Unmeasurable where the colour is so far off (|Duv| > 0.1, outside 1000..100000 K)
/// that a temperature says nothing.
[[nodiscard]] base::Result<WhitePoint> whitePointOf(Chromaticity chromaticity);

/// The inverse of whitePointOf(): the colour `duv` off the locus, at right angles to it.
[[nodiscard]] base::Result<Chromaticity> chromaticityOf(const WhitePoint& white);

}  // namespace rigmatch::colour
