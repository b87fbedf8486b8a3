// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <optional>

#include "optics/light.h"
#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::PlanKind;
using rig::PlanObject;

const LampOnFace* onFace(const FaceLight& face, const std::string& lightId) {
    for (const LampOnFace& lamp : face.lamps) {
        if (lamp.objectId == lightId) return &lamp;
    }
    return nullptr;
}

/// What the lamp does for each person: key of one may be hair light of the other.
std::vector<Fact> roleFacts(const SetAnalysis& set, const PlanObject& light) {
    std::vector<Fact> facts;
    for (const FaceLight& face : set.faces()) {
        const LampOnFace* lamp = onFace(face, light.id);
        if (lamp == nullptr) continue;
        const PlanObject* person = rig::findObject(set.plan(), face.personId);
        Fact fact{"roleFor-" + face.personId,
                  say("roleFor.for", {{"person", nameOf(*person)}}),
                  roleText(lamp->role)};
        const double lux = lamp->role == LampRole::Hair ? lamp->hairLux : lamp->faceLux;
        fact.number = lux;
        fact.unit = "lx";
        fact.why = say(
            "roleFor.faceEyes",
            {{"lux", luxText(lux)},
             {"distance", lengthText(set.plan(), lamp->distanceMetres)},
             {"horizontal", Number{std::abs(lamp->horizontalDegrees)}},
             {"side", lamp->horizontalDegrees > 0.0 ? say("roleFor.left") : say("roleFor.right")},
             {"height", Number{std::abs(lamp->heightDegrees)}},
             {"vertical",
              lamp->heightDegrees < 0.0 ? say("roleFor.below") : say("roleFor.above")}});
        const LampOnFace* key = face.keyLamp();
        if (key != nullptr && key != lamp && lux > 0.0 && key->faceLux > 0.0) {
            const double stops = std::log2(lux / key->faceLux);
            fact.why += say("roleFor.stopAgainstKey", {{"stops", Number{stops, 1, true}}});
            if (lamp->role == LampRole::Fill && stops > -0.8) {
                fact.verdict = base::Verdict::Near;
                fact.change = say("roleFor.dimFillLies");
            }
            if (lamp->role == LampRole::Hair && stops > 1.2) {
                fact.verdict = base::Verdict::Near;
                fact.change = say("roleFor.flagNearSide");
            }
        }
        fact.why += say("common.fullStop");
        facts.push_back(fact);
    }
    return facts;
}

Fact outputFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"output", say("output.levelAxisM")};
    const double loss = lampLossStops(light);
    const double lux = light.luxAtOneMetre * std::exp2(loss);
    const Source* source = set.field().sourceOf(light.id);
    fact.value = light.isOn && light.dimPercent > 0.0 ? luxText(lux) : say("output.off");
    fact.number = source == nullptr ? 0.0 : lux;
    fact.unit = "lx";
    fact.why = say("output.bare", {{"luxAtOneMetre", luxText(light.luxAtOneMetre)}});
    if (light.modifier != "none")
        fact.why += say("output.modifier", {{"modifier", light.modifier}});
    if (light.hasGrid)
        fact.why += say("output.gridStops", {{"loss", Number{-optics::kGridLossStops, 1, true}}});
    if (light.dimPercent < 100.0)
        fact.why += say("output.dimmed", {{"dimPercent", Number{light.dimPercent}}});
    fact.why += say("output.stopsAll", {{"loss", Number{loss, 1, true}}});
    if (source != nullptr) {
        fact.uncertainty = source->uncertaintyStops;
        fact.why += say("output.make", {{"uncertainty", Number{source->uncertaintyStops, 1}}});
    }
    fact.why += say("output.dimmersOftenNot");
    return fact;
}

