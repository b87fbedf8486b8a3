// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/set_plan.h"

#include <algorithm>

#include "rig/choices.h"

namespace rigmatch::rig {
namespace {

constexpr std::array<const char*, kPlanKinds.size()> kNames{"person",
                                                            "camera",
                                                            "light",
                                                            "window",
                                                            "door",
                                                            "table",
                                                            "riser",
                                                            "backdrop",
                                                            "prop",
                                                            "flag",
                                                            "bounce",
                                                            "chart"};

template <class List, class Match>
auto* firstOf(List& list, Match match) {
    const auto found = std::find_if(list.begin(), list.end(), match);
    return found == list.end() ? nullptr : &*found;
}

template <class Plan>
auto* planCameraOf(Plan& plan, const std::string& cameraId) {
    return firstOf(plan.objects, [&](const PlanObject& object) {
        return object.kind == PlanKind::Camera && object.cameraId == cameraId;
    });
}

}  // namespace

const PlanObject* findObject(const SetPlan& plan, const std::string& id) {
    return firstOf(plan.objects, [&](const PlanObject& object) { return object.id == id; });
}

PlanObject* findObject(SetPlan& plan, const std::string& id) {
    return firstOf(plan.objects, [&](const PlanObject& object) { return object.id == id; });
}

const PlanObject* findPlanCamera(const SetPlan& plan, const std::string& cameraId) {
    return planCameraOf(plan, cameraId);
}

PlanObject* findPlanCamera(SetPlan& plan, const std::string& cameraId) {
    return planCameraOf(plan, cameraId);
}

const Circuit* findCircuit(const SetPlan& plan, const std::string& id) {
    return firstOf(plan.circuits, [&](const Circuit& circuit) { return circuit.id == id; });
}

std::string freshObjectId(const SetPlan& plan, PlanKind kind) {
    for (std::size_t number = 1;; ++number) {
        std::string id = std::string(kindName(kind)) + "-" + std::to_string(number);
        if (findObject(plan, id) == nullptr) return id;
    }
}

const char* kindName(PlanKind kind) { return kNames.at(static_cast<std::size_t>(kind)); }

std::optional<PlanKind> kindOfName(const std::string& name) {
    for (const PlanKind kind : kPlanKinds) {
        if (name == kindName(kind)) return kind;
    }
    return std::nullopt;
}

namespace {

using base::say;

/// Schools of how is recorded.
std::vector<School> recordingSchools() {
    return {{"automatics",
             say("school.automatics"),
             {{"locked", say("school.automaticsLocked")},
              {"automatic", say("school.automaticsAutomatic")}},
             say("school.automaticsWhy"),
             &Choices::automatics},
            {"look",
             say("school.look"),
             {{"neutral", say("school.lookNeutral")},
              {"finished", say("school.lookFinished")},
              {"log", say("school.lookLog")}},
             say("school.lookWhy"),
             &Choices::look},
            {"rates",
             say("school.rates"),
             {{"delivery", say("school.ratesDelivery")},
              {"24/25", say("school.rates2425")},
              {"30", say("school.rates30")}},
             say("school.ratesWhy"),
             &Choices::rates},
            {"sound",
             say("school.sound"),
             {{"apart", say("school.soundApart")}, {"camera", say("school.soundCamera")}},
             say("school.soundWhy"),
             &Choices::sound}};
}

/// Schools of what is seen.
std::vector<School> pictureSchools() {
    return {{"key",
             say("school.key"),
             {{"modelled", say("school.keyModelled")}, {"flat", say("school.keyFlat")}},
             say("school.keyWhy"),
             &Choices::key},
            {"mood",
             say("school.mood"),
             {{"standard", say("school.moodStandard")},
              {"flat", say("school.moodFlat")},
              {"friendly", say("school.moodFriendly")},
              {"moody", say("school.moodMoody")}},
             say("school.moodWhy"),
             &Choices::mood},
            {"headroom",
             say("school.headroom"),
             {{"tight", say("school.headroomTight")}, {"wide", say("school.headroomWide")}},
             say("school.headroomWhy"),
             &Choices::headroom},
            {"placing",
             say("school.placing"),
             {{"look", say("school.placingLook")},
              {"centre", say("school.placingCentre")},
              {"thirds", say("school.placingThirds")}},
             say("school.placingWhy"),
             &Choices::placing},
            {"blur",
             say("school.blur"),
             {{"any", say("school.blurAny")},
              {"gentle", say("school.blurGentle")},
              {"soft", say("school.blurSoft")},
              {"melted", say("school.blurMelted")}},
             say("school.blurWhy"),
             &Choices::blur},
            {"daylight",
             say("school.daylight"),
             {{"blackout", say("school.daylightBlackout")},
              {"daylight", say("school.daylightDaylight")}},
             say("school.daylightWhy"),
             &Choices::daylight}};
}

}  // namespace

const std::vector<School>& schools() {
    static const std::vector<School> kSchools = [] {
        std::vector<School> all = recordingSchools();
        const std::vector<School> seen = pictureSchools();
        all.insert(all.end(), seen.begin(), seen.end());
        return all;
    }();
    return kSchools;
}

}  // namespace rigmatch::rig
