// SPDX-License-Identifier: GPL-3.0-or-later
// Smooth bodies: their surface against formulas for balls and cones, and rays against it.
#include <map>
#include <numbers>
#include <random>

#include "sim/prepared_scene.h"
#include "sim/solid.h"
#include "sim/surface_mesh.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using sim::Solid;
using sim::SurfaceMesh;
using sim::Vec;

namespace {

double volumeOf(const SurfaceMesh& mesh) {
    double volume = 0.0;
    for (const auto& t : mesh.triangles()) {
        const Vec a = mesh.corners()[t[0]].cast<double>(), b = mesh.corners()[t[1]].cast<double>(),
                  c = mesh.corners()[t[2]].cast<double>();
        volume += a.dot(b.cross(c)) / 6.0;
    }
    return volume;
}

/// Edges that two triangles share in opposite directions, and all others.
std::pair<std::size_t, std::size_t> edgesOf(const SurfaceMesh& mesh) {
    std::map<std::pair<std::uint32_t, std::uint32_t>, int> edges;
    for (const auto& t : mesh.triangles()) {
        for (std::size_t i = 0; i < 3; ++i) ++edges[{t[i], t[(i + 1) % 3]}];
    }
    std::size_t whole = 0, torn = 0;
    for (const auto& [edge, count] : edges) {
        const auto back = edges.find({edge.second, edge.first});
        ++(count == 1 && back != edges.end() && back->second == 1 ? whole : torn);
    }
    return {whole, torn};
}

}  // namespace

