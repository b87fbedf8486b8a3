// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/bracket.h"

#include <algorithm>
#include <cmath>

#include "base/constants.h"
#include "base/format.h"
#include "match/neutral_fit.h"

namespace rigmatch::match {
namespace {

constexpr double kLeastSpread = 0.3;
constexpr double kMostStepError = 0.15;
constexpr double kResampled = 0.1;  // stops between the points of the table

tl::unexpected<base::Error> refused(const base::Text& detail, const base::Text& hint) {
    return base::fail(
        base::ErrorCode::Unmeasurable, base::say("bracket.noCurveThese"), detail, hint);
}

std::vector<CurvePoint> pointsOf(const BracketStep& step) {
    std::vector<CurvePoint> points;
    for (const rig::PatchReading* patch : rig::usableGreys(*step.reading)) {
        points.push_back({std::log2(patch->nominalLinear[1] / base::kMidGrey) + step.exposureStops,
                          patch->signal[1]});
    }
    return points;
}

/// Points that fall are pooled to their mean (isotonic regression by pooling adjacent violators);
/// points closer than a tenth of a stop likewise, so that the curve between them stays smooth.
std::vector<CurvePoint> pooled(std::vector<CurvePoint> points) {
    struct Pool {
        double stops, signal, weight;
    };
    std::sort(points.begin(), points.end(), [](const CurvePoint& a, const CurvePoint& b) {
        return a.stops < b.stops;
    });
    std::vector<Pool> pools;
    for (const CurvePoint& point : points) {
        pools.push_back({point.stops, point.signal, 1.0});
        while (pools.size() > 1) {
            Pool& last = pools.back();
            Pool& before = pools[pools.size() - 2];
            if (last.signal > before.signal && last.stops > before.stops + 0.12) break;
            const double weight = before.weight + last.weight;
            before.stops = (before.weight * before.stops + last.weight * last.stops) / weight;
            before.signal = (before.weight * before.signal + last.weight * last.signal) / weight;
            before.weight = weight;
            pools.pop_back();
        }
    }
    std::vector<CurvePoint> result;
    result.reserve(pools.size());
    for (const Pool& pool : pools) result.push_back({pool.stops, pool.signal});
    return result;
}

/// By how much the steps between takes depart from what their settings say, stops.
base::Result<double> stepErrorOf(const std::vector<const BracketStep*>& steps) {
    // Steps are checked where the takes overlap: light through the first take's curve.
    double sum = 0.0;
    int count = 0;
    std::string worst;
    double worstError = 0.0;
    for (std::size_t i = 1; i < steps.size(); ++i) {
        const ToneCurve before(pointsOf(*steps[i - 1]));
        if (!before.isUsable()) continue;
        double shift = 0.0;
        int seen = 0;
        for (const CurvePoint& point : pointsOf(*steps[i])) {
            const double stops = before.stopsAt(point.signal);
            if (!before.covers(stops)) continue;
            shift += stops - point.stops;
            ++seen;
        }
        if (seen == 0) continue;
        const double error = shift / seen;
        sum += error * error;
        ++count;
        if (std::abs(error) > std::abs(worstError)) {
            worstError = error;
            worst = steps[i]->name;
        }
    }
    if (count == 0)
        return refused(base::say("bracket.takesNoCommon"), base::say("bracket.shootStepsOne"));
    if (std::abs(worstError) > kMostStepError)
        return refused(base::say("bracket.contradicts",
                                 {{"take", worst}, {"error", base::Number{worstError, 2, true}}}),
                       base::say("bracket.checkNoAutomatic"));
    return std::sqrt(sum / count);
}

/// The curve as a table.
colour::TableParameters resampled(const ToneCurve& smooth) {
    colour::TableParameters table;
    // The toe below the darkest grey and the slope above the lightest come from the tone curve's
    // model.
    for (double stops = smooth.points().front().stops - 3.0;
         stops <= smooth.points().back().stops + 0.5;
         stops += kResampled) {
        const double signal = smooth.signalAt(stops);
        if (!table.signal.empty() && signal <= table.signal.back() + 1e-7) continue;
        table.signal.push_back(signal);
        table.linear.push_back(base::kMidGrey * std::exp2(stops));
    }
    return table;
}

}  // namespace

base::Result<BracketCurve> curveFromBracket(const std::vector<BracketStep>& steps) {
    std::vector<const BracketStep*> usable;
    double least = 1e9, most = -1e9;
    for (const BracketStep& step : steps) {
        if (step.reading == nullptr || !step.reading->hasChart) continue;
        usable.push_back(&step);
        least = std::min(least, step.exposureStops);
        most = std::max(most, step.exposureStops);
    }
    if (usable.size() < 2)
        return refused(base::say("bracket.onlyTakeCamera", {{"takes", base::whole(usable.size())}}),
                       base::say("bracket.shootChartAgain"));
    if (most - least < kLeastSpread)
        return refused(
            base::say("bracket.takesDifferOnly", {{"least", base::Number{most - least, 2}}}),
            base::say("bracket.shootBrighterOrDarker"));
    const auto stepError = stepErrorOf(usable);
    if (!stepError) return tl::unexpected(stepError.error());
    std::vector<CurvePoint> points;
    std::string names;
    for (const BracketStep* step : usable) {
        const auto greys = pointsOf(*step);
        points.insert(points.end(), greys.begin(), greys.end());
        names += (names.empty() ? "" : ", ") + step->name;
    }
    const ToneCurve smooth(pooled(std::move(points)));
    if (!smooth.isUsable())
        return refused(base::say("bracket.fewerThanThree"), base::say("bracket.lowerExposure"));
    BracketCurve result;
    result.fromStops = smooth.points().front().stops;
    result.toStops = smooth.points().back().stops;
    result.stepErrorStops = *stepError;
    result.points = static_cast<int>(smooth.points().size());
    colour::TableParameters table = resampled(smooth);
    table.source = "measured from " + names;
    const auto curve = colour::tableCurve(std::move(table));
    if (!curve) return tl::unexpected(curve.error());
    result.curve = *curve;
    return result;
}

}  // namespace rigmatch::match
