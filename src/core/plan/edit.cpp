// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/edit.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/constants.h"
#include "rig/plan_fields.h"

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

constexpr double kEyesBelowTop = 1.0 / 3.0;

bool isOnWall(PlanKind kind) { return kind == PlanKind::Window || kind == PlanKind::Door; }

/// Onto the nearest wall, facing into the room.
void hangOnWall(const SetPlan& plan, PlanObject& object, double x, double z) {
    const std::array<double, 4> away{z, plan.depthMetres - z, x, plan.widthMetres - x};
    const auto nearest = std::min_element(away.begin(), away.end()) - away.begin();
    constexpr std::array<double, 4> kFacing{0.0, 180.0, 90.0, -90.0};
    object.facingDegrees = kFacing.at(static_cast<std::size_t>(nearest));
    object.xMetres = nearest == 2 ? 0.0 : nearest == 3 ? plan.widthMetres : x;
    object.zMetres = nearest == 0 ? 0.0 : nearest == 1 ? plan.depthMetres : z;
}

void sizeObject(PlanObject& object) {
    const auto size = [&](double width, double depth, double tall, double height) {
        object.widthMetres = width;
        object.depthMetres = depth;
        object.tallMetres = tall;
        object.heightMetres = height;
    };
    switch (object.kind) {
        case PlanKind::Person:
            object.heightMetres = 1.20;
            break;
        case PlanKind::Camera:
            object.heightMetres = 1.25;
            break;
        case PlanKind::Light:
            object.heightMetres = 1.9;
            break;
        case PlanKind::Window:
            size(1.2, 0.02, 1.3, 0.9);
            object.kelvin = 6500.0;
            break;
        case PlanKind::Door:
            size(0.9, 0.04, 2.0, 0.0);
            object.reflectance = 0.4;
            break;
        case PlanKind::Table:
            size(1.4, 0.7, 0.74, 0.0);
            object.look = "wood";
            break;
        case PlanKind::Riser:
            size(2.0, 1.0, 0.2, 0.0);
            object.look = "dark wood";
            break;
        case PlanKind::Backdrop:
            size(2.7, 0.02, 2.2, 0.0);
            break;
        case PlanKind::Prop:
            size(0.3, 0.3, 0.3, 0.75);
            break;
        case PlanKind::Flag:
            size(0.6, 0.01, 0.9, 1.2);
            object.reflectance = 0.03;
            break;
        case PlanKind::Bounce:
            size(1.0, 0.01, 1.0, 0.8);
            object.reflectance = 0.85;
            break;
        case PlanKind::Chart:
            size(0.29, 0.01, 0.2, 1.15);
            break;
    }
}

std::string titleOf(const SetPlan& plan, PlanKind kind) {
    std::string title = rig::kindName(kind);
    title[0] = static_cast<char>(title[0] - 'a' + 'A');
    const auto count = objectsOf(plan, kind).size();
    return count == 0 ? title : title + " " + std::to_string(count + 1);
}

void shiftFollowers(SetPlan& plan, const std::string& id, double dx, double dy, double dz) {
    for (PlanObject& object : plan.objects) {
        if (object.targetId != id || object.id == id) continue;
        object.aimXMetres += dx;
        object.aimHeightMetres += dy;
        object.aimZMetres += dz;
    }
}

}  // namespace

PlanObject newObject(const SetPlan& plan, PlanKind kind, double xMetres, double zMetres) {
    PlanObject object;
    object.kind = kind;
    object.id = rig::freshObjectId(plan, kind);
    object.name = titleOf(plan, kind);
    sizeObject(object);
    object.heightMetres = std::min(object.heightMetres, plan.heightMetres - object.tallMetres);
    object.xMetres = std::clamp(xMetres, 0.0, plan.widthMetres);
    object.zMetres = std::clamp(zMetres, 0.0, plan.depthMetres);
    if (isOnWall(kind)) hangOnWall(plan, object, object.xMetres, object.zMetres);
    if (kind == PlanKind::Camera || kind == PlanKind::Light) {
        object.aimXMetres = 0.5 * plan.widthMetres;
        object.aimZMetres = 0.35 * plan.depthMetres;
        object.aimHeightMetres = 1.2;
        const double away =
            std::hypot(object.aimXMetres - object.xMetres, object.aimZMetres - object.zMetres);
        if (away < 0.1) object.aimZMetres = std::max(0.0, object.zMetres - 0.5);
        if (kind == PlanKind::Light && !plan.circuits.empty()) {
            object.circuitId = plan.circuits.front().id;
        }
    }
    return rig::withOwnFields(object);
}

void moveObject(SetPlan& plan, const std::string& id, double xMetres, double zMetres) {
    PlanObject* object = rig::findObject(plan, id);
    if (object == nullptr) return;
    const double x = std::clamp(xMetres, 0.0, plan.widthMetres);
    const double z = std::clamp(zMetres, 0.0, plan.depthMetres);
    const double fromX = object->xMetres;
    const double fromZ = object->zMetres;
    if (isOnWall(object->kind)) {
        hangOnWall(plan, *object, x, z);
    } else {
        object->xMetres = x;
        object->zMetres = z;
    }
    shiftFollowers(plan, id, object->xMetres - fromX, 0.0, object->zMetres - fromZ);
}