class TestSurfaceMesh : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Volume 4/3 pi abc, corners on the surface, normals as the ellipsoid's, no hole.
    void aBallIsABall() {
        Solid solid;
        const Vec radii(0.10, 0.14, 0.08);
        solid.addBall({0.02, 1.0, -0.03}, radii, 0, 0.0);
        const SurfaceMesh mesh(solid, 0.006);
        const double volume = 4.0 / 3.0 * std::numbers::pi * radii.prod();
        QVERIFY2(std::abs(volumeOf(mesh) / volume - 1.0) < 0.005,
                 std::to_string(volumeOf(mesh) / volume).c_str());
        const auto [whole, torn] = edgesOf(mesh);
        QVERIFY(whole > 3000);
        QCOMPARE(torn, std::size_t{0});
        for (std::size_t i = 0; i < mesh.corners().size(); ++i) {
            const Vec at = mesh.corners()[i].cast<double>() - Vec(0.02, 1.0, -0.03);
            QVERIFY(std::abs(at.cwiseQuotient(radii).norm() - 1.0) < 0.002);
            const Vec normal = at.cwiseQuotient(radii.cwiseProduct(radii)).normalized();
            QVERIFY(normal.dot(mesh.normals()[i].cast<double>()) > 0.999);
        }
    }
    /// pi r^2 h and one ball.
    void aConeIsRoundAtItsEnds() {
        Solid solid;
        solid.addCone({0, 0, 0}, {0, 0.5, 0}, 0.06, 0.06, 0, 0.0);
        const SurfaceMesh mesh(solid, 0.005);
        const double volume = std::numbers::pi * 0.06 * 0.06 * (0.5 + 4.0 / 3.0 * 0.06);
        QVERIFY(std::abs(volumeOf(mesh) / volume - 1.0) < 0.01);
        QCOMPARE(edgesOf(mesh).second, std::size_t{0});
    }
    /// Parts that flow into each other leave no groove between them: the surface lies outside both.
    void partsFlowTogether() {
        Solid hard, soft;
        for (Solid* solid : {&hard, &soft}) {
            const double blend = solid == &soft ? 0.04 : 0.0;
            solid->addBall({-0.06, 0, 0}, {0.08, 0.08, 0.08}, 0, blend);
            solid->addBall({0.06, 0, 0}, {0.08, 0.08, 0.08}, 1, blend);
        }
        const Vec groove(0.0, std::sqrt(0.08 * 0.08 - 0.06 * 0.06), 0.0);
        QVERIFY(std::abs(hard.distance(groove)) < 1e-6);
        QVERIFY(soft.distance(groove) < -0.005);
        QCOMPARE(soft.materialAt({-0.1, 0, 0}), 0);
        QCOMPARE(soft.materialAt({0.1, 0, 0}), 1);
        QCOMPARE(edgesOf(SurfaceMesh(soft, 0.006)).second, std::size_t{0});
    }
    void aLayerLiesOnWhatIsInItsBox() {
        Solid solid;
        solid.addBall({0, 0, 0}, {0.1, 0.1, 0.1}, 0, 0.0);
        solid.addLayer({-0.05, -0.05, 0.0}, {0.05, 0.05, 0.2}, 0.004, 3);
        QCOMPARE(solid.materialAt({0, 0, 0.1}), 3);
        QCOMPARE(solid.materialAt({0, 0, -0.1}), 0);
        QVERIFY(std::abs(solid.distance({0, 0, 0.104})) < 1e-4);
        QVERIFY(std::abs(solid.distance({0, 0, -0.1})) < 1e-4);
    }
    /// A figure turned, moved and scaled is met where the same ellipsoid is, and shades like it.
    void raysMeetAFigureWhereTheFormulaSays() {
        auto solid = Solid();
        solid.addBall({0, 0, 0}, {0.10, 0.14, 0.08}, 0, 0.0);
        sim::Figure figure;
        figure.mesh = std::make_shared<const SurfaceMesh>(solid, 0.004);
        figure.origin = {0.3, 1.2, 0.5};
        const double yaw = 0.5;
        figure.left = {std::cos(yaw), 0, -std::sin(yaw)};
        figure.forward = {std::sin(yaw), 0, std::cos(yaw)};
        figure.scale = 1.1;
        figure.palette = {{{0.4, 0.3, 0.2}, 0.1, {0, 0, 0}, sim::Surface::Plain}};
        sim::Scene meshed, exact;
        meshed.figures = {figure};
        sim::Group group;
        group.parts.push_back({figure.origin,
                               1.1 * Vec(0.10, 0.14, 0.08),
                               yaw * 180.0 / std::numbers::pi,
                               figure.palette[0]});
        exact.groups = {group};
        const sim::PreparedScene one(meshed), other(exact);
        int met = 0;
        for (int i = -20; i <= 20; ++i) {
            for (int j = -20; j <= 20; ++j) {
                const sim::Ray ray{{0.1, 1.4, 3.0},
                                   Vec(0.2 + 0.01 * i, -0.2 + 0.01 * j, -2.5).normalized()};
                const sim::Hit a = one.nearest(ray), b = other.nearest(ray);
                const Vec beyond = ray.origin + 6.0 * ray.direction;
                // At the very rim flat triangles end a little inside.
                if (b.object >= 0 && b.normal.dot(ray.direction) > -0.15) continue;
                QCOMPARE(a.object >= 0, b.object >= 0);
                QCOMPARE(one.isShadowed(ray.origin, beyond), other.isShadowed(ray.origin, beyond));
                if (a.object < 0) continue;
                ++met;
                QVERIFY2(std::abs(a.distance - b.distance) < 6e-4,
                         std::to_string(a.distance - b.distance).c_str());
                QVERIFY(a.normal.dot(b.normal) > 0.998);
                QVERIFY((a.surface().albedo - b.surface().albedo).norm() < 1e-6);
            }
        }
        QVERIFY(met > 100);
    }
    /// Near a place, the parts that bear on it give the distance that all of them give.
    void nearAPlaceFewPartsAreEnough() {
        std::mt19937 engine(5);
        std::uniform_real_distribution<double> place(-0.5, 0.5), size(0.02, 0.15), flow(0.0, 0.05);
        for (int round = 0; round < 20; ++round) {
            Solid solid;
            const auto at = [&] { return Vec(place(engine), place(engine), place(engine)); };
            for (int i = 0; i < 12; ++i) {
                solid.addBall(at(), {size(engine), size(engine), size(engine)}, 0, flow(engine));
                solid.addCone(at(), at(), size(engine), size(engine), 0, flow(engine));
            }
            int seen = 0;
            for (int i = 0; i < 400; ++i) {
                const Vec middle = at();
                constexpr double kReach = 0.03;
                if (std::abs(solid.distance(middle)) > kReach) continue;
                const Solid few = solid.near(middle, kReach);
                for (int k = 0; k < 10; ++k) {
                    const Vec there = middle + 2.0 * kReach / std::sqrt(3.0) * at();
                    QVERIFY(std::abs(few.distance(there) - solid.distance(there)) < 1e-9);
                    ++seen;
                }
            }
            QVERIFY(seen > 0);
        }
    }
};

RIG_TEST(TestSurfaceMesh);
#include "test_surface_mesh.moc"
