// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/stand_in.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>

#include "plan/geometry.h"

namespace rigmatch::sim {
namespace {

Material matte(const Vec& albedo, double gloss = 0.0, Surface surface = Surface::Plain) {
    return {albedo, gloss, {0, 0, 0}, surface};
}

struct Clothes {
    Vec hair, shirt, apron;
};
const std::array<Clothes, 4> kClothes{
    Clothes{{0.23, 0.22, 0.21}, {0.20, 0.25, 0.32}, {0.075, 0.085, 0.07}},
    Clothes{{0.018, 0.014, 0.012}, {0.36, 0.33, 0.27}, {0.20, 0.075, 0.05}},
    Clothes{{0.09, 0.045, 0.02}, {0.10, 0.16, 0.13}, {0.28, 0.27, 0.25}},
    Clothes{{0.30, 0.20, 0.10}, {0.06, 0.06, 0.07}, {0.06, 0.06, 0.07}}};

/// Adds parts whose places are given in the person's own axes, from the middle of the head: x to
/// its left, y up, z out of the face.
class Builder {
public:
    Builder(const plan::Head& head, double yawDegrees, double scale, std::vector<Ellipsoid>& parts)
        : m_head(head), m_yaw(yawDegrees), m_scale(scale), m_parts(parts) {}

