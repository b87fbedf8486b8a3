// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "plan/edit.h"

namespace rigmatch::plan {

/// Puts things on a plan with their usual sizes and gives them back to be changed. Places are
/// (from left wall, height, from back wall), m.
class Furnisher {
public:
    explicit Furnisher(rig::SetPlan& plan) : m_plan(plan) {}

    rig::PlanObject& add(rig::PlanKind kind, const char* name, const Vec& place) {
        m_plan.objects.push_back(newObject(m_plan, kind, place.x(), place.z()));
        rig::PlanObject& object = m_plan.objects.back();
        object.name = name;
        object.heightMetres = place.y();
        return object;
    }
    rig::PlanObject& addPerson(const char* name, const Vec& eyes, double facing, double skin) {
        rig::PlanObject& person = add(rig::PlanKind::Person, name, eyes);
        person.facingDegrees = facing;
        person.skinReflectance = skin;
        return person;
    }
    rig::PlanObject& addLight(
        const char* name, const Vec& place, const Vec& aim, double lux, double kelvin) {
        rig::PlanObject& light = add(rig::PlanKind::Light, name, place);
        aimAt(light, aim);
        light.luxAtOneMetre = lux;
        light.kelvin = kelvin;
        return light;
    }
    rig::PlanObject& addBox(rig::PlanKind kind,
                            const char* name,
                            const Vec& place,
                            const Vec& size,
                            double reflectance,
                            const char* look) {
        rig::PlanObject& box = add(kind, name, place);
        box.widthMetres = size.x();
        box.tallMetres = size.y();
        box.depthMetres = size.z();
        box.reflectance = reflectance;
        box.look = look;
        return box;
    }
    rig::PlanObject& addCamera(
        const char* id, const char* name, const Vec& place, const Vec& aim, const char* shot) {
        rig::PlanObject& camera = add(rig::PlanKind::Camera, name, place);
        camera.cameraId = id;
        camera.shot = shot;
        aimAt(camera, aim);
        return camera;
    }

private:
    static void aimAt(rig::PlanObject& object, const Vec& aim) {
        object.aimXMetres = aim.x();
        object.aimHeightMetres = aim.y();
        object.aimZMetres = aim.z();
    }

    rig::SetPlan& m_plan;
};

}  // namespace rigmatch::plan
