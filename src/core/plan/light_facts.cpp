// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <optional>

#include "base/format.h"
#include "optics/light.h"
#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using base::signedFixed;
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
        Fact fact{"roleFor-" + face.personId, "For " + nameOf(*person), roleName(lamp->role)};
        const double lux = lamp->role == LampRole::Hair ? lamp->hairLux : lamp->faceLux;
        fact.number = lux;
        fact.unit = "lx";
        fact.why = luxText(lux) + " at " + lengthText(set.plan(), lamp->distanceMetres) + ", " +
                   fixed(std::abs(lamp->horizontalDegrees), 0) + "° to the " +
                   (lamp->horizontalDegrees > 0.0 ? "left" : "right") + " of the face, " +
                   fixed(std::abs(lamp->heightDegrees), 0) + "° " +
                   (lamp->heightDegrees < 0.0 ? "below" : "above") + " the eyes";
        const LampOnFace* key = face.keyLamp();
        if (key != nullptr && key != lamp && lux > 0.0 && key->faceLux > 0.0) {
            const double stops = std::log2(lux / key->faceLux);
            fact.why += "; " + signedFixed(stops, 1) + " stop against the key";
            if (lamp->role == LampRole::Fill && stops > -0.8) {
                fact.verdict = base::Verdict::Near;
                fact.change = "Dim it: a fill lies 1–3 stops below the key.";
            }
            if (lamp->role == LampRole::Hair && stops > 1.2) {
                fact.verdict = base::Verdict::Near;
                fact.change = "Flag its near side, use a grid, or move it back.";
            }
        }
        fact.why += ".";
        facts.push_back(fact);
    }
    return facts;
}

Fact outputFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"output", "Level on its axis at 1 m"};
    const double loss = lampLossStops(light);
    const double lux = light.luxAtOneMetre * std::exp2(loss);
    const Source* source = set.field().sourceOf(light.id);
    fact.value = light.isOn && light.dimPercent > 0.0 ? luxText(lux) : "off";
    fact.number = source == nullptr ? 0.0 : lux;
    fact.unit = "lx";
    fact.why = luxText(light.luxAtOneMetre) + " bare";
    if (light.modifier != "none") fact.why += ", " + light.modifier;
    if (light.hasGrid) fact.why += ", grid " + signedFixed(-optics::kGridLossStops, 1) + " stops";
    if (light.dimPercent < 100.0) fact.why += ", dimmed to " + fixed(light.dimPercent, 0) + " %";
    fact.why += ": " + signedFixed(loss, 1) + " stops in all";
    if (source != nullptr) {
        fact.uncertainty = source->uncertaintyStops;
        fact.why += ", ± " + fixed(source->uncertaintyStops, 1) + " by make";
    }
    fact.why += ". Dimmers are often not linear: check with a take at 10, 25, 50 and 100 %.";
    return fact;
}

/// How bright the shade of a practical looks at the reference's settings.
Fact shadeFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"shade",
              light.lightType == "practical lamp" ? "Shade against white"
                                                  : "In the picture, against white",
              "unknown",
              base::Verdict::Unknown};
    const PlacedCamera* reference = set.reference();
    const Source* source = set.field().sourceOf(light.id);
    if (reference == nullptr || source == nullptr) {
        fact.why = source == nullptr ? "It is off." : "No camera is on the plan.";
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
    fact.value = signedFixed(stops, 1) + " ± 0.4 stop";
    fact.verdict = stops <= 0.3   ? base::Verdict::Good
                   : stops <= 1.5 ? base::Verdict::Near
                                  : base::Verdict::Off;
    fact.why =
        "As camera " + reference->camera->letter +
        " is set. What shines keeps its colour when it reads 70–90 %, about 0.4–1 stop below "
        "white.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Dim it to " + fixed(light.dimPercent * std::exp2(-0.5 - stops), 0) +
                      " % or put a weaker bulb in (never above the shade's rating).";
    }
    return fact;
}

Fact softnessFact(const SetAnalysis& set, const PlanObject& light) {
    const double distance = (aimOf(light) - placeOf(light)).norm();
    const double angle = optics::sourceAngleDegrees(light.sourceMetres, distance);
    Fact fact{"softness", "Softness", fixed(angle, 0) + "° across"};
    fact.number = angle;
    fact.unit = "°";
    fact.why =
        fixed(light.sourceMetres, 2) + " m seen from " + lengthText(set.plan(), distance) +
        "; a soft key stands 1–1.5 × its own width away. Halving the distance gives +2 stops, "
        "and a faster fall-off across two people.";
    return fact;
}

/// A lamp turned into a wall lights people from there, large and soft.
std::optional<Fact> wallFact(const SetAnalysis& set, const PlanObject& light) {
    const Source* disc = set.field().wallDiscOf(light.id);
    if (disc == nullptr) return std::nullopt;
    Fact fact{"offWall", "Turned into", disc->surface};
    fact.why = "It lights people from there, as a soft source about " +
               lengthText(set.plan(), 2.0 * disc->radiusMetres) +
               " across, known to half a stop; the wall's colour comes with it.";
    return fact;
}

