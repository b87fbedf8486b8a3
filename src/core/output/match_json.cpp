// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <nlohmann/json.hpp>

#include "jobs/lamp_job.h"
#include "match/findings.h"
#include "output/json_output.h"
#include "output/json_parts.h"
#include "output/json_tidy.h"
#include "words/english.h"
#include "words/lamp_text.h"
#include "words/match_text.h"
#include "words/reading_facts.h"
#include "words/rest_reasons.h"

namespace rigmatch::output {
namespace {

using match::Quality;

Json differenceJson(const match::Difference& d) {
    Json json{{"value", nullptr}};
    if (d.value) {
        json["value"] = exactly(*d.value);
        json["uncertainty"] = exactly(d.uncertainty);
        if (d.floor > 0.0) json["sceneAndMethod"] = exactly(d.floor);
    }
    if (!d.value || !d.reason.empty()) json["reason"] = words::inEnglish(d.reason);
    json["good"] = d.good;
    json["accept"] = d.accept;
    json["verdict"] = match::nameOf(d.verdict);
    return json;
}

/// Turns of planned lamps and windows.
Json lampJson(const plan::LampAdvice& advice) {
    constexpr std::array<const char*, 3> kControls{"dimPercent", "kelvin", "filmStops"};
    const rig::LampTurn& turn = advice.turn;
    return {{"object", turn.objectId},
            {"name", advice.name},
            {"control", kControls.at(static_cast<std::size_t>(turn.control))},
            {"from", exactly(turn.from)},
            {"to", exactly(turn.to)},
            {"exposureStops", exactly(advice.stops)},
            {"whiteBalanceMired", exactly(advice.mired)},
            {"uncertainty", exactly(advice.uncertainty)},
            {"share", exactly(advice.share)},
            {"text", words::lampTurnText(advice)}};
}

Json lightTurnsJson(const rig::Rig& rig, const rig::Take& take, const match::MatchReport& report) {
    Json list = Json::array();
    for (const jobs::SetLightTurn& one : jobs::lightTurns(rig, take, report)) {
        Json json = lampJson(one.advice);
        json["done"] = one.isDone;
        list.push_back(std::move(json));
    }
    return list;
}

/// Mean, largest and worst patch; `mean` with its uncertainty and what noise alone would show.
Json deltaEJson(const match::ColourDifference& colour, const rig::Reading* reading) {
    const bool isNamed = reading != nullptr && colour.worstPatch < reading->patches.size();
    return {{"mean", exactly(colour.mean)},
            {"meanUncertainty", exactly(colour.meanError)},
            {"noiseFloor", exactly(colour.noiseFloor)},
            {"max", exactly(colour.max)},
            {"worstPatch", isNamed ? reading->patches[colour.worstPatch].name : ""}};
}

/// Parts that follow the white balance stand there only where they change.
Json effectJson(const rig::TurnEffect& effect) {
    Json json{{"exposureStops", exactly(effect.exposureStops)},
              {"whiteBalanceMired", exactly(effect.whiteBalanceMired)},
              {"tintDuv", exactly(effect.tintDuv)}};
    if (effect.contrast != 0.0) json["contrastRatio"] = exactly(std::exp(effect.contrast));
    if (effect.blackPercent != 0.0) json["blackLevelPercent"] = exactly(effect.blackPercent);
    if (effect.saturation != 0.0) json["saturationRatio"] = exactly(std::exp(effect.saturation));
    if (effect.hueDegrees != 0.0) json["hueDegrees"] = exactly(effect.hueDegrees);
    if (effect.knee != 0.0) json["kneeRatio"] = exactly(std::exp(effect.knee));
    if (effect.overshootPercent != 0.0) json["overshootPercent"] = exactly(effect.overshootPercent);
    return json;
}

/// Of ratios the share by which they are unsure.
Json uncertaintyJson(const rig::TurnEffect& u) {
    Json json{{"exposureStops", exactly(u.exposureStops)},
              {"whiteBalanceMired", exactly(u.whiteBalanceMired)},
              {"tintDuv", exactly(u.tintDuv)}};
    if (u.contrast != 0.0) json["contrastRatio"] = exactly(u.contrast);
    if (u.blackPercent != 0.0) json["blackLevelPercent"] = exactly(u.blackPercent);
    if (u.saturation != 0.0) json["saturationRatio"] = exactly(u.saturation);
    if (u.hueDegrees != 0.0) json["hueDegrees"] = exactly(u.hueDegrees);
    if (u.knee != 0.0) json["kneeRatio"] = exactly(u.knee);
    if (u.overshootPercent != 0.0) json["overshootPercent"] = exactly(u.overshootPercent);
    return json;
}

/// What a dial does stretch by stretch of its range: `place` turns its places into what is told.
Json stretchesJson(const std::vector<match::StretchResponse>& stretches,
                   const char* unit,
                   const std::function<double(double)>& place) {
    Json list = Json::array();
    for (const match::StretchResponse& one : stretches)
        list.push_back({{std::string("from") + unit, exactly(place(one.from))},
                        {std::string("to") + unit, exactly(place(one.to))},
                        {"share", exactly(one.share)},
                        {"uncertainty", exactly(one.uncertainty)},
                        {"isUnlike", one.isUnlike}});
    return list;
}

/// What was learned of the controls of one camera, one entry each.
void addLearned(const rig::Camera& camera, const match::LearnedControls& learned, Json& list) {
    const auto add =
        [&](const char* control, const char* key, const match::Response& response, double perStep) {
            if (response.takes == 0) return false;
            list.push_back({{"camera", camera.letter},
                            {"control", control},
                            {"perStep", {{key, response.share * perStep}}},
                            {"uncertainty", {{key, response.uncertainty * std::abs(perStep)}}},
                            {"takes", response.takes}});
            return true;
        };
    // A step of exposure is a stop (of ISO or gain), one of white balance a mired of the dial.
    add("exposure", "exposureStops", learned.exposure, 1.0);
    add("shutter", "exposureStops", learned.shutter, 1.0);
    const auto same = [](double place) { return place; };
    if (add("aperture", "exposureStops", learned.aperture, 1.0))
        list.back()["along"] = stretchesJson(learned.apertureStretches(), "FNumber", same);
    if (add("nd", "exposureStops", learned.nd, 1.0)) {
        std::vector<match::StretchResponse> filters;
        for (const double stops : camera.sheet.ndStops) {
            if (stops > 0.0) filters.push_back(learned.ndOf(stops));
        }
        list.back()["along"] = stretchesJson(filters, "Stops", same);
    }
    if (add("whiteBalance", "whiteBalanceMired", learned.whiteBalance, 1.0))
        list.back()["along"] = stretchesJson(
            learned.whiteBalanceStretches(), "Kelvin", [](double mired) { return 1e6 / mired; });
    if (add("tint", "tintDuv", learned.tint, camera.sheet.tintDuvPerStep))
        list.back()["along"] = stretchesJson(learned.tintStretches(), "Duv", same);
    add("sharpness", "overshootPercent", learned.sharpness, 1.0);
    for (const match::KnobResponse& knob : learned.knobs) {
        if (knob.takes == 0) continue;
        list.push_back({{"camera", camera.letter},
                        {"control", knob.name},
                        {"perStep", effectJson(knob.shown)},
                        {"uncertainty", uncertaintyJson(knob.shownUncertainty)},
                        {"takes", knob.takes}});
    }
}

Json listOf(const Eigen::Vector3d& numbers) {
    return {exactly(numbers[0]), exactly(numbers[1]), exactly(numbers[2])};
}

/// The numbers of a body's model; null where there is none.
Json bodyJson(const match::CameraMatch& match) {
    if (!match.body) return nullptr;
    Json mixing = Json::array();
    for (int row = 0; row < 3; ++row)
        mixing.push_back(listOf(match.body->mixing().row(row).transpose()));
    Json json{{"saturation", exactly(match.body->saturation())},
              {"hueDegrees", exactly(match.body->hueDegrees())},
              {"gains", listOf(match.body->gains())},
              {"mixing", mixing},
              {"veil", nullptr},
              {"remainder", exactly(match.body->remainder())}};
    if (const auto& errors = match.body->errors()) {
        Json unsure = Json::array();
        for (int row = 0; row < 3; ++row)
            unsure.push_back(listOf(errors->mixing.row(row).transpose()));
        json["uncertainty"] = {
            {"saturation", exactly(errors->saturation)},
            {"hueDegrees", exactly(errors->hueDegrees)},
            {"gainStops", {exactly(errors->gainStops[0]), 0.0, exactly(errors->gainStops[2])}},
            {"mixing", unsure}};
    }
    // Unknown where the curve is not declared.
    if (const auto& veil = match.body->veilSeen()) {
        json["veil"] = exactly(match.body->veil());
        json["uncertainty"]["veil"] = exactly(veil->uncertainty);
    }
    return json;
}

Json turnJson(const rig::Turn& turn) {
    Json json{{"control", rig::nameOf(turn)}};
    if (!turn.isAmount) json["from"] = words::inEnglish(turn.fromText);
    json["to"] = words::inEnglish(turn.toText);
    json["fromValue"] = turn.isAmount ? Json(nullptr) : Json(exactly(turn.fromValue));
    json["toValue"] = turn.isAmount ? Json(nullptr) : Json(exactly(turn.toValue));
    json["expected"] = Json::object();
    if (!turn.effect.empty()) json["expected"][turn.effect] = exactly(turn.after);
    json["change"] = effectJson(turn.change);
    json["changeUncertainty"] = uncertaintyJson(turn.changeUncertainty);
    json["reason"] = words::inEnglish(turn.reason);
    json["isFine"] = turn.isFine;
    return json;
}

/// The board's qualities but the distance of colours, which stands apart.
constexpr std::array kBoard{Quality::Exposure,
                            Quality::WhiteBalance,
                            Quality::Tint,
                            Quality::Contrast,
                            Quality::BlackLevel,
                            Quality::Saturation,
                            Quality::Hue,
                            Quality::SkinLevel,
                            Quality::SkinHue};

Json measuredJson(const match::Measured& measured) {
    return {{"value", exactly(measured.value)}, {"uncertainty", exactly(measured.uncertainty)}};
}

Json lightCastJson(const std::optional<match::LightCast>& cast) {
    if (!cast) return nullptr;
    return {{"mired", measuredJson(cast->mired)}, {"duv", measuredJson(cast->duv)}};
}

Json skinValuesJson(const match::SkinValues& values) {
    return {
        {"levelPercent", measuredJson(values.levelPercent)},
        {"hueDegrees", measuredJson(values.hueDegrees)},
        {"saturationPercent", measuredJson(values.saturationPercent)},
        {"keyFillStops", values.keyFillStops ? measuredJson(*values.keyFillStops) : Json(nullptr)},
        {"keyFillMired", values.keyFillMired ? measuredJson(*values.keyFillMired) : Json(nullptr)},
        {"keyFillDuv", values.keyFillDuv ? measuredJson(*values.keyFillDuv) : Json(nullptr)},
        {"keyCast", lightCastJson(values.keyCast)},
        {"fillCast", lightCastJson(values.fillCast)},
        {"backgroundStops",
         values.backgroundStops ? measuredJson(*values.backgroundStops) : Json(nullptr)},
        {"isManual", values.isManual},
        {"brighterSide", values.isLeftBrighter ? "left" : "right"},
        {"keySideInPicture", values.keySideInPicture},
        {"clipped", values.isClipped}};
}

Json skinDifferencesJson(const std::vector<match::SkinDifference>& people) {
    Json json = Json::array();
    for (const match::SkinDifference& person : people) {
        json.push_back({{"person", person.person},
                        {"values", skinValuesJson(person.values)},
                        {"differences",
                         {{"levelPercent", differenceJson(person.levelPercent)},
                          {"hueDegrees", differenceJson(person.hueDegrees)},
                          {"saturationRatio", differenceJson(person.saturationRatio)},
                          {"keyFillStops", differenceJson(person.keyFillStops)}}}});
    }
    return json;
}

Json cameraJson(const rig::Camera& camera,
                const match::CameraMatch& match,
                const rig::Reading* reading) {
    Json differences;
    for (const Quality quality : kBoard) {
        differences[match::keyOf(quality)] = differenceJson(match.differences.of(quality));
        if (quality == Quality::Exposure && match.differences.sceneExposure) {
            differences["sceneExposureStops"] = differenceJson(*match.differences.sceneExposure);
        }
        if (quality == Quality::Exposure && match.differences.turnedExposure)
            differences["turnedExposureStops"] = differenceJson(*match.differences.turnedExposure);
    }
    Json turns = Json::array();
    for (const rig::Turn& turn : match.plan.turns) turns.push_back(turnJson(turn));
    Json json{{"camera", camera.letter}, {"differences", differences}};
    const match::Difference& deltaE = match.differences.of(Quality::DeltaE);
    json["deltaE2000"] = deltaE.value ? deltaEJson(match.differences.colour, reading)
                                      : Json{{"mean", nullptr},
                                             {"verdict", "unknown"},
                                             {"reason", words::inEnglish(deltaE.reason)}};
    json["skin"] = skinDifferencesJson(match.skin);
    json["turns"] = turns;
    if (!match.plan.predicted.perPatch.empty()) {
        json["predicted"] = {{"deltaE2000", deltaEJson(match.plan.predicted, reading)}};
    }
    json["model"] = bodyJson(match);
    json["leftOver"] = Json::array();
    for (const match::LeftOver& left : match.plan.leftOver)
        json["leftOver"].push_back(words::inEnglish(left.text));
    json["notes"] = Json::array();
    for (const base::Text& note : match.differences.notes)
        json["notes"].push_back(words::inEnglish(note));
    return json;
}

void addHistory(const rig::Rig& rig, const jobs::History& history, Json& json) {
    if (history.empty()) return;
    Json list = Json::array();
    for (const auto& [cameraId, points] : history) {
        const rig::Camera* camera = rig::findCamera(rig, cameraId);
        Json takes = Json::array();
        for (const jobs::HistoryPoint& point : points) {
            Json one{{"take", point.takeId}, {"number", point.takeNumber}};
            for (const Quality quality : kBoard)
                one[match::keyOf(quality)] =
                    differenceJson(point.qualities[static_cast<std::size_t>(quality)]);
            takes.push_back(one);
        }
        list.push_back({{"camera", camera != nullptr ? camera->letter : ""}, {"takes", takes}});
    }
    json["history"] = list;
}

void addCosts(const rig::Rig& rig, const std::vector<jobs::TargetCost>& costs, Json& json) {
    if (costs.empty()) return;
    const auto letterOf = [&](const std::string& id) {
        const rig::Camera* camera = rig::findCamera(rig, id);
        return camera != nullptr ? camera->letter : std::string();
    };
    Json targets = Json::array();
    for (const jobs::TargetCost& cost : costs) {
        targets.push_back(
            {{"target", letterOf(cost.cameraId)},
             {"turns", cost.turns},
             {"change", exactly(cost.change)},
             {"deltaE2000After", cost.worstAfter ? Json(exactly(*cost.worstAfter)) : Json(nullptr)},
             {"leftOver", cost.leftOver},
             {"stiff", cost.isStiff}});
    }
    json["targets"] = targets;
    const jobs::Recommendation best = recommendedReference(costs);
    Json reasons = Json::array();
    for (const base::Text& reason : best.reasons) reasons.push_back(words::inEnglish(reason));
    json["recommended"] = {{"target", letterOf(best.cameraId)}, {"reasons", reasons}};
}

}  // namespace

std::string turnsJson(const rig::Rig& rig,
                      const std::vector<rig::Turn>& turns,
                      const std::vector<plan::LampAdvice>& lamps) {
    Json list = Json::array();
    for (const rig::Turn& turn : turns) {
        Json json = turnJson(turn);
        const rig::Camera* camera = rig::findCamera(rig, turn.cameraId);
        if (camera != nullptr) json["camera"] = camera->letter;
        list.push_back(json);
    }
    Json light = Json::array();
    for (const plan::LampAdvice& lamp : lamps) light.push_back(lampJson(lamp));
    return Json{{"version", 1}, {"done", list}, {"light", light}}.dump(
               1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

std::string matchJson(const rig::Rig& rig,
                      const rig::Take& take,
                      const match::MatchReport& report,
                      const std::vector<jobs::TargetCost>& costs,
                      const jobs::History& history) {
    const rig::Camera* reference = rig::findCamera(rig, report.referenceId);
    Json cameras = Json::array();
    Json learned = Json::array();
    const words::FactTable facts = words::readingFacts(rig, take, report);
    const std::vector<words::RestReason> rest = words::restReasons(rig, take, report);
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        if (match.isReference || camera == nullptr) continue;
        addLearned(*camera, match.learned, learned);
        const rig::Shot* shot = rig::findShot(take, match.cameraId);
        Json json = cameraJson(
            *camera, match, shot != nullptr && shot->reading ? &*shot->reading : nullptr);
        const auto column =
            std::find(facts.cameraIds.begin(), facts.cameraIds.end(), match.cameraId);
        json["details"] =
            factsJson(facts, static_cast<std::size_t>(column - facts.cameraIds.begin()));
        Json left = Json::array();
        for (const words::RestReason& one : rest) {
            if (one.cameraId != match.cameraId) continue;
            left.push_back({{"quantity", match::keyOf(one.quality)},
                            {"cause", nameOf(one.cause)},
                            {"text", one.text}});
        }
        json["rest"] = left;
        cameras.push_back(std::move(json));
    }
    Json json{{"version", 1},
              {"reference", reference != nullptr ? reference->letter : ""},
              {"judge", rig.judge},
              {"take", take.id},
              {"cameras", cameras},
              {"learned", learned}};
    if (reference == nullptr) json["target"] = report.targetWords;
    json["commonLight"] = nullptr;
    if (report.commonLight) {
        const match::CommonLight& light = *report.commonLight;
        const auto both = [](const std::optional<double>& value, double uncertainty) -> Json {
            if (!value) return nullptr;
            return {{"value", exactly(*value)}, {"uncertainty", exactly(uncertainty)}};
        };
        json["commonLight"] = {{"cameras", light.cameras},
                               {"exposureStops", both(light.stops, light.stopsUncertainty)},
                               {"whiteBalanceMired", both(light.mired, light.miredUncertainty)},
                               {"turns", lightTurnsJson(rig, take, report)},
                               {"text", words::commonLightText(report)}};
    }
    addCosts(rig, costs, json);
    addHistory(rig, history, json);
    const auto pair = [&](const std::optional<match::WorstPair>& worst) -> Json {
        if (!worst) return nullptr;
        const rig::Camera* first = rig::findCamera(rig, worst->firstId);
        const rig::Camera* second = rig::findCamera(rig, worst->secondId);
        return {{"cameras",
                 {first != nullptr ? first->letter : "", second != nullptr ? second->letter : ""}},
                {"deltaE2000", exactly(worst->deltaE)},
                {"uncertainty", exactly(worst->uncertainty)}};
    };
    json["worstPair"] = {{"now", pair(report.worstNow)}, {"predicted", pair(report.worstAfter)}};
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string lutJson(const rig::Rig& rig,
                    const rig::Take& take,
                    const std::vector<jobs::WrittenLut>& luts,
                    const jobs::LutOptions& options) {
    Json cameras = Json::array();
    for (const jobs::WrittenLut& lut : luts) {
        Json json;
        const rig::Camera* camera = rig::findCamera(rig, lut.cameraId);
        json["camera"] = camera != nullptr ? camera->letter : "";
        if (!lut.failure.empty()) {
            json["error"] = words::inEnglish(lut.failure);
            cameras.push_back(json);
            continue;
        }
        const rig::Shot* shot = rig::findShot(take, lut.cameraId);
        const rig::Reading* reading = shot != nullptr && shot->reading ? &*shot->reading : nullptr;
        json["file"] = lut.file.string();
        json["inputRange"] = options.use == jobs::LutUse::Monitor && !lut.cdl ? "limited" : "full";
        json["to"] = options.result == jobs::LutResult::Finished ? "finished" : "recorded";
        json["isReference"] = lut.isReference;
        if (lut.cdl) {
            json["cdl"] = {{"slope", triple(lut.cdl->slope)},
                           {"offset", triple(lut.cdl->offset)},
                           {"power", triple(lut.cdl->power)},
                           {"saturation", exactly(lut.cdl->saturation)}};
        }
        json["deltaE2000"] = {{"before", deltaEJson(lut.before, reading)},
                              {"after", deltaEJson(lut.after, reading)}};
        json["leftOutSignal"] = exactly(lut.leftOutSignal);
        json["beyondShare"] = exactly(lut.beyondShare);
        json["skinDeltaE2000"] = nullptr;
        if (lut.skinBefore && lut.skinAfter)
            json["skinDeltaE2000"] = {{"before", exactly(*lut.skinBefore)},
                                      {"after", exactly(*lut.skinAfter)}};
        cameras.push_back(json);
    }
    return Json{{"version", 1}, {"take", take.id}, {"cameras", cameras}}.dump(
               1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

std::string probeJson(const rig::Rig& rig, const jobs::Probe& probe) {
    Json steps = Json::array();
    for (const jobs::ProbeStep& step : probe.steps)
        steps.push_back({{"value", exactly(step.value)},
                         {"text", words::inEnglish(step.text)},
                         {"shot", step.isShot}});
    const rig::Camera* camera = rig::findCamera(rig, probe.cameraId);
    Json json{{"version", 1},
              {"camera", camera != nullptr ? camera->letter : ""},
              {"control", probe.control},
              {"shoot", steps},
              {"learned", nullptr}};
    if (probe.isLearned)
        json["learned"] = {{"per", probe.unit},
                           {"perStep", effectJson(probe.perUnit)},
                           {"uncertainty", uncertaintyJson(probe.uncertainty)},
                           {"takes", probe.takes}};
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace rigmatch::output
