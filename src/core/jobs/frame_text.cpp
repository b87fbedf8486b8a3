// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/format.h"
#include "framing/picture_drift.h"
#include "jobs/frame_job.h"
#include "jobs/json_tidy.h"

namespace rigmatch::jobs {
namespace {

using base::fixed;
using base::signedFixed;

double finely(double value) { return tidy(value, 1e5); }

Json shareJson(const rig::Doubted& share) {
    return {{"value", finely(share.value)}, {"uncertainty", finely(share.uncertainty)}};
}

Json personJson(const rig::FramedPerson& one) {
    Json headroom = shareJson(one.headroom);
    headroom["isEstimate"] = one.isCrownEstimate;
    Json head = shareJson(one.headHeight);
    head["isEstimate"] = one.isCrownEstimate;
    return {{"faceBox",
             {tidy(one.left, 10), tidy(one.top, 10), tidy(one.width, 10), tidy(one.height, 10)}},
            {"headroom", headroom},
            {"eyeLine", shareJson(one.eyeLine)},
            {"headHeight", head},
            {"faceHeight", shareJson(one.faceHeight)},
            {"across", shareJson(one.across)},
            {"lookRoom", one.lookRoom ? shareJson(*one.lookRoom) : Json(nullptr)},
            {"turnDegrees", tidy(one.turnDegrees, 10)},
            {"isCut", one.isCut},
            {"hasLineOverHead", one.hasLineOver},
            {"sway", finely(one.swayShare)},
            {"lean", finely(one.leanShare)},
            {"frames", one.frames}};
}

Json focusJson(const rig::FocusReading& focus) {
    Json widths = Json::object();
    for (const auto& [name, width] : {std::pair{"eyes", focus.eyes},
                                      std::pair{"ear", focus.ear},
                                      std::pair{"hair", focus.hair},
                                      std::pair{"front", focus.front},
                                      std::pair{"background", focus.background}})
        widths[name] = width ? Json(tidy(*width, 1e3)) : Json(nullptr);
    return {{"sharpest", focus.sharpest.empty() ? Json(nullptr) : Json(focus.sharpest)},
            {"edgeWidthPx", widths}};
}

Json spotsJson(const rig::FramingReading& framing) {
    Json all = Json::array();
    for (const rig::BrightSpot& spot : framing.brightSpots)
        all.push_back(
            {{"where", spot.where},
             {"box",
              {finely(spot.left), finely(spot.top), finely(spot.width), finely(spot.height)}},
             {"level", tidy(spot.level, 1e3)}});
    return all;
}

Json keyScreenJson(const rig::FramingReading& framing) {
    if (!framing.keyScreen) return nullptr;
    const rig::KeyScreen& screen = *framing.keyScreen;
    return {{"hue", screen.hue},
            {"area", finely(screen.areaShare)},
            {"evennessStops", shareJson(screen.evennessStops)},
            {"level", shareJson({screen.level, screen.levelDoubt})},
            {"saturation", shareJson({screen.saturation, screen.saturationDoubt})},
            {"spill", shareJson({screen.spillShare, screen.spillDoubt})}};
}

Json driftJson(const FramedFile& framed) {
    if (!framed.framing.drift) return nullptr;
    const rig::FrameDrift& drift = *framed.framing.drift;
    if (!drift.reason.empty())
        return {{"shiftPx", nullptr}, {"cause", "unknown"}, {"reason", drift.reason}};
    Json one = {{"shiftPx", {tidy(drift.shiftPx[0], 1e3), tidy(drift.shiftPx[1], 1e3)}},
                {"rollDegrees", finely(drift.rollDegrees)},
                {"scale", tidy(drift.scale, 1e6)},
                {"cause", drift.cause},
                {"uncertainty",
                 {{"shiftPx", finely(drift.shiftUncertaintyPx)},
                  {"rollDegrees", finely(drift.rollUncertaintyDegrees)},
                  {"scale", tidy(drift.scaleUncertainty, 1e6)}}},
                {"points", drift.points},
                {"sharpness", tidy(drift.sharpness, 1e3)}};
    if (framed.lens)
        one["shiftDegrees"] = {finely(framed.lens->degrees(drift.shiftPx[0], framed.width)),
                               finely(framed.lens->degrees(drift.shiftPx[1], framed.width))};
    return one;
}

std::string percentOf(const rig::Doubted& share) {
    return fixed(100.0 * share.value, 1) + " ± " + fixed(100.0 * share.uncertainty, 1) + " %";
}

}  // namespace

std::string driftText(const rig::FrameDrift& drift,
                      const std::optional<FrameLens>& lens,
                      int widthPx) {
    if (!drift.reason.empty()) return "drift unknown: " + drift.reason;
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

std::vector<std::string> frameLines(const FramedFile& framed) {
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

std::string frameJson(const std::vector<FrameResult>& results) {
    Json all = Json::array();
    for (const FrameResult& result : results) {
        if (!result.framed) {
            all.push_back(
                {{"file", result.file}, {"error", base::fullText(result.framed.error())}});
            continue;
        }
        const FramedFile& framed = *result.framed;
        Json people = Json::array();
        for (const rig::FramedPerson& person : framed.framing.people)
            people.push_back(personJson(person));
        Json roll = nullptr;
        if (framed.framing.roll)
            roll = {{"value", tidy(framed.framing.roll->degrees, 1e3)},
                    {"uncertainty", tidy(framed.framing.roll->uncertaintyDegrees, 1e3)},
                    {"source", framed.framing.roll->source}};
        all.push_back(
            {{"file", result.file},
             {"width", framed.width},
             {"height", framed.height},
             {"rollDegrees", roll},
             {"people", people},
             {"focus", focusJson(framed.framing.focus)},
             {"brightSpots", spotsJson(framed.framing)},
             {"keyScreen", keyScreenJson(framed.framing)},
             {"darkest", framed.framing.darkest ? shareJson(*framed.framing.darkest) : Json()},
             {"drift", driftJson(framed)}});
    }
    return Json({{"version", 1}, {"results", all}}).dump(2) + "\n";
}

}  // namespace rigmatch::jobs
