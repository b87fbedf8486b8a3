// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "face/face_finder.h"
#include "image/frame.h"

namespace rigmatch::framing {

/// How sharp the places are that focus is judged by: widths of edges, px of the frame.
struct EyeFocus {
    std::optional<double> eyes, ear, hair, background;
    std::string sharpest;  ///< "eyes", "ear", "hair", "background"; empty: none can be told
};

/// Of the largest face; only the background where there is none. On the frame's own pixels.
[[nodiscard]] EyeFocus eyeFocus(const image::CodedFrame& frame,
                                const std::vector<face::Face>& faces);

}  // namespace rigmatch::framing
