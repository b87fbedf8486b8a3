// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/stand_in.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/luma.h"
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
    // Fitted until the networks find the face from the front to the side in light and dark skin
    // (bench_face_rates): places and radii in m.
    head.add({0, 0.0300, -0.0114}, {0.0770, 0.1000, 0.0879}, skin);              // cranium
    head.add({0, -0.0478, 0.0178}, {0.0639, 0.0690, 0.0712}, skin);              // jaw
    head.add({0, -0.0982, 0.0606}, {0.0279, 0.0190, 0.0261}, skin);              // chin
    head.addPair({0.0351, -0.0312, 0.0629}, {0.0241, 0.0277, 0.0296}, skin);     // cheekbones
    head.addPair({0.0477, -0.0360, 0.0301}, {0.0209, 0.0530, 0.0503}, skin);     // cheeks
    head.addPair({0.0482, -0.0180, -0.0269}, {0.0189, 0.0584, 0.0360}, skin);    // jawbone
    head.add({0, -0.0621, 0.0674}, {0.0240, 0.0265, 0.0252}, skin);              // about the mouth
    head.add({0, 0.0241, 0.0655}, {0.0095, 0.0230, 0.0142}, skin);               // root of the nose
    head.add({0, 0.0297, 0.0624}, {0.0488, 0.0138, 0.0276}, skin);               // brow ridge
    head.add({0, -0.0095, 0.0790}, {0.0120, 0.0223, 0.0190}, skin);              // nose bridge
    head.add({0, -0.0409, 0.1063}, {0.0170, 0.0120, 0.0174}, skin);              // nose tip
    head.addPair({0.0335, 0.0110, 0.0745}, {0.0194, 0.0105, 0.0117}, shadowed);  // sockets
    head.addPair({0.0320, 0.0100, 0.0823},
                 {0.0135, 0.0062, 0.0062},
                 matte({0.72, 0.72, 0.70}, 0.25));  // eyes
    head.addPair({0.0320, 0.0100, 0.0853},
                 {0.0055, 0.0057, 0.0036},
                 matte({0.05, 0.035, 0.03}, 0.3));                            // pupils
    head.addPair({0.0330, 0.0310, 0.0790}, {0.0195, 0.0042, 0.0110}, hair);   // brows
    head.add({0, -0.0636, 0.0902}, {0.0232, 0.0065, 0.0127}, lips);           // lips
    head.addPair({0.0824, 0.0025, -0.0107}, {0.0099, 0.0268, 0.0200}, skin);  // ears
    head.add({0, 0.0600, -0.0097}, {0.0830, 0.0840, 0.0590}, hair);           // hair
    head.add({0, 0.0600, -0.0320}, {0.0815, 0.0825, 0.0860}, hair);           // back of the head
    head.add({0, 0.1065, 0.0172}, {0.0536, 0.0250, 0.0475}, hair);            // fringe
    head.add({0, -0.1350, -0.0361}, {0.0520, 0.0800, 0.0515}, skin);          // neck
    if (!hasGlasses) return;
    const Material frame = matte({0.02, 0.02, 0.02}, 0.4);
    head.addPair({0.032, 0.024, 0.100}, {0.023, 0.0028, 0.0022}, frame);
    head.addPair({0.032, -0.006, 0.100}, {0.021, 0.0022, 0.0022}, frame);
    head.add({0, 0.016, 0.102}, {0.010, 0.0026, 0.0022}, frame);
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
    return reflectance * tint / base::lumaOf(tint);
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
