// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/framing_job.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "framing/framing_findings.h"
#include "plan/edit.h"
#include "plan/fact.h"
#include "plan/geometry.h"
#include "rig/framing_goals.h"

namespace rigmatch::jobs {
namespace {

/// From the lens to who or what the camera is aimed at, by the plan.
std::optional<double> plannedMetres(const rig::SetPlan& plan, const rig::Camera& camera) {
    const rig::PlanObject* place = rig::findPlanCamera(plan, camera.id);
    if (place == nullptr) return std::nullopt;
    const auto view = plan::CameraView::of(plan, camera, *place);
    return view ? std::optional(view->focusMetres()) : std::nullopt;
}

/// As bright as it was recorded, with nothing in between that changes its black.
bool isExposedAlike(const rig::Settings& a, const rig::Settings& b) {
    return a.isoValue == b.isoValue && a.gainDb == b.gainDb && a.fNumber == b.fNumber &&
           a.shutterSeconds == b.shutterSeconds && a.ndStops == b.ndStops &&
           a.profile == b.profile && a.knobs == b.knobs;
}

/// The darkest that this camera recorded in the last take before, set as it is now.
std::optional<rig::Doubted> darkestBefore(const rig::Rig& rig,
                                          const rig::Take& take,
                                          const rig::Shot& shot) {
    std::optional<rig::Doubted> darkest;
    for (std::size_t i = 0; i < rig.takes.size(); ++i) {
        const rig::Take& earlier = *rig.takes.share(i);
        if (earlier.id == take.id) break;
        const rig::Shot* before = rig::findShot(earlier, shot.cameraId);
        if (before == nullptr || !before->reading || !before->reading->framing ||
            !isExposedAlike(before->settings, shot.settings))
            continue;
        if (before->reading->framing->darkest) darkest = before->reading->framing->darkest;
    }
    return darkest;
}

CropWindow windowOf(
    const std::string& name, double width, double height, double centreX, double centreY) {
    CropWindow crop;
    crop.name = name;
    crop.width = width;
    crop.height = height;
    crop.left = std::clamp(centreX - 0.5 * width, 0.0, 1.0 - width);
    crop.top = std::clamp(centreY - 0.5 * height, 0.0, 1.0 - height);
    return crop;
}

}  // namespace

std::vector<framing::FramedCamera> framedCameras(const rig::Rig& rig, const rig::Take& take) {
    std::vector<framing::FramedCamera> cameras;
    for (const rig::Camera& camera : rig.cameras) {
        const rig::Shot* shot = rig::findShot(take, camera.id);
        framing::FramedCamera framed;
        framed.id = camera.id;
        if (shot != nullptr && shot->reading && shot->reading->framing) {
            framed.reading = &*shot->reading->framing;
            framed.width = shot->reading->width;
            framed.height = shot->reading->height;
            framed.darkestBefore = darkestBefore(rig, take, *shot);
            if (shot->settings.profile.isTold()) framed.profile = shot->settings.profile.value();
        }
        if (const auto lens = lensOf(camera)) {
            framed.lens = framing::CameraLens{lens->focalLengthMm,
                                              lens->sensorWidthMm,
                                              camera.lens.shortFocalMm,
                                              camera.lens.longFocalMm,
                                              std::nullopt};
            const rig::Settings& told = shot != nullptr ? shot->settings : camera.settings;
            if (told.fNumber.isTold()) framed.lens->fNumber = told.fNumber.value();
        }
        if (rig.plan) {
            framed.distanceMetres = plannedMetres(*rig.plan, camera);
            const rig::PlanObject* place = rig::findPlanCamera(*rig.plan, camera.id);
            if (place != nullptr) framed.subjectId = place->targetId;
        }
        cameras.push_back(framed);
    }
    return cameras;
}

std::vector<DistanceNote> plannedDistances(const rig::Rig& rig, const std::string& cameraId) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (!rig.plan || camera == nullptr) return {};
    const auto metres = plannedMetres(*rig.plan, *camera);
    if (!metres) return {};
    DistanceNote note{"the point aimed at", *metres};
    for (const rig::PlanObject& place : rig.plan->objects) {
        if (place.kind != rig::PlanKind::Camera || place.cameraId != cameraId) continue;
        for (const rig::PlanObject& person : rig.plan->objects) {
            if (!place.targetId.empty() && person.id == place.targetId)
                note.what = plan::nameOf(person);
        }
    }
    return {note};
}

