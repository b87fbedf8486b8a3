// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/plan_fields.h"

#include "rig/region.h"

namespace rigmatch::rig {
namespace {

using base::say;

std::vector<NumberField<Choices>> choiceNumbers() {
    return {{"deliveryFps",
             say("field.deliveredRate"),
             "fps",
             &Choices::deliveryFps,
             10,
             120,
             say("limit.asAgreed"),
             3},
            {"deliveryWidthPx",
             say("field.deliveredWidth"),
             "px",
             &Choices::deliveryWidthPx,
             320,
             8192,
             say("limit.pictureSize"),
             0},
            {"deliveryHeightPx",
             say("field.deliveredHeight"),
             "px",
             &Choices::deliveryHeightPx,
             240,
             8192,
             say("limit.pictureSize"),
             0},
            {"largestZoom",
             say("field.largestPunchIn"),
             "×",
             &Choices::largestZoom,
             1.0,
             4.0,
             say("limit.punchIn"),
             2},
            {"mainsHz", say("field.mains"), "Hz", &Choices::mainsHz, 50, 60, say("limit.mains"), 0},
            {"slowMotionFactor",
             say("field.slowMotion"),
             "×",
             &Choices::slowMotionFactor,
             1,
             20,
             say("limit.slowMotion"),
             1},
            {"dayMinutes",
             say("field.recordedPerDay"),
             "min",
             &Choices::dayMinutes,
             1,
             1440,
             say("limit.day"),
             0},
            {"copyMegabytesPerSecond",
             say("field.copyingSpeed"),
             "MB/s",
             &Choices::copyMegabytesPerSecond,
             1,
             10000,
             say("limit.copyingSpeed"),
             0},
            {"copies", say("field.copies"), "", &Choices::copies, 1, 10, say("limit.copies"), 0}};
}

}  // namespace

const FieldTable<SetPlan>& roomFields() {
    static const FieldTable<SetPlan> kFields{{{"widthMetres",
                                               say("field.roomWidth"),
                                               "m",
                                               &SetPlan::widthMetres,
                                               1.0,
                                               60.0,
                                               say("limit.largestRoom")},
                                              {"depthMetres",
                                               say("field.roomDepth"),
                                               "m",
                                               &SetPlan::depthMetres,
                                               1.0,
                                               60.0,
                                               say("limit.largestRoom")},
                                              {"heightMetres",
                                               say("field.ceilingHeight"),
                                               "m",
                                               &SetPlan::heightMetres,
                                               1.8,
                                               12.0,
                                               say("limit.ceiling")},
                                              {"wallReflectance",
                                               say("field.wallsReflect"),
                                               "",
                                               &SetPlan::wallReflectance,
                                               0.01,
                                               0.95,
                                               say("limit.reflectance")},
                                              {"ceilingReflectance",
                                               say("field.ceilingReflects"),
                                               "",
                                               &SetPlan::ceilingReflectance,
                                               0.01,
                                               0.95,
                                               say("limit.reflectance")},
                                              {"floorReflectance",
                                               say("field.floorReflects"),
                                               "",
                                               &SetPlan::floorReflectance,
                                               0.01,
                                               0.95,
                                               say("limit.reflectance")}},
                                             {},
                                             {{"inFeet", say("field.feet"), &SetPlan::isInFeet}}};
    return kFields;
}

const FieldTable<Circuit>& circuitFields() {
    static const FieldTable<Circuit> kFields{
        {{"volts", say("field.voltage"), "V", &Circuit::volts, 100.0, 240.0, say("limit.volts"), 0},
         {"amps", say("field.breaker"), "A", &Circuit::amps, 1.0, 63.0, say("limit.breaker"), 0},
         {"otherWatts",
          say("field.otherLoad"),
          "W",
          &Circuit::otherWatts,
          0.0,
          15000.0,
          say("limit.otherLoad"),
          0}},
        {{"name", say("field.name"), &Circuit::name, {}}},
        {}};
    return kFields;
}

const FieldTable<Choices>& choiceFields() {
    static const FieldTable<Choices> kFields = [] {
        FieldTable<Choices> fields;
        fields.numbers = choiceNumbers();
        for (const School& school : schools()) {
            TextField<Choices> field{school.key.c_str(), school.question, school.field, {}};
            for (const School::Option& option : school.options) {
                field.allowed.push_back(option.value);
            }
            fields.texts.push_back(field);
        }
        TextField<Choices> region{"region", say("field.region"), &Choices::region, {""}};
        for (const Region& one : regions()) region.allowed.push_back(one.key);
        fields.texts.push_back(region);
        fields.truths = {{"uprightWanted", say("field.uprightCut"), &Choices::isUprightWanted}};
        return fields;
    }();
    return kFields;
}

const FieldTable<Equipment>& equipmentFields() {
    static const FieldTable<Equipment> kFields{
        {{"cardGigabytes",
          say("field.card"),
          "GB",
          &Equipment::cardGigabytes,
          1,
          16000,
          say("limit.label"),
          0},
         {"cardMegabytesPerSecond",
          say("field.cardWrites"),
          "MB/s",
          &Equipment::cardMegabytesPerSecond,
          1,
          10000,
          say("limit.cardSpeed"),
          0},
         {"powerWatts",
          say("field.draws"),
          "W",
          &Equipment::powerWatts,
          0.5,
          500,
          say("limit.draw"),
          1},
         {"batteryWattHours",
          say("field.battery"),
          "Wh",
          &Equipment::batteryWattHours,
          0,
          1000,
          say("limit.noBattery"),
          0},
         {"longestTakeMinutes",
          say("field.longestTake"),
          "min",
          &Equipment::longestTakeMinutes,
          0,
          1440,
          say("limit.noKnownLimit"),
          0}},
        {{"powerSource",
          say("field.runsOn"),
          &Equipment::powerSource,
          {"mains", "battery", "power over the data port"}}},
        {{"feedNeeded", say("field.feed"), &Equipment::isFeedNeeded},
         {"sharedPort", say("field.sharedPort"), &Equipment::hasSharedPort}}};
    return kFields;
}

}  // namespace rigmatch::rig
