// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/neutral_fit.h"

#include <algorithm>
#include <cmath>

#include "base/constants.h"
#include "base/luma.h"
#include "colour/primaries.h"
#include "match/curve_error.h"

namespace rigmatch::match {
namespace {

using base::ErrorCode;
constexpr double kDarkestForColour =
    -2.2;                              // stops: the black patch is too noisy for the white balance
constexpr double kModelError = 0.004;  // stops: what the smooth curve between patches may miss
constexpr double kMiddleStops = 1.3;   // greys within this of 18 % tell the cast and its fading
constexpr double kFadeShare = 0.5;     // stops of the fading that the cast at grey is unsure by

double chartStops(const rig::PatchReading& patch, std::size_t channel) {
    return std::log2(patch.nominalLinear[channel] / base::kMidGrey);
}

/// One grey's shift of a channel against green.
struct Shift {
    double at = 0.0;  ///< stops against 18 %
    double stops = 0.0;
    double weight = 0.0;  ///< one over its variance
};

std::vector<Shift> shiftsOf(const std::vector<const rig::PatchReading*>& neutrals,
                            std::size_t channel,
                            const NeutralFit& fit) {
    std::vector<Shift> shifts;
    for (const rig::PatchReading* patch : neutrals) {
        const double chart = chartStops(*patch, channel);
        if (chart < kDarkestForColour) continue;
        const double stops = fit.curve.stopsAt(patch->signal[channel]);
        if (!fit.curve.covers(stops)) continue;
        const double slope = std::max(fit.curve.slopeAt(stops), 1e-3);
        // The channel's own noise, and how well green's curve is known where it is laid on it.
        const double error =
            std::hypot(patch->standardError[channel], signalErrorAt(fit, stops)) / slope;
        shifts.push_back({chart, stops - chart, 1.0 / (error * error)});
    }
    return shifts;
}

/// Weighted straight line through the shifts: value at 18 % grey and change per stop, with the
/// variances of both; without `hasSlope` the mean alone.
struct Line {
    double value = 0.0, slope = 0.0;
    double valueVariance = 0.0, slopeVariance = 0.0;
};
Line lineThrough(const std::vector<Shift>& shifts, bool hasSlope) {
    double w = 0.0, wx = 0.0, wxx = 0.0, wy = 0.0, wxy = 0.0;
    for (const Shift& s : shifts) {
        w += s.weight;
        wx += s.weight * s.at;
        wxx += s.weight * s.at * s.at;
        wy += s.weight * s.stops;
        wxy += s.weight * s.at * s.stops;
    }
    Line line;
    const double determinant = w * wxx - wx * wx;
    if (hasSlope && determinant > 1e-6 * w * w) {
        line.value = (wxx * wy - wx * wxy) / determinant;
        line.slope = (w * wxy - wx * wy) / determinant;
        line.valueVariance = wxx / determinant;
        line.slopeVariance = w / determinant;
    } else {
        line.value = wy / w;
        line.valueVariance = 1.0 / w;
    }
    // Greys that scatter by more than their noise make the line less sure: chi-square over the
    // degrees of freedom, where it is above 1 (docs/measurement.md, uncertainty).
    double chiSquare = 0.0;
    for (const Shift& s : shifts)
        chiSquare += s.weight * std::pow(s.stops - line.value - line.slope * s.at, 2.0);
    const double freedom = static_cast<double>(shifts.size()) - (hasSlope ? 2.0 : 1.0);
    const double scale = freedom > 0.0 ? std::max(1.0, chiSquare / freedom) : 1.0;
    line.valueVariance *= scale;
    line.slopeVariance *= scale;
    return line;
}

/// Sideways shift of one channel against green. False where no grey tells it.
bool fitChannel(const std::vector<const rig::PatchReading*>& neutrals,
                std::size_t channel,
                NeutralFit& fit) {
    const std::vector<Shift> all = shiftsOf(neutrals, channel, fit);
    if (all.empty()) return false;
    std::vector<Shift> middle;
    for (const Shift& shift : all) {
        if (std::abs(shift.at) <= kMiddleStops) middle.push_back(shift);
    }
    const bool hasSlope = middle.size() >= 3;
    const Line line = lineThrough(hasSlope || middle.size() == 2 ? middle : all, hasSlope);
    fit.channelStops[channel] = line.value;
    fit.channelFade[channel] = line.slope;
    fit.channelFadeError[channel] = std::sqrt(line.slopeVariance);
    fit.channelStopsError[channel] =
        std::hypot(std::sqrt(line.valueVariance), kFadeShare * line.slope);
    return true;
}

constexpr long kFewestGreys = 3;  // that make a curve

long neutralsOf(const rig::Reading& reading) {
    return std::count_if(reading.patches.begin(), reading.patches.end(), [](const auto& patch) {
        return patch.isNeutral;
    });
}

tl::unexpected<base::Error> tooFew(std::size_t count, long all) {
    return base::fail(ErrorCode::Unmeasurable,
                      base::say("neutralFit.greyRowNot"),
                      base::say("neutralFit.onlyNeutralPatches",
                                {{"usable", base::whole(count)},
                                 {"all", base::whole(all)},
                                 {"needed", base::whole(std::min(all, kFewestGreys))}}),
                      base::say("neutralFit.lowerExposureCamera"));
}

/// Standard errors of green of the patches that `greys` came from.
std::vector<double> errorsOf(const std::vector<CurvePoint>& greys,
                             const std::vector<const rig::PatchReading*>& neutrals) {
    std::vector<double> errors;
    for (const CurvePoint& grey : greys) {
        const auto patch = std::find_if(neutrals.begin(), neutrals.end(), [&](const auto* p) {
            return p->signal[1] == grey.signal && chartStops(*p, 1) == grey.stops;
        });
        errors.push_back(patch == neutrals.end() ? 0.0 : (*patch)->standardError[1]);
    }
    return errors;
}

/// The curve of one or two greys: an assumed one, moved along the light until it runs through them.
void assumeCurve(const rig::Reading& reading,
                 const std::vector<const rig::PatchReading*>& neutrals,
                 const colour::TransferCurve* declared,
                 NeutralFit& fit) {
    constexpr double kDarkest = -6.0;
    constexpr double kBrightest = 3.0;
    constexpr double kStep = 0.25;
    constexpr double kDeclaredError = 0.02;
    // A log picture may have a third of BT.709's slope at grey, and such files are often tagged as
    // BT.709 (common practice): twice this share covers it.
    constexpr double kGuessedError = 1.0;
    const bool isTagged = reading.transfer == "hlg" || reading.transfer == "linear";
    const colour::TransferCurve tagged =
        colour::curveOf(reading.transfer == "hlg"      ? colour::CurveKind::Hlg
                        : reading.transfer == "linear" ? colour::CurveKind::Linear
                                                       : colour::CurveKind::Bt709);
    const colour::TransferCurve& curve = declared != nullptr ? *declared : tagged;
    double shift = 0.0;
    for (const rig::PatchReading* patch : neutrals) {
        const double light = std::max(curve.decode(patch->signal[1]), 1e-6);
        shift += std::log2(light / patch->nominalLinear[1]) / static_cast<double>(neutrals.size());
    }
    std::vector<CurvePoint> points;
    for (double stops = kDarkest; stops <= kBrightest + 1e-9; stops += kStep)
        points.push_back({stops, curve.encode(base::kMidGrey * std::exp2(stops + shift))});
    fit.curve = ToneCurve(points);
    fit.isCurveAssumed = true;
    fit.slopeError = declared != nullptr || isTagged ? kDeclaredError : kGuessedError;
}

}  // namespace

base::Result<std::array<double, 3>> gainsOf(const colour::WhitePoint& white) {
    const auto chromaticity = colour::chromaticityOf(white);
    if (!chromaticity) return tl::unexpected(chromaticity.error());
    static const colour::Matrix3 kToRgb = colour::xyzToRgb(colour::kBt709);
    const colour::Vector3 rgb = kToRgb * colour::xyzOf(*chromaticity);
    if (rgb.minCoeff() <= 0.0) {
        return base::fail(ErrorCode::Unmeasurable,
                          base::say("neutralFit.whiteOutsideColour"),
                          base::say("neutralFit.noBtNeutral"),
                          base::say("neutralFit.bringWhiteBalance"));
    }
    return std::array<double, 3>{rgb.x() / rgb.y(), 1.0, rgb.z() / rgb.y()};
}

base::Result<NeutralFit> fitNeutrals(const rig::Reading& reading,
                                     const colour::TransferCurve* declared) {
    const auto neutrals = rig::usableGreys(reading);
    const long all = neutralsOf(reading);
    NeutralFit fit;
    if (all > 0 && all < kFewestGreys) {
        if (static_cast<long>(neutrals.size()) < all) return tooFew(neutrals.size(), all);
        assumeCurve(reading, neutrals, declared, fit);
        for (const rig::PatchReading* patch : neutrals)
            fit.greys.push_back({chartStops(*patch, 1), patch->signal[1]});
        fit.patchesUsed = static_cast<int>(neutrals.size());
    } else {
        std::vector<CurvePoint> points;
        points.reserve(neutrals.size());
        for (const rig::PatchReading* patch : neutrals)
            points.push_back({chartStops(*patch, 1), patch->signal[1]});
        fit.curve = ToneCurve(points);
        fit.greys = fit.curve.points();
        fit.patchesUsed = static_cast<int>(fit.curve.points().size());
    }
    if (!fit.curve.isUsable()) return tooFew(fit.curve.points().size(), all);
    putCurveErrors(fit, errorsOf(fit.greys, neutrals));
    for (const std::size_t channel : {std::size_t{0}, std::size_t{2}})
        fit.isCastKnown = fitChannel(neutrals, channel, fit) && fit.isCastKnown;
    const colour::Vector3 linear(
        std::exp2(fit.channelStops[0]), 1.0, std::exp2(fit.channelStops[2]));
    fit.luminanceStops = std::log2(base::lumaOf(linear));
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    const auto white =
        colour::whitePointOf(colour::chromaticityOf(colour::Vector3(kToXyz * linear)));
    if (!white) return tl::unexpected(white.error());
    fit.white = *white;
    const double slope = std::max(fit.curve.slopeAt(fit.luminanceStops), 1e-3);
    fit.greyError = std::hypot(signalErrorAt(fit, fit.luminanceStops) / slope, kModelError);
    return fit;
}

}  // namespace rigmatch::match
