// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/framing_goals.h"

#include <algorithm>

namespace rigmatch::rig {

Wanted wantedHeadroom(const Choices& choices, double headShare) {
    if (choices.headroom == "wide") return {0.16, 0.24};
    // A small head whose eyes lie on the third has more room above it, and that is as it should be.
    return {0.24 * headShare, std::max(0.40 * headShare, 0.36 - 0.51 * headShare)};
}

double headroomAfterZoom(double headroom, double eyeLine, double zoom) {
    return eyeLine - zoom * (eyeLine - headroom);
}

}  // namespace rigmatch::rig
