// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <map>

#include "plan/analysis.h"

namespace rigmatch::plan {
namespace {

using base::say;
using rig::PlanKind;
using rig::PlanObject;

/// How much each thing hurts if it is left: safety and what cannot be mended later first, taste
/// last.
int weightOf(const std::string& key) {
    static const std::map<std::string, int> kWeights{{"circuit", 100},
                                                     {"power", 95},
                                                     {"picture", 95},
                                                     {"key", 85},
                                                     {"axis", 80},
                                                     {"intruders", 78},
                                                     {"lens", 76},
                                                     {"windowLevel", 74},
                                                     {"colourMix", 72},
                                                     {"exposureAtMark", 70},
                                                     {"exposureAgainstReference", 70},
                                                     {"depthOfField", 60},
                                                     {"headHeight", 58},
                                                     {"eyeHeight", 56},
                                                     {"headroom", 50},
                                                     {"eyeLine", 48},
                                                     {"faceToBackground", 46},
                                                     {"look", 44},
                                                     {"keyToFill", 42},
                                                     {"distance", 40},
                                                     {"background", 38},
                                                     {"chartSize", 36},
                                                     {"daylight", 34},
                                                     {"punchIn", 30},
                                                     {"crops", 20},
                                                     {"cutAngle", 18},
                                                     {"hairLight", 16},
                                                     {"spill", 14},
                                                     {"caution", 12}};
    const auto found = kWeights.find(key.substr(0, key.find('-')));
    return found == kWeights.end() ? 10 : found->second;
}

base::Text subjectName(const SetAnalysis& set, const PlanObject& object) {
    const PlacedCamera* camera =
        object.kind == PlanKind::Camera ? set.cameraOf(object.id) : nullptr;
    return camera == nullptr ? base::asIs(nameOf(object))
                             : say("notes.camera", {{"camera", camera->camera->letter}});
}

Note noteOf(const base::Text& who, const Fact& fact, const std::string& objectId) {
    Note note;
    note.verdict = fact.verdict;
    note.weight = weightOf(fact.key) + (fact.verdict == base::Verdict::Off ? 30 : 0);
    note.text = say("notes.fact", {{"who", who}, {"title", fact.title}, {"value", fact.value}});
    note.change = fact.change;
    note.objectId = objectId;
    note.key = fact.key;
    return note;
}

void addFacts(const base::Text& who,
              const std::vector<Fact>& facts,
              const std::string& objectId,
              std::vector<Note>& notes) {
    for (const Fact& fact : facts) {
        if (fact.verdict != base::Verdict::Good && !fact.change.empty())
            notes.push_back(noteOf(who, fact, objectId));
    }
}

/// Cameras of the rig that stand nowhere on the plan.
void addUnplaced(const SetAnalysis& set, std::vector<Note>& notes) {
    for (const rig::Camera& camera : set.rig().cameras) {
        if (rig::findPlanCamera(set.plan(), camera.id) != nullptr) continue;
        notes.push_back({base::Verdict::Near,
                         90,
                         say("notes.notOnPlan", {{"camera", camera.letter}}),
                         say("notes.addCamera"),
                         {}});
    }
    if (objectsOf(set.plan(), PlanKind::Person).empty()) {
        notes.push_back({base::Verdict::Near, 92, say("notes.nobody"), say("notes.addPeople"), {}});
    }
}

}  // namespace

std::vector<Note> SetAnalysis::notes() const {
    std::vector<Note> notes;
    addUnplaced(*this, notes);
    addFacts(say("room.room"), roomFacts(*this), {}, notes);
    for (const PlanObject& object : plan().objects) {
        addFacts(subjectName(*this, object), facts(object.id), object.id, notes);
    }
    // The circuit tells about its load once; its lamps need not repeat it.
    const bool isCircuitTold = std::any_of(notes.begin(), notes.end(), [](const Note& note) {
        return note.objectId.empty() && note.weight >= 100;
    });
    if (isCircuitTold) {
        std::erase_if(
            notes, [](const Note& note) { return !note.objectId.empty() && note.key == "power"; });
    }
    std::stable_sort(notes.begin(), notes.end(), [](const Note& a, const Note& b) {
        return a.weight > b.weight;
    });
    return notes;
}

}  // namespace rigmatch::plan
