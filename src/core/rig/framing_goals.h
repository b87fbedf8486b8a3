// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/choices.h"

namespace rigmatch::rig {

/// What is wanted, from … to.
struct Wanted {
    double low = 0.0;
    double high = 0.0;
};

/// Room over the hair as a share of the height, by the school that was chosen: three fingers to a
/// fist over a head of that height, or about a fifth (sources 7.1).
[[nodiscard]] Wanted wantedHeadroom(const Choices& choices, double headShare);
inline constexpr double kHeadroomSlack = 0.02;  ///< this far outside is still fine …
inline constexpr double kHeadroomNear = 0.08;   ///< … and this far is near

/// Where eyes are accepted, as a share of the height from the top: about the upper third.
inline constexpr Wanted kEyeLine{0.30, 0.42};
inline constexpr double kEyeLineNear = 0.08;

/// Headroom that is left when the edit punches in by `zoom` about the eyes (sources 7.1).
[[nodiscard]] double headroomAfterZoom(double headroom, double eyeLine, double zoom);
inline constexpr double kLeastHeadroom = 0.03;  ///< under it a head looks cut

}  // namespace rigmatch::rig
