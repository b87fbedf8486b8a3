// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>
#include "base/text.h"

namespace rigmatch::rig {

/// A value with one standard deviation.
struct Doubted {
    double value = 0.0;
    double uncertainty = 0.0;

    bool operator==(const Doubted&) const = default;
};

/// One person as a camera that does not move frames them: medians over the moments that were looked
/// at. Shares of the height from the top, of the width from the left (sources 14.1).
struct FramedPerson {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;  ///< box of the face, px
    Doubted headroom;                                         ///< to the hair's upper edge
    Doubted eyeLine;                                          ///< midway between the pupils
    Doubted headHeight;                                       ///< chin to the hair's upper edge
    Doubted faceHeight;                                       ///< eyes to chin, doubled
    Doubted across;                                           ///< of the eyes
    std::optional<Doubted> lookRoom;  ///< room before the nose over room behind the head; frontal:
                                      ///< none
    double turnDegrees = 0.0;         ///< + toward the person's own left
    bool isCrownEstimate = false;     ///< the hair could not be told from what is behind it
    bool isCut = false;               ///< the head reaches over the picture's edge
    bool hasLineOver = false;         ///< an upright line runs down into the head
    double swayShare = 0.0;           ///< of the width, from the leftmost to the rightmost eyes
    double leanShare = 0.0;           ///< of the head's height, from the smallest to the largest
    int frames = 0;
    std::string unknownFields{};

    bool operator==(const FramedPerson&) const = default;
};

/// How far a picture is turned. +: its content is turned clockwise.
struct RollReading {
    double degrees = 0.0;
    double uncertaintyDegrees = 0.0;
    double tiltDegrees = 0.0;  ///< converging verticals: by how much they lean apart over the width
    std::string source;        ///< "uprights", "level lines", "eyes"

    bool operator==(const RollReading&) const = default;
};

/// A bright thing that draws the eye. Shares of the picture.
struct BrightSpot {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;
    double level = 0.0;  ///< of signal
    std::string where;   ///< "left", "right", "top", "bottom": at that edge; "head": over a head
    std::string unknownFields{};

    bool operator==(const BrightSpot&) const = default;
};

/// A green or blue screen behind a person.
struct KeyScreen {
    std::string hue;         ///< "green", "blue"
    double areaShare = 0.0;  ///< of the picture
    Doubted evennessStops;   ///< between its darkest and its brightest twentieth
    double level = 0.0;      ///< of luma signal
    double saturation = 0.0;
    double spillShare = 0.0;  ///< of its own colour, that lies on the person's edge
    /// One standard deviation each; 0: not told (measured by an earlier version).
    double levelDoubt = 0.0, saturationDoubt = 0.0, spillDoubt = 0.0;

    bool operator==(const KeyScreen&) const = default;
};

/// A time in which places that rest were softer or sharper than they are.
struct FocusHunt {
    double startSeconds = 0.0, endSeconds = 0.0;
    double strength = 0.0;   ///< log2 of fine over coarse detail
    bool hasStayed = false;  ///< it did not come back: the focus was moved
    std::string unknownFields{};

    bool operator==(const FocusHunt&) const = default;
};

/// Focus over a clip.
struct FocusOverTime {
    int samples = 0;
    std::vector<FocusHunt> hunts;
    std::optional<double> breathing;  ///< by how much all grows or shrinks, sharpest to softest

    bool operator==(const FocusOverTime&) const = default;
};

/// How sharp the places are that focus is judged by: widths of edges, px of the frame.
struct FocusReading {
    std::optional<double> eyes, ear, hair, background;
    std::optional<double> front;  ///< before the chest: what is held, hands, a microphone, clothes
    std::string sharpest;         ///< "eyes", "ear", "background"; empty: none can be told

    bool operator==(const FocusReading&) const = default;
};

/// How the set stands against an earlier picture of the same camera: at the picture's centre, px of
/// the later file; x right, y down, roll clockwise, scale > 1 larger.
struct FrameDrift {
    std::array<double, 2> shiftPx{};
    double rollDegrees = 0.0;
    double scale = 1.0;
    double shiftUncertaintyPx = 0.0;
    double rollUncertaintyDegrees = 0.0;
    double scaleUncertainty = 0.0;
    std::string cause = "unknown";  ///< as the command line has it: "none", "pan", …
    int points = 0;                 ///< of the set that were found again
    double sharpness = 1.0;         ///< edges of the set, width now over width then
    std::string against;            ///< the picture it was laid on
    base::Text reason;              ///< why it could not be; the rest is then empty
    std::string unknownFields{};

    bool operator==(const FrameDrift&) const = default;
};

/// How a file frames what it shows.
struct FramingReading {
    double atSeconds = 0.0;  ///< the moment that stands for the whole: roll and focus are its
    int frames = 0;          ///< moments that were looked at
    std::optional<RollReading> roll;
    std::vector<FramedPerson> people;  ///< from left to right
    FocusReading focus;
    std::optional<FocusOverTime> focusOverTime;  ///< nothing: not watched, or too little rests
    std::vector<BrightSpot> brightSpots;
    std::optional<KeyScreen> keyScreen;
    std::optional<Doubted> darkest;   ///< luma signal of the darkest that shows over some px
    std::optional<FrameDrift> drift;  ///< against the camera's saved framing
    std::string unknownFields{};

    bool operator==(const FramingReading&) const = default;
};

}  // namespace rigmatch::rig
