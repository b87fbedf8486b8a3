// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

namespace rigmatch::match {

/// Stops from 18 % grey: where the curve's model ends.
inline constexpr double kCurveFloorStops = -12.0;
/// The darkest light that is asked of it.
inline constexpr double kDarkestStops = kCurveFloorStops + 0.1;
/// The top of limited range.
inline constexpr double kHighestSignal = 1.09;
/// Signal within which two curves count as one.
inline constexpr double kSameCurve = 0.006;

/// One point of a tone curve.
struct CurvePoint {
    double stops = 0.0;  ///< light relative to 18 % grey under the chart's light
    double signal = 0.0;
};

/// A camera's tone curve as the chart's neutrals show it: monotone, smooth (a cubic spline over
/// stops), continued below by the pedestal model V = p + s L^g through the three darkest points and
/// above by its last slope. Both directions are defined everywhere and inverse of each other.
class ToneCurve {
public:
    /// `points` rising in both coordinates, at least three; fewer or falling ones are dropped.
    explicit ToneCurve(std::vector<CurvePoint> points);

    [[nodiscard]] bool isUsable() const { return m_points.size() >= 3; }
    [[nodiscard]] double signalAt(double stops) const;
    /// Light that gives `signal`; below the pedestal the darkest light that is told apart (12 stops
    /// under grey).
    [[nodiscard]] double stopsAt(double signal) const;
    /// Slope in signal per stop.
    [[nodiscard]] double slopeAt(double stops) const;
    /// True where `stops` lies between measured points, so that nothing is extrapolated.
    [[nodiscard]] bool covers(double stops) const;
    [[nodiscard]] const std::vector<CurvePoint>& points() const { return m_points; }

private:
    void fitSpline();
    void fitToe();

    std::vector<CurvePoint> m_points;
    std::vector<double> m_slopes;
    double m_toePedestal = 0.0;
    double m_toeScale = 0.0;
    double m_toePower = 1.0;  // per stop: V = pedestal + scale * 2^(power * stops)
};

}  // namespace rigmatch::match
