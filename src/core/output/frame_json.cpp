// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/frame_json.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <utility>

#include "output/json_tidy.h"
#include "words/english.h"

namespace rigmatch::output {
namespace {

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

Json driftJson(const jobs::FramedFile& framed) {
    if (!framed.framing.drift) return nullptr;
    const rig::FrameDrift& drift = *framed.framing.drift;
    if (!drift.reason.empty())
        return {
            {"shiftPx", nullptr}, {"cause", "unknown"}, {"reason", words::inEnglish(drift.reason)}};
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

}  // namespace

std::string frameJson(const std::vector<jobs::FrameResult>& results) {
    Json all = Json::array();
    for (const jobs::FrameResult& result : results) {
        if (!result.framed) {
            all.push_back(
                {{"file", result.file}, {"error", words::inEnglish(result.framed.error())}});
            continue;
        }
        const jobs::FramedFile& framed = *result.framed;
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

}  // namespace rigmatch::output
