// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/curve_identity.h"

#include <algorithm>
#include <cmath>

#include "colour/curve_fit.h"
#include "match/judge.h"

namespace rigmatch::match {
namespace {

constexpr double kFitsPercent = 0.6;
constexpr double kOtherTimes = 2.0;
constexpr std::size_t kLeastGreys = 4;
constexpr std::size_t kMostShown = 3;
// The table of an identified curve, stops against 18 % grey.
constexpr double kLowestStops = -9.0;
constexpr double kHighestStops = 6.0;
constexpr double kTableStep = 1.0 / 12.0;

std::vector<colour::FittedGrey> greysOf(const rig::Reading& reading) {
    std::vector<colour::FittedGrey> greys;
    for (const rig::PatchReading* patch : rig::usableGreys(reading)) {
        greys.push_back(
            {lumaOf(patch->nominalLinear), lumaOf(patch->signal), patch->standardError[1]});
    }
    return greys;
}

}  // namespace

std::optional<CurveIdentity> identifyCurve(const rig::Reading& reading) {
    const std::vector<colour::FittedGrey> greys = greysOf(reading);
    if (greys.size() < kLeastGreys) return std::nullopt;
    double noise = 0.0;
    for (const auto& grey : greys) noise += grey.error / static_cast<double>(greys.size());
    CurveIdentity identity;
    identity.candidates = colour::fitPublishedCurves(greys, reading.range != "full");
    const double best = identity.candidates[0].errorPercent;
    const double second = identity.candidates[1].errorPercent;
    const double limit = std::max(kFitsPercent, 300.0 * noise);
    identity.isIdentified = best <= limit && second >= kOtherTimes * std::max(best, 0.1);
    identity.candidates.resize(std::min(identity.candidates.size(), kMostShown));
    return identity;
}

std::optional<colour::TransferCurve> identifiedCurve(const rig::Reading& reading) {
    const auto identity = identifyCurve(reading);
    if (!identity || !identity->isIdentified) return std::nullopt;
    const bool isLimited = reading.range != "full";
    for (const colour::PublishedCurve& curve : colour::publishedCurves()) {
        if (curve.name != identity->best().name) continue;
        colour::TableParameters table;
        table.source = curve.name;
        for (double stops = kLowestStops; stops <= kHighestStops; stops += kTableStep) {
            const double linear = 0.18 * std::exp2(stops);
            const double signal = curve.signalAt(linear, isLimited);
            if (!table.signal.empty() && signal <= table.signal.back() + 1e-6) continue;
            table.linear.push_back(linear);
            table.signal.push_back(signal);
        }
        const auto made = colour::tableCurve(table);
        return made ? std::optional(*made) : std::nullopt;
    }
    return std::nullopt;
}

std::optional<double> curveAgreement(const rig::Reading& reading,
                                     const colour::TransferCurve& curve) {
    const std::vector<colour::FittedGrey> greys = greysOf(reading);
    if (greys.size() < kLeastGreys) return std::nullopt;
    const colour::PublishedCurve declared{
        colour::curveName(curve), [&curve](double linear) { return curve.encode(linear); }, false};
    return colour::fitCurve(declared, greys, true).errorPercent;
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
