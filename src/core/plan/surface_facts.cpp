// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <numbers>

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

/// How bright a window looks against the face, as the camera meters both: luminance of the pane
/// over luminance of skin, stops.
std::optional<double> windowOverFace(const SetAnalysis& set,
                                     const PlanObject& window,
                                     double filmStops) {
    double face = 0.0;
    for (const FaceLight& one : set.faces()) {
        const PlanObject* person = rig::findObject(set.plan(), one.personId);
        face = std::max(face, one.faceLux * person->skinReflectance);
    }
    if (face <= 0.0 || window.luxAtGlass <= 0.0) return std::nullopt;
    return std::log2(window.luxAtGlass * std::exp2(-filmStops) / face);
}

/// The middle of the window falls into a picture.
bool isInShot(const SetAnalysis& set, const PlanObject& window) {
    const Vec middle = placeOf(window) + Vec(0, 0.5 * window.tallMetres, 0);
    return std::any_of(set.cameras().begin(), set.cameras().end(), [&](const PlacedCamera& camera) {
        if (!camera.view) return false;
        const auto at = camera.view->project(middle);
        return at && at->isInside(-0.05) &&
               !set.field().obstacles().isBlocked(camera.view->position(), middle, {window.id});
    });
}

std::vector<Fact> windowFacts(const SetAnalysis& set, const PlanObject& window) {
    std::vector<Fact> facts;
    Fact level{"windowLevel", "Window against the face", "blacked out"};
    const bool isUsed = set.rig().choices.daylight == "daylight";
    if (window.isBlackedOut) {
        level.why = "No daylight: the set looks the same at any hour.";
        return {level};
    }
    const auto over = windowOverFace(set, window, window.filmStops);
    level.value = over ? signedFixed(*over, 1) + " ± 0.7 stops" : "unknown";
    if (!over) level.verdict = base::Verdict::Unknown;
    const bool isSeen = isInShot(set, window);
    if (over) {
        level.number = *over;
        level.unit = "stop";
        level.uncertainty = 0.7;
        const double needed = std::ceil(windowOverFace(set, window, 0.0).value_or(0.0) - 2.3);
        level.verdict = !isSeen || *over <= 2.3 ? base::Verdict::Good
                        : *over <= 3.0          ? base::Verdict::Near
                                                : base::Verdict::Off;
        level.why =
            isSeen ? "In shot; about 2.3 stops over the face is where white ends for most profiles."
                   : "Not in shot: only its light counts.";
        if (level.verdict != base::Verdict::Good) {
            level.change = "Put ND film of " + fixed(std::max(needed, 0.0), 0) +
                           " stops on the glass (" +
                           signedFixed(*over + window.filmStops - needed, 1) +
                           " stops then), or raise the key.";
        }
    }
    facts.push_back(level);
    Fact change{"daylight", "Daylight", isUsed ? "used" : "open"};
    change.verdict = isUsed ? base::Verdict::Good : base::Verdict::Near;
    change.why =
        isUsed ? "It moves all day: lock everything, keep takes short, check again every 20–30 min."
               : "The plan says black out, but this window is open.";
    if (!isUsed) change.change = "Black it out, or choose daylight for this rig.";
    facts.push_back(change);
    Fact colour{"windowColour", "Colour of the daylight", fixed(window.kelvin, 0) + " K"};
    colour.number = window.kelvin;
    colour.unit = "K";
    colour.why = fixed(1e6 / window.kelvin, 0) +
                 " mired; from 3000 K in evening sun to 10 000 K and more "
                 "in the shade of a blue sky.";
    facts.push_back(colour);
    return facts;
}

