// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "rig/choices.h"
#include "rig/framing_reading.h"

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

inline constexpr double kJudgedFace = 0.6;  ///< of the largest; smaller ones are not judged
inline constexpr double kLensTurn = 12.0;   ///< degrees: who turns less speaks to the lens

/// Height of the largest face, share of the picture's; 0 without any.
[[nodiscard]] double largestFace(const FramingReading& reading);
/// Whom a picture is judged by, indices from left to right: faces at least 0.6 times as high as
/// the largest. Smaller ones may be a picture on the wall, a mirror or somebody behind.
[[nodiscard]] std::vector<int> judgedPeople(const FramingReading& reading);
/// The only one of them; null where there are none or more.
[[nodiscard]] const FramedPerson* lonePerson(const FramingReading& reading);

/// True for a head that is large enough to be framed by its headroom.
[[nodiscard]] bool isClose(const FramedPerson& person);

/// Where the eyes of a lone person are wanted, share of the height: so that headroom is as the
/// school has it and eyes lie where they are accepted, as far as both go together.
[[nodiscard]] double wantedEyes(const FramedPerson& person, const Choices& choices);
/// Where they are wanted across, share of the width.
[[nodiscard]] double wantedAcross(const FramedPerson& person, const Choices& choices);

}  // namespace rigmatch::rig
