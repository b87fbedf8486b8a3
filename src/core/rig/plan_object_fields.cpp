// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/plan_fields.h"

namespace rigmatch::rig {
namespace {

using Object = PlanObject;
using Number = NumberField<Object>;

const Number kX{"xMetres", "From left wall", "m", &Object::xMetres, 0.0, 60.0, kRoomReason};
const Number kZ{"zMetres", "From back wall", "m", &Object::zMetres, 0.0, 60.0, kRoomReason};
const Number kFacing{
    "facingDegrees", "Faces", "°", &Object::facingDegrees, -360.0, 360.0, "a full turn is 360°", 0};

Number height(const char* title, double lowest, double highest, const char* reason) {
    return {"heightMetres", title, "m", &Object::heightMetres, lowest, highest, reason};
}
Number width(double highest) {
    return {"widthMetres", "Width", "m", &Object::widthMetres, 0.01, highest, "it needs a size"};
}
Number depth(double highest) {
    return {"depthMetres", "Depth", "m", &Object::depthMetres, 0.005, highest, "it needs a size"};
}
Number tall(double highest) {
    return {"tallMetres", "Height", "m", &Object::tallMetres, 0.01, highest, "it needs a size"};
}
Number reflectance(const char* title) {
    return {"reflectance",
            title,
            "",
            &Object::reflectance,
            0.01,
            0.95,
            "black velvet gives back about 1 %, fresh white paint about 90 %"};
}
Number number(const char* key,
              const char* title,
              const char* unit,
              double Object::*value,
              double lowest,
              double highest,
              const char* reason,
              int decimals) {
    return {key, title, unit, value, lowest, highest, reason, decimals};
}

FieldTable<Object> personFields() {
    return {{kX,
             kZ,
             height("Eye height", 0.4, 2.6, "eyes of seated children to tall people on a riser"),
             kFacing,
             number("headMetres",
                    "Head, chin to crown",
                    "m",
                    &Object::headMetres,
                    0.15,
                    0.30,
                    "heads measure 0.22–0.24 m, children's less",
                    2),
             number("skinReflectance",
                    "Skin reflectance",
                    "",
                    &Object::skinReflectance,
                    0.03,
                    0.60,
                    "dark skin gives back about 10 %, light skin about 35 %",
                    2)},
            {},
            {{"standing", "Stands", &Object::isStanding},
             {"looksToLens", "Speaks to the lens", &Object::looksToLens},
             {"glasses", "Wears glasses", &Object::hasGlasses},
             {"hat", "Wears a hat", &Object::hasHat},
             {"longHair", "Has long hair", &Object::hasLongHair},
             {"raisedHands", "Gestures with both hands", &Object::hasRaisedHands}}};
}

std::vector<Number> aimFields() {
    return {
        number(
            "aimXMetres", "Aim, from left wall", "m", &Object::aimXMetres, -5, 65, kRoomReason, 2),
        number(
            "aimZMetres", "Aim, from back wall", "m", &Object::aimZMetres, -5, 65, kRoomReason, 2),
        number("aimHeightMetres",
               "Aim, height",
               "m",
               &Object::aimHeightMetres,
               -2,
               12,
               kRoomReason,
               2)};
}

FieldTable<Object> cameraFields() {
    FieldTable<Object> table{
        {kX, kZ, height("Lens height", 0.05, 12.0, "from the floor to a high ceiling")},
        {{"cameraId", "Camera", &Object::cameraId, {}},
         {"target", "Follows", &Object::targetId, {}},
         {"shot",
          "Wanted shot",
          &Object::shot,
          {"wide two-shot", "two-shot", "wide", "medium", "medium close", "close", "top-down"}},
         {"glass",
          "Glass in front",
          &Object::glass,
          {"none", "prompter", "protective", "diffusion"}}},
        {{"sideMeant", "Side angle is meant", &Object::isSideMeant}}};
    for (const Number& field : aimFields()) table.numbers.push_back(field);
    table.numbers.push_back(number("rollDegrees",
                                   "Roll",
                                   "°",
                                   &Object::rollDegrees,
                                   -180.0,
                                   180.0,
                                   "half a turn either way",
                                   1));
    table.numbers.push_back(number("glassStops",
                                   "Light lost in it",
                                   "stops",
                                   &Object::glassStops,
                                   0.0,
                                   4.0,
                                   "prompter glass takes 0.5–0.75 stop, a strong filter up to 4",
                                   2));
    return table;
}

/// What a lamp gives, draws and how it shines.
std::vector<Number> lampNumbers() {
    return {
        number("luxAtOneMetre",
               "Level at 1 m, bare",
               "lx",
               &Object::luxAtOneMetre,
               1.0,
               500000.0,
               "a candle gives 1 lx, the strongest location lamps some 500 000",
               0),
        number("powerWatts", "Power", "W", &Object::powerWatts, 0.0, 20000.0, "as on its label", 0),
        number("powerFactor",
               "Power factor",
               "",
               &Object::powerFactor,
               0.3,
               1.0,
               "cheap LED supplies have about 0.6, good ones 0.95",
               2),
        number("dimPercent", "Dimmer", "%", &Object::dimPercent, 0.0, 100.0, "0 is off", 0),
        number("kelvin",
               "Colour temperature",
               "K",
               &Object::kelvin,
               1500.0,
               20000.0,
               "a candle has 1850 K, blue sky up to 20 000 K",
               0),
        number("tintDuv",
               "Tint",
               "Duv",
               &Object::tintDuv,
               -0.03,
               0.03,
               "beyond this a lamp is a coloured one",
               4),
        number("sourceMetres",
               "Size of the source",
               "m",
               &Object::sourceMetres,
               0.01,
               4.0,
               "from a bare bulb to the largest frame",
               2),
        number("beamDegrees",
               "Beam, full angle at half level",
               "°",
               &Object::beamDegrees,
               5.0,
               180.0,
               "a spot has 10–60°, an open panel about 110°",
               0)};
}

FieldTable<Object> lightFields() {
    FieldTable<Object> table;
    table.numbers = {kX, kZ, height("Lamp height", 0.05, 12.0, "from the floor to a high ceiling")};
    for (const Number& field : aimFields()) table.numbers.push_back(field);
    const std::vector<Number> more = lampNumbers();
    table.numbers.insert(table.numbers.end(), more.begin(), more.end());
    table.texts = {
        {"lightType",
         "Type",
         &Object::lightType,
         {"LED panel", "LED spot", "tungsten spot", "fluorescent", "practical lamp"}},
        {"modifier",
         "Modifier",
         &Object::modifier,
         {"none",
          "light diffusion",
          "heavy diffusion",
          "soft box, one layer",
          "soft box, two layers",
          "umbrella",
          "lantern",
          "white bounce"}},
        {"mount", "Mount", &Object::mount, {"stand", "boom", "overhead", "table", "wall"}},
        {"circuit", "Circuit", &Object::circuitId, {}},
        {"target", "Follows", &Object::targetId, {}}};
    table.truths = {{"grid", "Grid", &Object::hasGrid},
                    {"on", "Switched on", &Object::isOn},
                    {"flickerFree", "Flicker-free", &Object::isFlickerFree},
                    {"meantToDiffer", "Colour meant to differ", &Object::isMeantToDiffer},
                    {"inPicture", "Belongs in the picture", &Object::isInPicture}};
    return table;
}

void addWindow(FieldTable<Object>& table) {
    table.numbers.insert(table.numbers.end(), {width(20.0), tall(8.0)});
    table.numbers.push_back(number("luxAtGlass",
                                   "Daylight at the glass",
                                   "lx",
                                   &Object::luxAtGlass,
                                   0.0,
                                   100000.0,
                                   "full sun has 100 000 lx, an overcast window some 2000",
                                   0));
    table.numbers.push_back(number("kelvin",
                                   "Colour temperature",
                                   "K",
                                   &Object::kelvin,
                                   1500.0,
                                   20000.0,
                                   "evening sun has 3000 K, blue sky up to 20 000 K",
                                   0));
    table.numbers.push_back(number("filmStops",
                                   "ND film on the glass",
                                   "stops",
                                   &Object::filmStops,
                                   0.0,
                                   6.0,
                                   "film is sold up to 4 stops; two layers add",
                                   1));
    table.truths = {{"blackedOut", "Blacked out", &Object::isBlackedOut}};
}

FieldTable<Object> surfaceFields(PlanKind kind) {
    FieldTable<Object> table{
        {kX,
         kZ,
         height(kind == PlanKind::Chart ? "Height of its middle" : "Lower edge",
                0.0,
                12.0,
                "from the floor to a high ceiling"),
         kFacing},
        {},
        {}};
    switch (kind) {
        case PlanKind::Window:
            addWindow(table);
            break;
        case PlanKind::Door:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            table.numbers.push_back(reflectance("Reflectance"));
            break;
        case PlanKind::Chart:
            table.numbers.insert(table.numbers.end(), {width(1.5)});
            table.numbers.push_back(number("leanDegrees",
                                           "Leans back",
                                           "°",
                                           &Object::leanDegrees,
                                           -80.0,
                                           80.0,
                                           "beyond this no lens before it sees the patches",
                                           0));
            break;
        case PlanKind::Flag:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            break;
        case PlanKind::Bounce:
            table.numbers.insert(table.numbers.end(), {width(6.0), tall(6.0)});
            table.numbers.push_back(reflectance("Reflectance"));
            break;
        default:
            table.numbers.insert(table.numbers.end(), {width(20.0), depth(20.0), tall(6.0)});
            table.numbers.push_back(reflectance("Reflectance"));
            table.texts = {{"look",
                            "Surface",
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