Fact chartSizeFact(const SetAnalysis& set, const PlanObject& chart) {
    Fact fact{"chartSize", "Chart in the pictures", "in none", base::Verdict::Off};
    std::string smallest;
    double least = 1e9;
    std::string missing;
    for (const PlacedCamera& camera : set.cameras()) {
        if (!camera.view) continue;
        const auto at = camera.view->project(placeOf(chart));
        if (!at || !at->isInside(0.03)) {
            missing += (missing.empty() ? "" : ", ") + camera.camera->letter;
            continue;
        }
        const double turned = std::max(
            0.0, chartNormal(chart).dot((camera.view->position() - placeOf(chart)).normalized()));
        const double share =
            chart.widthMetres * turned / camera.view->widthAt(camera.view->depthOf(placeOf(chart)));
        if (share >= least) continue;
        least = share;
        smallest = camera.camera->letter;
    }
    if (smallest.empty()) {
        fact.why = "No camera sees the place where the chart is held.";
        fact.change = "Hold it where the faces are.";
        return fact;
    }
    fact.number = 100.0 * least;
    fact.unit = "%";
    fact.value = fixed(100.0 * least, 0) + " % of the width at least";
    fact.verdict = !missing.empty() ? base::Verdict::Near
                   : least >= 0.08  ? base::Verdict::Good
                                    : base::Verdict::Near;
    fact.why = "Smallest in camera " + smallest +
               "; from 8 % of the width on every patch has enough pixels.";
    if (!missing.empty()) {
        fact.why += " Not in " + missing + ".";
        fact.change = "Turn it toward " + missing + " in the take, or show it twice.";
    } else if (fact.verdict != base::Verdict::Good) {
        fact.change = "Turn it between the cameras, or take a larger chart.";
    }
    return fact;
}

Fact chartLightFact(const SetAnalysis& set, const PlanObject& chart) {
    const Vec normal = chartNormal(chart);
    const SpotLight light = set.field().at(placeOf(chart), normal, chart.id);
    const Vec across = facingVector(chart.facingDegrees + 90.0) * 0.5 * chart.widthMetres;
    const double left = set.field().at(placeOf(chart) - across, normal, chart.id).totalLux;
    const double right = set.field().at(placeOf(chart) + across, normal, chart.id).totalLux;
    const double fall = left > 0.0 && right > 0.0 ? std::log2(left / right) : 0.0;
    Fact fact{"chartLight", "Light on the chart", luxText(light.totalLux)};
    fact.number = light.totalLux;
    fact.unit = "lx";
    fact.why = signedFixed(fall, 2) + " stop from edge to edge.";
    fact.verdict = std::abs(fall) <= 0.2 ? base::Verdict::Good : base::Verdict::Near;
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Turn it toward the key until both edges are even.";
    return fact;
}

Fact lightOn(const SetAnalysis& set,
             const PlanObject& object,
             const Vec& point,
             const Vec& normal) {
    const SpotLight light = set.field().at(point, normal, object.id);
    Fact fact{"lightOnIt", "Light on it", luxText(light.totalLux) + " ± 0.4 stop"};
    fact.number = light.totalLux;
    fact.unit = "lx";
    fact.why = "Of which the room gives back " + luxText(light.roomLux) + ".";
    return fact;
}

Fact boardFact(const SetAnalysis& set, const PlanObject& board) {
    Fact fact{"board", board.kind == PlanKind::Flag ? "Keeps light from" : "Gives light to"};
    std::string names;
    double most = 0.0;
    for (const FaceLight& face : set.faces()) {
        const PlanObject* person = rig::findObject(set.plan(), face.personId);
        double lux = 0.0;
        if (board.kind == PlanKind::Bounce) {
            for (const LampOnFace& lamp : face.lamps) {
                if (lamp.objectId == board.id) lux = lamp.faceLux;
            }
        } else {
            rig::SetPlan without = set.plan();
            std::erase_if(without.objects, [&](const PlanObject& o) { return o.id == board.id; });
            const LightField field(without);
            const FaceLight bare = faceLight(field, *person);
            lux = std::max(bare.faceLux - face.faceLux, bare.hair.totalLux - face.hair.totalLux);
        }
        if (lux < 1.0) continue;
        names += (names.empty() ? "" : ", ") + nameOf(*person) + " " + luxText(lux);
        most = std::max(most, lux);
    }
    fact.value = names.empty() ? "nobody" : names;
    fact.number = most;
    fact.unit = "lx";
    fact.why = names.empty() ? "No lamp's light meets it on the way to a face."
                             : "At the face or the hair.";
    if (names.empty()) fact.verdict = base::Verdict::Near;
    if (names.empty())
        fact.change = "Move it between the lamp and what it should not light, or take it away.";
    return fact;
}

