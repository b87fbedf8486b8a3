// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "image/frame.h"

namespace rigmatch::framing {

/// How far a picture is turned. +: its content is turned clockwise.
struct PictureRoll {
    double degrees = 0.0;
    double uncertaintyDegrees = 0.0;
    double tiltDegrees = 0.0;  ///< converging verticals: by how much they lean apart over the width
    std::string source;        ///< "uprights", "level lines", "eyes"
};

/// From long straight lines: those that stand nearly upright, whose lean is a line over the width
/// of the picture (a lens that looks up or down makes them converge); else those that lie nearly
/// level. Nothing where there are too few (sources 14.3).
[[nodiscard]] std::optional<PictureRoll> pictureRoll(const image::CodedFrame& frame);

}  // namespace rigmatch::framing
