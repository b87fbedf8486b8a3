// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <numbers>

#include "sim/camera_model.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"

namespace rigmatch::support {

/// One stand-in before a lens that looks at its face, as a camera of that curve records it.
struct Sitting {
    double turnDegrees = 0.0;
    double headShare = 0.3;  ///< of the frame's height
    double stops = 0.0;
    double skin = 0.29;
    bool hasGlasses = false;
    colour::CurveKind curve = colour::CurveKind::Standard;
    double leftKelvin = 5600.0;  ///< of the lamps on the left of the picture
    double rightKelvin = 5600.0;
    double cameraDegrees = 0.0;  ///< about the person; + to the right of the picture
    double aimUp = 0.0;          ///< m that the lens looks above the head's middle
    double aimRight = 0.0;       ///< m beside it
    double rollDegrees = 0.0;    ///< of the camera
    bool isLightRoom = false;    ///< the demo's own walls and fill instead of darker ones
    bool hasHat = false;
    bool hasLongHair = false;
};

/// The sitting as light, and the camera that looks at it.
struct Seen {
    image::Frame linear;
    rig::Camera camera;
    rig::SetPlan plan;
};

inline Seen seenOf(const Sitting& sitting) {
    rig::Rig rig = sim::clockBenchRig();
    rig::SetPlan plan = sim::clockBenchPlan();
    std::erase_if(plan.objects, [](const rig::PlanObject& o) { return o.id == "person-2"; });
    rig::PlanObject& person = *rig::findObject(plan, "person-1");
    person.xMetres = 2.6;
    person.facingDegrees = sitting.turnDegrees;
    person.skinReflectance = sitting.skin;
    person.hasGlasses = sitting.hasGlasses;
    person.hasRaisedHands = false;
    person.hasHat = sitting.hasHat;
    person.hasLongHair = sitting.hasLongHair;
    rig::PlanObject& place = *rig::findPlanCamera(plan, "camera-1");
    const double away = 4.0 - person.zMetres;
    const double angle = sitting.cameraDegrees * std::numbers::pi / 180.0;
    place.aimXMetres = 2.6;
    place.xMetres = 2.6 + away * std::sin(angle);
    place.zMetres = person.zMetres + away * std::cos(angle);
    place.aimZMetres = person.zMetres;
    place.aimXMetres += sitting.aimRight;
    place.heightMetres = person.heightMetres;
    place.aimHeightMetres = person.heightMetres + sitting.aimUp;
    place.rollDegrees = sitting.rollDegrees;
    place.targetId = sitting.aimUp == 0.0 && sitting.aimRight == 0.0 ? "person-1" : "";
    // The room in which the figures were taken: darker walls than the demo's, a softer fill.
    if (!sitting.isLightRoom) plan.wallReflectance = 0.12;
    for (rig::PlanObject& object : plan.objects) {
        if (object.kind != rig::PlanKind::Light) continue;
        object.kelvin = object.xMetres < person.xMetres ? sitting.leftKelvin : sitting.rightKelvin;
        if (sitting.isLightRoom) continue;
        if (object.name == "key") object.luxAtOneMetre = 2820.0;
        if (object.name == "fill") object.luxAtOneMetre = 700.0;
    }
    rig.plan = plan;
    rig::Camera& camera = rig.cameras[0];
    const double frameHeight = person.headMetres / sitting.headShare;
    camera.lens.focalLengthMm = 20.25 * away / frameHeight;
    camera.sheet.profiles.clear();
    camera.simulated->curve = colour::curveOf(sitting.curve);
    camera.simulated->sensitivityStops = 0.6 + sitting.stops;
    sim::View view = *sim::planView(rig, camera);
    view.width = 960;
    view.height = 540;
    sim::RenderOptions options;
    options.lampRays = 1;
    auto linear = sim::render(sim::sceneOf(plan), view, {}, options);
    return {std::move(*linear), camera, plan};
}

inline image::CodedFrame pictureOf(const Sitting& sitting) {
    const Seen seen = seenOf(sitting);
    return image::codedFromSignal(sim::CameraModel(seen.camera).develop(seen.linear, 7), {}, 10, 1);
}

}  // namespace rigmatch::support
