// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/curve_fit.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::colour {
namespace {

constexpr double kReachStops = 3.0;  // exposures tried to each side
constexpr std::size_t kLeastGreys = 4;

double signalOf(const PublishedCurve& curve, const FittedGrey& grey, double stops, bool limited) {
    return curve.signalAt(grey.linear * std::exp2(stops), limited);
}

/// Exposure that fits the greys but one best, by golden-section search; sum of squares is smooth
/// with one minimum, as every curve rises.
double fittedStops(const PublishedCurve& curve,
                   const std::vector<FittedGrey>& greys,
                   std::size_t leftOut,
                   bool limited) {
    const auto cost = [&](double stops) {
        double sum = 0.0;
        for (std::size_t i = 0; i < greys.size(); ++i) {
            if (i == leftOut) continue;
            sum += std::pow(signalOf(curve, greys[i], stops, limited) - greys[i].signal, 2.0);
        }
        return sum;
    };
    constexpr double kGolden = 0.6180339887498949;
    double low = -kReachStops;
    double high = kReachStops;
    for (int step = 0; step < 32; ++step) {
        const double first = high - kGolden * (high - low);
        const double second = low + kGolden * (high - low);
        if (cost(first) < cost(second))
            high = second;
        else
            low = first;
    }
    return 0.5 * (low + high);
}

}  // namespace

CurveCandidate fitCurve(const PublishedCurve& curve,
                        const std::vector<FittedGrey>& greys,
                        bool isLimited) {
    double sum = 0.0;
    for (std::size_t i = 0; i < greys.size(); ++i) {
        const double stops = fittedStops(curve, greys, i, isLimited);
        sum += std::pow(signalOf(curve, greys[i], stops, isLimited) - greys[i].signal, 2.0);
    }
    CurveCandidate candidate;
    candidate.name = curve.name;
    candidate.exposureStops = fittedStops(curve, greys, greys.size(), isLimited);
    candidate.errorPercent = 100.0 * std::sqrt(sum / static_cast<double>(greys.size()));
    return candidate;
}

std::vector<CurveCandidate> fitPublishedCurves(const std::vector<FittedGrey>& greys,
                                               bool isLimited) {
    std::vector<CurveCandidate> candidates;
    if (greys.size() < kLeastGreys) return candidates;
    for (const PublishedCurve& curve : publishedCurves())
        candidates.push_back(fitCurve(curve, greys, isLimited));
    std::sort(candidates.begin(), candidates.end(), [](const auto& a, const auto& b) {
        return a.errorPercent < b.errorPercent;
    });
    return candidates;
}

}  // namespace rigmatch::colour
