// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/truth.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/constants.h"
#include "base/luma.h"
#include "colour/white_point.h"
#include "sim/camera_model.h"

namespace rigmatch::sim {
namespace {

/// 18 % grey as this body renders it, linearised by its own curve: gains, tone curve, then
/// saturation.
colour::Vector3 renderedGrey(const rig::Camera& camera) {
    const std::array<double, 3> gains = neutralGains(*camera.simulated, camera.settings);
    const colour::TransferCurve curve = recordedCurve(camera);
    const double light =
        base::kMidGrey * std::exp2(exposureStops(*camera.simulated, camera.settings));
    colour::Vector3 coded;
    for (std::size_t c = 0; c < 3; ++c)
        coded(static_cast<long>(c)) = curve.encode(light * gains[c]);
    const double luma = base::lumaOf(coded);
    colour::Vector3 linear;
    for (long c = 0; c < 3; ++c)
        linear(c) = curve.decode(luma + camera.simulated->saturation * (coded(c) - luma));
    return linear;
}

double luminanceStops(const colour::Vector3& linear) {
    return std::log2(base::lumaOf(linear) / base::kMidGrey);
}

colour::WhitePoint whiteOf(const colour::Vector3& linear) {
    return colour::whitePointOf(
               colour::chromaticityOf(colour::Vector3(colour::rgbToXyz(colour::kBt709) * linear)))
        .value_or(colour::WhitePoint{});
}

}  // namespace

TrueDifference trueDifference(const rig::Camera& camera, const rig::Camera& reference) {
    const colour::Vector3 myGrey = renderedGrey(camera);
    const colour::Vector3 theirGrey = renderedGrey(reference);
    const double mine = luminanceStops(myGrey);
    const double theirs = luminanceStops(theirGrey);
    const double referenceGrey =
        recordedCurve(reference).encode(base::kMidGrey * std::exp2(theirs));
    const double lightNeeded = recordedCurve(camera).decode(referenceGrey);
    const colour::WhitePoint myWhite = whiteOf(myGrey);
    const colour::WhitePoint theirWhite = whiteOf(theirGrey);
    return {mine - std::log2(lightNeeded / base::kMidGrey),
            mine - theirs,
            (myWhite.mired - theirWhite.mired).value(),
            (myWhite.duv - theirWhite.duv).value()};
}

std::string truthJson(const rig::Rig& rig) {
    nlohmann::json cameras = nlohmann::json::array();
    const rig::Camera* reference = rig::findCamera(rig, rig.referenceId);
    for (const rig::Camera& camera : rig.cameras) {
        if (!camera.simulated || reference == nullptr || !reference->simulated) continue;
        const TrueDifference truth = trueDifference(camera, *reference);
        cameras.push_back({{"camera", camera.letter},
                           {"exposureStops", truth.exposureStops},
                           {"sceneExposureStops", truth.sceneExposureStops},
                           {"whiteBalanceMired", truth.whiteBalanceMired},
                           {"tintDuv", truth.tintDuv},
                           {"curve", colour::curveName(recordedCurve(camera))},
                           {"saturation", camera.simulated->saturation}});
    }
    return nlohmann::json{{"version", 1},
                          {"reference", reference != nullptr ? reference->letter : ""},
                          {"cameras", cameras}}
               .dump(1) +
           "\n";
}

}  // namespace rigmatch::sim
