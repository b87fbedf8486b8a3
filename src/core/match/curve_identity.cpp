// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/curve_identity.h"

#include <algorithm>
#include <cmath>

#include "colour/published_curves.h"
#include "match/judge.h"

namespace rigmatch::match {
namespace {

constexpr double kClippedLimit = 0.02;
constexpr double kFitsPercent = 0.6;
constexpr double kOtherTimes = 2.0;
constexpr double kReachStops = 3.0;  // exposures tried to each side
constexpr std::size_t kLeastGreys = 4;
constexpr std::size_t kMostShown = 3;

/// A grey as recorded: luma and the luminance of the patch.
struct Grey {
    double linear = 0.0;
    double signal = 0.0;
    double error = 0.0;
};

std::vector<Grey> greysOf(const rig::Reading& reading) {
    std::vector<Grey> greys;
    for (const rig::PatchReading& patch : reading.patches) {
        if (!patch.isNeutral || patch.clippedShare > kClippedLimit) continue;
        greys.push_back(
            {lumaOf(patch.nominalLinear), lumaOf(patch.signal), patch.standardError[1]});
    }
    return greys;
}

double signalOf(const colour::PublishedCurve& curve, const Grey& grey, double stops, bool limited) {
    return curve.signalAt(grey.linear * std::exp2(stops), limited);
}

/// Exposure that fits the greys but one best, by golden-section search; sum of squares is smooth
/// with one minimum, as every curve rises.
double fittedStops(const colour::PublishedCurve& curve,
                   const std::vector<Grey>& greys,
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

CurveCandidate candidateOf(const colour::PublishedCurve& curve,
                           const std::vector<Grey>& greys,
                           bool limited) {
    double sum = 0.0;
    for (std::size_t i = 0; i < greys.size(); ++i) {
        const double stops = fittedStops(curve, greys, i, limited);
        sum += std::pow(signalOf(curve, greys[i], stops, limited) - greys[i].signal, 2.0);
    }
    CurveCandidate candidate;
    candidate.name = curve.name;
    candidate.exposureStops = fittedStops(curve, greys, greys.size(), limited);
    candidate.errorPercent = 100.0 * std::sqrt(sum / static_cast<double>(greys.size()));
    return candidate;
}

}  // namespace

std::optional<CurveIdentity> identifyCurve(const rig::Reading& reading) {
    const std::vector<Grey> greys = greysOf(reading);
    if (greys.size() < kLeastGreys) return std::nullopt;
    double noise = 0.0;
    for (const Grey& grey : greys) noise += grey.error / static_cast<double>(greys.size());
    CurveIdentity identity;
    for (const colour::PublishedCurve& curve : colour::publishedCurves())
        identity.candidates.push_back(candidateOf(curve, greys, reading.range != "full"));
    std::sort(identity.candidates.begin(),
              identity.candidates.end(),
              [](const CurveCandidate& a, const CurveCandidate& b) {
                  return a.errorPercent < b.errorPercent;
              });
    const double best = identity.candidates[0].errorPercent;
    const double second = identity.candidates[1].errorPercent;
    const double limit = std::max(kFitsPercent, 300.0 * noise);
    identity.isIdentified = best <= limit && second >= kOtherTimes * std::max(best, 0.1);
    identity.candidates.resize(std::min(identity.candidates.size(), kMostShown));
    return identity;
}

std::optional<double> curveAgreement(const rig::Reading& reading,
                                     const colour::TransferCurve& curve) {
    const std::vector<Grey> greys = greysOf(reading);
    if (greys.size() < kLeastGreys) return std::nullopt;
    const colour::PublishedCurve declared{
        colour::curveName(curve), [&curve](double linear) { return curve.encode(linear); }, false};
    return candidateOf(declared, greys, true).errorPercent;
}

ProfileClass profileClass(const rig::Reading& reading,
                          const NeutralFit& fit,
                          const std::optional<CurveIdentity>& identity) {
    constexpr double kLogSlope = 9.0;
    constexpr double kFlatSlope = 13.0;
    constexpr double kLogShadows = 0.75;
    ProfileClass result;
    const auto slope = [&](double stops) {
        return 100.0 * fit.curve.slopeAt(stops + fit.luminanceStops);
    };
    result.slopePercentPerStop = slope(0.0);
    const auto& points = fit.curve.points();
    result.blackPercent = 100.0 * fit.greySignal(points.front().stops);
    const CurvePoint& last = points.back();
    const CurvePoint& before = points[points.size() - 2];
    result.shoulder = 100.0 * (last.signal - before.signal) / (last.stops - before.stops) /
                      std::max(result.slopePercentPerStop, 0.1);
    // Errors of the two greys over their step, and of the light on them.
    double noise = 0.0;
    for (const rig::PatchReading& patch : reading.patches) {
        if (patch.isNeutral) noise = std::max(noise, patch.standardError[1]);
    }
    result.shoulderError =
        result.shoulder * std::hypot(1.5 * noise / std::max(last.signal - before.signal, 1e-4),
                                     fit.greyError / (last.stops - before.stops));
    const bool isHlg = reading.transfer == "hlg" ||
                       (identity && identity->isIdentified && identity->best().name == "HLG");
    const bool isEven = slope(-1.5) > kLogShadows * result.slopePercentPerStop;
    result.name = isHlg                                              ? "HLG"
                  : result.slopePercentPerStop < kLogSlope && isEven ? "log"
                  : result.slopePercentPerStop < kFlatSlope          ? "flat"
                                                                     : "finished";
    return result;
}

}  // namespace rigmatch::match
