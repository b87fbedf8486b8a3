// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "face/face_finder.h"
#include "image/frame.h"

namespace rigmatch::framing {

/// The lower edge of a jaw before neck, collar or background, as the picture shows it.
struct ChinEdge {
    double row = 0.0;  ///< px of the frame
    /// One standard deviation, as a share of the head.
    double doubt = 0.0;
};

/// Near the mesh's chin, where columns beside each other agree on an edge; nothing else.
[[nodiscard]] std::optional<ChinEdge> chinEdge(const image::CodedFrame& frame,
                                               const face::Face& face);

}  // namespace rigmatch::framing
