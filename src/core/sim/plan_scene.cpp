// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/plan_scene.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "plan/analysis.h"
#include "sim/props.h"
#include "sim/stand_in.h"

namespace rigmatch::sim {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

constexpr double kWall = 0.12;

Material grey(double reflectance, Surface surface = Surface::Plain) {
    return {Vec::Constant(reflectance), 0.0, {0, 0, 0}, surface};
}

void addRoom(const SetPlan& plan, Scene& scene) {
    const double w = plan.widthMetres;
    const double d = plan.depthMetres;
    const double h = plan.heightMetres;
    const Material wall = grey(plan.wallReflectance, Surface::Plaster);
    Material floor = grey(plan.floorReflectance, Surface::Wood);
    floor.albedo = plan.floorReflectance * Vec(1.21, 0.97, 0.79);
    scene.boxes.push_back({{-kWall, -kWall, -kWall}, {w + kWall, 0, d + kWall}, floor});
    scene.boxes.push_back(
        {{-kWall, h, -kWall}, {w + kWall, h + kWall, d + kWall}, grey(plan.ceilingReflectance)});
    scene.boxes.push_back({{-kWall, 0, -kWall}, {w + kWall, h, 0}, wall});
    scene.boxes.push_back({{-kWall, 0, d}, {w + kWall, h, d + kWall}, wall});
    scene.boxes.push_back({{-kWall, 0, 0}, {0, h, d}, wall});
    scene.boxes.push_back({{w, 0, 0}, {w + kWall, h, d}, wall});
}

Box boxOf(const PlanObject& object, double depth, const Material& material, bool isShadowing) {
    const Vec half(0.5 * object.widthMetres, 0.0, 0.5 * depth);
    const Vec middle(object.xMetres, 0.0, object.zMetres);
    return {middle - half + Vec(0, object.heightMetres, 0),
            middle + half + Vec(0, object.heightMetres + object.tallMetres, 0),
            material,
            isShadowing,
            object.facingDegrees};
}

/// The light source of an object as the renderer knows it, from the plan's own model.
Lamp lampOf(const SetPlan& plan, const plan::Source& source) {
    Lamp lamp;
    lamp.position = source.position;
    lamp.axis = source.axis;
    lamp.halfBeamDegrees = source.halfBeamDegrees;
    lamp.isAllRound = source.isAllRound;
    lamp.radius = source.radiusMetres;
    lamp.lightAtOneMetre = source.candela / kNominalLux * source.colour;
    const PlanObject* object = rig::findObject(plan, source.objectId);
    if (object != nullptr && object->kind != PlanKind::Light) {
        lamp.paneAcross =
            0.5 * object->widthMetres * plan::facingVector(object->facingDegrees + 90.0);
        lamp.paneUp = Vec(0, 0.5 * object->tallMetres, 0);
    }
    return lamp;
}

/// Lamp head and stand: seen, but they cast no shadow of their own.
void addFixture(const PlanObject& light, const plan::Source* source, Scene& scene) {
    Group fixture;
    fixture.isShadowing = false;
    const Vec place = plan::placeOf(light);
    const double radius = 0.5 * light.sourceMetres;
    Material shell{{0.04, 0.04, 0.04}, 0.1, {0, 0, 0}, Surface::Plain};
    if (source != nullptr) {
        // Luminance of the disc, I / (pi r²), as linear light.
        const double glow = source->candela / (radius * radius * kNominalLux);
        shell.glow = std::min(glow, 8.0) * source->colour;
    }
    const Vec axis = (plan::aimOf(light) - place).normalized();
    const bool isRound = light.lightType == "practical lamp" || light.modifier == "lantern";
    fixture.parts.push_back(
        {place, {radius, radius, isRound ? radius : 0.25 * radius}, plan::facingOf(axis), shell});
    scene.groups.push_back(fixture);
    if (light.mount != "stand") return;
    Group stand;
    stand.isShadowing = false;
    const Material metal{{0.05, 0.05, 0.05}, 0.3, {0, 0, 0}, Surface::Plain};
    const double top = std::max(0.05, light.heightMetres - radius);
    stand.parts.push_back(
        {{place.x(), 0.5 * top, place.z()}, {0.018, 0.5 * top, 0.018}, 0.0, metal});
    scene.groups.push_back(stand);
}

/// Body and tripod behind the front of the lens.
void addCameraBody(const PlanObject& camera, Scene& scene) {
    Group body;
    body.isShadowing = false;
    const Material black{{0.03, 0.03, 0.03}, 0.2, {0, 0, 0}, Surface::Plain};
    const Vec place = plan::placeOf(camera);
    const Vec axis = (plan::aimOf(camera) - place).normalized();
    const double yaw = plan::facingOf(axis);
    body.parts.push_back({place - 0.10 * axis, {0.045, 0.045, 0.09}, yaw, black});
    body.parts.push_back({place - 0.22 * axis, {0.075, 0.06, 0.06}, yaw, black});
    const bool isOverhead = axis.y() < -0.7;
    if (!isOverhead) {
        const Vec foot = place - 0.20 * axis;
        const double top = std::max(0.05, foot.y() - 0.06);
        body.parts.push_back(
            {{foot.x(), 0.5 * top, foot.z()}, {0.022, 0.5 * top, 0.022}, 0.0, black});
    }
    scene.groups.push_back(body);
}

void addWindow(const PlanObject& window, Scene& scene) {
    Material pane = grey(0.1);
    if (!window.isBlackedOut) {
        pane.glow = window.luxAtGlass * std::exp2(-window.filmStops) / kNominalLux *
                    plan::lightColour(window.kelvin, 0.0);
    }
    // Four panes with bars between: a little before the wall.
    for (int column = 0; column < 2; ++column) {
        for (int row = 0; row < 2; ++row) {
            PlanObject part = window;
            const double shift = (column == 0 ? -0.25 : 0.25) * window.widthMetres;
            const Vec across = plan::facingVector(window.facingDegrees + 90.0);
            part.xMetres += shift * across.x();
            part.zMetres += shift * across.z();
            part.widthMetres = 0.47 * window.widthMetres;
            part.tallMetres = 0.47 * window.tallMetres;
            part.heightMetres += (0.015 + 0.5 * row) * window.tallMetres;
            scene.boxes.push_back(boxOf(part, 0.02, pane, false));
        }
    }
}

void addObject(const PlanObject& object,
               const plan::LightField& field,
               std::size_t person,
               Scene& scene) {
    switch (object.kind) {
        case PlanKind::Person:
            addStandIn(object, person, scene);
            break;
        case PlanKind::Camera:
            addCameraBody(object, scene);
            break;
        case PlanKind::Light:
            addFixture(object, field.sourceOf(object.id), scene);
            break;
        case PlanKind::Window:
            addWindow(object, scene);
            break;
        case PlanKind::Door:
            scene.boxes.push_back(boxOf(object, 0.04, grey(object.reflectance), false));
            break;
        case PlanKind::Flag:
            scene.boxes.push_back(boxOf(object, 0.01, grey(0.02), true));
            break;
        case PlanKind::Bounce:
            scene.boxes.push_back(boxOf(object, 0.01, grey(object.reflectance), true));
            break;
        case PlanKind::Chart:
            break;
        default:
            addFurniture(object, scene);
            break;
    }
}

}  // namespace

