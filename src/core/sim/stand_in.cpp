// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/stand_in.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <mutex>
#include <numbers>
#include <string>

#include "base/format.h"
#include "base/luma.h"
#include "plan/geometry.h"
#include "sim/surface_mesh.h"

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

/// What a stand-in is made of.
enum Stuff {
    kSkin,
    kHair,
    kLips,
    kSocket,
    kEye,
    kIris,
    kBrow,
    kFrame,
    kHat,
    kShirt,
    kCollar,
    kApron,
    kTrousers,
    kShoes,
    kStuffs
};

std::vector<Material> paletteOf(const Clothes& clothes, const Vec& skin) {
    std::vector<Material> palette(kStuffs);
    palette[kSkin] = matte(skin, 0.05);
    palette[kHair] = matte(clothes.hair, 0.1);
    palette[kLips] = matte(skin.cwiseProduct(Vec(0.75, 0.5, 0.5)), 0.05);
    palette[kSocket] = matte(skin.cwiseProduct(Vec(0.62, 0.55, 0.52)));
    palette[kEye] = matte({0.72, 0.72, 0.70}, 0.25);
    palette[kIris] = matte({0.05, 0.035, 0.03}, 0.3);
    palette[kBrow] = matte(clothes.hair, 0.1);
    palette[kFrame] = matte({0.02, 0.02, 0.02}, 0.4);
    palette[kHat] = matte(0.8 * clothes.apron, 0.0, Surface::Cloth);
    palette[kShirt] = matte(clothes.shirt, 0.0, Surface::Cloth);
    palette[kCollar] = matte(1.12 * clothes.shirt, 0.0, Surface::Cloth);
    palette[kApron] = matte(clothes.apron, 0.0, Surface::Cloth);
    palette[kTrousers] = matte({0.05, 0.055, 0.065}, 0.0, Surface::Cloth);
    palette[kShoes] = matte({0.03, 0.022, 0.016}, 0.15);
    return palette;
}

/// Head and neck from the middle of the head: x to its left, y up, z out of the face, m. The places
/// were fitted until the networks found the face from the front to the side in light and dark skin
/// (bench_face_rates); plan/geometry.h measures by them. They flow into each other.
Solid headSolid() {
    constexpr double kSoft = 0.006;
    Solid head;
    const auto add = [&](const Vec& middle, const Vec& radii, double blend) {
        head.addBall(middle, radii, kSkin, blend);
    };
    const auto addPair = [&](const Vec& middle, const Vec& radii, double blend) {
        head.addBallPair(middle, radii, kSkin, blend);
    };
    add({0, 0.0300, -0.0114}, {0.0770, 0.1000, 0.0879}, 0.0);              // cranium
    add({0, -0.0478, 0.0178}, {0.0639, 0.0690, 0.0712}, kSoft);            // jaw
    add({0, -0.0982, 0.0606}, {0.0279, 0.0190, 0.0261}, kSoft);            // chin
    addPair({0.0351, -0.0312, 0.0629}, {0.0241, 0.0277, 0.0296}, kSoft);   // cheekbones
    addPair({0.0477, -0.0360, 0.0301}, {0.0209, 0.0530, 0.0503}, kSoft);   // cheeks
    addPair({0.0482, -0.0180, -0.0269}, {0.0189, 0.0584, 0.0360}, kSoft);  // jawbone
    add({0, -0.0621, 0.0674}, {0.0240, 0.0265, 0.0252}, kSoft);            // about the mouth
    add({0, 0.0241, 0.0655}, {0.0095, 0.0230, 0.0142}, kSoft);             // root of the nose
    add({0, 0.0297, 0.0624}, {0.0488, 0.0138, 0.0276}, kSoft);             // brow ridge
    add({0, -0.0095, 0.0790}, {0.0120, 0.0223, 0.0190}, kSoft);            // nose bridge
    add({0, -0.0409, 0.1063}, {0.0170, 0.0120, 0.0174}, kSoft);            // nose tip
    head.addBallPair({0.0335, 0.0110, 0.0745}, {0.0194, 0.0105, 0.0117}, kSocket, 0.0);
    head.addBallPair({0.0320, 0.0100, 0.0823}, {0.0135, 0.0062, 0.0062}, kEye, 0.0);
    head.addBallPair({0.0320, 0.0100, 0.0853}, {0.0055, 0.0057, 0.0036}, kIris, 0.0);
    head.addBallPair({0.0330, 0.0310, 0.0790}, {0.0195, 0.0042, 0.0110}, kBrow, 0.0);
    head.addBall({0, -0.0636, 0.0902}, {0.0232, 0.0065, 0.0127}, kLips, 0.001);
    head.addBallPair({0.0824, 0.0025, -0.0107}, {0.0099, 0.0268, 0.0200}, kSkin, 0.004);  // ears
    // Neck before the hair, so that hair lies on it.
    head.addBall({0, -0.1350, -0.0361}, {0.0520, 0.0800, 0.0515}, kSkin, 0.010);
    head.addCone({0, -0.1350, -0.0380}, {0, -0.2150, -0.0450}, 0.0505, 0.0560, kSkin, 0.020);
    head.addBall({0, 0.0600, -0.0097}, {0.0830, 0.0840, 0.0590}, kHair, 0.001);
    head.addBall({0, 0.0600, -0.0320}, {0.0815, 0.0825, 0.0860}, kHair, 0.006);
    head.addBall({0, 0.1065, 0.0172}, {0.0536, 0.0250, 0.0475}, kHair, 0.006);  // fringe
    return head;
}

