// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cmath>

namespace rigmatch::support {

/// White points by published formulas alone, for truth that no code under test had a part in:
/// Planck's locus after Krystek (1985), "An algorithm to calculate correlated colour temperature",
/// in the CIE 1960 UCS (within 9 × 10⁻⁵ of u and v from 1000 to 15000 K, from memory), Duv along
/// its normal (CIE 015:2018), BT.709 primaries from IEC 61966-2-1.
struct Uv {
    double u = 0.0, v = 0.0;
};

inline Uv planckUv(double kelvin) {
    const double t = kelvin, t2 = kelvin * kelvin;
    return {(0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t2) /
                (1.0 + 8.42420235e-4 * t + 7.08145163e-7 * t2),
            (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t2) /
                (1.0 - 2.89741816e-5 * t + 1.61456053e-7 * t2)};
}

/// Unit normal of the locus, toward green.
inline Uv planckNormal(double mired) {
    const Uv before = planckUv(1e6 / (mired - 0.5)), after = planckUv(1e6 / (mired + 0.5));
    const double du = after.u - before.u, dv = after.v - before.v, length = std::hypot(du, dv);
    return {-dv / length, du / length};
}

struct MiredDuv {
    double mired = 0.0, duv = 0.0;
};

/// Of D65 (0.3127, 0.3290): where the normal goes through it.
inline MiredDuv whiteD65() {
    const double x = 0.3127, y = 0.3290, scale = -2.0 * x + 12.0 * y + 3.0;
    const Uv at{4.0 * x / scale, 6.0 * y / scale};
    double mired = 154.0;
    for (int i = 0; i < 50; ++i) {
        const Uv foot = planckUv(1e6 / mired), next = planckUv(1e6 / (mired + 1.0));
        const double du = next.u - foot.u, dv = next.v - foot.v;
        mired += ((at.u - foot.u) * du + (at.v - foot.v) * dv) / (du * du + dv * dv);
    }
    const Uv foot = planckUv(1e6 / mired), normal = planckNormal(mired);
    return {mired, (at.u - foot.u) * normal.u + (at.v - foot.v) * normal.v};
}

/// Linear BT.709 of that white, green 1.
inline std::array<double, 3> whiteGains(const MiredDuv& white) {
    const Uv foot = planckUv(1e6 / white.mired), normal = planckNormal(white.mired);
    const double u = foot.u + white.duv * normal.u, v = foot.v + white.duv * normal.v;
    const double scale = 2.0 * u - 8.0 * v + 4.0, x = 3.0 * u / scale, y = 2.0 * v / scale;
    const double cieX = x / y, cieZ = (1.0 - x - y) / y;
    const double red = 3.2406 * cieX - 1.5372 - 0.4986 * cieZ;
    const double green = -0.9689 * cieX + 1.8758 + 0.0415 * cieZ;
    const double blue = 0.0557 * cieX - 0.2040 + 1.0570 * cieZ;
    return {red / green, 1.0, blue / green};
}

}  // namespace rigmatch::support
