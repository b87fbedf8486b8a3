// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/plan_json.h"

#include <nlohmann/json.hpp>

#include "output/json_tidy.h"
#include "plan/analysis.h"
#include "plan/camera_sheet.h"
#include "words/english.h"
#include "words/plan_text.h"

namespace rigmatch::output {
namespace {

Json planFactJson(const words::ToldFact& fact) {
    Json json{{"key", fact.key},
              {"title", fact.title},
              {"value", fact.value},
              {"verdict", base::nameOf(fact.verdict)},
              {"why", fact.why}};
    if (!fact.change.empty()) json["change"] = fact.change;
    json["number"] = fact.number ? Json(tidy(*fact.number)) : Json(nullptr);
    if (!fact.unit.empty()) json["unit"] = fact.unit;
    if (fact.uncertainty) json["uncertainty"] = tidy(*fact.uncertainty);
    return json;
}

Json planFactsJson(const std::vector<plan::Fact>& facts) {
    Json list = Json::array();
    for (const words::ToldFact& fact : words::told(facts)) list.push_back(planFactJson(fact));
    return list;
}

}  // namespace

std::string planJson(const rig::Rig& rig) {
    const plan::SetAnalysis set(rig);
    Json objects = Json::array();
    for (const rig::PlanObject& object : rig.plan->objects) {
        Json json{{"id", object.id}, {"kind", rig::kindName(object.kind)}, {"name", object.name}};
        if (const plan::PlacedCamera* camera = set.cameraOf(object.id)) {
            json["camera"] = camera->camera->letter;
        }
        json["facts"] = planFactsJson(set.facts(object.id));
        objects.push_back(json);
    }
    Json cameras = Json::array();
    for (const rig::Camera& camera : rig.cameras) {
        cameras.push_back(
            {{"camera", camera.letter}, {"facts", planFactsJson(plan::sheetFacts(rig, camera))}});
    }
    Json notes = Json::array();
    for (const plan::Note& note : set.notes()) {
        notes.push_back({{"verdict", base::nameOf(note.verdict)},
                         {"text", words::inEnglish(note.text)},
                         {"change", words::inEnglish(note.change)},
                         {"object", note.objectId}});
    }
    const Json document{{"version", 1},
                        {"rig", rig.name},
                        {"room", planFactsJson(set.facts({}))},
                        {"objects", objects},
                        {"cameras", cameras},
                        {"notes", notes}};
    return document.dump(1) + "\n";
}

}  // namespace rigmatch::output
