// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/tone_curve.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::match {
namespace {
constexpr double kBrightestStops = 8.0;

/// Spline slopes with continuous curvature; parabolic ends.
std::vector<double> splineSlopes(const std::vector<CurvePoint>& p) {
    const std::size_t n = p.size();
    std::vector<double> lower(n), diagonal(n), upper(n), right(n);
    const auto width = [&](std::size_t i) { return p[i + 1].stops - p[i].stops; };
    const auto secant = [&](std::size_t i) { return (p[i + 1].signal - p[i].signal) / width(i); };
    diagonal[0] = 1.0;
    upper[0] = 1.0;
    right[0] = 2.0 * secant(0);
    for (std::size_t i = 1; i + 1 < n; ++i) {
        lower[i] = width(i);
        diagonal[i] = 2.0 * (width(i - 1) + width(i));
        upper[i] = width(i - 1);
        right[i] = 3.0 * (width(i) * secant(i - 1) + width(i - 1) * secant(i));
    }
    lower[n - 1] = 1.0;
    diagonal[n - 1] = 1.0;
    right[n - 1] = 2.0 * secant(n - 2);
    for (std::size_t i = 1; i < n; ++i) {
        const double factor = lower[i] / diagonal[i - 1];
        diagonal[i] -= factor * upper[i - 1];
        right[i] -= factor * right[i - 1];
    }
    std::vector<double> slopes(n);
    slopes[n - 1] = right[n - 1] / diagonal[n - 1];
    for (std::size_t i = n - 1; i-- > 0;)
        slopes[i] = (right[i] - upper[i] * slopes[i + 1]) / diagonal[i];
    // Monotone where the data are (Fritsch and Carlson 1980): 0 <= slope <= 3 x the smaller secant.
    for (std::size_t i = 0; i < n; ++i) {
        double limit = 1e9;
        if (i > 0) limit = std::min(limit, 3.0 * secant(i - 1));
        if (i + 1 < n) limit = std::min(limit, 3.0 * secant(i));
        slopes[i] = std::clamp(slopes[i], 1e-4, std::max(limit, 1e-4));
    }
    return slopes;
}

}  // namespace

ToneCurve::ToneCurve(std::vector<CurvePoint> points) {
    std::sort(points.begin(), points.end(), [](const auto& a, const auto& b) {
        return a.stops < b.stops;
    });
    for (const CurvePoint& point : points) {
        const bool isRising = m_points.empty() || (point.signal > m_points.back().signal + 1e-5 &&
                                                   point.stops > m_points.back().stops + 1e-3);
        if (isRising) m_points.push_back(point);
    }
    if (!isUsable()) return;
    fitSpline();
    fitToe();
}

void ToneCurve::fitSpline() { m_slopes = splineSlopes(m_points); }

/// Matches value and slope at the darkest point; the power comes from the curve's bend there.
void ToneCurve::fitToe() {
    const CurvePoint& first = m_points.front();
    const double step = std::min(0.5, 0.5 * (m_points[1].stops - first.stops));
    const double ahead = slopeAt(first.stops + step);
    const double bend = std::log(std::max(ahead / m_slopes.front(), 1.0001)) / step;
    // From light that vanishes linearly (power ln 2 per stop) to a nearly straight log toe.
    m_toePower = std::clamp(bend, 0.15, std::log(2.0));
    m_toeScale = m_slopes.front() / m_toePower * std::exp(-m_toePower * first.stops);
    m_toePedestal = first.signal - m_slopes.front() / m_toePower;
}

double ToneCurve::signalAt(double stops) const {
    const CurvePoint& first = m_points.front();
    const CurvePoint& last = m_points.back();
    if (stops <= first.stops) return m_toePedestal + m_toeScale * std::exp(m_toePower * stops);
    if (stops >= last.stops) return last.signal + m_slopes.back() * (stops - last.stops);
    const auto upper = std::upper_bound(
        m_points.begin(), m_points.end(), stops, [](double value, const CurvePoint& point) {
            return value < point.stops;
        });
    const auto i = static_cast<std::size_t>(upper - m_points.begin()) - 1;
    const double h = m_points[i + 1].stops - m_points[i].stops;
    const double t = (stops - m_points[i].stops) / h;
    const double t2 = t * t;
    const double t3 = t2 * t;
    return (2 * t3 - 3 * t2 + 1) * m_points[i].signal + (t3 - 2 * t2 + t) * h * m_slopes[i] +
           (-2 * t3 + 3 * t2) * m_points[i + 1].signal + (t3 - t2) * h * m_slopes[i + 1];
}

double ToneCurve::stopsAt(double signal) const {
    double low = kCurveFloorStops;
    double high = kBrightestStops;
    if (signal <= signalAt(low)) return low;
    if (signal >= signalAt(high)) return high;
    for (int step = 0; step < 48; ++step) {
        const double middle = 0.5 * (low + high);
        (signalAt(middle) < signal ? low : high) = middle;
    }
    return 0.5 * (low + high);
}

double ToneCurve::slopeAt(double stops) const {
    constexpr double kStep = 1e-3;
    return (signalAt(stops + kStep) - signalAt(stops - kStep)) / (2.0 * kStep);
}

bool ToneCurve::covers(double stops) const {
    return stops >= m_points.front().stops - 0.05 && stops <= m_points.back().stops + 0.05;
}

}  // namespace rigmatch::match
