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

/// Schools of how is recorded.
std::vector<School> recordingSchools() {
    return {{"automatics",
             "Exposure, white balance, focus",
             {{"locked", "locked on every camera"}, {"automatic", "automatic"}},
             "Each camera's automatic sees another frame, so automatics must disagree.",
             &Choices::automatics},
            {"look",
             "Picture profile",
             {{"neutral", "neutral, matched in camera"},
              {"finished", "finished look in camera"},
              {"log", "log, graded later"}},
             "Neutral, unless there is time to grade and every camera records log in 10 bit.",
             &Choices::look},
            {"rates",
             "Frame rate",
             {{"delivery", "as delivered"}, {"24/25", "24 or 25, film look"}, {"30", "30"}},
             "The delivery and the mains decide; a look is no reason to convert every frame.",
             &Choices::rates},
            {"sound",
             "Sound",
             {{"apart", "own recorder, line to the cameras"}, {"camera", "into a camera"}},
             "A separate master with a line to the cameras leaves a spare when one of them fails.",
             &Choices::sound}};
}

/// Schools of what is seen.
std::vector<School> pictureSchools() {
    return {
        {"key",
         "Key light",
         {{"modelled", "from the side, 45–60°"}, {"flat", "flat, from the front"}},
         "A modelled key of 1–2 stops has depth; it is checked per camera before more is chosen.",
         &Choices::key},
        {"mood",
         "Mood",
         {{"standard", "standard talk, 1–2 stops across the face"},
          {"flat", "flat and even"},
          {"friendly", "bright and friendly, 0.5–1"},
          {"moody", "moody, 2.5–4, dark behind"}},
         "A talk is mostly seen between friendly and moody; the goal is yours, and only what "
         "misses it is told.",
         &Choices::mood},
        {"headroom",
         "Headroom",
         {{"tight", "three fingers to a fist"}, {"wide", "about 20 %, for punch-ins"}},
         "Tight, unless one camera must serve two sizes in the edit.",
         &Choices::headroom},
        {"placing",
         "Where a lone person stands",
         {{"look", "to the lens centred, else on a third"},
          {"centre", "centred"},
          {"thirds", "on a third"}},
         "Who speaks to the lens stands centred; a look past it needs room to go to.",
         &Choices::placing},
        {"blur",
         "Background blur",
         {{"any", "as it comes"},
          {"gentle", "gentle: shapes stay readable"},
          {"soft", "soft: shapes without detail"},
          {"melted", "melted: colours only"}},
         "Blur is a look; depth that holds a speaker who leans is worth more until it is asked "
         "for.",
         &Choices::blur},
        {"daylight",
         "Windows",
         {{"blackout", "black out, lamps only"}, {"daylight", "use and support daylight"}},
         "Daylight moves all day; a set that stays, or cameras that must match, cannot follow it.",
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
