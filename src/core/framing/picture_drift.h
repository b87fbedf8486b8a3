// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string>
#include <vector>

#include "base/result.h"
#include "face/face_finder.h"
#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

enum class DriftCause { None, Pan, Tilt, Roll, Zoom, Focus, ModeCrop, Lens, Moved, Unknown };

/// "none", "pan", …, as the command line has it.
[[nodiscard]] std::string nameOf(DriftCause cause);
/// Unknown for any other word.
[[nodiscard]] DriftCause causeNamed(const std::string& name);

/// How the set stands in a picture against an earlier one of the same camera: at the picture's
/// centre, px of the later file; x right, y down, roll clockwise, scale > 1 larger.
struct PictureDrift {
    std::array<double, 2> shiftPx{};
    double rollDegrees = 0.0;
    double scale = 1.0;
    double shiftUncertaintyPx = 0.0;
    double rollUncertaintyDegrees = 0.0;
    double scaleUncertainty = 0.0;
    DriftCause cause = DriftCause::Unknown;
    int points = 0;          ///< of the set that were found again
    double sharpness = 1.0;  ///< edges of the set, width now over width then
};

/// Finds the set again: features (Lowe 2004, OpenCV), people left out, one homography (Hartley and
/// Zisserman 2004, 4.1; sources 14.5). Fails with Unmeasurable where too little of the set shows.
[[nodiscard]] base::Result<PictureDrift> pictureDrift(
    const image::CodedFrame& reference,
    const std::vector<face::Face>& referencePeople,
    const image::CodedFrame& frame,
    const std::vector<face::Face>& people);

/// The same as it is kept with a reading: `against` names the picture it was laid on. A failure is
/// kept as its reason.
[[nodiscard]] rig::FrameDrift driftReading(const base::Result<PictureDrift>& drift,
                                           const std::string& against);

}  // namespace rigmatch::framing
