// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <numbers>

#include "optics/light.h"
#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
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
    Fact level{"windowLevel", say("windowLevel.windowAgainstFace"), say("windowLevel.blackedOut")};
    const bool isUsed = set.rig().choices.daylight == "daylight";
    if (window.isBlackedOut) {
        level.why = say("windowLevel.noDaylightSet");
        return {level};
    }
    const auto over = windowOverFace(set, window, window.filmStops);
    level.value =
        over ? say("windowLevel.stops", {{"over", Number{*over, 1, true}}}) : say("common.unknown");
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
        level.why = isSeen ? say("windowLevel.shotAboutStops") : say("windowLevel.notShotOnly");
        if (level.verdict != base::Verdict::Good) {
            level.change = say("windowLevel.putNdFilm",
                               {{"film", Number{std::max(needed, 0.0)}},
                                {"over", Number{*over + window.filmStops - needed, 1, true}}});
        }
    }
    facts.push_back(level);
    Fact change{
        "daylight", say("daylight.daylight"), isUsed ? say("daylight.used") : say("daylight.open")};
    change.verdict = isUsed ? base::Verdict::Good : base::Verdict::Near;
    change.why = isUsed ? say("daylight.movesAllDay") : say("daylight.planSaysBlack");
    if (!isUsed) change.change = say("daylight.blackOutChoose");
    facts.push_back(change);
    Fact colour{"windowColour",
                say("windowColour.colourDaylight"),
                say("windowColour.k", {{"kelvin", Number{window.kelvin}}})};
    colour.number = window.kelvin;
    colour.unit = "K";
    colour.why = say("windowColour.miredKEvening", {{"mired", Number{1e6 / window.kelvin}}});
    facts.push_back(colour);
    return facts;
}

Fact chartSizeFact(const SetAnalysis& set, const PlanObject& chart) {
    Fact fact{
        "chartSize", say("chartSize.chartPictures"), say("chartSize.none"), base::Verdict::Off};
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
        fact.why = say("chartSize.noCameraSees");
        fact.change = say("chartSize.holdWhereFaces");
        return fact;
    }
    fact.number = 100.0 * least;
    fact.unit = "%";
    fact.value = say("chartSize.widthLeast", {{"least", Number{100.0 * least}}});
    fact.verdict = !missing.empty() ? base::Verdict::Near
                   : least >= 0.08  ? base::Verdict::Good
                                    : base::Verdict::Near;
    fact.why = say("chartSize.smallestCameraWidth", {{"smallest", smallest}});
    if (!missing.empty()) {
        fact.why += say("chartSize.not", {{"missing", missing}});
        fact.change = say("chartSize.turnTowardTake", {{"missing", missing}});
    } else if (fact.verdict != base::Verdict::Good) {
        fact.change = say("chartSize.turnBetweenCameras");
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
    Fact fact{"chartLight", say("chartLight.lightChart"), luxText(light.totalLux)};
    fact.number = light.totalLux;
    fact.unit = "lx";
    fact.why = say("chartLight.stopEdgeEdge", {{"fall", Number{fall, 2, true}}});
    fact.verdict = std::abs(fall) <= 0.2 ? base::Verdict::Good : base::Verdict::Near;
    if (fact.verdict != base::Verdict::Good) fact.change = say("chartLight.turnTowardKey");
    return fact;
}

Fact lightOn(const SetAnalysis& set,
             const PlanObject& object,
             const Vec& point,
             const Vec& normal) {
    const SpotLight light = set.field().at(point, normal, object.id);
    Fact fact{"lightOnIt",
              say("lightOnIt.light"),
              say("lightOnIt.stop", {{"totalLux", luxText(light.totalLux)}})};
    fact.number = light.totalLux;
    fact.unit = "lx";
    fact.why = say("lightOnIt.whichRoomGives", {{"roomLux", luxText(light.roomLux)}});
    return fact;
}

Fact boardFact(const SetAnalysis& set, const PlanObject& board) {
    Fact fact{"board",
              board.kind == PlanKind::Flag ? say("board.keepsLight") : say("board.givesLight")};
    std::vector<base::Text> names;
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
        names.push_back(base::asIs(nameOf(*person) + " ") + luxText(lux));
        most = std::max(most, lux);
    }
    fact.value = names.empty() ? say("board.nobody") : base::joined(names, say("common.comma"));
    fact.number = most;
    fact.unit = "lx";
    fact.why = names.empty() ? say("board.noLampsLight") : say("board.faceHair");
    if (names.empty()) fact.verdict = base::Verdict::Near;
    if (names.empty()) fact.change = say("board.moveBetweenLamp");
    return fact;
}

Fact stabilityFact(const PlanObject& object) {
    Fact fact{"caution", say("caution.care")};
    fact.value = object.kind == PlanKind::Riser ? say("caution.edges") : say("caution.standing");
    fact.why = object.kind == PlanKind::Riser ? say("caution.noStandTripod")
                                              : say("caution.weightedTiedAway");
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
    Fact size{"room", say("room.room")};
    size.value = say("room.numbers",
                     {{"width", lengthText(plan, plan.widthMetres)},
                      {"depth", lengthText(plan, plan.depthMetres)}});
    size.why = say("room.ceiling", {{"height", lengthText(plan, plan.heightMetres)}});
    facts.push_back(size);
    Fact bounce{"roomLight",
                say("roomLight.lightRoomGives"),
                say("roomLight.stop", {{"roomLux", luxText(set.field().roomLux())}})};
    bounce.number = set.field().roomLux();
    bounce.unit = "lx";
    bounce.why = say("roomLight.allLampsLight");
    double key = 0.0;
    for (const FaceLight& face : set.faces()) key = std::max(key, face.faceLux);
    if (key > 0.0) {
        const double stops = std::log2(std::max(set.field().roomLux(), 1e-3) / key);
        bounce.why += say("roomLight.stopsAgainstKey", {{"stops", Number{stops, 1, true}}});
        if (stops > -1.0) {
            bounce.verdict = base::Verdict::Near;
            bounce.change = say("roomLight.useGridsHang");
        }
    }
    facts.push_back(bounce);
    for (const rig::Circuit& circuit : plan.circuits) {
        const optics::CircuitLoad load = set.loadOf(circuit);
        Fact fact{"circuit-" + circuit.id, base::asIs(circuit.name)};
        fact.value = say("circuit.va",
                         {{"voltAmperes", Number{load.voltAmperes}},
                          {"continuousWatts", Number{load.continuousWatts}}});
        fact.number = load.voltAmperes;
        fact.unit = "VA";
        fact.verdict = load.isOverBreaker()      ? base::Verdict::Off
                       : load.isOverContinuous() ? base::Verdict::Near
                                                 : base::Verdict::Good;
        fact.why = say("circuit.wVBreaker",
                       {{"watts", Number{load.watts}},
                        {"amperes", Number{load.amperes, 1}},
                        {"amps", Number{circuit.amps}},
                        {"volts", Number{circuit.volts}}});
        if (fact.verdict != base::Verdict::Good) fact.change = say("circuit.moveLampsAnother");
        facts.push_back(fact);
    }
    return facts;
}

}  // namespace rigmatch::plan
