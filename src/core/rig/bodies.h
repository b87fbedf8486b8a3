// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "rig/rig.h"

namespace rigmatch::rig {

/// A generic kind of camera: what it is called and what can be turned on it (common practice).
struct BodyKind {
    std::string name;          ///< "full-frame hybrid body"
    std::string sensorFormat;  ///< "full frame, 36 × 24 mm"
    Lens lens;
    ControlSheet sheet;
    double sensorWidthMm = 36.0;  ///< active 16:9 area
    double sensorHeightMm = 20.25;
    Equipment equipment{};

    bool operator==(const BodyKind&) const = default;
};

/// The kinds that ship with the program, the most usual first.
[[nodiscard]] const std::vector<BodyKind>& bodyKinds();

/// Generic lenses to choose from; a fixed-lens body keeps its own.
[[nodiscard]] const std::vector<Lens>& genericLenses();

/// Gives `camera` the body, lens and controls of that kind; settings move to the nearest allowed
/// values.
void applyBodyKind(Camera& camera, const BodyKind& kind);

/// Puts a lens on: the allowed f-numbers follow, the set one moves to the nearest.
void applyLens(Camera& camera, const Lens& lens);

/// Moves every setting to the nearest value that the camera's controls allow.
void snapSettings(Camera& camera);

}  // namespace rigmatch::rig
