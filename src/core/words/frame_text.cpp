// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/frame_text.h"
#include "words/english.h"

#include <cmath>

#include "base/format.h"
#include "framing/picture_drift.h"

namespace rigmatch::words {
namespace {

using base::fixed;
using base::signedFixed;

std::string percentOf(const rig::Doubted& share) {
    return fixed(100.0 * share.value, 1) + " ± " + fixed(100.0 * share.uncertainty, 1) + " %";
}

}  // namespace

std::string driftText(const rig::FrameDrift& drift,
                      const std::optional<jobs::FrameLens>& lens,
                      int widthPx) {
    if (!drift.reason.empty()) return "drift unknown: " + inEnglish(drift.reason);
    const auto size = [&](double px) {
        std::string text = fixed(std::abs(px), 1) + " ± " +
                           fixed(std::max(0.1, drift.shiftUncertaintyPx), 1) + " px";
        if (lens) text += " (" + fixed(std::abs(lens->degrees(px, widthPx)), 2) + "°)";
        return text;
    };
    const std::string roll = " ± " + fixed(std::max(0.01, drift.rollUncertaintyDegrees), 2) + "°";
    const std::string scale =
        " ± " + fixed(std::max(0.01, 100.0 * drift.scaleUncertainty), 2) + " %";
    const double x = drift.shiftPx[0], y = drift.shiftPx[1];
    switch (framing::causeNamed(drift.cause)) {
        case framing::DriftCause::None:
            return "stands as it stood.";
        case framing::DriftCause::Pan:
            return "panned: the set moved " + size(x) + " to the " + (x > 0 ? "right" : "left") +
                   "; pan " + (x > 0 ? "right" : "left") + " until it stands as before.";
        case framing::DriftCause::Tilt:
            return "tilted: the set moved " + size(y) + " " + (y > 0 ? "down" : "up") + "; tilt " +
                   (y > 0 ? "down" : "up") + " until it stands as before.";
        case framing::DriftCause::Roll:
            return "rolled: level it by " + fixed(std::abs(drift.rollDegrees), 2) + roll +
                   "; the picture turned " +
                   (drift.rollDegrees > 0 ? "clockwise." : "anticlockwise.");
        case framing::DriftCause::Zoom:
            return "zoomed: everything is " + signedFixed(100.0 * (drift.scale - 1.0), 2) + scale +
                   " in size; turn the zoom ring back.";
        case framing::DriftCause::Focus:
            return "focused elsewhere: edges of the set are " +
                   signedFixed(100.0 * (drift.sharpness - 1.0), 0) + " % in width.";
        case framing::DriftCause::ModeCrop:
            return "another crop of the sensor: everything is × " + fixed(drift.scale, 3) + " ± " +
                   fixed(std::max(0.001, drift.scaleUncertainty), 3) +
                   "; choose the recording mode of before.";
        case framing::DriftCause::Lens:
            return "another lens, or another correction of it.";
        case framing::DriftCause::Moved:
            return "moved: " + size(x) + (x > 0 ? " to the right, " : " to the left, ") + size(y) +
                   (y > 0 ? " down, " : " up, ") + signedFixed(drift.rollDegrees, 2) + roll + ", " +
                   signedFixed(100.0 * (drift.scale - 1.0), 2) + scale +
                   " in size; put tripod and head back on their marks.";
        case framing::DriftCause::Unknown:
            break;
    }
    return "changed in a way that is not told.";
}

std::vector<std::string> frameLines(const jobs::FramedFile& framed) {
    std::vector<std::string> lines;
    if (framed.framing.people.empty()) lines.push_back("no face found");
    for (std::size_t i = 0; i < framed.framing.people.size(); ++i) {
        const rig::FramedPerson& one = framed.framing.people[i];
        std::string line = (framed.framing.people.size() > 1
                                ? "person " + std::to_string(i + 1) + " from the left: "
                                : std::string()) +
                           "head " + percentOf(one.headHeight) + " of the height, eyes at " +
                           percentOf(one.eyeLine) + ", headroom " + percentOf(one.headroom) +
                           (one.isCrownEstimate ? " (estimated)" : "") + ", at " +
                           percentOf(one.across) + " of the width";
        if (one.lookRoom)
            line += ", look room " + fixed(one.lookRoom->value, 1) + " ± " +
                    fixed(one.lookRoom->uncertainty, 1);
        if (one.isCut) line += ", cut by the edge";
        if (one.hasLineOver) line += ", a line runs down into the head";
        lines.push_back(line);
    }
    if (framed.framing.roll)
        lines.push_back("roll " + signedFixed(framed.framing.roll->degrees, 2) + " ± " +
                        fixed(framed.framing.roll->uncertaintyDegrees, 2) + "° by " +
                        framed.framing.roll->source);
    else
        lines.push_back("roll unknown: no long straight line and no face");
    if (!framed.framing.focus.sharpest.empty()) {
        std::string line = "sharpest: " + framed.framing.focus.sharpest;
        const rig::FocusReading& focus = framed.framing.focus;
        for (const auto& [name, width] : {std::pair{"eyes", focus.eyes},
                                          std::pair{"ear", focus.ear},
                                          std::pair{"hair", focus.hair},
                                          std::pair{"before the chest", focus.front},
                                          std::pair{"background", focus.background}})
            if (width) line += std::string(", ") + name + " " + fixed(*width, 1) + " px";
        lines.push_back(line);
    }
    for (const rig::BrightSpot& spot : framed.framing.brightSpots)
        lines.push_back(spot.where == "head" ? std::string("a bright thing stands over the head")
                                             : "a bright spot at the " + spot.where + " edge");
    if (framed.framing.keyScreen) {
        const rig::KeyScreen& screen = *framed.framing.keyScreen;
        lines.push_back(screen.hue + " screen over " + fixed(100.0 * screen.areaShare, 0) +
                        " % of the picture: even to " + fixed(screen.evennessStops.value, 2) +
                        " ± " + fixed(screen.evennessStops.uncertainty, 2) + " stops, at " +
                        fixed(100.0 * screen.level, 0) + " %, " +
                        fixed(100.0 * screen.saturation, 0) + " % saturated, " +
                        fixed(100.0 * screen.spillShare, 0) + " % of it on the person's edge");
    }
    if (framed.framing.drift)
        lines.push_back(driftText(*framed.framing.drift, framed.lens, framed.width));
    return lines;
}

}  // namespace rigmatch::words
