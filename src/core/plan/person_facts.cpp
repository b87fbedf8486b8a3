// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::PlanKind;
using rig::PlanObject;

base::Text nameOfId(const SetAnalysis& set, const std::string& id) {
    const PlanObject* object = rig::findObject(set.plan(), id);
    return object == nullptr ? say("lamps.room") : base::asIs(nameOf(*object));
}

/// Key angle is judged from the camera that is for this person.
const PlacedCamera* cameraFor(const SetAnalysis& set, const PlanObject& person) {
    const PlacedCamera* best = nullptr;
    for (const PlacedCamera& camera : set.cameras()) {
        if (!camera.view) continue;
        const auto seen = camera.faces.find(person.id);
        if (seen == camera.faces.end() || !seen->second.isInPicture) continue;
        const bool isOwn = camera.subject == &person && camera.place->targetId == person.id;
        if (best == nullptr || isOwn) best = &camera;
        if (isOwn) break;
    }
    return best;
}

Fact keyFact(const SetAnalysis& set, const FaceLight& light, const PlanObject& person) {
    Fact fact{"key", say("key.key"), say("common.none"), base::Verdict::Off};
    const LampOnFace* key = light.keyLamp();
    if (key == nullptr) {
        fact.why = say("key.noLampNo");
        fact.change = say("key.addLightAim");
        return fact;
    }
    const PlacedCamera* camera = cameraFor(set, person);
    double angle = std::abs(key->horizontalDegrees);
    base::Text from = say("key.whereFaceLooks");
    if (camera != nullptr && camera->faces.at(person.id).keyAngleDegrees) {
        angle = *camera->faces.at(person.id).keyAngleDegrees;
        from = say("key.camera", {{"camera", camera->camera->letter}});
    }
    fact.number = angle;
    fact.unit = "°";
    fact.value =
        say("key.numbers", {{"lamp", nameOfId(set, key->objectId)}, {"angle", Number{angle}}});
    const bool isFlat = set.rig().choices.key == "flat";
    const double low = isFlat ? 0.0 : 30.0;
    const double high = isFlat ? 25.0 : 60.0;
    const double away = angle < low ? low - angle : angle > high ? angle - high : 0.0;
    fact.verdict = away <= 2.0    ? base::Verdict::Good
                   : away <= 20.0 ? base::Verdict::Near
                                  : base::Verdict::Off;
    fact.why =
        say("key.eyesAway",
            {{"from", from},
             {"height", Number{std::abs(key->heightDegrees)}},
             {"side", key->heightDegrees < 0.0 ? say("key.below") : say("key.above")},
             {"distance", lengthText(set.plan(), key->distanceMetres)},
             {"school", isFlat ? say("key.flatSchoolKeeps") : say("key.modellingSchoolWants")}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change = angle > high ? say("key.bringKeyNearer") : say("key.moveKeyFurther");
    } else if (key->heightDegrees > 50.0 || key->heightDegrees < 10.0) {
        fact.verdict = base::Verdict::Near;
        fact.change = key->heightDegrees > 50.0 ? say("key.lowerKeyEye") : say("key.raiseKeyAbove");
    }
    return fact;
}

/// Stops from cheek to cheek that the rig's mood asks for (sources 3.12).
struct RatioGoal {
    double low = 0.8, high = 2.2;
    const char* code = "keyToFill.standardTalk";
};
RatioGoal ratioGoal(const rig::Choices& choices) {
    if (choices.mood == "moody") return {2.3, 4.2, "keyToFill.moody"};
    if (choices.mood == "friendly") return {0.4, 1.2, "keyToFill.friendly"};
    if (choices.mood == "flat" || choices.key == "flat") return {0.0, 1.0, "keyToFill.flat"};
    return {};
}

Fact ratioFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"keyToFill", say("keyToFill.litSideShadow")};
    fact.value = say("keyToFill.stops",
                     {{"ratio", Number{light.ratioStops, 1}},
                      {"ratioUncertainty", Number{light.ratioUncertainty, 1}}});
    fact.number = light.ratioStops;
    fact.uncertainty = light.ratioUncertainty;
    fact.unit = "stop";
    const auto [low, high, code] = ratioGoal(set.rig().choices);
    fact.verdict = light.ratioStops >= low && light.ratioStops <= high ? base::Verdict::Good
                                                                       : base::Verdict::Near;
    fact.why = say("keyToFill.cheekCheekWhich",
                   {{"lit", luxText(std::max(light.left.totalLux, light.right.totalLux))},
                    {"shadow", luxText(std::min(light.left.totalLux, light.right.totalLux))},
                    {"room", luxText(light.left.roomLux)},
                    {"goal", say(code)}});
    if (light.ratioStops < low) fact.change = say("keyToFill.dimFillPut");
    if (light.ratioStops > high) fact.change = say("keyToFill.addFillShadow");
    return fact;
}