/// The same with hair to the shoulders, behind the ears.
Solid longHairedSolid() {
    Solid head = headSolid();
    head.addBallPair({0.0700, 0.0150, -0.0450}, {0.0240, 0.0900, 0.0480}, kHair, 0.008);
    head.addBallPair({0.0690, -0.0900, -0.0520}, {0.0250, 0.1050, 0.0400}, kHair, 0.012);
    head.addBall({0, -0.0500, -0.0850}, {0.0780, 0.1550, 0.0360}, kHair, 0.015);
    return head;
}

/// A brimmed hat that sits above the brows.
Solid hatSolid() {
    Solid hat;
    hat.addBall({0, 0.0950, -0.0180}, {0.0930, 0.0900, 0.1030}, kHat, 0.0);
    hat.addBall({0, 0.0800, -0.0100}, {0.1300, 0.0100, 0.1450}, kHat, 0.010);
    return hat;
}

/// Two rims, a bridge and the arms to the ears.
Solid glassesSolid() {
    Solid glasses;
    glasses.addBallPair({0.032, 0.024, 0.100}, {0.023, 0.0028, 0.0022}, kFrame, 0.0);
    glasses.addBallPair({0.032, -0.006, 0.100}, {0.021, 0.0022, 0.0022}, kFrame, 0.0);
    glasses.addBall({0, 0.016, 0.102}, {0.010, 0.0026, 0.0022}, kFrame, 0.0);
    constexpr double kWire = 0.0011;
    glasses.addConePair(
        {0.0530, 0.0225, 0.1000}, {0.0510, -0.0045, 0.1000}, kWire, kWire, kFrame, 0.002);
    glasses.addConePair(
        {0.0110, 0.0225, 0.1000}, {0.0130, -0.0045, 0.1000}, kWire, kWire, kFrame, 0.002);
    return glasses;
}

void addHand(Solid& body, double side) {
    const auto at = [side](double x, double y, double z) { return Vec(side * x, y, z); };
    body.addBall(at(0.170, -0.632, 0.350), {0.036, 0.016, 0.046}, kSkin, 0.012);
    for (int finger = 0; finger < 4; ++finger) {
        const double x = 0.144 + 0.0175 * finger;
        const double length = finger == 0 || finger == 3 ? 0.052 : 0.062;
        body.addCone(at(x, -0.632, 0.385),
                     at(x - 0.004, -0.640, 0.385 + length),
                     0.0095,
                     0.0075,
                     kSkin,
                     0.006);
    }
    body.addCone(at(0.140, -0.630, 0.335), at(0.112, -0.636, 0.372), 0.0120, 0.0085, kSkin, 0.008);
}