Fact colourFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"colour", "Colour"};
    double whole = 0.0;
    double mired = 0.0;
    for (const FaceLight& face : set.faces()) {
        const LampOnFace* key = face.keyLamp();
        const Source* source = key == nullptr ? nullptr : set.field().sourceOf(key->objectId);
        if (source == nullptr || source->objectId == light.id) continue;
        mired += 1e6 / source->kelvin;
        whole += 1.0;
    }
    fact.value = fixed(light.kelvin, 0) + " K";
    fact.number = light.kelvin;
    fact.unit = "K";
    fact.why = fixed(1e6 / light.kelvin, 0) + " mired";
    if (whole > 0.0) {
        const double apart = 1e6 / light.kelvin - mired / whole;
        fact.why += ", " + signedFixed(apart, 0) + " mired against the other key light";
        bool isOnSkin = false;
        for (const FaceLight& face : set.faces()) {
            const LampOnFace* lamp = onFace(face, light.id);
            isOnSkin = isOnSkin || (lamp != nullptr &&
                                    (lamp->role == LampRole::Key || lamp->role == LampRole::Fill));
        }
        if (light.isMeantToDiffer) {
            fact.why += ": meant to differ, so that nothing asks for another colour";
        } else if (isOnSkin && std::abs(apart) > 10.0) {
            fact.verdict = std::abs(apart) > 25.0 ? base::Verdict::Off : base::Verdict::Near;
            fact.change = "Set it by measurement to " + fixed(1e6 / (mired / whole), 0) +
                          " K, or tick Colour meant to differ.";
        } else if (!isOnSkin && std::abs(apart) >= 60.0 && std::abs(apart) <= 160.0) {
            fact.why += ": a pleasing contrast off the skin";
        }
    }
    fact.why += ". Dials of two lamps may differ by 10–20 mired.";
    return fact;
}

Fact spillFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"spill", "Spill on the background", "none"};
    const Source* source = set.field().sourceOf(light.id);
    if (source == nullptr) {
        fact.why = "It is off.";
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
    fact.why = "At the brightest spot behind the people that a camera sees";
    if (face > 0.0 && most > 0.0) {
        const double stops = std::log2(most / face);
        fact.why += "; " + signedFixed(stops, 1) + " stop against what it gives the face";
        if (stops > -1.0 && face > 20.0) {
            fact.verdict = base::Verdict::Near;
            fact.change = light.hasGrid ? "Turn it off the wall, or flag it."
                                        : "Use a grid, flag it, or move people off the wall.";
        }
    }
    fact.why += ".";
    const LampOnFace* key = set.faces().empty() ? nullptr : set.faces().front().keyLamp();
    const Source* main = key == nullptr ? nullptr : set.field().sourceOf(key->objectId);
    const double apart = main == nullptr ? 0.0 : 1e6 / light.kelvin - 1e6 / main->kelvin;
    if (most > 1.0 && std::abs(apart) >= 20.0) {
        fact.why += " It colours what it meets by " + signedFixed(apart, 0) +
                    " mired against the key, " + (apart > 0.0 ? "warmer." : "cooler.");
    }
    return fact;
}

Fact powerFact(const SetAnalysis& set, const PlanObject& light) {
    Fact fact{"power", "Power"};
    fact.value = fixed(light.powerWatts, 0) + " W";
    fact.number = light.powerWatts;
    fact.unit = "W";
    const rig::Circuit* circuit = rig::findCircuit(set.plan(), light.circuitId);
    if (circuit == nullptr) {
        fact.why =
            light.powerWatts > 0.0 ? "It hangs on no circuit of the plan." : "No mains needed.";
        if (light.powerWatts > 0.0) {
            fact.verdict = base::Verdict::Near;
            fact.change = "Choose the circuit that it is plugged into.";
        }
        return fact;
    }
    const optics::CircuitLoad load = set.loadOf(*circuit);
    fact.why = fixed(light.powerWatts / light.powerFactor, 0) + " VA on " + circuit->name +
               ", which carries " + fixed(load.voltAmperes, 0) + " of " +
               fixed(load.continuousWatts, 0) +
               " VA for hours (80 %). Local code and a licensed electrician decide.";
    fact.verdict = load.isOverBreaker()      ? base::Verdict::Off
                   : load.isOverContinuous() ? base::Verdict::Near
                                             : base::Verdict::Good;
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Plug it into another circuit, or dim and drop lamps.";
    return fact;
}

Fact cautionFact(const PlanObject& light) {
    Fact fact{"caution", "Care"};
    const bool isHot =
        light.lightType == "tungsten spot" ||
        (light.lightType == "practical lamp" && light.kelvin < 3000.0 && light.powerWatts > 40.0);
    if (light.mount == "overhead" || light.mount == "boom") {
        fact.value = "over people";
        fact.verdict = base::Verdict::Near;
        fact.why =
            "A load above people needs a fixing rated for it and a separate safety bond; loose "
            "parts tied too; nobody below while rigging. Ceiling grids, pipes and sprinklers are "
            "no "
            "rigging points.";
        fact.change = "Have it hung by someone who may, and check the bond each day.";
        if (light.mount == "boom") {
            fact.change = "Counterweight and sandbag the boom; check the knuckle each day.";
        }
    } else if (light.mount == "stand") {
        fact.value = "stand";
        fact.why =
            "Tall leg toward the load, weight low with a sandbag, cable coiled at the foot and "
            "taped.";
    } else {
        fact.value = light.mount;
        fact.why = "Keep cables off the walkways; label both ends.";
    }
    if (isHot) {
        fact.value += ", hot";
        fact.verdict = base::Verdict::Near;
        fact.why +=
            " Tungsten reaches several hundred degrees: gloves, no cloth, gel or paper near, never "
            "unattended.";
        if (fact.change.empty()) fact.change = "Keep soft boxes and gels at their rated distance.";
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
