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
inline std::array<std::vector<double>, 3> ownPicture(const OwnCard& card, const OwnCamera& camera) {
    using namespace own;
    std::array<std::vector<double>, 3> picture;
    const Triple wall = signalOf(camera, {0.12, 0.12, 0.12});
    const Triple border = signalOf(camera, {0.045, 0.045, 0.045});
    const auto quad = [&](double left, double top, double right, double bottom) {
        return std::array<image::Point, 4>{
            card.at(left, top), card.at(right, top), card.at(right, bottom), card.at(left, bottom)};
    };
    struct Area {
        std::array<image::Point, 4> corners;
        Triple signal;
    };
    std::vector<Area> patches;
    for (std::size_t i = 0; i < 24; ++i) {
        const double x = static_cast<double>(i % 6) - 2.5, y = static_cast<double>(i / 6) - 1.5;
        const double h = 0.5 * kPatchShare;
        patches.push_back({quad(x - h, y - h, x + h, y + h), signalOf(camera, lightOf(i))});
    }
    const Area whole{quad(-3.35, -2.35, 3.35, 2.35), border};
    // Product of the steps over opposite sides: exact along straight sides.
    const auto share = [&](const std::array<image::Point, 4>& c, double x, double y) {
        std::array<double, 4> d{};
        for (std::size_t i = 0; i < 4; ++i) {
            const image::Point a = c[i], b = c[(i + 1) % 4];
            const double length = std::hypot(b.x - a.x, b.y - a.y);
            d[i] = -((x - a.x) * -(b.y - a.y) + (y - a.y) * (b.x - a.x)) / length;
        }
        return (card.step(d[0]) + card.step(d[2]) - 1.0) *
               (card.step(d[1]) + card.step(d[3]) - 1.0);
    };
    for (auto& plane : picture)
        plane.reserve(static_cast<std::size_t>(OwnCard::kWidth * OwnCard::kHeight));
    for (int y = 0; y < OwnCard::kHeight; ++y) {
        for (int x = 0; x < OwnCard::kWidth; ++x) {
            const double onCard = share(whole.corners, x, y);
            Triple signal{};
            for (std::size_t c = 0; c < 3; ++c)
                signal[c] = wall[c] + onCard * (border[c] - wall[c]);
            if (onCard > 0.0) {
                for (const Area& patch : patches) {
                    if (std::abs(x - patch.corners[0].x) + std::abs(y - patch.corners[0].y) >
                        5.0 * card.patchPx)
                        continue;
                    const double part = share(patch.corners, x, y);
                    for (std::size_t c = 0; c < 3; ++c)
                        signal[c] += part * (patch.signal[c] - border[c]);
                }
            }
            for (std::size_t c = 0; c < 3; ++c) picture[c].push_back(signal[c]);
        }
    }
    return picture;
}

}  // namespace rigmatch::support
