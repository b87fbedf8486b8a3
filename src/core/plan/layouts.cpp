// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/layouts.h"

#include "plan/furnisher.h"
#include "rig/bodies.h"

namespace rigmatch::plan {
namespace {

using rig::Layout;
using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

rig::Camera cameraWith(
    const char* id, std::size_t kind, double focalMm, double fNumber, double iso) {
    rig::Camera camera;
    camera.id = id;
    rig::applyBodyKind(camera, rig::bodyKinds()[kind]);
    rig::Lens lens{std::to_string(static_cast<int>(focalMm)) + " mm f/1.8", focalMm, 1.8, 16.0};
    rig::applyLens(camera, lens);
    camera.settings.fNumber = fNumber;
    camera.settings.isoValue = iso;
    camera.settings.width = 3840;
    camera.settings.height = 2160;
    camera.settings.profile = "Neutral";
    camera.settings.codec = "long-GOP 10 bit 4:2:2";
    rig::snapSettings(camera);
    return camera;
}

SetPlan room(double width, double depth, double height) {
    SetPlan plan;
    plan.widthMetres = width;
    plan.depthMetres = depth;
    plan.heightMetres = height;
    plan.wallReflectance = 0.25;
    plan.circuits = {{"circuit-1", "Wall sockets", 230.0, 10.0, 0.0, {}}};
    plan.lenses = {{24, 24, 2.8}, {35, 35, 1.8}, {50, 50, 1.8}, {85, 85, 1.8}};
    return plan;
}

PlanObject& softKey(
    Furnisher& set, const char* name, const Vec& place, const Vec& aim, double lux) {
    PlanObject& key = set.addLight(name, place, aim, lux, 5600.0);
    key.modifier = "soft box, one layer";
    key.sourceMetres = 0.9;
    key.hasGrid = true;
    key.powerWatts = 150.0;
    return key;
}

/// A camera that follows a person, framed so that the eyes lie where they should.
void frame(SetPlan& plan, const rig::Camera& camera, const char* personId) {
    PlanObject* place = rig::findPlanCamera(plan, camera.id);
    aimAtPerson(plan, &camera, place->id, personId);
}

Layout singleHost() {
    Layout layout{"Single host",
                  "One person to the lens, one camera, key from the side",
                  room(4.0, 4.5, 2.6),
                  {}};
    SetPlan& plan = layout.plan;
    Furnisher set(plan);
    PlanObject& host = set.addPerson("host", {2.0, 1.22, 1.6}, 0.0, 0.30);
    host.looksToLens = true;
    softKey(set, "key", {0.9, 1.95, 2.75}, {2.0, 1.22, 1.6}, 3000.0);
    PlanObject& board = set.add(PlanKind::Bounce, "white board", {2.72, 0.75, 2.05});
    board.facingDegrees = -110.0;
    PlanObject& fill = set.addLight("fill", {2.9, 1.5, 3.5}, {2.0, 1.2, 1.6}, 220.0, 5600.0);
    fill.modifier = "light diffusion";
    fill.powerWatts = 30.0;
    PlanObject& hair =
        set.addLight("hair light", {3.1, 2.35, 0.5}, {2.0, 1.3, 1.6}, 1000.0, 5600.0);
    hair.mount = "wall";
    hair.beamDegrees = 40.0;
    hair.sourceMetres = 0.15;
    hair.hasGrid = true;
    hair.dimPercent = 50.0;
    set.add(PlanKind::Chart, "chart", {2.0, 1.15, 2.0}).leanDegrees = 10.0;
    set.addCamera("camera-1", "host", {2.0, 1.26, 3.55}, {2.0, 1.2, 1.6}, "medium close");
    layout.cameras = {cameraWith("camera-1", 0, 50.0, 2.8, 640.0)};
    frame(plan, layout.cameras[0], "person-1");
    return layout;
}

Layout hostAndGuest() {
    Layout layout{"Host and guest, three cameras",
                  "A wide, B and C mirrored on each, cross keys",
                  room(5.5, 5.5, 2.8),
                  {}};
    SetPlan& plan = layout.plan;
    Furnisher set(plan);
    set.addPerson("host", {2.10, 1.22, 2.0}, 45.0, 0.30);
    set.addPerson("guest", {3.40, 1.22, 2.0}, -45.0, 0.16);
    set.addBox(PlanKind::Table, "low table", {2.75, 0.0, 2.25}, {0.6, 0.45, 0.5}, 0.2, "wood");
    softKey(set, "key of host", {5.05, 2.45, 1.6}, {2.10, 1.25, 2.0}, 14000.0).mount = "wall";
    softKey(set, "key of guest", {0.45, 2.45, 1.6}, {3.40, 1.25, 2.0}, 14000.0).mount = "wall";
    PlanObject& fill = set.addLight("lantern", {2.75, 2.3, 4.2}, {2.75, 1.2, 2.0}, 900.0, 5600.0);
    fill.modifier = "lantern";
    fill.sourceMetres = 0.6;
    fill.mount = "boom";
    set.add(PlanKind::Chart, "chart", {2.75, 1.15, 2.15}).leanDegrees = 10.0;
    set.addCamera("camera-1", "wide", {2.75, 1.26, 4.9}, {2.75, 1.05, 2.0}, "wide two-shot");
    set.addCamera("camera-2", "host close", {3.75, 1.26, 3.55}, {2.1, 1.2, 2.0}, "medium close");
    set.addCamera("camera-3", "guest close", {1.75, 1.26, 3.55}, {3.4, 1.2, 2.0}, "medium close");
    layout.cameras = {cameraWith("camera-1", 0, 35.0, 2.8, 640.0),
                      cameraWith("camera-2", 0, 50.0, 2.8, 640.0),
                      cameraWith("camera-3", 0, 50.0, 2.8, 640.0)};
    frame(plan, layout.cameras[1], "person-1");
    frame(plan, layout.cameras[2], "person-2");
    return layout;
}

Layout deskTopDown() {
    Layout layout{"Desk with top-down",
                  "One person at a desk to the lens, a second camera above the desk",
                  room(4.0, 4.5, 2.6),
                  {}};
    SetPlan& plan = layout.plan;
    Furnisher set(plan);
    PlanObject& host = set.addPerson("presenter", {2.0, 1.22, 1.5}, 0.0, 0.20);
    host.looksToLens = true;
    set.addBox(PlanKind::Table, "desk", {2.0, 0.0, 2.0}, {1.4, 0.74, 0.7}, 0.25, "wood");
    softKey(set, "key", {0.8, 2.0, 2.7}, {2.0, 1.15, 1.6}, 4000.0);
    PlanObject& fill = set.addLight("fill", {3.4, 1.7, 3.4}, {2.0, 1.1, 1.6}, 900.0, 5600.0);
    fill.modifier = "soft box, one layer";
    fill.sourceMetres = 0.6;
    fill.hasGrid = true;
    set.add(PlanKind::Chart, "chart", {2.0, 1.0, 2.0}).leanDegrees = 37.0;
    set.addCamera("camera-1", "presenter", {2.0, 1.26, 3.7}, {2.0, 1.2, 1.5}, "medium close");
    set.addCamera("camera-2", "desk top-down", {2.0, 2.2, 2.05}, {2.0, 0.8, 2.0}, "top-down");
    layout.cameras = {cameraWith("camera-1", 0, 50.0, 2.8, 640.0),
                      cameraWith("camera-2", 0, 50.0, 2.8, 640.0)};
    frame(plan, layout.cameras[0], "person-1");
    return layout;
}

Layout smallStage() {
    Layout layout{"Small stage", "Two players on a riser, three cameras", room(7.0, 8.0, 3.5), {}};
    SetPlan& plan = layout.plan;
    plan.wallReflectance = 0.12;
    Furnisher set(plan);
    set.addBox(PlanKind::Riser, "stage", {3.5, 0.0, 2.4}, {4.0, 0.2, 2.2}, 0.12, "dark wood");
    set.addPerson("violin", {2.75, 1.42, 2.4}, 40.0, 0.30);
    set.addPerson("cello", {4.25, 1.40, 2.4}, -40.0, 0.12);
    PlanObject& left = softKey(set, "stage left key", {0.4, 3.0, 2.2}, {4.25, 1.4, 2.4}, 24000.0);
    left.mount = "wall";
    left.sourceMetres = 1.2;
    left.powerWatts = 300.0;
    PlanObject& right = softKey(set, "stage right key", {6.6, 3.0, 2.2}, {2.75, 1.4, 2.4}, 24000.0);
    right.mount = "wall";
    PlanObject& front =
        set.addLight("front fill", {3.5, 2.8, 7.0}, {3.5, 1.3, 2.4}, 3500.0, 5600.0);
    front.modifier = "heavy diffusion";
    front.sourceMetres = 1.2;
    front.mount = "wall";
    right.sourceMetres = 1.2;
    right.powerWatts = 200.0;
    set.add(PlanKind::Chart, "chart", {3.5, 1.3, 2.6}).leanDegrees = 10.0;
    set.addCamera("camera-1", "wide", {3.5, 1.5, 7.2}, {3.5, 1.2, 2.4}, "wide two-shot");
    set.addCamera("camera-2", "violin", {4.49, 1.46, 4.72}, {2.75, 1.4, 2.4}, "medium");
    set.addCamera("camera-3", "cello", {2.51, 1.46, 4.72}, {4.25, 1.4, 2.4}, "medium");
    layout.cameras = {cameraWith("camera-1", 0, 50.0, 2.8, 640.0),
                      cameraWith("camera-2", 0, 50.0, 2.8, 640.0),
                      cameraWith("camera-3", 0, 50.0, 2.8, 640.0)};
    frame(plan, layout.cameras[1], "person-1");
    frame(plan, layout.cameras[2], "person-2");
    return layout;
}

}  // namespace

const std::vector<Layout>& builtInLayouts() {
    static const std::vector<Layout> kLayouts{
        singleHost(), hostAndGuest(), deskTopDown(), smallStage()};
    return kLayouts;
}

}  // namespace rigmatch::plan
