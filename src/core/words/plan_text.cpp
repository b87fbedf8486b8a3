// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/plan_text.h"

#include <vector>

#include "plan/analysis.h"
#include "plan/camera_sheet.h"
#include "words/english.h"

namespace rigmatch::words {
namespace {

void printFacts(const std::vector<plan::Fact>& facts, std::string& text) {
    for (const ToldFact& fact : told(facts)) {
        text += "  " + fact.title + ": " + fact.value;
        if (fact.verdict != base::Verdict::Good)
            text += std::string(" (") + base::nameOf(fact.verdict) + ")";
        text += "\n";
        if (!fact.why.empty()) text += "      " + fact.why + "\n";
        if (!fact.change.empty()) text += "      → " + fact.change + "\n";
    }
}

}  // namespace

ToldFact told(const plan::Fact& fact) {
    return {fact.key,
            inEnglish(fact.title),
            inEnglish(fact.value),
            fact.verdict,
            inEnglish(fact.why),
            inEnglish(fact.change),
            fact.number,
            fact.unit,
            fact.uncertainty};
}

std::vector<ToldFact> told(const std::vector<plan::Fact>& facts) {
    std::vector<ToldFact> all;
    all.reserve(facts.size());
    for (const plan::Fact& fact : facts) all.push_back(told(fact));
    return all;
}

std::string planText(const rig::Rig& rig) {
    const plan::SetAnalysis set(rig);
    std::string text = rig.name + "\n\nRoom\n";
    printFacts(set.facts({}), text);
    for (const rig::PlanObject& object : rig.plan->objects) {
        const plan::PlacedCamera* camera = set.cameraOf(object.id);
        text += "\n" + (camera == nullptr ? std::string() : camera->camera->letter + " ") +
                plan::nameOf(object) + "\n";
        printFacts(set.facts(object.id), text);
    }
    for (const rig::Camera& camera : rig.cameras) {
        text += "\nSheet of camera " + camera.letter + "\n";
        printFacts(plan::sheetFacts(rig, camera), text);
    }
    text += "\nNotes\n";
    for (const plan::Note& note : set.notes()) {
        text += std::string("  ") + (note.verdict == base::Verdict::Off ? "▼ " : "△ ") +
                inEnglish(note.text) + " " + inEnglish(note.change) + "\n";
    }
    return text;
}

}  // namespace rigmatch::words