std::vector<base::Finding> framingFindings(const rig::Rig& rig, const rig::Take& take) {
    return framing::framingFindings(framedCameras(rig, take), rig.choices);
}

std::optional<rig::SetPlan> planAfterTurn(const rig::Rig& rig,
                                          const base::Finding& finding,
                                          bool isTakenBack) {
    const rig::Camera* camera = rig::findCamera(rig, finding.subject);
    if (!rig.plan || camera == nullptr) return std::nullopt;
    rig::SetPlan plan = *rig.plan;
    const rig::PlanObject* place = rig::findPlanCamera(plan, camera->id);
    if (place == nullptr) return std::nullopt;
    const auto argument = [&](const char* name) {
        const auto found = finding.advice.arguments.find(name);
        return found == finding.advice.arguments.end() ? 0.0 : found->second;
    };
    const std::string& code = finding.advice.code;
    const double degrees = argument("degrees") * (isTakenBack ? -1.0 : 1.0);
    plan::TripodTurn turn;
    if (code == "panLeft" || code == "panRight")
        turn.panDegrees = code == "panLeft" ? -degrees : degrees;
    if (code == "tiltUp" || code == "tiltDown")
        turn.tiltDegrees = code == "tiltUp" ? degrees : -degrees;
    if (code == "rollClockwise" || code == "rollAnticlockwise")
        turn.rollDegrees = code == "rollClockwise" ? degrees : -degrees;
    if (code == "stepNearer" || code == "stepBack") {
        const double ratio = 1.0 + argument("percent") / (code == "stepNearer" ? 100.0 : -100.0);
        const auto metres = plannedMetres(plan, *camera);
        // Sizes go with one over the distance; taken back from where it stands now.
        if (metres && ratio > 0.1)
            turn.nearerMetres = *metres * (1.0 - (isTakenBack ? ratio : 1.0 / ratio));
    }
    if (turn.panDegrees == 0.0 && turn.tiltDegrees == 0.0 && turn.rollDegrees == 0.0 &&
        turn.nearerMetres == 0.0)
        return std::nullopt;
    plan::turnCamera(plan, place->id, turn);
    return plan;
}

std::vector<CropWindow> cropWindows(const rig::FramedPerson& person,
                                    int widthPx,
                                    int heightPx,
                                    const rig::Choices& choices) {
    std::vector<CropWindow> crops;
    if (widthPx <= 0 || heightPx <= 0) return crops;
    const double aspect = static_cast<double>(widthPx) / heightPx;
    const double x = person.across.value, eyes = person.eyeLine.value;
    const auto addAspect = [&](const char* name, double wanted) {
        const double width = std::min(1.0, wanted / aspect);
        crops.push_back(windowOf(name, width, width * aspect / wanted, x, 0.5));
    };
    addAspect("9:16", 9.0 / 16.0);
    addAspect("4:5", 4.0 / 5.0);
    addAspect("1:1", 1.0);
    if (choices.largestZoom > 1.005) {
        const double side = 1.0 / choices.largestZoom;
        // About the eyes: they keep their share of the height.
        CropWindow punch = windowOf("× " + base::fixed(choices.largestZoom, 2), side, side, x, 0.5);
        punch.top = std::clamp(eyes - eyes * side, 0.0, 1.0 - side);
        crops.push_back(punch);
    }
    constexpr double kAround = 0.10;  // of the face, on each side
    const double half = (0.5 + kAround) * person.width / widthPx + 0.5 * person.swayShare;
    for (CropWindow& crop : crops) {
        crop.widthPx = static_cast<int>(std::lround(crop.width * widthPx));
        crop.heightPx = static_cast<int>(std::lround(crop.height * heightPx));
        crop.holdsPerson = x - half >= crop.left && x + half <= crop.left + crop.width;
        crop.headroom = (person.headroom.value - crop.top) / crop.height;
        // Upright and square versions are delivered as high as the wide one.
        const bool isPunch = crop.name.starts_with("×");
        crop.isUpscaled = isPunch ? crop.widthPx < choices.deliveryWidthPx - 1.0
                                  : crop.heightPx < choices.deliveryHeightPx - 1.0;
    }
    return crops;
}

}  // namespace rigmatch::jobs
