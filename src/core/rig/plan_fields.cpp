// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/plan_fields.h"

#include <cmath>
#include <set>

#include "base/format.h"

namespace rigmatch::rig {
namespace {

using base::ErrorCode;
using Object = PlanObject;
using Number = NumberField<Object>;
using Text = TextField<Object>;

constexpr const char* kRoom = "the largest room planned here is 60 m";

const Number kX{"xMetres", "From left wall", "m", &Object::xMetres, 0.0, 60.0, kRoom};
const Number kZ{"zMetres", "From back wall", "m", &Object::zMetres, 0.0, 60.0, kRoom};
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
             {"glasses", "Wears glasses", &Object::hasGlasses}}};
}

std::vector<Number> aimFields() {
    return {
        number("aimXMetres", "Aim, from left wall", "m", &Object::aimXMetres, -5, 65, kRoom, 2),
        number("aimZMetres", "Aim, from back wall", "m", &Object::aimZMetres, -5, 65, kRoom, 2),
        number("aimHeightMetres", "Aim, height", "m", &Object::aimHeightMetres, -2, 12, kRoom, 2)};
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
        {}};
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

FieldTable<Object> lightFields() {
    FieldTable<Object> table;
    table.numbers = {kX, kZ, height("Lamp height", 0.05, 12.0, "from the floor to a high ceiling")};
    for (const Number& field : aimFields()) table.numbers.push_back(field);
    const std::vector<Number> more{
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
    table.truths = {{"grid", "Grid", &Object::hasGrid}, {"on", "Switched on", &Object::isOn}};
    return table;
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

std::string numberText(double value) {
    std::string text = base::fixed(value, 4);
    while (text.back() == '0') text.pop_back();
    if (text.back() == '.') text.pop_back();
    return text;
}

std::string withUnit(double value, const std::string& unit) {
    if (unit.empty()) return numberText(value);
    return numberText(value) + (unit == "°" ? "°" : " " + unit);
}

base::Result<void> refused(const std::string& name, std::string detail) {
    return base::fail(
        ErrorCode::OutOfRange,
        "Cannot place " + name,
        std::move(detail),
        "Keep it inside the walls and under the ceiling, or make the room larger first.");
}

template <class Owner>
base::Result<void> checkAll(const FieldTable<Owner>& table, const Owner& owner) {
    for (const auto& field : table.numbers) {
        if (auto valid = checkField(field, owner.*field.value); !valid) return valid;
    }
    for (const auto& field : table.texts) {
        const std::string& value = owner.*field.value;
        bool isKnown = field.allowed.empty();
        std::string list;
        for (const std::string& allowed : field.allowed) {
            isKnown = isKnown || allowed == value;
            list += (list.empty() ? "" : ", ") + allowed;
        }
        if (!isKnown) {
            return base::fail(ErrorCode::OutOfRange,
                              std::string("Cannot set \"") + field.title + "\"",
                              "\"" + value + "\" was given; allowed are: " + list + ".",
                              "Choose one of these.");
        }
    }
    return {};
}

}  // namespace

const FieldTable<PlanObject>& planFields(PlanKind kind) {
    static const std::vector<FieldTable<Object>> kTables = [] {
        std::vector<FieldTable<Object>> tables;
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

const FieldTable<SetPlan>& roomFields() {
    static const FieldTable<SetPlan> kFields{
        {{"widthMetres", "Room width", "m", &SetPlan::widthMetres, 1.0, 60.0, kRoom},
         {"depthMetres", "Room depth", "m", &SetPlan::depthMetres, 1.0, 60.0, kRoom},
         {"heightMetres",
          "Ceiling height",
          "m",
          &SetPlan::heightMetres,
          1.8,
          12.0,
          "from a low cellar to a hall"},
         {"wallReflectance",
          "Walls reflect",
          "",
          &SetPlan::wallReflectance,
          0.01,
          0.95,
          "black velvet gives back about 1 %, fresh white paint about 90 %"},
         {"ceilingReflectance",
          "Ceiling reflects",
          "",
          &SetPlan::ceilingReflectance,
          0.01,
          0.95,
          "black velvet gives back about 1 %, fresh white paint about 90 %"},
         {"floorReflectance",
          "Floor reflects",
          "",
          &SetPlan::floorReflectance,
          0.01,
          0.95,
          "black velvet gives back about 1 %, fresh white paint about 90 %"}},
        {},
        {{"inFeet", "Feet", &SetPlan::isInFeet}}};
    return kFields;
}

const FieldTable<Circuit>& circuitFields() {
    static const FieldTable<Circuit> kFields{
        {{"volts", "Voltage", "V", &Circuit::volts, 100.0, 240.0, "mains is 100 to 240 V", 0},
         {"amps", "Breaker", "A", &Circuit::amps, 1.0, 63.0, "larger ones are an electrician's", 0},
         {"otherWatts",
          "Other load",
          "W",
          &Circuit::otherWatts,
          0.0,
          15000.0,
          "heaters, fridges, computers on the same breaker",
          0}},
        {{"name", "Name", &Circuit::name, {}}},
        {}};
    return kFields;
}

const FieldTable<Choices>& choiceFields() {
    static const FieldTable<Choices> kFields = [] {
        FieldTable<Choices> fields;
        fields.numbers = {
            {"deliveryFps",
             "Delivered rate",
             "fps",
             &Choices::deliveryFps,
             10,
             120,
             "as agreed",
             3},
            {"deliveryWidthPx",
             "Delivered width",
             "px",
             &Choices::deliveryWidthPx,
             320,
             8192,
             "from small web clips to 8K",
             0},
            {"deliveryHeightPx",
             "Delivered height",
             "px",
             &Choices::deliveryHeightPx,
             240,
             8192,
             "from small web clips to 8K",
             0},
            {"largestZoom",
             "Largest punch-in",
             "×",
             &Choices::largestZoom,
             1.0,
             4.0,
             "1 is none; beyond 4 nothing is left",
             2},
            {"mainsHz", "Mains", "Hz", &Choices::mainsHz, 50, 60, "mains is 50 or 60 Hz", 0},
            {"slowMotionFactor",
             "Slow motion",
             "×",
             &Choices::slowMotionFactor,
             1,
             20,
             "1 is none, 2 is half speed",
             1},
            {"dayMinutes",
             "Recorded per day",
             "min",
             &Choices::dayMinutes,
             1,
             1440,
             "a day has 1440 minutes",
             0},
            {"copyMegabytesPerSecond",
             "Copying speed",
             "MB/s",
             &Choices::copyMegabytesPerSecond,
             1,
             10000,
             "a slow card reader has 20 MB/s, the fastest disks some thousands",
             0},
            {"copies", "Copies", "", &Choices::copies, 1, 10, "two on two media are usual", 0}};
        for (const School& school : schools()) {
            TextField<Choices> field{school.key.c_str(), school.question.c_str(), school.field, {}};
            for (const School::Option& option : school.options) {
                field.allowed.push_back(option.value);
            }
            fields.texts.push_back(field);
        }
        fields.truths = {{"uprightWanted", "Upright 9:16 cut", &Choices::isUprightWanted}};
        return fields;
    }();
    return kFields;
}

const FieldTable<Equipment>& equipmentFields() {
    static const FieldTable<Equipment> kFields{
        {{"cardGigabytes", "Card", "GB", &Equipment::cardGigabytes, 1, 16000, "as on its label", 0},
         {"cardMegabytesPerSecond",
          "Card writes",
          "MB/s",
          &Equipment::cardMegabytesPerSecond,
          1,
          10000,
          "sustained, not the peak on the label",
          0},
         {"powerWatts", "Draws", "W", &Equipment::powerWatts, 0.5, 500, "recording, screen on", 1},
         {"batteryWattHours",
          "Battery",
          "Wh",
          &Equipment::batteryWattHours,
          0,
          1000,
          "0 where it has none",
          0},
         {"longestTakeMinutes",
          "Longest take",
          "min",
          &Equipment::longestTakeMinutes,
          0,
          1440,
          "0 where no limit is known",
          0}},
        {{"powerSource",
          "Runs on",
          &Equipment::powerSource,
          {"mains", "battery", "power over the data port"}}},
        {{"feedNeeded", "Feeds a picture out", &Equipment::isFeedNeeded},
         {"sharedPort", "Power and data share a port", &Equipment::hasSharedPort}}};
    return kFields;
}

template <class Owner>
base::Result<void> checkField(const NumberField<Owner>& field, double value) {
    if (std::isfinite(value) && value >= field.lowest - 1e-9 && value <= field.highest + 1e-9) {
        return {};
    }
    const std::string given = std::isfinite(value) ? withUnit(value, field.unit) : "no number";
    return base::fail(ErrorCode::OutOfRange,
                      std::string("Cannot set \"") + field.title + "\"",
                      given + " was given; allowed is " + numberText(field.lowest) + " to " +
                          withUnit(field.highest, field.unit) + " (" + field.reason + ").",
                      "Type a value in this range.");
}
template base::Result<void> checkField(const NumberField<PlanObject>&, double);
template base::Result<void> checkField(const NumberField<SetPlan>&, double);
template base::Result<void> checkField(const NumberField<Circuit>&, double);
template base::Result<void> checkField(const NumberField<Choices>&, double);
template base::Result<void> checkField(const NumberField<Equipment>&, double);

base::Result<void> checkObject(const SetPlan& plan, const PlanObject& object) {
    const std::string name = object.name.empty() ? object.id : object.name;
    if (auto valid = checkAll(planFields(object.kind), object); !valid) {
        valid.error().what += " of " + name;
        return valid;
    }
    if (object.xMetres > plan.widthMetres + 1e-9) {
        return refused(name,
                       "It would stand " + withUnit(object.xMetres, "m") +
                           " from the left wall; the room is " + withUnit(plan.widthMetres, "m") +
                           " wide.");
    }
    if (object.zMetres > plan.depthMetres + 1e-9) {
        return refused(name,
                       "It would stand " + withUnit(object.zMetres, "m") +
                           " from the back wall; the room is " + withUnit(plan.depthMetres, "m") +
                           " deep.");
    }
    const bool hasOwnHeight = object.kind == PlanKind::Person || object.kind == PlanKind::Camera ||
                              object.kind == PlanKind::Light || object.kind == PlanKind::Chart;
    const double top = object.heightMetres + (hasOwnHeight ? 0.0 : object.tallMetres);
    if (top > plan.heightMetres + 1e-9) {
        return refused(name,
                       "It would reach " + withUnit(top, "m") + " up; the ceiling is at " +
                           withUnit(plan.heightMetres, "m") + ".");
    }
    if (object.kind == PlanKind::Camera || object.kind == PlanKind::Light) {
        const double distance = std::hypot(object.aimXMetres - object.xMetres,
                                           object.aimZMetres - object.zMetres,
                                           object.aimHeightMetres - object.heightMetres);
        if (distance < 0.05) {
            return refused(name,
                           "Its aim is " + withUnit(distance, "m") +
                               " away from it; at least 0.05 m is needed to have a direction.");
        }
    }
    return {};
}

base::Result<void> checkPlan(const SetPlan& plan) {
    if (auto valid = checkAll(roomFields(), plan); !valid) return valid;
    if (plan.objects.size() > kMostPlanObjects) {
        return base::fail(ErrorCode::OutOfRange,
                          "Cannot take this plan",
                          std::to_string(plan.objects.size()) + " objects are on it; up to " +
                              std::to_string(kMostPlanObjects) + " are allowed.",
                          "Leave out what neither gives light, nor stands in it, nor is seen.");
    }
    std::set<std::string> ids;
    for (const PlanObject& object : plan.objects) {
        if (!ids.insert(object.id).second || object.id.empty()) {
            return base::fail(ErrorCode::OutOfRange,
                              "Cannot take this plan",
                              "Two objects have the id \"" + object.id + "\".",
                              "Give each its own id.");
        }
        if (auto valid = checkObject(plan, object); !valid) return valid;
    }
    for (const Circuit& circuit : plan.circuits) {
        if (auto valid = checkAll(circuitFields(), circuit); !valid) return valid;
    }
    return {};
}

}  // namespace rigmatch::rig
