// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/clock_bench.h"

#include "plan/furnisher.h"
#include "rig/bodies.h"
#include "sim/plan_scene.h"

namespace rigmatch::sim {
namespace {

using plan::Furnisher;
using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

void addLights(Furnisher& set) {
    PlanObject& key = set.addLight("key", {0.9, 2.3, 3.7}, {2.6, 1.25, 1.1}, 2380.0, 5600.0);
    key.modifier = "soft box, one layer";
    key.sourceMetres = 0.9;
    key.powerWatts = 200.0;
    key.circuitId = "circuit-1";
    PlanObject& fill = set.addLight("fill", {4.9, 1.9, 4.2}, {2.7, 1.25, 1.1}, 1250.0, 5600.0);
    fill.modifier = "soft box, one layer";
    fill.sourceMetres = 1.2;
    fill.powerWatts = 100.0;
    fill.circuitId = "circuit-1";
    PlanObject& lamp = set.addLight("bench lamp", {3.62, 1.34, 0.4}, {3.62, 1.0, 0.6}, 3.0, 2900.0);
    lamp.lightType = "practical lamp";
    lamp.mount = "table";
    lamp.sourceMetres = 0.30;
    lamp.beamDegrees = 180.0;
    lamp.powerWatts = 8.0;
    lamp.circuitId = "circuit-1";
}

rig::Camera demoCamera(std::size_t kind, const char* id, const char* role, const rig::Lens& lens) {
    rig::Camera camera;
    camera.id = id;
    camera.role = role;
    rig::applyBodyKind(camera, rig::bodyKinds()[kind]);
    rig::applyLens(camera, lens);
    camera.simulated = rig::SimulatedBody{};
    return camera;
}

void setCamera(rig::Camera& camera, double iso, double fNumber, double kelvin, double tint) {
    camera.settings.isoValue = iso;
    camera.settings.fNumber = fNumber;
    camera.settings.whiteBalanceKelvin = kelvin;
    camera.settings.tintSteps = tint;
    rig::snapSettings(camera);
}

/// Contrast and colour as the menus of such bodies have them, from −5 to +5.
void setLook(rig::Camera& camera, double contrast, double saturation) {
    std::vector<double> steps;
    for (int step = -5; step <= 5; ++step) steps.push_back(step);
    camera.sheet.knobs = {{"contrast", rig::KnobKind::Contrast, steps, 0.05},
                          {"saturation", rig::KnobKind::Saturation, steps, 0.08}};
    camera.settings.knobs = {{"contrast", contrast}, {"saturation", saturation}};
}

colour::TransferCurve standardCurve(double bend, double pedestal) {
    colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Standard);
    curve.standard = {bend, pedestal};
    return curve;
}

}  // namespace

SetPlan clockBenchPlan() {
    SetPlan plan;
    plan.widthMetres = 5.2;
    plan.depthMetres = 5.4;
    plan.heightMetres = 2.7;
    plan.wallReflectance = 0.20;
    plan.ceilingReflectance = 0.5;
    plan.floorReflectance = 0.09;
    plan.circuits = {{"circuit-1", "Workshop sockets", 230.0, 10.0, 0.0, {}}};
    plan.lenses = {{24.0, 24.0, 2.8},
                   {25.0, 25.0, 1.7},
                   {35.0, 35.0, 1.8},
                   {50.0, 50.0, 1.8},
                   {85.0, 85.0, 1.8}};
    Furnisher set(plan);
    set.addPerson("restorer", {2.14, 1.37, 1.00}, 24.0, 0.29);
    set.addPerson("apprentice", {3.06, 1.33, 1.02}, -24.0, 0.085);
    plan.objects[0].headMetres = plan.objects[1].headMetres = 0.24;
    plan.objects[0].hasGlasses = plan.objects[0].hasRaisedHands = true;
    plan.objects[0].looksToLens = plan.objects[1].looksToLens = true;
    set.addBox(PlanKind::Table, "workbench", {2.6, 0.0, 1.65}, {2.0, 0.79, 0.74}, 0.16, "wood");
    set.addBox(
        PlanKind::Table, "lamp table", {3.64, 0.0, 0.39}, {0.64, 0.84, 0.38}, 0.06, "dark wood");
    set.addBox(PlanKind::Prop,
               "bench lamp's foot",
               {3.62, 0.85, 0.4},
               {0.18, 0.4, 0.18},
               0.1,
               "lamp stand");
    set.addBox(PlanKind::Prop, "shelf", {2.6, 1.28, 0.13}, {0.72, 0.22, 0.22}, 0.06, "clock cases");
    set.addBox(
        PlanKind::Prop, "movement", {2.6, 0.79, 1.78}, {0.5, 0.045, 0.2}, 0.3, "clock movement");
    PlanObject& window = set.add(PlanKind::Window, "window", {1.30, 1.18, 0.0});
    window.widthMetres = 0.66;
    window.tallMetres = 0.80;
    window.luxAtGlass = 900.0;
    window.filmStops = 3.0;
    window.kelvin = 6500.0;
    addLights(set);
    PlanObject& chart = set.add(PlanKind::Chart, "chart", {2.62, 1.14, 1.70});
    chart.widthMetres = 0.29;
    chart.leanDegrees = 30.0;
    set.addCamera("camera-1", "wide front", {2.6, 1.42, 4.7}, {2.6, 1.10, 1.2}, "wide two-shot");
    set.addCamera(
        "camera-2", "restorer close", {3.32, 1.40, 3.8}, {2.33, 1.26, 1.2}, "medium close");
    set.addCamera(
        "camera-3", "apprentice close", {1.88, 1.40, 3.8}, {2.89, 1.22, 1.2}, "medium close");
    set.addCamera("camera-4", "bench top-down", {2.6, 2.35, 2.32}, {2.6, 0.92, 1.73}, "top-down");
    PlanObject* prompted = rig::findPlanCamera(plan, "camera-2");
    prompted->glass = "prompter";
    prompted->glassStops = 0.67;
    return plan;
}

