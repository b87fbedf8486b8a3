// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/truth.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "colour/white_point.h"
#include "sim/camera_model.h"

namespace rigmatch::sim {
namespace {

/// Luminance gain of a neutral in stops, with the white balance's share.
double neutralStops(const rig::Camera& camera) {
    const std::array<double, 3> g = neutralGains(*camera.simulated, camera.settings);
    return exposureStops(*camera.simulated, camera.settings) +
           std::log2(0.2126 * g[0] + 0.7152 * g[1] + 0.0722 * g[2]);
}

colour::WhitePoint renderedNeutral(const rig::Camera& camera) {
    const std::array<double, 3> g = neutralGains(*camera.simulated, camera.settings);
    const colour::Vector3 xyz = colour::rgbToXyz(colour::kBt709) * colour::Vector3(g[0], g[1], g[2]);
    return colour::whitePointOf(colour::chromaticityOf(xyz)).value_or(colour::WhitePoint{});
}

}  // namespace

TrueDifference trueDifference(const rig::Camera& camera, const rig::Camera& reference) {
    constexpr double kGrey = 0.18;
    const double mine = neutralStops(camera);
    const double theirs = neutralStops(reference);
    const double referenceGrey = recordedCurve(reference).encode(kGrey * std::exp2(theirs));
    const double lightNeeded = recordedCurve(camera).decode(referenceGrey);
    const colour::WhitePoint myWhite = renderedNeutral(camera);
    const colour::WhitePoint theirWhite = renderedNeutral(reference);
    return {mine - std::log2(lightNeeded / kGrey), mine - theirs, (myWhite.mired - theirWhite.mired).value(),
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
    return nlohmann::json{{"version", 1}, {"reference", reference != nullptr ? reference->letter : ""},
                          {"cameras", cameras}}
               .dump(1) +
           "\n";
}

}  // namespace rigmatch::sim