/// How bright the shade of a practical looks at the reference's settings.
Fact shadeFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"shade",
              light.lightType == "practical lamp" ? say("shade.shadeAgainstWhite")
                                                  : say("shade.pictureAgainstWhite"),
              say("common.unknown"),
              base::Verdict::Unknown};
    const PlacedCamera* reference = set.reference();
    const Source* source = set.field().sourceOf(light.id);
    if (reference == nullptr || source == nullptr) {
        fact.why = source == nullptr ? say("shade.off") : say("shade.noCameraPlan");
        return fact;
    }
    // Luminance I / (pi r²) against a perfect white under the light the settings ask for, E / pi.
    const double asked = optics::illuminanceFor(rig::exposureOf(reference->camera->settings)) *
                         std::exp2(glassLossStops(set.rig(), *reference->camera));
    const double stops =
        std::log2(source->candela / (source->radiusMetres * source->radiusMetres * asked));
    fact.number = stops;
    fact.unit = "stop";
    fact.uncertainty = 0.4;
    fact.value = say("shade.stop", {{"stops", Number{stops, 1, true}}});
    fact.verdict = stops <= 0.3   ? base::Verdict::Good
                   : stops <= 1.5 ? base::Verdict::Near
                                  : base::Verdict::Off;
    fact.why = say("shade.cameraSetWhat", {{"camera", reference->camera->letter}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change = say("shade.dimPutWeaker",
                          {{"percent", Number{light.dimPercent * std::exp2(-0.5 - stops)}}});
    }
    return fact;
}

Fact softnessFact(const SetAnalysis& set, const PlanObject& light) {
    const double distance = (aimOf(light) - placeOf(light)).norm();
    const double angle = optics::sourceAngleDegrees(light.sourceMetres, distance);
    Fact fact{
        "softness", say("softness.softness"), say("softness.across", {{"angle", Number{angle}}})};
    fact.number = angle;
    fact.unit = "°";
    fact.why = say(
        "softness.mSeenSoft",
        {{"width", Number{light.sourceMetres, 2}}, {"distance", lengthText(set.plan(), distance)}});
    return fact;
}

/// A lamp turned into a wall lights people from there, large and soft.
std::optional<Fact> wallFact(const SetAnalysis& set, const PlanObject& light) {
    const Source* disc = set.field().wallDiscOf(light.id);
    if (disc == nullptr) return std::nullopt;
    Fact fact{"offWall", say("offWall.turnedInto"), base::asIs(disc->surface)};
    fact.why = say("offWall.lightsPeopleThere",
                   {{"radius", lengthText(set.plan(), 2.0 * disc->radiusMetres)}});
    return fact;
}

Fact colourFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"colour", say("colour.colour")};
    double whole = 0.0;
    double mired = 0.0;
    for (const FaceLight& face : set.faces()) {
        const LampOnFace* key = face.keyLamp();
        const Source* source = key == nullptr ? nullptr : set.field().sourceOf(key->objectId);
        if (source == nullptr || source->objectId == light.id) continue;
        mired += 1e6 / source->kelvin;
        whole += 1.0;
    }
    fact.value = say("colour.k", {{"kelvin", Number{light.kelvin}}});
    fact.number = light.kelvin;
    fact.unit = "K";
    fact.why = say("colour.mired", {{"mired", Number{1e6 / light.kelvin}}});
    if (whole > 0.0) {
        const double apart = 1e6 / light.kelvin - mired / whole;
        fact.why += say("colour.miredAgainstOther", {{"apart", Number{apart, 0, true}}});
        bool isOnSkin = false;
        for (const FaceLight& face : set.faces()) {
            const LampOnFace* lamp = onFace(face, light.id);
            isOnSkin = isOnSkin || (lamp != nullptr &&
                                    (lamp->role == LampRole::Key || lamp->role == LampRole::Fill));
        }
        if (light.isMeantToDiffer) {
            fact.why += say("colour.meantDifferNothing");
        } else if (isOnSkin && std::abs(apart) > 10.0) {
            fact.verdict = std::abs(apart) > 25.0 ? base::Verdict::Off : base::Verdict::Near;
            fact.change =
                say("colour.setMeasurementK", {{"kelvin", Number{1e6 / (mired / whole)}}});
        } else if (!isOnSkin && std::abs(apart) >= 60.0 && std::abs(apart) <= 160.0) {
            fact.why += say("colour.pleasingContrastOff");
        }
    }
    fact.why += say("colour.dialsTwoLamps");
    return fact;
}

