// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>

#include "base/result.h"

namespace rigmatch::colour {

using Vector3 = Eigen::Vector3d;
using Matrix3 = Eigen::Matrix3d;

/// CIE 1931 chromaticity.
struct Chromaticity {
    double x = 0.0;
    double y = 0.0;

    bool operator==(const Chromaticity&) const = default;
};

/// White points (CIE 15; D65 as written in ITU-R BT.709).
inline constexpr Chromaticity kD65{0.3127, 0.3290};
inline constexpr Chromaticity kD50{0.34567, 0.35850};

/// Chromaticities of red, green, blue and white.
struct Primaries {
    Chromaticity red;
    Chromaticity green;
    Chromaticity blue;
    Chromaticity white;

    bool operator==(const Primaries&) const = default;
};

/// ITU-R BT.709 and sRGB.
inline constexpr Primaries kBt709{{0.640, 0.330}, {0.300, 0.600}, {0.150, 0.060}, kD65};
/// ITU-R BT.2020 and BT.2100.
inline constexpr Primaries kBt2020{{0.708, 0.292}, {0.170, 0.797}, {0.131, 0.046}, kD65};

/// XYZ of a chromaticity at luminance 1. `chromaticity.y` must not be 0.
[[nodiscard]] Vector3 xyzOf(Chromaticity chromaticity);
/// Chromaticity of XYZ; the sum must not be 0.
[[nodiscard]] Chromaticity chromaticityOf(const Vector3& xyz);

/// Linear RGB of `primaries` to XYZ, white at Y = 1 (SMPTE RP 177).
[[nodiscard]] Matrix3 rgbToXyz(const Primaries& primaries);
/// The inverse of rgbToXyz().
[[nodiscard]] Matrix3 xyzToRgb(const Primaries& primaries);

/// Bradford chromatic adaptation of XYZ from one white to another (ISO 15076-1, annex E).
[[nodiscard]] Matrix3 bradford(Chromaticity from, Chromaticity to);

}  // namespace rigmatch::colour