    void add(const Vec& place, const Vec& radii, const Material& material) {
        const Vec at =
            m_head.centre + m_scale * (place.x() * m_head.left + place.y() * Vec::UnitY() +
                                       place.z() * m_head.forward);
        m_parts.push_back({at, m_scale * radii, m_yaw, material});
    }
    void addPair(const Vec& place, const Vec& radii, const Material& material) {
        add(place, radii, material);
        add({-place.x(), place.y(), place.z()}, radii, material);
    }

private:
    plan::Head m_head;
    double m_yaw;
    double m_scale;
    std::vector<Ellipsoid>& m_parts;
};

void addHead(Builder& head, const Vec& skinAlbedo, const Vec& hairAlbedo, bool hasGlasses) {
    const Material skin = matte(skinAlbedo, 0.05);
    const Material hair = matte(hairAlbedo, 0.1);
    const Material lips = matte(skinAlbedo.cwiseProduct(Vec(0.75, 0.5, 0.5)), 0.05);
    const Material shadowed = matte(skinAlbedo.cwiseProduct(Vec(0.62, 0.55, 0.52)));
    head.add({0, 0.03, -0.012}, {0.077, 0.100, 0.094}, skin);           // cranium
    head.add({0, -0.048, 0.016}, {0.062, 0.070, 0.070}, skin);          // jaw
    head.add({0, -0.098, 0.058}, {0.026, 0.018, 0.022}, skin);          // chin
    head.addPair({0.040, -0.024, 0.058}, {0.026, 0.024, 0.022}, skin);  // cheekbones
    head.addPair({0.048, -0.046, 0.026}, {0.024, 0.048, 0.044}, skin);  // cheeks and jawbone
    head.addPair({0.050, -0.030, -0.010}, {0.024, 0.060, 0.040}, skin);
    head.add({0, -0.060, 0.060}, {0.034, 0.030, 0.024}, skin);   // about the mouth
    head.add({0, 0.014, 0.078}, {0.011, 0.024, 0.016}, skin);    // root of the nose
    head.add({0, 0.034, 0.062}, {0.050, 0.014, 0.022}, skin);    // brow ridge
    head.add({0, -0.014, 0.086}, {0.0125, 0.030, 0.020}, skin);  // nose bridge
    head.add({0, -0.034, 0.096}, {0.019, 0.013, 0.016}, skin);   // nose tip
    head.addPair({0.031, 0.010, 0.068}, {0.018, 0.011, 0.012}, shadowed);
    head.addPair({0.031, 0.010, 0.077}, {0.0125, 0.0062, 0.0072}, matte({0.72, 0.72, 0.70}, 0.25));
    head.addPair({0.031, 0.010, 0.0815}, {0.0055, 0.0055, 0.0036}, matte({0.05, 0.035, 0.03}, 0.3));
    head.addPair({0.032, 0.031, 0.076}, {0.021, 0.0042, 0.011}, hair);  // brows
    head.add({0, -0.068, 0.078}, {0.025, 0.0072, 0.010}, lips);
    head.addPair({0.078, 0.000, -0.010}, {0.010, 0.030, 0.018}, skin);  // ears
    head.add({0, 0.060, -0.032}, {0.083, 0.084, 0.089}, hair);
    head.add({0, 0.105, 0.024}, {0.060, 0.030, 0.052}, hair);    // fringe
    head.add({0, -0.135, -0.020}, {0.052, 0.080, 0.050}, skin);  // neck
    if (!hasGlasses) return;
    const Material frame = matte({0.02, 0.02, 0.02}, 0.4);
    head.addPair({0.032, 0.022, 0.094}, {0.023, 0.0028, 0.0022}, frame);
    head.addPair({0.032, -0.008, 0.092}, {0.021, 0.0022, 0.0022}, frame);
    head.add({0, 0.015, 0.098}, {0.010, 0.0026, 0.0022}, frame);
}

void addBody(Builder& body, const Clothes& clothes, const Vec& skinAlbedo) {
    const Material shirt = matte(clothes.shirt, 0.0, Surface::Cloth);
    const Material apron = matte(clothes.apron, 0.0, Surface::Cloth);
    const Material skin = matte(skinAlbedo, 0.05);
    body.add({0, -0.42, -0.05}, {0.20, 0.27, 0.125}, shirt);
    body.add({0, -0.27, -0.05}, {0.225, 0.085, 0.105}, shirt);
    body.add({0, -0.52, -0.005}, {0.135, 0.24, 0.10}, apron);
    body.addPair({0.25, -0.46, -0.01}, {0.062, 0.19, 0.068}, shirt);
    body.addPair({0.21, -0.62, 0.15}, {0.052, 0.052, 0.17}, shirt);
    body.addPair({0.18, -0.63, 0.35}, {0.042, 0.030, 0.065}, skin);
}

/// Legs down to the floor, or thighs on a chair.
void addLegs(Builder& body, double floorDown, bool isStanding) {
    const Material cloth = matte({0.05, 0.055, 0.065}, 0.0, Surface::Cloth);
    if (isStanding) {
        const double half = 0.5 * std::max(0.2, floorDown - 0.62);
        body.addPair({0.095, -floorDown + half, -0.04}, {0.085, half * 1.05, 0.085}, cloth);
        return;
    }
    const double shin = std::max(0.1, floorDown - 0.74);
    body.addPair({0.11, -0.72, 0.16}, {0.085, 0.085, 0.27}, cloth);
    body.addPair({0.11, -0.74 - 0.5 * shin, 0.38}, {0.06, 0.55 * shin, 0.06}, cloth);
    body.add({0, -0.80, 0.02}, {0.24, 0.03, 0.22}, matte({0.07, 0.05, 0.035}));
    body.add({0, -0.80 - 0.5 * (floorDown - 0.8), 0.02},
             {0.03, std::max(0.05, 0.5 * (floorDown - 0.8)), 0.03},
             matte({0.07, 0.07, 0.07}));
}

}  // namespace

Vec skinColour(double reflectance) {
    // Between the two skin patches of the classic chart in hue, scaled to the luminance.
    const Vec light(1.486, 0.895, 0.625);
    const Vec dark(1.63, 0.86, 0.55);
    const double share = std::clamp((reflectance - 0.08) / 0.22, 0.0, 1.0);
    const Vec tint = share * light + (1.0 - share) * dark;
    return reflectance * tint / Vec(0.2126, 0.7152, 0.0722).dot(tint);
}

std::vector<Group> standIn(const rig::PlanObject& person, std::size_t index) {
    const plan::Head head = plan::headOf(person);
    const Clothes& clothes = kClothes.at(index % kClothes.size());
    const Vec skin = skinColour(person.skinReflectance);
    Group headGroup;
    Builder headBuilder(head, person.facingDegrees, head.scale, headGroup.parts);
    addHead(headBuilder, skin, clothes.hair, person.hasGlasses);
    // Bodies keep their size: a seated child still needs a chair, a head in frame needs shoulders.
    const double bodyScale = std::clamp(head.scale, 0.75, 1.1);
    Group bodyGroup;
    Builder body(head, person.facingDegrees, bodyScale, bodyGroup.parts);
    addBody(body, clothes, skin);
    addLegs(body, head.centre.y() / bodyScale, person.isStanding);
    return {headGroup, bodyGroup};
}

}  // namespace rigmatch::sim
