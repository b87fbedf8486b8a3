// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/plan_job.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "jobs/json_tidy.h"
#include "plan/camera_sheet.h"
#include "sim/camera_model.h"
#include "sim/plan_scene.h"

namespace rigmatch::jobs {
namespace {

Json planFactJson(const plan::Fact& fact) {
    Json json{{"key", fact.key},
              {"title", fact.title},
              {"value", fact.value},
              {"verdict", plan::levelName(fact.level)},
              {"why", fact.why}};
    if (!fact.change.empty()) json["change"] = fact.change;
    json["number"] = fact.number ? Json(tidy(*fact.number)) : Json(nullptr);
    if (!fact.unit.empty()) json["unit"] = fact.unit;
    if (fact.uncertainty) json["uncertainty"] = tidy(*fact.uncertainty);
    return json;
}

Json planFactsJson(const std::vector<plan::Fact>& facts) {
    Json list = Json::array();
    for (const plan::Fact& fact : facts) list.push_back(planFactJson(fact));
    return list;
}

void printFacts(const std::vector<plan::Fact>& facts, std::string& text) {
    for (const plan::Fact& fact : facts) {
        text += "  " + fact.title + ": " + fact.value;
        if (fact.level != plan::Level::Fine)
            text += std::string(" (") + plan::levelName(fact.level) + ")";
        text += "\n";
        if (!fact.why.empty()) text += "      " + fact.why + "\n";
        if (!fact.change.empty()) text += "      → " + fact.change + "\n";
    }
}

}  // namespace

base::Error noPlanError(const std::string& rigName) {
    return {base::ErrorCode::OutOfRange,
            "Rig \"" + rigName + "\" has no plan",
            "No room and no places are recorded in it.",
            "Open its Set screen and start from a layout."};
}

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
        notes.push_back({{"verdict", plan::levelName(note.level)},
                         {"text", note.text},
                         {"change", note.change},
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
        text += std::string("  ") + (note.level == plan::Level::Off ? "▼ " : "△ ") + note.text +
                " " + note.change + "\n";
    }
    return text;
}

struct PredictedSet::State {
    rig::Rig rig;
    sim::Scene scene;
};

PredictedSet::PredictedSet(const rig::Rig& rig)
    : m_state(std::make_unique<State>(State{rig, sim::sceneOf(*rig.plan)})) {
    // What cannot be known beforehand is left out: the picture shows the plan, not the stand-in.
    m_state->rig.takes.clear();
    for (rig::Camera& camera : m_state->rig.cameras) {
        camera.simulated = rig::SimulatedBody{};
        camera.simulated->glassStops = plan::glassLossStops(rig, camera);
    }
}
PredictedSet::~PredictedSet() = default;
PredictedSet::PredictedSet(PredictedSet&&) noexcept = default;
PredictedSet& PredictedSet::operator=(PredictedSet&&) noexcept = default;

base::Result<Picture> PredictedSet::picture(const std::string& cameraId,
                                            int widthPx,
                                            PictureCare care,
                                            const base::Progress& progress) const {
    const rig::Camera* camera = rig::findCamera(m_state->rig, cameraId);
    auto view = camera == nullptr ? std::nullopt : sim::planView(m_state->rig, *camera);
    if (!view || widthPx < 32 || widthPx > 4096) {
        return base::fail(base::ErrorCode::OutOfRange,
                          "No picture can be predicted",
                          "The camera has no place, no direction or no possible lens on the plan.",
                          "Place and aim it on the plan, and check its lens.");
    }
    view->height = std::max(16, widthPx * view->height / std::max(view->width, 1));
    view->width = widthPx;
    sim::RenderOptions options;
    options.threads = 1;
    if (care == PictureCare::Quick) {
        options.lampRays = 1;
        options.mostShadowedLamps = 2;
        options.hasSmoothEdges = false;
    }
    const auto linear = sim::render(m_state->scene, *view, progress, options);
    if (!linear) return tl::unexpected(linear.error());
    const sim::CameraModel model(*camera);
    const sim::Exposed exposed =
        model.expose(*linear, {0, 0, view->width, view->height}, view->width, view->height);
    Picture picture{view->width, view->height, {}, 0.0};
    picture.rgb = bytesOf(exposed.signal);
    return picture;
}

}  // namespace rigmatch::jobs
