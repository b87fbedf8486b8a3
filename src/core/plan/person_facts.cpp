// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using rig::PlanKind;
using rig::PlanObject;

std::string nameOfId(const SetAnalysis& set, const std::string& id) {
    const PlanObject* object = rig::findObject(set.plan(), id);
    return object == nullptr ? "room" : nameOf(*object);
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
    Fact fact{"key", "Key", "none", base::Verdict::Off};
    const LampOnFace* key = light.keyLamp();
    if (key == nullptr) {
        fact.why = "No lamp and no window lights this face.";
        fact.change = "Add a light, or aim one at this person.";
        return fact;
    }
    const PlacedCamera* camera = cameraFor(set, person);
    double angle = std::abs(key->horizontalDegrees);
    std::string from = "where the face looks";
    if (camera != nullptr && camera->faces.at(person.id).keyAngleDegrees) {
        angle = *camera->faces.at(person.id).keyAngleDegrees;
        from = "camera " + camera->camera->letter;
    }
    fact.number = angle;
    fact.unit = "°";
    fact.value = nameOfId(set, key->objectId) + ", " + fixed(angle, 0) + "°";
    const bool isFlat = set.rig().choices.key == "flat";
    const double low = isFlat ? 0.0 : 30.0;
    const double high = isFlat ? 25.0 : 60.0;
    const double away = angle < low ? low - angle : angle > high ? angle - high : 0.0;
    fact.verdict = away <= 2.0    ? base::Verdict::Good
                   : away <= 20.0 ? base::Verdict::Near
                                  : base::Verdict::Off;
    fact.why = "From " + from + ", " + fixed(std::abs(key->heightDegrees), 0) + "° " +
               (key->heightDegrees < 0.0 ? "below" : "above") + " the eyes, " +
               lengthText(set.plan(), key->distanceMetres) + " away. " +
               (isFlat ? "The flat school keeps it within 25°."
                       : "The modelling school wants 45–60°, 30° at least, and 25–45° above.");
    if (fact.verdict != base::Verdict::Good) {
        fact.change = angle > high ? "Bring the key nearer to the lens."
                                   : "Move the key further to the side.";
    } else if (key->heightDegrees > 50.0 || key->heightDegrees < 10.0) {
        fact.verdict = base::Verdict::Near;
        fact.change = key->heightDegrees > 50.0 ? "Lower the key: eye sockets fall into shadow."
                                                : "Raise the key to 25–45° above the eyes.";
    }
    return fact;
}

/// Stops from cheek to cheek that the rig's mood asks for (sources 3.12).
struct RatioGoal {
    double low = 0.8, high = 2.2;
    std::string words = "a standard talk: 1–2 stops";
};
RatioGoal ratioGoal(const rig::Choices& choices) {
    if (choices.mood == "moody") return {2.3, 4.2, "moody: 2.5–4 stops"};
    if (choices.mood == "friendly") return {0.4, 1.2, "bright and friendly: 0.5–1 stop"};
    if (choices.mood == "flat" || choices.key == "flat") return {0.0, 1.0, "flat: up to 1 stop"};
    return {};
}

Fact ratioFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"keyToFill", "Lit side to shadow side"};
    fact.value = fixed(light.ratioStops, 1) + " ± " + fixed(light.ratioUncertainty, 1) + " stops";
    fact.number = light.ratioStops;
    fact.uncertainty = light.ratioUncertainty;
    fact.unit = "stop";
    const auto [low, high, words] = ratioGoal(set.rig().choices);
    fact.verdict = light.ratioStops >= low && light.ratioStops <= high ? base::Verdict::Good
                                                                       : base::Verdict::Near;
    fact.why = "Cheek to cheek: " + luxText(std::max(light.left.totalLux, light.right.totalLux)) +
               " to " + luxText(std::min(light.left.totalLux, light.right.totalLux)) +
               ", of which the room gives " + luxText(light.left.roomLux) + ". The goal is " +
               words + ".";
    if (light.ratioStops < low)
        fact.change = "Dim the fill, or put a black cloth on the shadow side.";
    if (light.ratioStops > high)
        fact.change = "Add fill from the shadow side: a white board or a dimmed lamp.";
    return fact;
}

Fact hairFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"hairLight", "Hair light", "none"};
    const LampOnFace* best = nullptr;
    for (const LampOnFace& lamp : light.lamps) {
        if (lamp.role != LampRole::Hair) continue;
        if (best == nullptr || lamp.hairLux > best->hairLux) best = &lamp;
    }
    if (best == nullptr || light.faceLux <= 0.0) {
        fact.why = "Nothing lights the hair from behind; a dark head may sink into a dark wall.";
        return fact;
    }
    const double stops = std::log2(best->hairLux / light.faceLux);
    fact.number = stops;
    fact.unit = "stop";
    fact.uncertainty = 0.4;
    fact.value = nameOfId(set, best->objectId) + ", " + base::signedFixed(stops, 1) + " stop";
    fact.verdict = stops <= 1.2 ? base::Verdict::Good : base::Verdict::Near;
    fact.why = "Against the lit side of the face; −1 to +1 is usual, dark hair takes more.";
    for (const FaceLight& other : set.faces()) {
        const LampOnFace* key = other.keyLamp();
        if (key == nullptr || key->objectId != best->objectId || other.personId == light.personId)
            continue;
        fact.why += " It is the key of " + nameOfId(set, other.personId) + " (cross key).";
    }
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Flag its near side, use a grid, or move it back.";
    return fact;
}

