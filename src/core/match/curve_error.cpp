// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/curve_error.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::match {
namespace {

constexpr double kExtrapolationError = 0.15;  // of the stops beyond the measured curve
constexpr double kLeaveOneOutShare = 0.2;
constexpr double kFewGreysStops = 0.06;
constexpr double kLeastMissed = 0.004;  // what a smooth curve misses in any case, own estimate
constexpr std::size_t kFewestForLeaving = 4;

/// How far each grey lies off the curve through the others, signal; the ends have none.
std::vector<double> leftOut(const std::vector<CurvePoint>& greys) {
    std::vector<double> residuals(greys.size());
    if (greys.size() < kFewestForLeaving) return residuals;  // too few are left for a curve
    for (std::size_t i = 1; i + 1 < greys.size(); ++i) {
        std::vector<CurvePoint> others = greys;
        others.erase(others.begin() + static_cast<std::ptrdiff_t>(i));
        residuals[i] = std::abs(ToneCurve(others).signalAt(greys[i].stops) - greys[i].signal);
    }
    return residuals;
}

/// The stretch of greys that holds `stops`, or the nearest one, and where in it, 0..1.
struct Stretch {
    std::size_t index = 0;
    double share = 0.0;
    double length = 1.0;
};
Stretch stretchAt(const std::vector<CurvePoint>& greys, double stops) {
    Stretch stretch;
    while (stretch.index + 2 < greys.size() && greys[stretch.index + 1].stops < stops)
        ++stretch.index;
    const double from = greys[stretch.index].stops;
    stretch.length = std::max(greys[stretch.index + 1].stops - from, 1e-3);
    stretch.share = std::clamp((stops - from) / stretch.length, 0.0, 1.0);
    return stretch;
}

bool hasErrors(const NeutralFit& fit) {
    return fit.greys.size() >= 2 && fit.greyErrors.size() == fit.greys.size() &&
           fit.betweenErrors.size() + 1 == fit.greys.size();
}

}  // namespace

double beyondCurve(const ToneCurve& curve, double stops) {
    if (curve.covers(stops)) return 0.0;
    const double low = curve.points().front().stops;
    const double high = curve.points().back().stops;
    return kExtrapolationError * std::max(low - stops, stops - high);
}

void putCurveErrors(NeutralFit& fit, const std::vector<double>& errors) {
    fit.greyErrors = errors;
    fit.betweenErrors.clear();
    if (fit.greys.size() < 2) return;
    const std::vector<double> residuals = leftOut(fit.greys);
    for (std::size_t i = 0; i + 1 < fit.greys.size(); ++i) {
        const double middle = 0.5 * (fit.greys[i].stops + fit.greys[i + 1].stops);
        const double slope = std::max(fit.curve.slopeAt(middle), 1e-3);
        fit.betweenErrors.push_back(fit.greys.size() < kFewestForLeaving
                                        ? kFewGreysStops * slope
                                        : kLeaveOneOutShare *
                                              std::max(residuals[i], residuals[i + 1]));
    }
}

double signalErrorAt(const NeutralFit& fit, double stops) {
    const double slope = std::max(fit.curve.slopeAt(stops), 1e-3);
    if (fit.isCurveAssumed) {
        const double grey = fit.greys.empty() ? 0.0 : fit.greys.front().stops;
        const double noise = fit.greyErrors.empty() ? 0.0 : fit.greyErrors.front();
        return std::hypot(noise, fit.slopeError * (stops - grey) * slope);
    }
    if (!hasErrors(fit)) return kFewGreysStops * slope;
    const Stretch at = stretchAt(fit.greys, stops);
    const double noise = std::hypot((1.0 - at.share) * fit.greyErrors[at.index],
                                    at.share * fit.greyErrors[at.index + 1]);
    const double between = 4.0 * at.share * (1.0 - at.share) * fit.betweenErrors[at.index];
    return std::hypot(noise, between, slope * (kLeastMissed + beyondCurve(fit.curve, stops)));
}

double slopeErrorAt(const NeutralFit& fit, double stops) {
    const double slope = std::max(fit.curve.slopeAt(stops), 1e-3);
    if (fit.isCurveAssumed) return fit.slopeError * slope;
    if (!hasErrors(fit)) return kFewGreysStops * slope;
    const Stretch at = stretchAt(fit.greys, stops);
    const double noise =
        std::hypot(fit.greyErrors[at.index], fit.greyErrors[at.index + 1]) / at.length;
    // A bump of that height between two greys would be four times as steep at its ends; a smooth
    // curve's neighbouring bumps take half of that away (test_coverage).
    const double between = 2.0 * fit.betweenErrors[at.index] / at.length;
    return std::hypot(noise, between, slope * beyondCurve(fit.curve, stops));
}

}  // namespace rigmatch::match