void raiseObject(SetPlan& plan, const std::string& id, double heightMetres) {
    PlanObject* object = rig::findObject(plan, id);
    if (object == nullptr) return;
    const double from = object->heightMetres;
    object->heightMetres = std::clamp(heightMetres, 0.0, plan.heightMetres);
    shiftFollowers(plan, id, 0.0, object->heightMetres - from, 0.0);
}

void aimObject(SetPlan& plan, const std::string& id, double xMetres, double zMetres) {
    PlanObject* object = rig::findObject(plan, id);
    if (object == nullptr) return;
    object->aimXMetres = xMetres;
    object->aimZMetres = zMetres;
    object->targetId.clear();
}

void aimAtPerson(SetPlan& plan,
                 const rig::Camera* camera,
                 const std::string& id,
                 const std::string& personId) {
    PlanObject* object = rig::findObject(plan, id);
    const PlanObject* person = rig::findObject(plan, personId);
    if (object == nullptr || person == nullptr) return;
    object->targetId = personId;
    const Vec eyes = headOf(*person).eyes;
    object->aimXMetres = eyes.x();
    object->aimZMetres = eyes.z();
    object->aimHeightMetres = eyes.y();
    if (camera == nullptr) return;
    const auto view = CameraView::of(plan, *camera, *object);
    if (!view) return;
    const double distance = (eyes - view->position()).norm();
    object->aimHeightMetres = eyes.y() - (0.5 - kEyesBelowTop) * view->heightAt(distance);
}

void turnCamera(SetPlan& plan, const std::string& id, const TripodTurn& turn) {
    constexpr double kNearest = 0.3;  // m, from the lens to what it is aimed at
    PlanObject* camera = rig::findObject(plan, id);
    if (camera == nullptr) return;
    const Vec place = placeOf(*camera), axis = aimOf(*camera) - place;
    const double away = axis.norm();
    if (away < 0.01) return;
    const Vec forward = axis / away;
    const Vec across = forward.cross(Vec::UnitY());
    Vec way = forward;
    // Straight down there is no right: the head of the tripod turns about its post alone.
    if (across.norm() > 1e-6)
        way = Eigen::AngleAxisd(turn.tiltDegrees * base::kRadiansPerDegree, across.normalized()) *
              way;
    way = Eigen::AngleAxisd(-turn.panDegrees * base::kRadiansPerDegree, Vec::UnitY()) * way;
    const double nearer = std::min(turn.nearerMetres, away - kNearest);
    const Vec stand = place + nearer * forward;
    const Vec aim = stand + (away - nearer) * way;
    camera->xMetres = stand.x();
    camera->zMetres = stand.z();
    camera->heightMetres = stand.y();
    camera->aimXMetres = aim.x();
    camera->aimHeightMetres = aim.y();
    camera->aimZMetres = aim.z();
    // A camera that is turned clockwise turns what it shows the other way.
    camera->rollDegrees -= turn.rollDegrees;
}

double snapped(const SetPlan& plan, double metres) {
    const double step = plan.isInFeet ? 2.0 * 0.0254 : 0.05;
    return std::round(metres / step) * step;
}

std::vector<std::string> duplicateObjects(SetPlan& plan, const std::vector<std::string>& ids) {
    std::vector<std::string> copies;
    for (const std::string& id : ids) {
        const PlanObject* object = rig::findObject(plan, id);
        if (object == nullptr || object->kind == PlanKind::Camera) continue;
        PlanObject copy = *object;
        copy.id = rig::freshObjectId(plan, copy.kind);
        copy.name += " copy";
        copies.push_back(copy.id);
        plan.objects.push_back(copy);
        moveObject(plan, copies.back(), copy.xMetres + 0.3, copy.zMetres);
    }
    return copies;
}

void removeObject(SetPlan& plan, const std::string& id) {
    std::erase_if(plan.objects, [&](const PlanObject& object) { return object.id == id; });
    for (PlanObject& object : plan.objects) {
        if (object.targetId == id) object.targetId.clear();
    }
}

void alignObjects(SetPlan& plan, const std::vector<std::string>& ids, Alignment alignment) {
    if (ids.size() < 2) return;
    const PlanObject* found = rig::findObject(plan, ids.front());
    if (found == nullptr) return;
    const PlanObject first = *found;
    double middle = 0.5 * plan.widthMetres;
    if (const auto people = objectsOf(plan, PlanKind::Person); people.size() >= 2) {
        middle = 0.5 * (people[0]->xMetres + people[1]->xMetres);
    }
    for (std::size_t i = 1; i < ids.size(); ++i) {
        PlanObject* object = rig::findObject(plan, ids[i]);
        if (object == nullptr) continue;
        switch (alignment) {
            case Alignment::X:
                moveObject(plan, object->id, first.xMetres, object->zMetres);
                break;
            case Alignment::Z:
                moveObject(plan, object->id, object->xMetres, first.zMetres);
                break;
            case Alignment::Height:
                raiseObject(plan, object->id, first.heightMetres);
                break;
            case Alignment::Mirror:
                moveObject(plan, object->id, 2.0 * middle - first.xMetres, first.zMetres);
                raiseObject(plan, object->id, first.heightMetres);
                object->aimXMetres = 2.0 * middle - first.aimXMetres;
                object->aimZMetres = first.aimZMetres;
                object->aimHeightMetres = first.aimHeightMetres;
                object->facingDegrees = -first.facingDegrees;
                break;
        }
    }
}

}  // namespace rigmatch::plan
