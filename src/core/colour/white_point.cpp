// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/white_point.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/format.h"

namespace rigmatch::colour {
namespace {

using base::Duv;
using base::ErrorCode;
using base::Kelvin;
using base::Mired;

struct ObserverRow {
    double x, y, z;
};

// CIE 1931 2-degree colour-matching functions, 380..780 nm in steps of 10 nm (CIE 15, from memory;
// the tests hold the integrated locus against published points).
constexpr std::array<ObserverRow, 41> kObserver{{
    {.0014, .0000, .0065},  {.0042, .0001, .0201},  {.0143, .0004, .0679},  {.0435, .0012, .2074},
    {.1344, .0040, .6456},  {.2839, .0116, 1.3856}, {.3483, .0230, 1.7471}, {.3362, .0380, 1.7721},
    {.2908, .0600, 1.6692}, {.1954, .0910, 1.2876}, {.0956, .1390, .8130},  {.0320, .2080, .4652},
    {.0049, .3230, .2720},  {.0093, .5030, .1582},  {.0633, .7100, .0782},  {.1655, .8620, .0422},
    {.2904, .9540, .0203},  {.4334, .9950, .0087},  {.5945, .9950, .0039},  {.7621, .9520, .0021},
    {.9163, .8700, .0017},  {1.0263, .7570, .0011}, {1.0622, .6310, .0008}, {1.0026, .5030, .0003},
    {.8544, .3810, .0002},  {.6424, .2650, .0000},  {.4479, .1750, .0000},  {.2835, .1070, .0000},
    {.1649, .0610, .0000},  {.0874, .0320, .0000},  {.0468, .0170, .0000},  {.0227, .0082, .0000},
    {.0114, .0041, .0000},  {.0058, .0021, .0000},  {.0029, .0010, .0000},  {.0014, .0005, .0000},
    {.0007, .0002, .0000},  {.0003, .0001, .0000},  {.0002, .0001, .0000},  {.0001, .0000, .0000},
    {.0000, .0000, .0000},
}};

constexpr double kSecondRadiation = 1.4388e-2;  // m K
constexpr double kLowestMired = 10.0;           // 100000 K
constexpr double kHighestMired = 1000.0;        // 1000 K

/// Per row of the observer: what the temperature is multiplied by in Planck's exponent, per mired,
/// and what stands before it.
struct RadiationRow {
    double exponentPerMired, factor;
};
std::array<RadiationRow, kObserver.size()> radiationRows() {
    std::array<RadiationRow, kObserver.size()> rows{};
    for (std::size_t row = 0; row < rows.size(); ++row) {
        const double wavelength = (380.0 + 10.0 * static_cast<double>(row)) * 1e-9;
        rows[row] = {kSecondRadiation * 1e-6 / wavelength,
                     std::pow(wavelength * 1e9 / 560.0, -5.0)};
    }
    return rows;
}

Uv planckianUv(double mired) {
    static const auto kRows = radiationRows();
    double x = 0.0;
    double y = 0.0;
    double z = 0.0;
    for (std::size_t row = 0; row < kObserver.size(); ++row) {
        const double power = kRows[row].factor / std::expm1(kRows[row].exponentPerMired * mired);
        x += power * kObserver[row].x;
        y += power * kObserver[row].y;
        z += power * kObserver[row].z;
    }
    const double sum = x + 15.0 * y + 3.0 * z;
    return {4.0 * x / sum, 6.0 * y / sum};
}

/// Unit tangent of the locus toward higher mired (warmer).
Uv tangentAt(double mired) {
    const double step = 0.01;
    const Uv before = planckianUv(mired - step);
    const Uv after = planckianUv(mired + step);
    const double length = std::hypot(after.u - before.u, after.v - before.v);
    return {(after.u - before.u) / length, (after.v - before.v) / length};
}

double squaredDistance(Uv first, Uv second) {
    const double du = first.u - second.u;
    const double dv = first.v - second.v;
    return du * du + dv * dv;
}

/// Nearest mired on a coarse walk, so that the refinement below starts in the right valley.
double coarseMired(Uv point) {
    struct Place {
        double mired;
        Uv uv;
    };
    static const std::vector<Place> kPlaces = [] {
        std::vector<Place> places;
        for (double mired = kLowestMired; mired <= kHighestMired; mired *= 1.15)
            places.push_back({mired, planckianUv(mired)});
        return places;
    }();
    const auto nearest =
        std::min_element(kPlaces.begin(), kPlaces.end(), [&](const Place& a, const Place& b) {
            return squaredDistance(a.uv, point) < squaredDistance(b.uv, point);
        });
    return nearest->mired;
}

/// Foot of the perpendicular: walk along the tangent until the rest is at right angles.
double nearestMired(Uv point) {
    double mired = coarseMired(point);
    for (int step = 0; step < 30; ++step) {
        const Uv here = planckianUv(mired);
        const Uv before = planckianUv(mired - 0.01);
        const Uv after = planckianUv(mired + 0.01);
        const double du = (after.u - before.u) / 0.02;
        const double dv = (after.v - before.v) / 0.02;
        const double along = (point.u - here.u) * du + (point.v - here.v) * dv;
        const double move = std::clamp(along / (du * du + dv * dv), -60.0, 60.0);
        mired = std::clamp(mired + move, kLowestMired, kHighestMired);
        if (std::abs(move) < 1e-7) break;
    }
    return mired;
}

base::Error rangeError(base::Text what, double kelvin, int lowest, int highest) {
    return {ErrorCode::OutOfRange,
            std::move(what),
            base::say("whitePoint.outOfRange",
                      {{"kelvin", base::Number{kelvin}},
                       {"lowest", base::whole(lowest)},
                       {"highest", base::whole(highest)}}),
            base::say("mired.enterColourTemperature")};
}

}  // namespace

Uv uvOf(Chromaticity c) {
    const double sum = -2.0 * c.x + 12.0 * c.y + 3.0;
    return {4.0 * c.x / sum, 6.0 * c.y / sum};
}

Chromaticity chromaticityOf(Uv uv) {
    const double sum = 2.0 * uv.u - 8.0 * uv.v + 4.0;
    return {3.0 * uv.u / sum, 2.0 * uv.v / sum};
}

base::Result<Chromaticity> planckian(Kelvin temperature) {
    const double kelvin = temperature.value();
    if (!(kelvin >= 1000.0 && kelvin <= 100000.0)) {
        return tl::unexpected(
            rangeError(base::say("mired.colourTemperatureOut"), kelvin, 1000, 100000));
    }
    return chromaticityOf(planckianUv(1e6 / kelvin));
}

base::Result<Chromaticity> daylight(Kelvin temperature) {
    const double t = temperature.value();
    if (!(t >= 4000.0 && t <= 25000.0)) {
        return tl::unexpected(rangeError(base::say("whitePoint.daylightOut"), t, 4000, 25000));
    }
    const double x = t <= 7000.0 ? ((-4.6070e9 / t + 2.9678e6) / t + 0.09911e3) / t + 0.244063
                                 : ((-2.0064e9 / t + 1.9018e6) / t + 0.24748e3) / t + 0.237040;
    return Chromaticity{x, (-3.000 * x + 2.870) * x - 0.275};
}

base::Result<WhitePoint> whitePointOf(Chromaticity chromaticity) {
    const Uv point = uvOf(chromaticity);
    const double mired = nearestMired(point);
    const Uv foot = planckianUv(mired);
    const double distance = std::sqrt(squaredDistance(point, foot));
    const bool isAtEnd = mired <= kLowestMired || mired >= kHighestMired;
    if (!(distance <= 0.1) || isAtEnd) {
        return base::fail(ErrorCode::Unmeasurable,
                          base::say("whitePoint.noColourTemperature"),
                          base::say("whitePoint.tooFar",
                                    {{"x", base::Number{chromaticity.x, 4}},
                                     {"y", base::Number{chromaticity.y, 4}}}),
                          base::say("whitePoint.checkWhiteBalance"));
    }
    return WhitePoint{Mired(mired), Duv(point.v > foot.v ? distance : -distance)};
}

base::Result<Chromaticity> chromaticityOf(const WhitePoint& white) {
    const double mired = white.mired.value();
    if (!(mired >= kLowestMired && mired <= kHighestMired)) {
        return tl::unexpected(rangeError(
            base::say("mired.colourTemperatureOut"), 1e6 / std::max(mired, 1e-9), 1000, 100000));
    }
    const Uv foot = planckianUv(mired);
    const Uv along = tangentAt(mired);
    // The normal that points to larger v, which is the green side of the locus.
    const double sign = along.u > 0.0 ? 1.0 : -1.0;
    return chromaticityOf(Uv{foot.u - sign * along.v * white.duv.value(),
                             foot.v + sign * along.u * white.duv.value()});
}

}  // namespace rigmatch::colour
