// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sim/camera_model.h"
#include "support/own_truth.h"

namespace rigmatch::support {

/// Truth of a simulated camera from pictures of flat neutral light that it develops, without noise
/// and fall-off: by the definitions alone, not by what the simulator knows of itself.
inline NeutralTruth developedTruth(rig::Camera camera) {
    camera.simulated->vignetteStops = 0.0;
    return NeutralTruth([model = sim::CameraModel(camera)](double light) {
        constexpr int kSide = 4;
        image::Frame flat = image::blankFrame(kSide, kSide);
        for (auto& channel : flat.channels)
            std::fill(channel.begin(), channel.end(), static_cast<float>(light));
        const image::Frame signal = model.expose(flat, {0, 0, kSide, kSide}, kSide, kSide).signal;
        return own::Triple{signal.at(0, 1, 1), signal.at(1, 1, 1), signal.at(2, 1, 1)};
    });
}

}  // namespace rigmatch::support
