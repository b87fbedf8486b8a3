// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string>

#include "colour/transfer.h"

namespace rigmatch::rig {

/// The hidden truth of a simulated camera: how its body departs from what its settings promise.
/// Everything a real camera would keep to itself; the measuring side never reads it.
struct SimulatedBody {
    std::array<double, 3> position{0.0, 1.2, 3.0};  ///< m: x right, y up, z toward the camera side
    std::array<double, 3> aim{0.0, 1.1, 0.0};       ///< m: the point in the middle of the picture
    double rollDegrees = 0.0;
    double horizontalViewDegrees = 40.0;
    double sensitivityStops = 0.0;  ///< + is brighter than the ISO number says
    double glassStops = 0.0;        ///< light lost in front of the lens
    double warmthMired = 0.0;       ///< + renders warmer than the dial says
    double tintDuv = 0.0;           ///< + renders greener than the dial says
    double tintDuvPerStep = 0.001;  ///< real effect of one tint step
    double saturation = 1.0;
    double crosstalk = 0.0;      ///< 0..0.3: share of each channel that leaks into its neighbours
    double noiseAtBase = 0.002;  ///< signal-independent part at ISO 100, linear
    double vignetteStops = 0.2;  ///< loss in the corners
    double focusMetres = 0.0;    ///< along its axis; 0: where the plan has it look
    double breathing = 0.0;      ///< share of a plain lens's narrowing as it focuses nearer, 0..1
    double distortion = 0.0;     ///< by which a corner stands farther out (+) or in (−), share
    double lightMired = 0.0;     ///< departure of the light that this camera sees
    colour::TransferCurve curve{colour::CurveKind::Standard, {}, {}};
    int bitDepth = 8;          ///< 8: H.264; 10: HEVC
    int repeatEvery = 0;       ///< frames after which its chain shows one twice; 0: never
    bool isFullRange = false;  ///< writes full-range codes (and tags them so)
    std::string unknownFields{};

    bool operator==(const SimulatedBody&) const = default;
};

}  // namespace rigmatch::rig