/// A forearm that is held before the chest, its palm inwards, in the body's axes.
Solid raisedForearm(double side) {
    Solid arm;
    const auto at = [side](double x, double y, double z) { return Vec(side * x, y, z); };
    // From within the elbow, which belongs to the trunk.
    arm.addCone(at(0.258, -0.556, 0.004), at(0.150, -0.445, 0.225), 0.0475, 0.034, kShirt, 0.0);
    arm.addCone(at(0.154, -0.450, 0.216), at(0.143, -0.437, 0.240), 0.037, 0.036, kCollar, 0.006);
    arm.addCone(
        at(0.146, -0.440, 0.235), at(0.124, -kWristDown, 0.268), 0.025, 0.022, kSkin, 0.004);
    arm.addBall(at(kHandAside, -kHandDown, kHandAhead), {kPalm, 0.044, 0.038}, kSkin, 0.012);
    for (int finger = 0; finger < 4; ++finger) {
        const double z = 0.270 + 0.0168 * finger;
        const double length = finger == 0 || finger == 3 ? 0.050 : 0.060;
        arm.addCone(at(0.116, -0.345, z),
                    at(0.111, -0.345 + length, z + 0.018),
                    0.0095,
                    0.0075,
                    kSkin,
                    0.006);
    }
    arm.addCone(at(0.113, -0.385, 0.262), at(0.098, -0.345, 0.248), 0.0115, 0.0085, kSkin, 0.008);
    return arm;
}

void addRestingForearms(Solid& body) {
    body.addConePair({0.262, -0.565, 0.000}, {0.190, -0.632, 0.265}, 0.049, 0.033, kShirt, 0.030);
    body.addConePair({0.196, -0.631, 0.245}, {0.189, -0.632, 0.272}, 0.037, 0.036, kCollar, 0.006);
    body.addConePair({0.187, -0.632, 0.270}, {0.178, -0.632, 0.320}, 0.026, 0.022, kSkin, 0.004);
    for (const double side : {1.0, -1.0}) addHand(body, side);
}

/// Trunk, arms and legs, from the middle of the head. `floorDown`: m to the floor.
Solid bodySolid(double floorDown, bool isStanding, bool hasRaisedHands) {
    Solid body;
    body.addBall({0, -0.385, -0.050}, {0.178, 0.175, 0.118}, kShirt, 0.0);    // chest
    body.addBall({0, -0.570, -0.035}, {0.158, 0.200, 0.116}, kShirt, 0.090);  // belly
    body.addConePair({0.020, -0.240, -0.052}, {0.178, -0.268, -0.052}, 0.070, 0.064, kShirt, 0.060);
    body.addConePair({0.030, -0.185, -0.052}, {0.140, -0.238, -0.052}, 0.046, 0.052, kShirt, 0.050);
    body.addConePair({0.196, -0.285, -0.050}, {0.262, -0.560, -0.005}, 0.066, 0.049, kShirt, 0.040);
    if (hasRaisedHands)
        body.addBallPair({0.259, -0.557, 0.002}, {0.054, 0.054, 0.056}, kShirt, 0.040);
    else
        addRestingForearms(body);
    // Collar: two flaps that meet in front.
    body.addConePair({0.004, -0.232, 0.034}, {0.055, -0.182, 0.006}, 0.015, 0.014, kCollar, 0.008);
    body.addConePair({0.055, -0.182, 0.006}, {0.052, -0.168, -0.062}, 0.014, 0.013, kCollar, 0.008);
    body.addConePair(
        {0.052, -0.168, -0.062}, {0.000, -0.164, -0.104}, 0.013, 0.013, kCollar, 0.008);
    // The apron's bib and skirt, and its straps.
    body.addLayer({-0.112, -0.540, 0.000}, {0.112, -0.345, 0.200}, 0.005, kApron);
    body.addLayer({-0.165, -0.780, 0.000}, {0.165, -0.500, 0.200}, 0.005, kApron);
    body.addLayer({0.074, -0.375, -0.020}, {0.100, -0.200, 0.200}, 0.005, kApron);
    body.addLayer({-0.100, -0.375, -0.020}, {-0.074, -0.200, 0.200}, 0.005, kApron);
    if (isStanding) {
        const double foot = -floorDown + 0.05;
        body.addBall({0, -0.760, -0.030}, {0.168, 0.130, 0.125}, kTrousers, 0.050);
        body.addConePair(
            {0.090, -0.800, -0.030}, {0.100, foot, -0.035}, 0.092, 0.052, kTrousers, 0.040);
        body.addBallPair({0.100, foot - 0.005, 0.025}, {0.048, 0.042, 0.125}, kShoes, 0.010);
        return body;
    }
    const double foot = -std::max(floorDown, 0.95) + 0.05;
    body.addBall({0, -0.755, -0.020}, {0.175, 0.105, 0.140}, kTrousers, 0.050);
    body.addConePair(
        {0.095, -0.770, 0.040}, {0.115, -0.755, 0.400}, 0.088, 0.066, kTrousers, 0.040);
    body.addConePair({0.115, -0.760, 0.400}, {0.115, foot, 0.380}, 0.062, 0.048, kTrousers, 0.030);
    body.addBallPair({0.115, foot - 0.005, 0.440}, {0.048, 0.042, 0.120}, kShoes, 0.010);
    return body;
}

