// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "face/face_finder.h"
#include "image/frame.h"

namespace rigmatch::framing {

/// A value as a share, with one standard deviation.
struct Share {
    double value = 0.0;
    double uncertainty = 0.0;
};

/// How one person stands in a picture. Shares of the height from the top, of the width from the
/// left (sources 14.1).
struct PersonFrame {
    face::Face face;
    Share headroom;    ///< to the hair's upper edge
    Share eyeLine;     ///< midway between the pupils
    Share headHeight;  ///< chin to the hair's upper edge
    Share faceHeight;  ///< eyes to chin, doubled
    Share across;      ///< of the eyes
    std::optional<Share>
        lookRoom;  ///< room before the nose over room behind the head; frontal: none
    double turnDegrees = 0.0;
    bool isCrownEstimate = true;  ///< the hair could not be told from what is behind it
    bool isCut = false;           ///< the head reaches over the picture's edge
};

/// Measures every face. Some 90 ms each.
[[nodiscard]] std::vector<PersonFrame> personFrames(const image::CodedFrame& frame,
                                                    const std::vector<face::Face>& faces);

/// The same people over several frames of one camera that does not move: medians, and how far each
/// went. People are told apart by where they are.
struct PersonOverTime {
    PersonFrame middle;
    double swayShare = 0.0;  ///< of the width, from the leftmost to the rightmost eyes
    double leanShare = 0.0;  ///< of the head's height, from the smallest to the largest
    int frames = 0;
};
[[nodiscard]] std::vector<PersonOverTime> peopleOverTime(
    const std::vector<std::vector<PersonFrame>>& frames);

}  // namespace rigmatch::framing
