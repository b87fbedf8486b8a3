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

/// How a camera renders neutrals: its whole chain, without noise and fall-off.
class Neutrals {
public:
    explicit Neutrals(rig::Camera camera) : m_model(withoutFall(std::move(camera))) {
        const colour::Vector3 grey = signal(0.0);
        for (long c = 0; c < 3; ++c) m_linear(c) = std::exp2(stopsAt(grey(c)));
    }

    /// Light that this camera's green shows as that signal, stops over 18 % grey. Green stands for
    /// the curve: casts are little in it.
    [[nodiscard]] double stopsAt(double green) const {
        constexpr double kLeast = -14.0, kMost = 6.0;
        double low = kLeast, high = kMost;
        for (int i = 0; i < 50; ++i) {
            const double middle = 0.5 * (low + high);
            (signal(middle)(1) < green ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }
    /// 18 % grey of that light as luminance shows it.
    [[nodiscard]] double greySignal() const { return signal(luminanceStops())(1); }
    [[nodiscard]] double luminanceStops() const { return std::log2(base::lumaOf(m_linear)); }
    [[nodiscard]] colour::WhitePoint white() const {
        return colour::whitePointOf(colour::chromaticityOf(colour::Vector3(
                                        colour::rgbToXyz(colour::kBt709) * m_linear)))
            .value_or(colour::WhitePoint{});
    }

private:
    [[nodiscard]] static rig::Camera withoutFall(rig::Camera camera) {
        camera.simulated->vignetteStops = 0.0;
        return camera;
    }
    [[nodiscard]] colour::Vector3 signal(double stops) const {
        image::Frame flat = image::blankFrame(1, 1);
        for (auto& channel : flat.channels)
            channel[0] = static_cast<float>(base::kMidGrey * std::exp2(stops));
        const image::Frame shown = m_model.expose(flat, {0, 0, 1, 1}, 1, 1).signal;
        return {shown.at(0, 0, 0), shown.at(1, 0, 0), shown.at(2, 0, 0)};
    }

    CameraModel m_model;
    colour::Vector3 m_linear;
};

}  // namespace

TrueDifference trueDifference(const rig::Camera& camera, const rig::Camera& reference) {
    const Neutrals mine(camera), theirs(reference);
    const colour::WhitePoint myWhite = mine.white(), theirWhite = theirs.white();
    const auto gain = [](const rig::Camera& one, const Neutrals& neutrals) {
        return exposureStops(*one.simulated, one.settings) + neutrals.luminanceStops();
    };
    return {mine.luminanceStops() - mine.stopsAt(theirs.greySignal()),
            gain(camera, mine) - gain(reference, theirs),
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