rig::Rig clockBenchRig() {
    rig::Rig rig;
    rig.name = "Clock bench";
    rig::Camera a = demoCamera(0, "camera-1", "wide front", {"50 mm f/1.8", 50.0, 1.8, 22.0});
    setCamera(a, 640.0, 2.8, 5600.0, 0.0);
    setLook(a, 0.0, 0.0);
    a.simulated->curve = standardCurve(0.16, 0.0);
    a.simulated->distortion = -0.008;
    a.simulated->bitDepth = 10;
    a.simulated->noiseAtBase = 0.0015;
    a.simulated->warmthMired = 2.0;
    a.simulated->sensitivityStops = 0.12;

    rig::Camera b = demoCamera(1, "camera-2", "restorer close", {"50 mm f/1.8", 50.0, 1.8, 16.0});
    setCamera(b, 800.0, 2.8, 5400.0, 0.0);
    setLook(b, -2.0, -1.0);  // somebody made it flatter, for later
    b.simulated->curve = standardCurve(0.20, 0.0);
    b.simulated->glassStops = 0.17;  // the prompter takes more than its maker says
    b.simulated->warmthMired = 9.0;
    b.simulated->tintDuv = 0.0008;
    b.simulated->tintDuvPerStep = 0.0014;
    b.simulated->noiseAtBase = 0.0015;
    b.simulated->saturation = 1.03;

    rig::Camera c = demoCamera(1, "camera-3", "apprentice close", {"50 mm f/1.8", 50.0, 1.8, 16.0});
    setCamera(c, 800.0, 2.8, 5600.0, 0.0);
    setLook(c, 1.0, 2.0);  // and this one punchier
    c.simulated->curve = standardCurve(0.20, 0.0);
    c.simulated->warmthMired = -7.0;
    c.simulated->tintDuv = -0.0052;
    c.simulated->tintDuvPerStep = 0.0017;
    c.simulated->sensitivityStops = 0.10;
    c.simulated->noiseAtBase = 0.0015;
    c.simulated->saturation = 1.02;
    c.simulated->repeatEvery = 12;  // its chain stutters

    rig::Camera d = demoCamera(2, "camera-4", "bench top-down", {"25 mm f/1.7", 25.0, 1.7, 22.0});
    setCamera(d, 800.0, 2.8, 4800.0, 0.0);
    d.settings.isAutoExposure = true;
    d.settings.isAutoWhiteBalance = true;
    d.simulated->curve = standardCurve(0.22, -0.005);
    d.simulated->distortion = -0.006;
    d.simulated->warmthMired = 4.0;
    d.simulated->tintDuv = 0.0010;
    d.simulated->saturation = 1.06;
    d.simulated->crosstalk = 0.03;
    d.simulated->noiseAtBase = 0.0016;

    rig.cameras = {a, b, c, d};
    rig.plan = clockBenchPlan();
    rig.choices.daylight = "daylight";
    rig.choices.largestZoom = 1.0;
    rig::giveLetters(rig);
    return rig;
}

}  // namespace rigmatch::sim
