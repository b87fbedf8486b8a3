// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "face/face_finder.h"
#include "framing/head_box.h"
#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

using Share = rig::Doubted;

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
    bool hasLineOver = false;     ///< an upright line runs down into the head
};

/// Where a person's head is, px.
[[nodiscard]] HeadBox headBox(const PersonFrame& person, const image::CodedFrame& frame);

/// Measures every face. Some 90 ms each.
[[nodiscard]] std::vector<PersonFrame> personFrames(const image::CodedFrame& frame,
                                                    const std::vector<face::Face>& faces);

/// The same people over several frames of one camera that does not move: medians, and how far each
/// went. People are told apart by where they are.
[[nodiscard]] std::vector<rig::FramedPerson> peopleOverTime(
    const std::vector<std::vector<PersonFrame>>& frames);

}  // namespace rigmatch::framing
