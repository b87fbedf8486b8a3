// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <string>
#include <vector>

namespace rigmatch::colour {

/// A curve that a standard or a maker has published: light (1 = diffuse white) to signal.
struct PublishedCurve {
    std::string name;
    std::function<double(double)> encode;
    /// True: the published value is a code over the largest code, whatever the file's range;
    /// false: it is a signal, 0 = black and 1 = nominal white.
    bool isCodeValue = false;

    /// Signal of a limited-range file (black at code 64 of 1023, white at 940), or of a full-range
    /// one.
    [[nodiscard]] double signalAt(double linear, bool isLimited) const;
};

/// BT.709, sRGB, BT.1886, HLG (BT.2100 with diffuse white at 75 %, BT.2408), PQ (SMPTE ST 2084 with
/// diffuse white at 203 cd/m², BT.2408), and the camera curves of OpenColorIO's built-in
/// transforms, by the names the library brings. Made once; thread-safe.
[[nodiscard]] const std::vector<PublishedCurve>& publishedCurves();

/// The colour library's own names of the transforms that take a camera's recording apart, and the
/// short name that screens show for one of them.
[[nodiscard]] std::vector<std::string> cameraTransformStyles();
[[nodiscard]] std::string cameraTransformName(const std::string& style);

/// SMPTE ST 2084 inverse EOTF: signal of a luminance, cd/m².
[[nodiscard]] double pqSignal(double luminance);

}  // namespace rigmatch::colour
