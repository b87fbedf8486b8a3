// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/plan_fields.h"

#include "rig/region.h"

namespace rigmatch::rig {
namespace {

std::vector<NumberField<Choices>> choiceNumbers() {
    return {
        {"deliveryFps", "Delivered rate", "fps", &Choices::deliveryFps, 10, 120, "as agreed", 3},
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
}

}  // namespace

const FieldTable<SetPlan>& roomFields() {
    static const FieldTable<SetPlan> kFields{
        {{"widthMetres", "Room width", "m", &SetPlan::widthMetres, 1.0, 60.0, kRoomReason},
         {"depthMetres", "Room depth", "m", &SetPlan::depthMetres, 1.0, 60.0, kRoomReason},
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
        fields.numbers = choiceNumbers();
        for (const School& school : schools()) {
            TextField<Choices> field{school.key.c_str(), school.question.c_str(), school.field, {}};
            for (const School::Option& option : school.options) {
                field.allowed.push_back(option.value);
            }
            fields.texts.push_back(field);
        }
        TextField<Choices> region{"region", "Region", &Choices::region, {""}};
        for (const Region& one : regions()) region.allowed.push_back(one.key);
        fields.texts.push_back(region);
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

}  // namespace rigmatch::rig
