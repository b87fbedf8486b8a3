// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/props.h"

#include <Eigen/Geometry>
#include <array>
#include <cmath>

#include "plan/geometry.h"

namespace rigmatch::sim {
namespace {

using rig::PlanObject;

Material matte(
    double red, double green, double blue, double gloss, Surface surface = Surface::Plain) {
    return {{red, green, blue}, gloss, {0, 0, 0}, surface};
}

/// A clock movement with wheels, and tools beside it, lying on a surface.
void addMovement(const PlanObject& object, Scene& scene) {
    const Vec middle = plan::placeOf(object);
    const double size = object.widthMetres / 0.5;
    const Material brass = matte(0.45, 0.32, 0.11, 0.8);
    const Material steel = matte(0.30, 0.31, 0.33, 0.9);
    Group group;
    const auto add = [&](double x, double y, double z, const Vec& radii, const Material& material) {
        group.parts.push_back({middle + size * Vec(x, y, z), size * radii, 0.0, material});
    };
    add(-0.02, 0.012, 0.0, {0.085, 0.008, 0.085}, brass);
    add(-0.045, 0.025, -0.02, {0.030, 0.006, 0.030}, steel);
    add(0.025, 0.025, 0.02, {0.038, 0.006, 0.038}, matte(0.52, 0.38, 0.15, 0.8));
    add(-0.005, 0.036, -0.025, {0.016, 0.006, 0.016}, matte(0.35, 0.02, 0.04, 0.6));
    add(0.19, 0.010, 0.04, {0.040, 0.004, 0.040}, brass);
    add(0.21, 0.009, -0.07, {0.024, 0.004, 0.024}, steel);
    add(-0.21, 0.010, 0.02, {0.012, 0.006, 0.085}, matte(0.40, 0.10, 0.04, 0.4));
    add(-0.25, 0.010, 0.01, {0.008, 0.005, 0.095}, steel);
    scene.groups.push_back(group);
}

/// A round dial with its rim and hands on the front of a case.
void addDial(const Vec& middle, double radius, double hour, Scene& scene) {
    Group dial;
    const auto add = [&](const Vec& by, const Vec& radii, const Material& material) {
        dial.parts.push_back({middle + by, radii, 0.0, material});
    };
    add({0, 0, 0}, {radius, radius, 0.005}, matte(0.42, 0.30, 0.11, 0.7));
    add({0, 0, 0.003}, {0.86 * radius, 0.86 * radius, 0.005}, matte(0.50, 0.47, 0.40, 0.1));
    const Material steel = matte(0.03, 0.03, 0.04, 0.3);
    const Vec way(std::sin(hour), std::cos(hour), 0.0);
    for (int i = 1; i <= 6; ++i)  // the hour hand, as a row of beads
        add(0.085 * i * radius * way + Vec(0, 0, 0.008), Vec::Constant(0.05 * radius), steel);
    add({0, 0.36 * radius, 0.008}, {0.035 * radius, 0.36 * radius, 0.002}, steel);
    scene.groups.push_back(dial);
}

/// A board with four clock cases on it.
void addCases(const PlanObject& object, Scene& scene) {
    const Vec middle = plan::placeOf(object);
    const Material dark = matte(0.09, 0.055, 0.035, 0.03, Surface::Wood);
    const double half = 0.5 * object.widthMetres;
    const double deep = 0.5 * object.depthMetres;
    scene.boxes.push_back(
        {middle + Vec(-half, 0, -deep), middle + Vec(half, 0.025, deep), dark, true});
    const std::array<Vec, 4> colours{
        Vec(0.21, 0.085, 0.045), {0.055, 0.10, 0.16}, {0.28, 0.19, 0.09}, {0.09, 0.13, 0.10}};
    for (std::size_t i = 0; i < colours.size(); ++i) {
        const double x = -0.83 * half + 0.46 * half * static_cast<double>(i);
        const double tall = 0.145 + 0.03 * static_cast<double>(i % 3);
        scene.boxes.push_back({middle + Vec(x, 0.025, -0.7 * deep),
                               middle + Vec(x + 0.28 * half, 0.025 + tall, 0.4 * deep),
                               {colours[i], 0.1, {0, 0, 0}, Surface::Plain},
                               true});
        addDial(middle + Vec(x + 0.14 * half, 0.025 + 0.62 * tall, 0.4 * deep),
                0.11 * half,
                0.9 + 1.7 * static_cast<double>(i),
                scene);
    }
}

void addLampFoot(const PlanObject& object, Scene& scene) {
    const Vec middle = plan::placeOf(object);
    const Material dark = matte(0.10, 0.09, 0.08, 0.5);
    Group group;
    group.parts.push_back({middle + Vec(0, 0.5 * object.tallMetres, 0),
                           {0.018, 0.5 * object.tallMetres, 0.018},
                           0.0,
                           dark});
    group.parts.push_back({middle + Vec(0, 0.02, 0), {0.09, 0.020, 0.09}, 0.0, dark});
    scene.groups.push_back(group);
}

Material surfaceOf(const PlanObject& object) {
    const double r = object.reflectance;
    if (object.look == "wood") return matte(1.52 * r, 0.92 * r, 0.48 * r, 0.06, Surface::Wood);
    if (object.look == "dark wood") return matte(1.49 * r, 0.91 * r, 0.58 * r, 0.03, Surface::Wood);
    if (object.look == "plaster") return matte(r, r, r, 0.0, Surface::Plaster);
    if (object.look == "cloth") return matte(r, r, r, 0.0, Surface::Cloth);
    return matte(r, r, r, 0.0);
}

}  // namespace

void addFurniture(const PlanObject& object, Scene& scene) {
    if (object.look == "clock movement") return addMovement(object, scene);
    if (object.look == "clock cases") return addCases(object, scene);
    if (object.look == "lamp stand") return addLampFoot(object, scene);
    const Vec half(0.5 * object.widthMetres, 0.0, 0.5 * object.depthMetres);
    const Vec middle(object.xMetres, 0.0, object.zMetres);
    const auto part =
        [&](double from, double to, const Vec& inset, const Material& material, bool shadow) {
            scene.boxes.push_back({middle - half + inset + Vec(0, from, 0),
                                   middle + half - inset + Vec(0, to, 0),
                                   material,
                                   shadow,
                                   object.facingDegrees});
        };
    const double top = object.heightMetres + object.tallMetres;
    const Material material = surfaceOf(object);
    if (object.kind == rig::PlanKind::Table && object.tallMetres > 0.3) {
        Material front = material;
        front.albedo *= 0.4;
        part(top - 0.05, top, Vec::Zero(), material, true);
        part(object.heightMetres, top - 0.05, Vec(0.03, 0.0, 0.04), front, false);
        return;
    }
    part(object.heightMetres, top, Vec::Zero(), material, true);
}

}  // namespace rigmatch::sim