Scene sceneOf(const SetPlan& plan) {
    const plan::LightField field(plan);
    Scene scene;
    addRoom(plan, scene);
    std::size_t people = 0;
    for (const PlanObject& object : plan.objects) {
        addObject(object, field, people, scene);
        if (object.kind == PlanKind::Person) ++people;
    }
    for (const plan::Source& source : field.sources()) scene.lamps.push_back(lampOf(plan, source));
    scene.ambient = field.roomLux() / kNominalLux * field.roomColour();
    return scene;
}

std::optional<View> planView(const rig::Rig& rig, const rig::Camera& camera) {
    if (!rig.plan) return std::nullopt;
    const PlanObject* place = rig::findPlanCamera(*rig.plan, camera.id);
    if (place == nullptr) return std::nullopt;
    const auto seen = plan::CameraView::of(*rig.plan, camera, *place);
    if (!seen) return std::nullopt;
    View view;
    view.position = seen->position();
    view.aim = plan::aimOf(*place);
    view.rollDegrees = place->rollDegrees;
    view.horizontalViewDegrees = seen->horizontalDegrees();
    view.width = camera.settings.width;
    view.height = camera.settings.height;
    view.glass.focusMetres = seen->focusMetres();
    return view;
}

namespace {

/// Focuses a body at its own distance, or where the plan has it look. A plain lens that is focused
/// nearer stands farther from its sensor and sees less: by s' = f s / (s − f), sources 3.2.
void focusWhere(double planned, rig::Camera& camera) {
    rig::SimulatedBody& body = *camera.simulated;
    if (body.focusMetres <= 0.0) {
        body.focusMetres = planned;
        return;
    }
    const double focal = 1e-3 * camera.lens.focalLengthMm;
    const auto seen = [focal](double metres) {
        return 1.0 - focal / std::max(metres, 2.0 * focal);
    };
    const double plain = seen(body.focusMetres) / seen(planned);
    const double half = std::tan(0.5 * body.horizontalViewDegrees * base::kRadiansPerDegree);
    body.horizontalViewDegrees =
        2.0 / base::kRadiansPerDegree * std::atan(half * (1.0 + body.breathing * (plain - 1.0)));
}

}  // namespace