/// Meshes are the same for everybody of a size: built once.
std::shared_ptr<const SurfaceMesh> meshOf(const std::string& key,
                                          const std::function<Solid()>& build,
                                          double step,
                                          bool isCrisp) {
    static std::mutex mutex;
    static std::map<std::string, std::shared_ptr<const SurfaceMesh>> meshes;
    const std::lock_guard lock(mutex);
    auto& mesh = meshes[key];
    if (!mesh) mesh = std::make_shared<const SurfaceMesh>(build(), step, isCrisp);
    return mesh;
}

/// What one sits on.
Group chairOf(const plan::Head& head, double yaw, double scale) {
    const double floorDown = head.centre.y() / scale;
    Group chair;
    const auto add = [&](const Vec& place, const Vec& radii, const Material& material) {
        const Vec at = head.centre + scale * (place.x() * head.left + place.y() * Vec::UnitY() +
                                              place.z() * head.forward);
        chair.parts.push_back({at, scale * radii, yaw, material});
    };
    add({0, -0.87, 0.02}, {0.24, 0.03, 0.22}, matte({0.07, 0.05, 0.035}));
    add({0, -0.87 - 0.5 * (floorDown - 0.87), 0.02},
        {0.03, std::max(0.05, 0.5 * (floorDown - 0.87)), 0.03},
        matte({0.07, 0.07, 0.07}));
    return chair;
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

void addStandIn(const rig::PlanObject& person, std::size_t index, Scene& scene) {
    const plan::Head head = plan::headOf(person);
    const Clothes& clothes = kClothes.at(index % kClothes.size());
    const auto palette = paletteOf(clothes, skinColour(person.skinReflectance));
    const auto add = [&](std::shared_ptr<const SurfaceMesh> mesh, double scale, int part = kTrunk) {
        scene.figures.push_back({std::move(mesh),
                                 head.centre,
                                 head.left,
                                 head.forward,
                                 scale,
                                 palette,
                                 static_cast<int>(index),
                                 part});
    };
    if (person.hasLongHair)
        add(meshOf("head, long hair", longHairedSolid, 0.0021, false), head.scale);
    else
        add(meshOf("head", headSolid, 0.0021, false), head.scale);
    if (person.hasHat) add(meshOf("hat", hatSolid, 0.0025, false), head.scale);
    if (person.hasGlasses) add(meshOf("glasses", glassesSolid, 0.0009, false), head.scale);
    // Bodies keep their size: a seated child still needs a chair, a head in frame needs shoulders.
    const double bodyScale = std::clamp(head.scale, 0.75, 1.1);
    // Legs as long as they must be, to the centimetre.
    const double floorDown = std::round(100.0 * head.centre.y() / bodyScale) / 100.0;
    const bool isStanding = person.isStanding, hasRaisedHands = person.hasRaisedHands;
    add(meshOf((isStanding ? "standing " : "seated ") + base::fixed(floorDown, 2) +
                   (hasRaisedHands ? ", hands raised" : ""),
               [=] { return bodySolid(floorDown, isStanding, hasRaisedHands); },
               0.0050,
               true),
        bodyScale);
    if (hasRaisedHands) {
        add(meshOf(
                "left forearm", [] { return raisedForearm(1.0); }, 0.0022, true),
            bodyScale,
            kLeftForearm);
        add(meshOf(
                "right forearm", [] { return raisedForearm(-1.0); }, 0.0022, true),
            bodyScale,
            kRightForearm);
    }
    if (!isStanding) scene.groups.push_back(chairOf(head, person.facingDegrees, bodyScale));
}

}  // namespace rigmatch::sim