Fact colourFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"colourMix", "Colours of light on the skin"};
    fact.number = light.colourSpreadMired;
    fact.unit = "mired";
    fact.uncertainty = 10.0;
    fact.value = fixed(light.colourSpreadMired, 0) + " ± 10 mired apart";
    fact.verdict = light.colourSpreadMired <= 10.0   ? base::Verdict::Good
                   : light.colourSpreadMired <= 25.0 ? base::Verdict::Near
                                                     : base::Verdict::Off;
    fact.why = light.warmestId.empty() || light.warmestId == light.coolestId
                   ? "One colour of light reaches the skin."
                   : nameOfId(set, light.warmestId) + " is warmer, " +
                         nameOfId(set, light.coolestId) +
                         " cooler; what touches skin should lie within 10 mired.";
    for (const std::string& id : light.contrastIds)
        fact.why += " " + nameOfId(set, id) + " is meant to differ.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Set or gel " + nameOfId(set, light.coolestId) + " and " +
                      nameOfId(set, light.warmestId) +
                      " to one colour, keep one off the face, or tick Colour meant to differ.";
    }
    return fact;
}

Fact levelFact(const FaceLight& light) {
    Fact fact{"faceLux", "Light on the face", luxText(light.faceLux) + " ± 0.3 stop"};
    fact.number = light.faceLux;
    fact.unit = "lx";
    fact.why = "On the lit cheek.";
    return fact;
}

Fact lampsFact(const SetAnalysis& set, const FaceLight& light) {
    Fact fact{"lamps", "Who lights whom", "", base::Verdict::Good};
    std::vector<LampOnFace> lamps = light.lamps;
    std::sort(lamps.begin(), lamps.end(), [](const LampOnFace& a, const LampOnFace& b) {
        return std::max(a.faceLux, a.hairLux) > std::max(b.faceLux, b.hairLux);
    });
    std::size_t named = 0;
    for (const LampOnFace& lamp : lamps) {
        if (lamp.role == LampRole::None || lamp.role == LampRole::Background) continue;
        ++named;
        fact.why += (fact.why.empty() ? "" : "; ") + nameOfId(set, lamp.objectId) + ": " +
                    roleName(lamp.role) + ", " +
                    luxText(lamp.role == LampRole::Hair ? lamp.hairLux : lamp.faceLux);
    }
    fact.value = std::to_string(named) + (named == 1 ? " source" : " sources");
    fact.why += fact.why.empty() ? "None." : ".";
    fact.why += " The room gives back " + luxText(light.left.roomLux) + ".";
    return fact;
}

Fact partnerFact(const SetAnalysis& set, const PlanObject& person) {
    Fact fact{"partner", "Turned in toward the partner", "alone"};
    const PlanObject* partner = partnerOf(set.plan(), person);
    if (partner == nullptr || person.looksToLens) {
        fact.title = "Speaks to";
        fact.value = person.looksToLens ? "the lens" : "nobody on the plan";
        return fact;
    }
    const double turn = std::abs(bearingFromFace(person, placeOf(*partner)));
    fact.number = turn;
    fact.unit = "°";
    fact.value = fixed(turn, 0) + "°";
    fact.verdict = turn >= 15.0 && turn <= 75.0 ? base::Verdict::Good : base::Verdict::Near;
    fact.why = "Between where the chair points and " + nameOf(*partner) + ", " +
               lengthText(set.plan(), (placeOf(*partner) - placeOf(person)).norm()) +
               " away; turned 20–45° from facing each other, most of both faces shows.";
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Turn the chair; fix it so that it cannot swivel.";
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
        Fact fact{"seenBy" + camera.camera->letter, "Camera " + camera.camera->letter + " sees"};
        fact.value = luxText(seen->second.seenLux);
        fact.number = seen->second.seenLux;
        fact.unit = "lx";
        fact.why = "Mean of what is turned to this lens";
        const PlacedCamera* reference = set.reference();
        if (reference != nullptr && reference != &camera) {
            const auto theirs = reference->faces.find(person.id);
            if (theirs != reference->faces.end() && theirs->second.isInPicture &&
                theirs->second.seenLux > 0.0) {
                const double stops = std::log2(seen->second.seenLux / theirs->second.seenLux);
                fact.why += "; " + base::signedFixed(stops, 1) + " stop against camera " +
                            reference->camera->letter + ", from the light alone";
                fact.verdict = std::abs(stops) <= 0.7 ? base::Verdict::Good : base::Verdict::Near;
            }
        }
        fact.why += ".";
        facts.push_back(fact);
    }
    return facts;
}

}  // namespace rigmatch::plan
