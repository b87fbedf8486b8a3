// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/neutral_fit.h"

#include <algorithm>
#include <cmath>

#include "colour/primaries.h"
#include "match/curve_error.h"

namespace rigmatch::match {
namespace {

using base::ErrorCode;

constexpr double kGrey = 0.18;
constexpr double kClippedLimit = 0.02;
constexpr double kDarkestForColour =
    -2.2;                              // stops: the black patch is too noisy for the white balance
constexpr double kModelError = 0.004;  // stops: what the smooth curve between patches may miss

double chartStops(const rig::PatchReading& patch, std::size_t channel) {
    return std::log2(patch.nominalLinear[channel] / kGrey);
}

std::vector<const rig::PatchReading*> usableNeutrals(const rig::Reading& reading) {
    std::vector<const rig::PatchReading*> neutrals;
    for (const rig::PatchReading& patch : reading.patches) {
        const bool isSound = patch.nominalLinear[1] > 0.0 && std::isfinite(patch.signal[1]) &&
                             !rig::isCrushed(patch) && !rig::isGlared(patch);
        if (patch.isNeutral && patch.clippedShare <= kClippedLimit && isSound)
            neutrals.push_back(&patch);
    }
    return neutrals;
}

/// Sideways shift of one channel against green: weighted mean and standard error over the patches.
void fitChannel(const std::vector<const rig::PatchReading*>& neutrals,
                std::size_t channel,
                NeutralFit& fit) {
    double sum = 0.0;
    double weights = 0.0;
    std::vector<std::pair<double, double>> shifts;
    for (const rig::PatchReading* patch : neutrals) {
        const double chart = chartStops(*patch, channel);
        if (chart < kDarkestForColour) continue;
        const double stops = fit.curve.stopsAt(patch->signal[channel]);
        if (!fit.curve.covers(stops)) continue;
        const double slope = std::max(fit.curve.slopeAt(stops), 1e-3);
        const double error = std::hypot(patch->standardError[channel] / slope, 0.003);
        const double weight = 1.0 / (error * error);
        shifts.push_back({stops - chart, weight});
        sum += weight * (stops - chart);
        weights += weight;
    }
    if (shifts.empty()) return;
    const double mean = sum / weights;
    double spread = 0.0;
    for (const auto& [shift, weight] : shifts)
        spread += weight * (shift - mean) * (shift - mean) / weights;
    fit.channelStops[channel] = mean;
    fit.channelStopsError[channel] = std::sqrt(
        1.0 / weights + spread / std::max<double>(1.0, static_cast<double>(shifts.size()) - 1.0));
}

constexpr long kFewestGreys = 3;  // that make a curve

long neutralsOf(const rig::Reading& reading) {
    return std::count_if(reading.patches.begin(), reading.patches.end(), [](const auto& patch) {
        return patch.isNeutral;
    });
}

tl::unexpected<base::Error> tooFew(std::size_t count, long all) {
    return base::fail(ErrorCode::Unmeasurable,
                      "Grey row not measurable",
                      "Only " + std::to_string(count) + " of " + std::to_string(all) +
                          " neutral patches are unclipped and rising; " +
                          std::to_string(std::min(all, kFewestGreys)) + " are needed.",
                      "Lower the exposure of this camera, or take glare off the chart.");
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
        points.push_back({stops, curve.encode(kGrey * std::exp2(stops + shift))});
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
                          "White outside the colour space",
                          "No BT.709 neutral can have this colour.",
                          "Bring the white balance nearer first.");
    }
    return std::array<double, 3>{rgb.x() / rgb.y(), 1.0, rgb.z() / rgb.y()};
}

base::Result<NeutralFit> fitNeutrals(const rig::Reading& reading,
                                     const colour::TransferCurve* declared) {
    const auto neutrals = usableNeutrals(reading);
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
        for (const rig::PatchReading* patch : neutrals)
            points.push_back({chartStops(*patch, 1), patch->signal[1]});
        fit.curve = ToneCurve(points);
        fit.greys = fit.curve.points();
        fit.patchesUsed = static_cast<int>(fit.curve.points().size());
    }
    if (!fit.curve.isUsable()) return tooFew(fit.curve.points().size(), all);
    putCurveErrors(fit, errorsOf(fit.greys, neutrals));
    for (const std::size_t channel : {std::size_t{0}, std::size_t{2}})
        fitChannel(neutrals, channel, fit);
    const colour::Vector3 linear(
        std::exp2(fit.channelStops[0]), 1.0, std::exp2(fit.channelStops[2]));
    fit.luminanceStops = std::log2(linear.dot(colour::Vector3(0.2126, 0.7152, 0.0722)));
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    const auto white =
        colour::whitePointOf(colour::chromaticityOf(colour::Vector3(kToXyz * linear)));
    if (!white) return tl::unexpected(white.error());
    fit.white = *white;
    double grey = 1.0;
    for (const rig::PatchReading* patch : neutrals) {
        if (std::abs(chartStops(*patch, 1)) > 1.3) continue;
        const double slope = std::max(fit.curve.slopeAt(chartStops(*patch, 1)), 1e-3);
        grey = std::min(grey, patch->standardError[1] / slope);
    }
    if (fit.isCurveAssumed) {
        const rig::PatchReading& patch = *neutrals.front();
        const double slope = std::max(fit.curve.slopeAt(chartStops(patch, 1)), 1e-3);
        grey = patch.standardError[1] / slope;
    }
    fit.greyError = std::hypot(grey, kModelError);
    return fit;
}

}  // namespace rigmatch::match
