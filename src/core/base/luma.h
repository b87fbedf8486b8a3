// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

namespace rigmatch::base {

/// Weights of red, green and blue in luma and luminance (ITU-R BT.709-6, items 1.3 and 3.2). Other
/// matrices: image::lumaWeights().
inline constexpr std::array<double, 3> kLumaBt709{0.2126, 0.7152, 0.0722};

/// Weighted sum of three values in the order red, green, blue.
template <class Triple>
[[nodiscard]] constexpr double lumaOf(const Triple& rgb) {
    return kLumaBt709[0] * double(rgb[0]) + kLumaBt709[1] * double(rgb[1]) +
           kLumaBt709[2] * double(rgb[2]);
}

}  // namespace rigmatch::base
