// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "image/geometry.h"
#include "support/own_take.h"

namespace rigmatch::support {

/// A chart turned and tilted before a pinhole camera, its edges drawn in closed form: a step
/// blurred by a Gaussian and sharpened by an unsharp mask of another Gaussian. Nothing of it comes
/// from the product but the patches' values and the homography of four points.
struct OwnCard {
    static constexpr int kWidth = 480, kHeight = 340;
    double patchPx = 40.0;       ///< from patch to patch, before the tilt
    double rollDegrees = 0.0;    ///< in the picture's plane
    double tiltDegrees = 0.0;    ///< out of it …
    double towardDegrees = 0.0;  ///< … about an axis in it that lies so
    double away = 5.0;           ///< distance, chart widths
    double sigmaPx = 1.0;        ///< of the blur
    double sharpening = 0.0;     ///< unsharp mask, share
    double maskPx = 1.2;         ///< its Gaussian

    /// Place of a point of the chart (patch steps from its middle) in the picture.
    [[nodiscard]] image::Point at(double x, double y) const {
        constexpr double kDegree = std::numbers::pi / 180.0;
        // Turn about the axis (cos a, sin a, 0) by the tilt (Rodrigues), then roll.
        const double ax = std::cos(towardDegrees * kDegree), ay = std::sin(towardDegrees * kDegree);
        const double c = std::cos(tiltDegrees * kDegree), s = std::sin(tiltDegrees * kDegree);
        const double along = ax * x + ay * y;
        const double tx = c * x + (1.0 - c) * along * ax;
        const double ty = c * y + (1.0 - c) * along * ay;
        const double tz = s * (ax * y - ay * x);
        const double distance = 6.0 * away;
        const double scale = patchPx * distance / (distance + tz);
        const double cr = std::cos(rollDegrees * kDegree), sr = std::sin(rollDegrees * kDegree);
        return {0.5 * kWidth + scale * (cr * tx - sr * ty),
                0.5 * kHeight + scale * (sr * tx + cr * ty)};
    }

    /// Share of a straight step at a distance from its edge, px (+ is outside): 1 far inside.
    [[nodiscard]] double step(double distance) const {
        const auto gaussian = [&](double sigma) {
            return 0.5 * std::erfc(distance / (sigma * std::numbers::sqrt2));
        };
        return (1.0 + sharpening) * gaussian(sigmaPx) -
               sharpening * gaussian(std::hypot(sigmaPx, maskPx));
    }
    /// From 10 to 90 % of the step, px, and how far it shoots over, % of the step.
    [[nodiscard]] double widthPx() const {
        // The step falls all the way between its two peaks.
        double peak = 0.0;
        for (double d = -6.0; d <= 0.0; d += 0.001)
            if (step(d) > step(peak)) peak = d;
        const auto crossing = [&](double share) {
            double low = peak, high = -peak;
            for (int i = 0; i < 60; ++i) {
                const double middle = 0.5 * (low + high);
                (step(middle) > share ? low : high) = middle;
            }
            return low;
        };
        return crossing(0.1) - crossing(0.9);
    }
    [[nodiscard]] double overshootPercent() const {
        double highest = 1.0;
        for (double d = -8.0; d <= 0.0; d += 0.001) highest = std::max(highest, step(d));
        return 100.0 * (highest - 1.0);
    }
};

/// Signals of the card without noise, full chroma.
std::array<std::vector<double>, 3> ownPicture(const OwnCard& card, const OwnCamera& camera);

}  // namespace rigmatch::support
