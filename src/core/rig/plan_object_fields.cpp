// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/plan_fields.h"

namespace rigmatch::rig {
namespace {

using base::say;

using Object = PlanObject;
using Number = NumberField<Object>;

Number fromLeft() {
    return {"xMetres",
            say("field.fromLeftWall"),
            "m",
            &Object::xMetres,
            0.0,
            60.0,
            say("limit.largestRoom")};
}
Number fromBack() {
    return {"zMetres",
            say("field.fromBackWall"),
            "m",
            &Object::zMetres,
            0.0,
            60.0,
            say("limit.largestRoom")};
}
Number facing() {
    return {"facingDegrees",
            say("field.faces"),
            "°",
            &Object::facingDegrees,
            -360.0,
            360.0,
            say("limit.fullTurn"),
            0};
}

Number height(const base::Text& title, double lowest, double highest, const base::Text& reason) {
    return {"heightMetres", title, "m", &Object::heightMetres, lowest, highest, reason};
}
Number width(double highest) {
    return {"widthMetres",
            say("field.width"),
            "m",
            &Object::widthMetres,
            0.01,
            highest,
            say("limit.size")};
}
Number depth(double highest) {
    return {"depthMetres",
            say("field.depth"),
            "m",
            &Object::depthMetres,
            0.005,
            highest,
            say("limit.size")};
}
Number tall(double highest) {
    return {"tallMetres",
            say("field.height"),
            "m",
            &Object::tallMetres,
            0.01,
            highest,
            say("limit.size")};
}
Number reflectance(const base::Text& title) {
    return {"reflectance", title, "", &Object::reflectance, 0.01, 0.95, say("limit.reflectance")};
}
Number number(const char* key,
              const base::Text& title,
              const char* unit,
              double Object::*value,
              double lowest,
              double highest,
              const base::Text& reason,
              int decimals) {
    return {key, title, unit, value, lowest, highest, reason, decimals};
}

FieldTable<Object> personFields() {
    return {{fromLeft(),
             fromBack(),
             height(say("field.eyeHeight"), 0.4, 2.6, say("limit.eyeHeight")),
             facing(),
             number("headMetres",
                    say("field.head"),
                    "m",
                    &Object::headMetres,
                    0.15,
                    0.30,
                    say("limit.heads"),
                    2),
             number("skinReflectance",
                    say("field.skinReflectance"),
                    "",
                    &Object::skinReflectance,
                    0.03,
                    0.60,
                    say("limit.skin"),
                    2)},
            {},
            {{"standing", say("field.stands"), &Object::isStanding},
             {"looksToLens", say("field.speaksToTheLens"), &Object::looksToLens},
             {"glasses", say("field.wearsGlasses"), &Object::hasGlasses},
             {"hat", say("field.wearsAHat"), &Object::hasHat},
             {"longHair", say("field.hasLongHair"), &Object::hasLongHair},
             {"raisedHands", say("field.gestures"), &Object::hasRaisedHands}}};
}

std::vector<Number> aimFields() {
    return {number("aimXMetres",
                   say("field.aimFromLeftWall"),
                   "m",
                   &Object::aimXMetres,
                   -5,
                   65,
                   say("limit.largestRoom"),
                   2),
            number("aimZMetres",
                   say("field.aimFromBackWall"),
                   "m",
                   &Object::aimZMetres,
                   -5,
                   65,
                   say("limit.largestRoom"),
                   2),
            number("aimHeightMetres",
                   say("field.aimHeight"),
                   "m",
                   &Object::aimHeightMetres,
                   -2,
                   12,
                   say("limit.largestRoom"),
                   2)};
}

FieldTable<Object> cameraFields() {
    FieldTable<Object> table{
        {fromLeft(),
         fromBack(),
         height(say("field.lensHeight"), 0.05, 12.0, say("limit.floorToCeiling"))},
        {{"cameraId", say("field.camera"), &Object::cameraId, {}},
         {"target", say("field.follows"), &Object::targetId, {}},
         {"shot",
          say("field.wantedShot"),
          &Object::shot,
          {"wide two-shot", "two-shot", "wide", "medium", "medium close", "close", "top-down"}},
         {"glass",
          say("field.glassInFront"),
          &Object::glass,
          {"none", "prompter", "protective", "diffusion"}}},
        {{"sideMeant", say("field.sideAngleIsMeant"), &Object::isSideMeant}}};
    for (const Number& field : aimFields()) table.numbers.push_back(field);
    table.numbers.push_back(number("rollDegrees",
                                   say("field.roll"),
                                   "°",
                                   &Object::rollDegrees,
                                   -180.0,
                                   180.0,
                                   say("limit.halfTurn"),
                                   1));
    table.numbers.push_back(number("glassStops",
                                   say("field.glassStops"),
                                   "stops",
                                   &Object::glassStops,
                                   0.0,
                                   4.0,
                                   say("limit.glassStops"),
                                   2));
    return table;
}

/// What a lamp gives and draws.
std::vector<Number> levelNumbers() {
    return {number("luxAtOneMetre",
                   say("field.lampLevel"),
                   "lx",
                   &Object::luxAtOneMetre,
                   1.0,
                   500000.0,
                   say("limit.lampLevel"),
                   0),
            number("powerWatts",
                   say("field.power"),
                   "W",
                   &Object::powerWatts,
                   0.0,
                   20000.0,
                   say("limit.label"),
                   0),
            number("powerFactor",
                   say("field.powerFactor"),
                   "",
                   &Object::powerFactor,
                   0.3,
                   1.0,
                   say("limit.powerFactor"),
                   2),
            number("dimPercent",
                   say("field.dimmer"),
                   "%",
                   &Object::dimPercent,
                   0.0,
                   100.0,
                   say("limit.zeroIsOff"),
                   0)};
}
/// How it shines.
std::vector<Number> shiningNumbers() {
    return {number("kelvin",
                   say("field.colourTemperature"),
                   "K",
                   &Object::kelvin,
                   1500.0,
                   20000.0,
                   say("limit.lampColour"),
                   0),
            number("tintDuv",
                   say("field.tint"),
                   "Duv",
                   &Object::tintDuv,
                   -0.03,
                   0.03,
                   say("limit.lampTint"),
                   4),
            number("sourceMetres",
                   say("field.sizeOfTheSource"),
                   "m",
                   &Object::sourceMetres,
                   0.01,
                   4.0,
                   say("limit.sourceSize"),
                   2),
            number("beamDegrees",
                   say("field.beam"),
                   "°",
                   &Object::beamDegrees,
                   5.0,
                   180.0,
                   say("limit.beam"),
                   0)};
}

FieldTable<Object> lightFields() {
    FieldTable<Object> table;
    table.numbers = {fromLeft(),
                     fromBack(),
                     height(say("field.lampHeight"), 0.05, 12.0, say("limit.floorToCeiling"))};
    for (const Number& field : aimFields()) table.numbers.push_back(field);
    for (const Number& field : levelNumbers()) table.numbers.push_back(field);
    for (const Number& field : shiningNumbers()) table.numbers.push_back(field);
    table.texts = {{"lightType",
                    say("field.type"),
                    &Object::lightType,
                    {"LED panel", "LED spot", "tungsten spot", "fluorescent", "practical lamp"}},
                   {"modifier",
                    say("field.modifier"),
                    &Object::modifier,
                    {"none",
                     "light diffusion",
                     "heavy diffusion",
                     "soft box, one layer",
                     "soft box, two layers",
                     "umbrella",
                     "lantern",
                     "white bounce"}},
                   {"mount",
                    say("field.mount"),
                    &Object::mount,
                    {"stand", "boom", "overhead", "table", "wall"}},
                   {"circuit", say("field.circuit"), &Object::circuitId, {}},
                   {"target", say("field.follows"), &Object::targetId, {}}};
    table.truths = {{"grid", say("field.grid"), &Object::hasGrid},
                    {"on", say("field.switchedOn"), &Object::isOn},
                    {"flickerFree", say("field.flickerFree"), &Object::isFlickerFree},
                    {"meantToDiffer", say("field.meantToDiffer"), &Object::isMeantToDiffer},
                    {"inPicture", say("field.inPicture"), &Object::isInPicture}};
    return table;
}

void addWindow(FieldTable<Object>& table) {
    table.numbers.insert(table.numbers.end(), {width(20.0), tall(8.0)});
    table.numbers.push_back(number("luxAtGlass",
                                   say("field.daylight"),
                                   "lx",
                                   &Object::luxAtGlass,
                                   0.0,
                                   100000.0,
                                   say("limit.daylight"),
                                   0));
    table.numbers.push_back(number("kelvin",
                                   say("field.colourTemperature"),
                                   "K",
                                   &Object::kelvin,
                                   1500.0,
                                   20000.0,
                                   say("limit.daylightColour"),
                                   0));
    table.numbers.push_back(number("filmStops",
                                   say("field.film"),
                                   "stops",
                                   &Object::filmStops,
                                   0.0,
                                   6.0,
                                   say("limit.film"),
                                   1));
    table.truths = {{"blackedOut", say("field.blackedOut"), &Object::isBlackedOut}};
}

FieldTable<Object> surfaceFields(PlanKind kind) {
    FieldTable<Object> table{
        {fromLeft(),
         fromBack(),
         height(kind == PlanKind::Chart ? say("field.middleHeight") : say("field.lowerEdge"),
                0.0,
                12.0,
                say("limit.floorToCeiling")),
         facing()},
        {},
        {}};
    switch (kind) {
        case PlanKind::Window:
            addWindow(table);
            break;
        case PlanKind::Door:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            table.numbers.push_back(reflectance(say("field.reflectance")));
            break;
        case PlanKind::Chart:
            table.numbers.insert(table.numbers.end(), {width(1.5)});
            table.numbers.push_back(number("leanDegrees",
                                           say("field.leansBack"),
                                           "°",
                                           &Object::leanDegrees,
                                           -80.0,
                                           80.0,
                                           say("limit.lean"),
                                           0));
            break;
        case PlanKind::Flag:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            break;
        case PlanKind::Bounce:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            table.numbers.push_back(reflectance(say("field.reflectance")));
            break;
        default:
            table.numbers.insert(table.numbers.end(), {width(20.0), depth(20.0), tall(6.0)});
            table.numbers.push_back(reflectance(say("field.reflectance")));
            table.texts = {{"look",
                            say("field.surface"),
                            &Object::look,
                            {"plain",
                             "wood",
                             "dark wood",
                             "plaster",
                             "cloth",
                             "clock movement",
                             "clock cases",
                             "lamp stand"}}};
            break;
    }
    return table;
}

FieldTable<Object> fieldsOf(PlanKind kind) {
    switch (kind) {
        case PlanKind::Person:
            return personFields();
        case PlanKind::Camera:
            return cameraFields();
        case PlanKind::Light:
            return lightFields();
        default:
            return surfaceFields(kind);
    }
}

}  // namespace

const FieldTable<PlanObject>& planFields(PlanKind kind) {
    static const std::vector<FieldTable<Object>> kTables = [] {
        std::vector<FieldTable<Object>> tables;
        tables.reserve(kPlanKinds.size());
        for (const PlanKind each : kPlanKinds) tables.push_back(fieldsOf(each));
        return tables;
    }();
    return kTables.at(static_cast<std::size_t>(kind));
}

PlanObject withOwnFields(const PlanObject& object) {
    PlanObject own;
    own.id = object.id;
    own.kind = object.kind;
    own.name = object.name;
    own.unknownFields = object.unknownFields;
    const FieldTable<Object>& table = planFields(object.kind);
    for (const auto& field : table.numbers) own.*field.value = object.*field.value;
    for (const auto& field : table.texts) own.*field.value = object.*field.value;
    for (const auto& field : table.truths) own.*field.value = object.*field.value;
    return own;
}

}  // namespace rigmatch::rig