rig::Rig placedRig(const rig::Rig& rig) {
    rig::Rig placed = rig;
    for (rig::Camera& camera : placed.cameras) {
        if (!camera.simulated) continue;
        const auto view = planView(rig, camera);
        if (!view) continue;
        camera.simulated->position = {view->position.x(), view->position.y(), view->position.z()};
        camera.simulated->aim = {view->aim.x(), view->aim.y(), view->aim.z()};
        camera.simulated->rollDegrees = view->rollDegrees;
        camera.simulated->horizontalViewDegrees = view->horizontalViewDegrees;
        focusWhere(view->glass.focusMetres, camera);
        camera.simulated->glassStops += plan::glassLossStops(rig, camera);
    }
    return placed;
}

std::optional<ChartPlace> chartPlace(const SetPlan& plan, double seconds, double length) {
    constexpr double kEnter = 0.05, kStillFrom = 0.22, kStillTo = 0.78, kLeave = 0.95;
    const double share = seconds / length;
    if (share < kEnter || share > kLeave) return std::nullopt;
    double away = 0.0;  // 0 in place, 1 out of the set
    if (share < kStillFrom) away = 1.0 - (share - kEnter) / (kStillFrom - kEnter);
    if (share > kStillTo) away = (share - kStillTo) / (kLeave - kStillTo);
    away = away * away * (3.0 - 2.0 * away);
    PlanObject chart;
    chart.widthMetres = 0.29;
    chart.leanDegrees = 20.0;
    const auto charts = plan::objectsOf(plan, PlanKind::Chart);
    if (!charts.empty()) {
        chart = *charts.front();
    } else {
        const auto people = plan::objectsOf(plan, PlanKind::Person);
        Vec middle(0.5 * plan.widthMetres, 1.1, 0.4 * plan.depthMetres);
        if (!people.empty()) {
            middle = Vec::Zero();
            for (const PlanObject* person : people) {
                middle +=
                    (plan::placeOf(*person) + 0.45 * plan::facingVector(person->facingDegrees)) /
                    static_cast<double>(people.size());
            }
        }
        chart.xMetres = middle.x();
        chart.zMetres = middle.z();
        chart.heightMetres = middle.y() - 0.1;
    }
    const double tip = (chart.leanDegrees + 14.0 * away) * std::numbers::pi / 180.0;
    const double lean = 0.22 * away;
    const Vec right = plan::facingVector(chart.facingDegrees + 90.0);
    const Vec front = plan::facingVector(chart.facingDegrees);
    const Vec centre =
        plan::placeOf(chart) + away * (1.35 * right - 0.18 * Vec::UnitY() + 0.12 * front);
    const Vec across = std::cos(lean) * right - std::sin(lean) * Vec::UnitY();
    Vec down = -std::cos(tip) * Vec::UnitY() + std::sin(tip) * front;
    down = (down - down.dot(across) * across).normalized();
    const Vec halfAcross = 0.5 * chart.widthMetres * across;  // 5.86 by 3.86 patch steps
    const Vec halfDown = 0.5 * chart.widthMetres * 3.86 / 5.86 * down;
    return ChartPlace{{centre - halfAcross - halfDown,
                       centre + halfAcross - halfDown,
                       centre + halfAcross + halfDown,
                       centre - halfAcross + halfDown},
                      down.cross(across).normalized()};
}

}  // namespace rigmatch::sim
