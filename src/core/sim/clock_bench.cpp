// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/clock_bench.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "rig/bodies.h"

namespace rigmatch::sim {
namespace {

Material matte(
    double red, double green, double blue, double gloss = 0.0, Surface surface = Surface::Plain) {
    return {{red, green, blue}, gloss, {0, 0, 0}, surface};
}

struct Person {
    Vec head;           ///< middle of the head, m
    double yawDegrees;  ///< + turns the face toward +x
    Material skin;
    Material hair;
    Material shirt;
    Material apron;
    bool hasGlasses = false;
};

/// Adds parts whose places are given in the head's own axes: x to its left, y up, z out of the
/// face.
class HeadBuilder {
public:
    HeadBuilder(const Person& person, std::vector<Ellipsoid>& parts)
        : m_person(person),
          m_turn(Eigen::AngleAxisd(person.yawDegrees * 3.14159265 / 180.0, Vec::UnitY())),
          m_parts(parts) {}

    void add(const Vec& place, const Vec& radii, const Material& material) {
        m_parts.push_back({m_person.head + m_turn * place, radii, m_person.yawDegrees, material});
    }
    void addPair(const Vec& place, const Vec& radii, const Material& material) {
        add(place, radii, material);
        add({-place.x(), place.y(), place.z()}, radii, material);
    }

private:
    const Person& m_person;
    Eigen::Matrix3d m_turn;
    std::vector<Ellipsoid>& m_parts;
};

void addHead(const Person& person, std::vector<Ellipsoid>& parts) {
    HeadBuilder head(person, parts);
    const Material lips = matte(person.skin.albedo.x() * 0.75,
                                person.skin.albedo.y() * 0.5,
                                person.skin.albedo.z() * 0.5,
                                0.05);
    const Material shadowed = matte(person.skin.albedo.x() * 0.62,
                                    person.skin.albedo.y() * 0.55,
                                    person.skin.albedo.z() * 0.52);
    head.add({0, 0.03, -0.012}, {0.077, 0.100, 0.094}, person.skin);           // cranium
    head.add({0, -0.048, 0.016}, {0.062, 0.070, 0.070}, person.skin);          // jaw
    head.add({0, -0.098, 0.058}, {0.026, 0.018, 0.022}, person.skin);          // chin
    head.addPair({0.040, -0.024, 0.058}, {0.026, 0.024, 0.022}, person.skin);  // cheekbones
    head.add({0, -0.014, 0.086}, {0.0125, 0.030, 0.020}, person.skin);         // nose bridge
    head.add({0, -0.034, 0.096}, {0.019, 0.013, 0.016}, person.skin);          // nose tip
    head.addPair({0.031, 0.010, 0.069}, {0.021, 0.013, 0.014}, shadowed);      // eye sockets
    head.addPair({0.031, 0.010, 0.077}, {0.0125, 0.0062, 0.0072}, matte(0.72, 0.72, 0.70, 0.25));
    head.addPair({0.031, 0.010, 0.0815}, {0.0055, 0.0055, 0.0036}, matte(0.05, 0.035, 0.03, 0.3));
    head.addPair({0.032, 0.031, 0.076}, {0.021, 0.0042, 0.011}, person.hair);  // brows
    head.add({0, -0.068, 0.078}, {0.025, 0.0072, 0.010}, lips);
    head.addPair({0.078, 0.000, -0.010}, {0.010, 0.030, 0.018}, person.skin);  // ears
    head.add({0, 0.060, -0.032}, {0.083, 0.084, 0.089}, person.hair);
    head.add({0, 0.105, 0.024}, {0.060, 0.030, 0.052}, person.hair);    // fringe
    head.add({0, -0.135, -0.020}, {0.052, 0.080, 0.050}, person.skin);  // neck
    if (!person.hasGlasses) return;
    const Material frame = matte(0.02, 0.02, 0.02, 0.4);
    head.addPair({0.032, 0.022, 0.094}, {0.023, 0.0028, 0.0022}, frame);
    head.addPair({0.032, -0.008, 0.092}, {0.021, 0.0022, 0.0022}, frame);
    head.add({0, 0.015, 0.098}, {0.010, 0.0026, 0.0022}, frame);
}

std::vector<Ellipsoid> personBody(const Person& person, double bend) {
    const Vec chest = person.head + Vec(0, -0.42, -0.05);
    const double side = bend;
    return {{chest, {0.20, 0.27, 0.125}, person.yawDegrees, person.shirt},
            {chest + Vec(0, 0.15, 0.0), {0.225, 0.085, 0.105}, person.yawDegrees, person.shirt},
            {chest + Vec(0, -0.10, 0.045), {0.135, 0.24, 0.10}, person.yawDegrees, person.apron},
            {chest + Vec(-0.25, -0.04, 0.04), {0.062, 0.19, 0.068}, 0.0, person.shirt},
            {chest + Vec(0.25, -0.04, 0.04), {0.062, 0.19, 0.068}, 0.0, person.shirt},
            {chest + Vec(-0.23 + side, -0.20, 0.20), {0.052, 0.052, 0.17}, 0.0, person.shirt},
            {chest + Vec(0.23 + side, -0.20, 0.20), {0.052, 0.052, 0.17}, 0.0, person.shirt},
            {chest + Vec(-0.20 + side, -0.21, 0.40), {0.042, 0.030, 0.065}, 0.0, person.skin},
            {chest + Vec(0.20 + side, -0.21, 0.40), {0.042, 0.030, 0.065}, 0.0, person.skin}};
}

std::vector<Ellipsoid> clockMovement() {
    std::vector<Ellipsoid> parts;
    const Material brass = matte(0.45, 0.32, 0.11, 0.8);
    const Material steel = matte(0.30, 0.31, 0.33, 0.9);
    parts.push_back({{-0.02, 0.802, 0.18}, {0.085, 0.008, 0.085}, 0, brass});
    parts.push_back({{-0.045, 0.815, 0.16}, {0.030, 0.006, 0.030}, 0, steel});
    parts.push_back({{0.025, 0.815, 0.20}, {0.038, 0.006, 0.038}, 0, matte(0.52, 0.38, 0.15, 0.8)});
    parts.push_back(
        {{-0.005, 0.826, 0.155}, {0.016, 0.006, 0.016}, 0, matte(0.35, 0.02, 0.04, 0.6)});
    parts.push_back({{0.19, 0.800, 0.22}, {0.040, 0.004, 0.040}, 0, brass});
    parts.push_back({{0.21, 0.799, 0.11}, {0.024, 0.004, 0.024}, 0, steel});
    parts.push_back({{-0.21, 0.800, 0.20}, {0.012, 0.006, 0.085}, 0, matte(0.40, 0.10, 0.04, 0.4)});
    parts.push_back({{-0.25, 0.800, 0.19}, {0.008, 0.005, 0.095}, 0, steel});
    return parts;
}

std::vector<Ellipsoid> practicalLamp() {
    Material shade = matte(0.55, 0.40, 0.22);
    shade.glow = {0.95, 0.58, 0.24};
    return {{{1.02, 1.34, -1.20}, {0.15, 0.11, 0.15}, 0, shade},
            {{1.02, 1.05, -1.20}, {0.018, 0.20, 0.018}, 0, matte(0.10, 0.09, 0.08, 0.5)},
            {{1.02, 0.86, -1.20}, {0.09, 0.020, 0.09}, 0, matte(0.10, 0.09, 0.08, 0.5)}};
}

void addRoom(Scene& scene) {
    const Material wall = matte(0.105, 0.120, 0.135, 0.0, Surface::Plaster);
    const Material wood = matte(0.24, 0.145, 0.075, 0.06, Surface::Wood);
    const Material dark = matte(0.09, 0.055, 0.035, 0.03, Surface::Wood);
    scene.boxes.push_back(
        {{-4, -0.1, -6}, {4, 0, 6}, matte(0.11, 0.09, 0.075, 0.0, Surface::Wood)});
    scene.boxes.push_back({{-4, 0, -1.75}, {4, 3.2, -1.6}, wall});
    scene.boxes.push_back({{-1.0, 0.74, -0.32}, {1.0, 0.79, 0.42}, wood, true});
    scene.boxes.push_back({{-0.97, 0.0, -0.28}, {0.97, 0.74, 0.36}, dark});
    scene.boxes.push_back({{0.72, 0.78, -1.40}, {1.36, 0.84, -1.02}, dark, true});
    Material pane = matte(0.2, 0.2, 0.2);
    pane.glow = {0.66, 0.80, 0.98};
    for (int column = 0; column < 2; ++column) {
        for (int row = 0; row < 2; ++row) {
            const double x = -1.62 + 0.34 * column;
            const double y = 1.18 + 0.40 * row;
            scene.boxes.push_back({{x, y, -1.61}, {x + 0.31, y + 0.37, -1.59}, pane});
        }
    }
    // A shelf with clock cases between the two people.
    scene.boxes.push_back({{-0.36, 1.28, -1.60}, {0.36, 1.305, -1.38}, dark, true});
    const std::array<Vec, 4> cases{
        Vec(0.20, 0.06, 0.045), {0.055, 0.10, 0.16}, {0.26, 0.20, 0.06}, {0.10, 0.13, 0.11}};
    for (std::size_t i = 0; i < cases.size(); ++i) {
        const double x = -0.30 + 0.165 * static_cast<double>(i);
        Material material{cases[i], 0.1, {0, 0, 0}, Surface::Plain};
        scene.boxes.push_back({{x, 1.305, -1.56},
                               {x + 0.10, 1.45 + 0.03 * static_cast<double>(i % 3), -1.44},
                               material,
                               true});
    }
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

colour::TransferCurve standardCurve(double bend, double pedestal) {
    colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Standard);
    curve.standard = {bend, pedestal};
    return curve;
}

/// Brings all light to where the held chart sees exactly reference white: linear 1, the colour of
/// D65.
void balanceLight(Scene& scene) {
    const auto place = chartPlace(0.5, 1.0);
    const Vec middle =
        0.25 * (place->corners[0] + place->corners[1] + place->corners[2] + place->corners[3]);
    const Vec gain = irradiance(scene, middle, place->normal).cwiseInverse();
    scene.ambient = scene.ambient.cwiseProduct(gain);
    for (Lamp& lamp : scene.lamps) lamp.lightAtOneMetre = lamp.lightAtOneMetre.cwiseProduct(gain);
}

}  // namespace

Scene clockBenchScene() {
    Scene scene;
    addRoom(scene);
    Person restorer{{-0.46, 1.36, -0.60},
                    24.0,
                    matte(0.44, 0.265, 0.185, 0.05),
                    matte(0.23, 0.22, 0.21, 0.1),
                    matte(0.20, 0.25, 0.32, 0, Surface::Cloth),
                    matte(0.075, 0.085, 0.07, 0, Surface::Cloth),
                    true};
    Person apprentice{{0.46, 1.32, -0.58},
                      -24.0,
                      matte(0.125, 0.066, 0.042, 0.06),
                      matte(0.018, 0.014, 0.012, 0.15),
                      matte(0.36, 0.33, 0.27, 0, Surface::Cloth),
                      matte(0.20, 0.075, 0.05, 0, Surface::Cloth),
                      false};
    for (const Person* person : {&restorer, &apprentice}) {
        std::vector<Ellipsoid> head;
        addHead(*person, head);
        scene.groups.push_back(std::move(head));
        scene.groups.push_back(personBody(*person, person == &restorer ? 0.06 : -0.06));
    }
    scene.groups.push_back(clockMovement());
    scene.groups.push_back(practicalLamp());
    // Soft key from the left of camera A, fill from its right, a warm practical, the window's cool
    // share.
    scene.lamps.push_back({{-1.7, 2.35, 2.1}, 0.45, {9.6, 9.6, 9.6}, 4});
    scene.lamps.push_back({{2.3, 1.9, 2.6}, 0.6, {3.6, 3.6, 3.6}, 2});
    scene.lamps.push_back({{1.02, 1.42, -1.12}, 0.10, {0.32, 0.19, 0.075}});
    scene.lamps.push_back({{-1.45, 1.6, -1.45}, 0.25, {0.26, 0.31, 0.39}});
    scene.ambient = {0.11, 0.11, 0.11};
    balanceLight(scene);
    return scene;
}

std::optional<ChartPlace> chartPlace(double seconds, double length) {
    constexpr double kEnter = 0.05, kStillFrom = 0.22, kStillTo = 0.78, kLeave = 0.95;
    const double share = seconds / length;
    if (share < kEnter || share > kLeave) return std::nullopt;
    double away = 0.0;  // 0 in place, 1 out of the set
    if (share < kStillFrom) away = 1.0 - (share - kEnter) / (kStillFrom - kEnter);
    if (share > kStillTo) away = (share - kStillTo) / (kLeave - kStillTo);
    away = away * away * (3.0 - 2.0 * away);
    const Vec centre(0.02 + 1.35 * away, 1.06 - 0.18 * away, 0.16 + 0.12 * away);
    const double tip = (37.0 + 14.0 * away) * 3.14159265 / 180.0;
    const double lean = 0.22 * away;
    const Vec across(std::cos(lean), -std::sin(lean), 0.0);
    Vec down(0.0, -std::cos(tip), std::sin(tip));
    down = (down - down.dot(across) * across).normalized();
    const Vec halfAcross = 0.5 * 0.290 * across;  // m; 5.86 by 3.86 patch steps
    const Vec halfDown = 0.5 * 0.191 * down;
    return ChartPlace{{centre - halfAcross - halfDown,
                       centre + halfAcross - halfDown,
                       centre + halfAcross + halfDown,
                       centre - halfAcross + halfDown},
                      down.cross(across).normalized()};
}

rig::Rig clockBenchRig() {
    rig::Rig rig;
    rig.name = "Clock bench";
    rig::Camera a = demoCamera(0, "camera-1", "wide front", {"35 mm f/1.8", 35.0, 1.8, 22.0});
    setCamera(a, 640.0, 2.8, 5600.0, 0.0);
    a.simulated->position = {0.0, 1.42, 3.1};
    a.simulated->aim = {0.0, 1.10, -0.4};
    a.simulated->horizontalViewDegrees = 37.0;
    a.simulated->curve = standardCurve(0.16, 0.0);
    a.simulated->bitDepth = 10;
    a.simulated->noiseAtBase = 0.0015;
    a.simulated->warmthMired = 2.0;
    a.simulated->sensitivityStops = 0.12;

    rig::Camera b = demoCamera(1, "camera-2", "restorer close", {"85 mm f/1.8", 85.0, 1.8, 22.0});
    setCamera(b, 800.0, 2.8, 5400.0, 0.0);
    b.simulated->position = {0.72, 1.40, 2.2};
    b.simulated->aim = {-0.22, 1.18, -0.4};
    b.simulated->horizontalViewDegrees = 28.0;
    b.simulated->curve = standardCurve(0.20, 0.0);
    b.simulated->glassStops = 0.84;
    b.simulated->warmthMired = 9.0;
    b.simulated->tintDuv = 0.0008;
    b.simulated->tintDuvPerStep = 0.0014;
    b.simulated->noiseAtBase = 0.0015;
    b.simulated->saturation = 1.03;

    rig::Camera c = demoCamera(1, "camera-3", "apprentice close", {"85 mm f/1.8", 85.0, 1.8, 22.0});
    setCamera(c, 800.0, 2.8, 5600.0, 0.0);
    c.simulated->position = {-0.72, 1.40, 2.2};
    c.simulated->aim = {0.24, 1.18, -0.4};
    c.simulated->horizontalViewDegrees = 28.0;
    c.simulated->curve = standardCurve(0.20, 0.0);
    c.simulated->warmthMired = -7.0;
    c.simulated->tintDuv = -0.0052;
    c.simulated->tintDuvPerStep = 0.0017;
    c.simulated->sensitivityStops = 0.10;
    c.simulated->noiseAtBase = 0.0015;
    c.simulated->saturation = 1.02;

    rig::Camera d = demoCamera(2, "camera-4", "bench top-down", {"25 mm f/1.7", 25.0, 1.7, 22.0});
    setCamera(d, 800.0, 2.8, 4800.0, 0.0);
    d.settings.isAutoExposure = true;
    d.settings.isAutoWhiteBalance = true;
    d.simulated->position = {0.0, 2.35, 0.72};
    d.simulated->aim = {0.0, 0.92, 0.13};
    d.simulated->horizontalViewDegrees = 39.0;
    d.simulated->curve = standardCurve(0.22, -0.005);
    d.simulated->warmthMired = 4.0;
    d.simulated->tintDuv = 0.0010;
    d.simulated->saturation = 1.06;
    d.simulated->crosstalk = 0.03;
    d.simulated->noiseAtBase = 0.0016;

    rig.cameras = {a, b, c, d};
    rig::renumber(rig);
    return rig;
}

}  // namespace rigmatch::sim
