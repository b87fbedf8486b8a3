// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/plan_job.h"

#include <algorithm>
#include <cmath>

#include "plan/camera_sheet.h"
#include "sim/camera_model.h"
#include "sim/plan_scene.h"

namespace rigmatch::jobs {
base::Error noPlanError(const std::string& rigName) {
    return {base::ErrorCode::OutOfRange,
            base::say("planJob.noPlan", {{"rig", rigName}}),
            base::say("planJob.nothingRecorded"),
            base::say("planJob.startFromLayout")};
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
                          base::say("planJob.noPictureCan"),
                          base::say("planJob.cameraNoPlace"),
                          base::say("planJob.placeAimPlan"));
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
