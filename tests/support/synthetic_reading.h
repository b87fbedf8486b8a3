// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

#include "chart/chart_definition.h"
#include "colour/transfer.h"
#include "rig/reading.h"
#include "support/published_white.h"

namespace rigmatch::support {

/// How an ideal camera sees the chart: closed form, without pictures.
struct IdealCamera {
    colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
    double exposureStops = 0.0;
    double whiteBalanceMired = 0.0;
    double tintDuv = 0.0;
    double saturation = 1.0;
    double hueDegrees = 0.0;
};

/// Patch signals in closed form, white points by published formulas; whites above 1.09 are marked
/// clipped.
inline rig::Reading idealReading(const IdealCamera& camera) {
    const MiredDuv d65 = whiteD65();
    const auto gains = whiteGains({d65.mired + camera.whiteBalanceMired, d65.duv + camera.tintDuv});
    const auto neutral = whiteGains(d65);
    rig::Reading reading;
    reading.hasChart = true;
    reading.framesUsed = 10;
    for (std::size_t i = 0; i < chart::kPatchCount; ++i) {
        rig::PatchReading patch;
        patch.name = std::string(chart::patchNames()[i]);
        patch.isNeutral = i >= chart::kFirstNeutral;
        std::array<double, 3> coded{};
        for (std::size_t c = 0; c < 3; ++c) {
            patch.nominalLinear[c] = chart::nominalLinear()[i](static_cast<long>(c));
            coded[c] = camera.curve.encode(patch.nominalLinear[c] *
                                           std::exp2(camera.exposureStops) * gains[c] / neutral[c]);
        }
        const double y = 0.2126 * coded[0] + 0.7152 * coded[1] + 0.0722 * coded[2];
        const double angle = camera.hueDegrees * 3.14159265358979 / 180.0;
        const double cb = camera.saturation * (coded[2] - y) / 1.8556;
        const double cr = camera.saturation * (coded[0] - y) / 1.5748;
        const double turnedCb = cb * std::cos(angle) - cr * std::sin(angle);
        const double turnedCr = cb * std::sin(angle) + cr * std::cos(angle);
        patch.signal[0] = y + 1.5748 * turnedCr;
        patch.signal[2] = y + 1.8556 * turnedCb;
        patch.signal[1] = (y - 0.2126 * patch.signal[0] - 0.0722 * patch.signal[2]) / 0.7152;
        for (double& value : patch.signal) {
            if (value > 1.09) patch.clippedShare = 1.0;
            value = std::min(value, 1.09);
        }
        patch.standardError = {0.0003, 0.0003, 0.0003};
        reading.patches.push_back(patch);
    }
    return reading;
}

}  // namespace rigmatch::support