Fact spillFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"spill", say("spill.spillBackground"), say("common.none")};
    const Source* source = set.field().sourceOf(light.id);
    if (source == nullptr) {
        fact.why = say("spill.off");
        return fact;
    }
    double most = 0.0;
    for (const SpotLight& spot : set.backgroundSpots()) {
        most = std::max(most, spot.luxOf(light.id));
    }
    double face = 0.0;
    for (const FaceLight& one : set.faces()) {
        if (const LampOnFace* lamp = onFace(one, light.id)) face = std::max(face, lamp->faceLux);
    }
    fact.value = luxText(most);
    fact.number = most;
    fact.unit = "lx";
    fact.why = say("spill.brightestSpotBehind");
    if (face > 0.0 && most > 0.0) {
        const double stops = std::log2(most / face);
        fact.why += say("spill.stopAgainstWhat", {{"stops", Number{stops, 1, true}}});
        if (stops > -1.0 && face > 20.0) {
            fact.verdict = base::Verdict::Near;
            fact.change = light.hasGrid ? say("spill.turnOffWall") : say("spill.useGridFlag");
        }
    }
    fact.why += say("common.fullStop");
    const LampOnFace* key = set.faces().empty() ? nullptr : set.faces().front().keyLamp();
    const Source* main = key == nullptr ? nullptr : set.field().sourceOf(key->objectId);
    const double apart = main == nullptr ? 0.0 : 1e6 / light.kelvin - 1e6 / main->kelvin;
    if (most > 1.0 && std::abs(apart) >= 20.0) {
        fact.why += say("spill.coloursWhatMeets",
                        {{"apart", Number{apart, 0, true}},
                         {"way", apart > 0.0 ? say("spill.warmer") : say("spill.cooler")}});
    }
    return fact;
}

Fact powerFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"power", say("power.power")};
    fact.value = say("power.w2", {{"powerWatts", Number{light.powerWatts}}});
    fact.number = light.powerWatts;
    fact.unit = "W";
    const rig::Circuit* circuit = rig::findCircuit(set.plan(), light.circuitId);
    if (circuit == nullptr) {
        fact.why =
            light.powerWatts > 0.0 ? say("power.hangsNoCircuit") : say("power.noMainsNeeded");
        if (light.powerWatts > 0.0) {
            fact.verdict = base::Verdict::Near;
            fact.change = say("power.chooseCircuitPlugged");
        }
        return fact;
    }
    const optics::CircuitLoad load = set.loadOf(*circuit);
    fact.why = say("power.vaWhichCarries",
                   {{"voltAmperes", Number{light.powerWatts / light.powerFactor}},
                    {"circuit", circuit->name},
                    {"carried", Number{load.voltAmperes}},
                    {"continuousWatts", Number{load.continuousWatts}}});
    fact.verdict = load.isOverBreaker()      ? base::Verdict::Off
                   : load.isOverContinuous() ? base::Verdict::Near
                                             : base::Verdict::Good;
    if (fact.verdict != base::Verdict::Good) fact.change = say("power.plugIntoAnother");
    return fact;
}

Fact cautionFact(const PlanObject& light) {
    Fact fact{"caution", say("caution.care")};
    const bool isHot =
        light.lightType == "tungsten spot" ||
        (light.lightType == "practical lamp" && light.kelvin < 3000.0 && light.powerWatts > 40.0);
    if (light.mount == "overhead" || light.mount == "boom") {
        fact.value = say("caution.overPeople");
        fact.verdict = base::Verdict::Near;
        fact.why = say("caution.loadAbovePeople");
        fact.change = say("caution.hungSomeoneWho");
        if (light.mount == "boom") {
            fact.change = say("caution.counterweightSandbagBoom");
        }
    } else if (light.mount == "stand") {
        fact.value = say("caution.stand");
        fact.why = say("caution.tallLegToward");
    } else {
        fact.value = base::asIs(light.mount);
        fact.why = say("caution.keepCablesOff");
    }
    if (isHot) {
        fact.value += say("caution.hot");
        fact.verdict = base::Verdict::Near;
        fact.why += say("caution.tungstenReachesSeveral");
        if (fact.change.empty()) fact.change = say("caution.keepSoftBoxes");
    }
    return fact;
}

}  // namespace

std::vector<Fact> lightFacts(const SetAnalysis& set, const PlanObject& light) {
    std::vector<Fact> facts = roleFacts(set, light);
    if (rig::isPartOfPicture(light)) facts.push_back(shadeFact(set, light));
    facts.push_back(outputFact(set, light));
    facts.push_back(softnessFact(set, light));
    if (const auto wall = wallFact(set, light)) facts.push_back(*wall);
    facts.push_back(colourFact(set, light));
    facts.push_back(spillFact(set, light));
    facts.push_back(powerFact(set, light));
    facts.push_back(cautionFact(light));
    return facts;
}

}  // namespace rigmatch::plan