Fact hairFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"hairLight", say("hairLight.hairLight"), say("common.none")};
    const LampOnFace* best = nullptr;
    for (const LampOnFace& lamp : light.lamps) {
        if (lamp.role != LampRole::Hair) continue;
        if (best == nullptr || lamp.hairLux > best->hairLux) best = &lamp;
    }
    if (best == nullptr || light.faceLux <= 0.0) {
        fact.why = say("hairLight.nothingLightsHair");
        return fact;
    }
    const double stops = std::log2(best->hairLux / light.faceLux);
    fact.number = stops;
    fact.unit = "stop";
    fact.uncertainty = 0.4;
    fact.value = say("hairLight.stop",
                     {{"lamp", nameOfId(set, best->objectId)}, {"stops", Number{stops, 1, true}}});
    fact.verdict = stops <= 1.2 ? base::Verdict::Good : base::Verdict::Near;
    fact.why = say("hairLight.againstLitSide");
    for (const FaceLight& other : set.faces()) {
        const LampOnFace* key = other.keyLamp();
        if (key == nullptr || key->objectId != best->objectId || other.personId == light.personId)
            continue;
        fact.why += say("hairLight.keyCrossKey", {{"lamp", nameOfId(set, other.personId)}});
    }
    if (fact.verdict != base::Verdict::Good) fact.change = say("hairLight.flagNearSide");
    return fact;
}

Fact colourFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"colourMix", say("colourMix.coloursLightSkin")};
    fact.number = light.colourSpreadMired;
    fact.unit = "mired";
    fact.uncertainty = 10.0;
    fact.value =
        say("colourMix.miredApart", {{"colourSpreadMired", Number{light.colourSpreadMired}}});
    fact.verdict = light.colourSpreadMired <= 10.0   ? base::Verdict::Good
                   : light.colourSpreadMired <= 25.0 ? base::Verdict::Near
                                                     : base::Verdict::Off;
    fact.why = light.warmestId.empty() || light.warmestId == light.coolestId
                   ? say("colourMix.oneColourLight")
                   : say("colourMix.warmerCoolerWhat",
                         {{"lamp", nameOfId(set, light.warmestId)},
                          {"cooler", nameOfId(set, light.coolestId)}});
    for (const std::string& id : light.contrastIds)
        fact.why += say("colourMix.meantDiffer", {{"lamp", nameOfId(set, id)}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change = say(
            "colourMix.setGelOne",
            {{"lamp", nameOfId(set, light.coolestId)}, {"cooler", nameOfId(set, light.warmestId)}});
    }
    return fact;
}

Fact levelFact(const FaceLight& light) {
    Fact fact{"faceLux",
              say("faceLux.lightFace"),
              say("faceLux.stop", {{"faceLux", luxText(light.faceLux)}})};
    fact.number = light.faceLux;
    fact.unit = "lx";
    fact.why = say("faceLux.litCheek");
    return fact;
}