Fact stabilityFact(const PlanObject& object) {
    Fact fact{"caution", "Care"};
    fact.value = object.kind == PlanKind::Riser ? "edges" : "standing";
    fact.why =
        object.kind == PlanKind::Riser
            ? "No stand or tripod on its edges; chairs a hand's breadth inside; mark the edge."
            : "Weighted and tied, away from hot lamps; exits and walkways free.";
    return fact;
}

}  // namespace

std::vector<Fact> surfaceFacts(const SetAnalysis& set, const PlanObject& object) {
    const Vec facing = facingVector(object.facingDegrees);
    const Vec middle = placeOf(object) + Vec(0, 0.5 * object.tallMetres, 0);
    switch (object.kind) {
        case PlanKind::Window:
            return windowFacts(set, object);
        case PlanKind::Chart:
            return {chartLightFact(set, object), chartSizeFact(set, object)};
        case PlanKind::Flag:
        case PlanKind::Bounce:
            return {boardFact(set, object), stabilityFact(object)};
        case PlanKind::Table:
        case PlanKind::Riser: {
            // Beside its middle, where things may lie.
            const Vec top = placeOf(object) + Vec(0, object.tallMetres + 0.01, 0) +
                            0.3 * object.widthMetres * facingVector(object.facingDegrees + 90.0) +
                            0.3 * object.depthMetres * facing;
            return {lightOn(set, object, top, Vec::UnitY()), stabilityFact(object)};
        }
        default:
            return {
                lightOn(set, object, middle + (0.5 * object.depthMetres + 0.01) * facing, facing)};
    }
}

std::vector<Fact> roomFacts(const SetAnalysis& set) {
    const rig::SetPlan& plan = set.plan();
    std::vector<Fact> facts;
    Fact size{"room", "Room"};
    size.value = lengthText(plan, plan.widthMetres) + " × " + lengthText(plan, plan.depthMetres);
    size.why = "Ceiling at " + lengthText(plan, plan.heightMetres) + ".";
    facts.push_back(size);
    Fact bounce{
        "roomLight", "Light the room gives back", luxText(set.field().roomLux()) + " ± 0.5 stop"};
    bounce.number = set.field().roomLux();
    bounce.unit = "lx";
    bounce.why =
        "All lamps' light off walls, floor and ceiling, spread evenly: the fill that nobody set "
        "up.";
    double key = 0.0;
    for (const FaceLight& face : set.faces()) key = std::max(key, face.faceLux);
    if (key > 0.0) {
        const double stops = std::log2(std::max(set.field().roomLux(), 1e-3) / key);
        bounce.why += " " + signedFixed(stops, 1) + " stops against the key side.";
        if (stops > -1.0) {
            bounce.verdict = base::Verdict::Near;
            bounce.change = "Use grids, or hang black cloth on the shadow side.";
        }
    }
    facts.push_back(bounce);
    for (const rig::Circuit& circuit : plan.circuits) {
        const optics::CircuitLoad load = set.loadOf(circuit);
        Fact fact{"circuit-" + circuit.id, circuit.name};
        fact.value = fixed(load.voltAmperes, 0) + " of " + fixed(load.continuousWatts, 0) + " VA";
        fact.number = load.voltAmperes;
        fact.unit = "VA";
        fact.verdict = load.isOverBreaker()      ? base::Verdict::Off
                       : load.isOverContinuous() ? base::Verdict::Near
                                                 : base::Verdict::Good;
        fact.why = fixed(load.watts, 0) + " W, " + fixed(load.amperes, 1) + " A of " +
                   fixed(circuit.amps, 0) + " A at " + fixed(circuit.volts, 0) +
                   " V; 80 % of the breaker for loads of hours. Switch "
                   "lamps on one after another. Local code and a licensed electrician decide.";
        if (fact.verdict != base::Verdict::Good) fact.change = "Move lamps to another circuit.";
        facts.push_back(fact);
    }
    return facts;
}

}  // namespace rigmatch::plan
