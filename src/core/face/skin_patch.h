// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "image/frame.h"

namespace rigmatch::face {

/// The mean signal of a spot of skin.
struct SkinPatch {
    std::array<double, 3> signal{};
    std::array<double, 3> standardError{};  ///< from the spread and a quarter of the pixels
    double clippedShare = 0.0;
    int pixels = 0;
};

/// Mean of the pixels inside an outline, px of the frame; hair, rims and shine (beyond 2.5 robust
/// deviations of brightness) are left out, clipped pixels counted. Nothing under 40 px.
[[nodiscard]] std::optional<SkinPatch> skinPatch(const image::CodedFrame& frame,
                                                 const std::vector<image::Point>& outline);

}  // namespace rigmatch::face