Fact lampsFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"lamps", say("lamps.whoLightsWhom"), base::Text{}, base::Verdict::Good};
    std::vector<LampOnFace> lamps = light.lamps;
    std::sort(lamps.begin(), lamps.end(), [](const LampOnFace& a, const LampOnFace& b) {
        return std::max(a.faceLux, a.hairLux) > std::max(b.faceLux, b.hairLux);
    });
    std::size_t named = 0;
    for (const LampOnFace& lamp : lamps) {
        if (lamp.role == LampRole::None || lamp.role == LampRole::Background) continue;
        ++named;
        fact.why +=
            (fact.why.empty() ? base::Text{} : say("common.semicolon")) +
            say("lamps.lamp",
                {{"lamp", nameOfId(set, lamp.objectId)},
                 {"role", roleText(lamp.role)},
                 {"lux", luxText(lamp.role == LampRole::Hair ? lamp.hairLux : lamp.faceLux)}});
    }
    fact.value =
        say(named == 1 ? "lamps.source" : "lamps.sources", {{"count", Number{double(named)}}});
    fact.why += fact.why.empty() ? say("lamps.none") : say("common.fullStop");
    fact.why += say("lamps.roomGivesBack", {{"roomLux", luxText(light.left.roomLux)}});
    return fact;
}

Fact partnerFact(const SetAnalysis& set, const PlanObject& person) {
    Fact fact{"partner", say("partner.turnedTowardPartner"), say("partner.alone")};
    const PlanObject* partner = partnerOf(set.plan(), person);
    if (partner == nullptr || person.looksToLens) {
        fact.title = say("partner.speaks");
        fact.value = person.looksToLens ? say("partner.lens") : say("partner.nobodyPlan");
        return fact;
    }
    const double turn = std::abs(bearingFromFace(person, placeOf(*partner)));
    fact.number = turn;
    fact.unit = "°";
    fact.value = say("partner.numbers", {{"turn", Number{turn}}});
    fact.verdict = turn >= 15.0 && turn <= 75.0 ? base::Verdict::Good : base::Verdict::Near;
    fact.why =
        say("partner.betweenWhereChair",
            {{"partner", nameOf(*partner)},
             {"distance", lengthText(set.plan(), (placeOf(*partner) - placeOf(person)).norm())}});
    if (fact.verdict != base::Verdict::Good) fact.change = say("partner.turnChairFix");
    return fact;
}

}  // namespace

std::vector<Fact> personFacts(const SetAnalysis& set, const PlanObject& person) {
    const FaceLight* light = set.faceOf(person.id);
    if (light == nullptr) return {};
    std::vector<Fact> facts{keyFact(set, *light, person),
                            ratioFact(set, *light),
                            levelFact(*light),
                            hairFact(set, *light),
                            colourFact(set, *light),
                            lampsFact(set, *light),
                            partnerFact(set, person)};
    for (const PlacedCamera& camera : set.cameras()) {
        const auto seen = camera.faces.find(person.id);
        if (seen == camera.faces.end() || !seen->second.isInPicture) continue;
        Fact fact{"seenBy" + camera.camera->letter,
                  say("seenBy.cameraSees", {{"camera", camera.camera->letter}})};
        fact.value = luxText(seen->second.seenLux);
        fact.number = seen->second.seenLux;
        fact.unit = "lx";
        fact.why = say("seenBy.meanWhatTurned");
        const PlacedCamera* reference = set.reference();
        if (reference != nullptr && reference != &camera) {
            const auto theirs = reference->faces.find(person.id);
            if (theirs != reference->faces.end() && theirs->second.isInPicture &&
                theirs->second.seenLux > 0.0) {
                const double stops = std::log2(seen->second.seenLux / theirs->second.seenLux);
                fact.why +=
                    say("seenBy.stopAgainstCamera",
                        {{"stops", Number{stops, 1, true}}, {"camera", reference->camera->letter}});
                fact.verdict = std::abs(stops) <= 0.7 ? base::Verdict::Good : base::Verdict::Near;
            }
        }
        fact.why += say("common.fullStop");
        facts.push_back(fact);
    }
    return facts;
}

}  // namespace rigmatch::plan
