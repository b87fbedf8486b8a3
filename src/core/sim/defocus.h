// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "image/frame.h"

namespace rigmatch::sim {

/// What the glass of a lens does beyond drawing straight lines.
struct Glass {
    double apertureMetres = 0.0;  ///< width of the entrance pupil, f / N; 0: everything is sharp
    double focusMetres = 2.0;     ///< along the axis
    double distortion = 0.0;      ///< share by which a corner stands farther out (+) or in (−)
};

/// A piece of a picture at one depth: a whole pixel, or the part of one that a thing covers.
struct Fragment {
    std::size_t pixel = 0;
    float metres = 1.0F;  ///< along the axis
    float cover = 1.0F;   ///< 0..1; those of a pixel add up to 1
    std::array<float, 3> colour{};
};

/// Radius of the blur disc of a thing at `metres`, px of a picture whose focal length is `focalPx`;
/// negative before the plane in focus: A f (1/s − 1/d) / 2 (thin lens, sources 3.5).
[[nodiscard]] double blurRadiusPx(const Glass& glass, double focalPx, double metres);

/// The picture that fragments make through an open pupil. What stands behind the edge of a near
/// thing is taken from beside it.
[[nodiscard]] image::Frame defocused(const std::vector<Fragment>& fragments,
                                     int width,
                                     int height,
                                     const Glass& glass,
                                     double focalPx);

/// Blurs one plane with a disc, in place; what lies beyond its edges goes on as at them.
void blurDisc(std::vector<float>& plane, int width, int height, double radiusPx);

}  // namespace rigmatch::sim
