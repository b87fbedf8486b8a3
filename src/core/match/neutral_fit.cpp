// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/neutral_fit.h"

#include <algorithm>
#include <cmath>

#include "colour/primaries.h"

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
        const bool isSound = patch.nominalLinear[1] > 0.0 && std::isfinite(patch.signal[1]);
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

tl::unexpected<base::Error> tooFew(std::size_t count) {
    return base::fail(ErrorCode::Unmeasurable,
                      "Grey row not measurable",
                      "Only " + std::to_string(count) +
                          " of 6 neutral patches are unclipped and rising; 3 are needed.",
                      "Lower the exposure of this camera, or take glare off the chart.");
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

base::Result<NeutralFit> fitNeutrals(const rig::Reading& reading) {
    const auto neutrals = usableNeutrals(reading);
    NeutralFit fit;
    std::vector<CurvePoint> points;
    for (const rig::PatchReading* patch : neutrals)
        points.push_back({chartStops(*patch, 1), patch->signal[1]});
    fit.curve = ToneCurve(points);
    fit.patchesUsed = static_cast<int>(fit.curve.points().size());
    if (!fit.curve.isUsable()) return tooFew(fit.curve.points().size());
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
    fit.greyError = std::hypot(grey, kModelError);
    return fit;
}

}  // namespace rigmatch::match
