// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "face/face_finder.h"
#include "image/frame.h"

namespace rigmatch::framing {

/// The edge of a head as the picture shows it, px of the frame.
struct HeadOutline {
    image::Point crown;  ///< highest place of hair or hat
    double left = 0.0;   ///< outermost columns at the height of the eyes and above
    double right = 0.0;
    /// The hair could not be told from what is behind it: the crown is where hair usually ends
    /// (sources 14.2).
    bool isEstimate = true;
    /// One standard deviation of the crown, as a share of the head's height.
    double crownDoubt = 0.08;
};

/// Cuts the head out of its surroundings (graph cuts over colours, Rother, Kolmogorov and Blake
/// 2004, in OpenCV), from the face outwards. Some 80 ms.
[[nodiscard]] HeadOutline headOutline(const image::CodedFrame& frame, const face::Face& face);

}  // namespace rigmatch::framing
