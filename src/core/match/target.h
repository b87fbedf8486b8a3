// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "rig/rig.h"

namespace rigmatch::match {

/// What all cameras of a take are matched to: one of them, or a picture from outside the take: of
/// an earlier take, or the chart's published values.
struct Target {
    /// A picture from outside, with the camera that took it; without that camera's id, by which
    /// people are found in the take's own pictures.
    struct Outside {
        rig::Camera camera;
        rig::Shot shot;
    };
    std::string cameraId;            ///< of the take's cameras; empty: the rig's reference
    std::optional<Outside> outside;  ///< then no camera of the take is the reference
    std::string words;               ///< what it is, where it is from outside
};

/// The published values of the chart that a reading shows, as a camera by ITU-R BT.709-6 item 1.2
/// records them with diffuse white at 100 %: 18 % grey at 40.9 %. No noise, no clipping.
[[nodiscard]] Target chartTarget(const rig::Reading& reading);

}  // namespace rigmatch::match
