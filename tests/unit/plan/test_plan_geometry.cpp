// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <numbers>
#include <set>

#include "plan/edit.h"
#include "plan/geometry.h"
#include "plan/layouts.h"
#include "plan/sight.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::plan;
using rig::PlanKind;
using rig::PlanObject;

namespace {

/// An empty room of 6 by 5 m, 2.5 m high.
rig::SetPlan emptyRoom() {
    rig::SetPlan plan;
    plan.widthMetres = 6.0;
    plan.depthMetres = 5.0;
    plan.heightMetres = 2.5;
    return plan;
}

rig::Rig plainTalk() { return rig::withLayout({}, builtInLayouts()[1]); }

/// The first camera of a layout, with a plain lens.
struct Viewed {
    rig::Rig rig = plainTalk();
    rig::Camera* camera = &rig.cameras[0];
    PlanObject* place = rig::findPlanCamera(*rig.plan, rig.cameras[0].id);

    CameraView view() const { return *CameraView::of(*rig.plan, *camera, *place); }
};

PlanObject board(const rig::SetPlan& plan, double x, double z) {
    PlanObject object = newObject(plan, PlanKind::Table, x, z);
    object.widthMetres = 1.0;
    object.depthMetres = 0.6;
    return object;
}

}  // namespace

class TestPlanGeometry : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// + turns toward the right wall, 0 looks to the camera side.
    void facingsGoThereAndBack() {
        for (const double degrees : {-179.0, -90.0, -12.5, 0.0, 45.0, 90.0, 170.0}) {
            const Vec vector = facingVector(degrees);
            QVERIFY(std::abs(vector.norm() - 1.0) < 1e-12);
            QVERIFY(std::abs(facingOf(vector) - degrees) < 1e-9);
        }
        QVERIFY(facingVector(90.0).x() > 0.99);
        QVERIFY(facingVector(0.0).z() > 0.99);
        QVERIFY(std::abs(angleBetween(facingVector(10), facingVector(55)) - 45.0) < 1e-9);
        QCOMPARE(angleBetween(Vec::Zero(), facingVector(0)), 0.0);
    }
    /// Angle of view of a rectilinear lens: twice the arc tangent of half the sensor over the focal
    /// length (sources 3.2).
    void anglesOfViewFollowTheLens() {
        Viewed seen;
        const CameraView view = seen.view();
        const double half = 0.5 * view.horizontalDegrees() * std::numbers::pi / 180.0;
        QVERIFY(std::abs(view.widthAt(2.0) - 4.0 * std::tan(half)) < 1e-9);
        seen.camera->lens.focalLengthMm *= 2.0;
        const CameraView longer = seen.view();
        // Twice the focal length: half the width of the frame, near enough for focused lenses.
        QVERIFY(std::abs(longer.widthAt(2.0) / view.widthAt(2.0) - 0.5) < 0.03);
        QVERIFY(longer.horizontalDegrees() < view.horizontalDegrees());
        QVERIFY(std::abs(view.widthAt(2.0) / view.heightAt(2.0) - 16.0 / 9.0) < 0.01);
    }
    void placesInThePictureGoThereAndBack() {
        const Viewed seen;
        const CameraView view = seen.view();
        for (const double x : {0.1, 0.5, 0.8}) {
            for (const double y : {0.2, 0.5, 0.9}) {
                const Vec point = view.position() + 2.7 * view.direction({x, y});
                const auto at = view.project(point);
                QVERIFY(at.has_value());
                QVERIFY(std::abs(at->x - x) < 1e-9);
                QVERIFY(std::abs(at->y - y) < 1e-9);
            }
        }
        QVERIFY(std::abs(view.depthOf(view.position() + 3.0 * view.forward()) - 3.0) < 1e-12);
        QVERIFY(!view.project(view.position() - view.forward()).has_value());
        // What the camera is aimed at lies in the middle of its picture.
        const auto middle = view.project(view.position() + view.forward());
        QVERIFY(std::abs(middle->x - 0.5) < 1e-9 && std::abs(middle->y - 0.5) < 1e-9);
    }
    void headsStandUprightInThePicture() {
        const Viewed seen;
        const CameraView view = seen.view();
        const PlanObject* person = subjectOf(*seen.rig.plan, *seen.place);
        QVERIFY(person != nullptr);
        const auto box = headBox(view, *person);
        QVERIFY(box.has_value());
        QVERIFY(box->crown.y < box->eyes.y && box->eyes.y < box->chin.y);
        // Its share of the frame is its share of the height that the lens sees there.
        const double distance = view.depthOf(placeOf(*person));
        QVERIFY(std::abs(box->height() * view.heightAt(distance) - person->headMetres) <
                0.15 * person->headMetres);
        const Head head = headOf(*person);
        QVERIFY(std::abs(head.left.dot(head.forward)) < 1e-12);
        QVERIFY((cheekOf(*person, FaceSide::Left).point - head.centre).dot(head.left) > 0.0);
        QVERIFY((cheekOf(*person, FaceSide::Right).point - head.centre).dot(head.left) < 0.0);
        QVERIFY((foreheadOf(*person).point - head.centre).dot(head.forward) > 0.0);
    }
    void impossibleViewsAreRefusedInWords() {
        Viewed seen;
        seen.place->aimXMetres = seen.place->xMetres;
        seen.place->aimZMetres = seen.place->zMetres;
        seen.place->aimHeightMetres = seen.place->heightMetres;
        const auto view = CameraView::of(*seen.rig.plan, *seen.camera, *seen.place);
        QVERIFY(!view.has_value());
        QVERIFY(!view.error().detail.empty() && !view.error().hint.empty());
    }
    void raysMeetTheRoom_data() {
        QTest::addColumn<double>("x");
        QTest::addColumn<double>("y");
        QTest::addColumn<double>("z");
        QTest::addColumn<double>("distance");
        QTest::addColumn<int>("side");
        using Side = RoomHit::Side;
        QTest::newRow("back wall") << 0.0 << 0.0 << -1.0 << 2.0 << int(Side::Back);
        QTest::newRow("front wall") << 0.0 << 0.0 << 1.0 << 3.0 << int(Side::Front);
        QTest::newRow("left wall") << -1.0 << 0.0 << 0.0 << 1.0 << int(Side::Left);
        QTest::newRow("right wall") << 1.0 << 0.0 << 0.0 << 5.0 << int(Side::Right);
        QTest::newRow("floor") << 0.0 << -1.0 << 0.0 << 1.5 << int(Side::Floor);
        QTest::newRow("ceiling") << 0.0 << 1.0 << 0.0 << 1.0 << int(Side::Ceiling);
    }
    void raysMeetTheRoom() {
        QFETCH(double, x);
        QFETCH(double, y);
        QFETCH(double, z);
        QFETCH(double, distance);
        QFETCH(int, side);
        const Vec from(1.0, 1.5, 2.0);
        const RoomHit hit = roomHit(emptyRoom(), from, {x, y, z});
        QCOMPARE(int(hit.side), side);
        QVERIFY(std::abs(hit.distance - distance) < 1e-9);
        const SurfaceHit surface = surfaceHit(emptyRoom(), from, {x, y, z});
        QVERIFY(std::abs(surface.distance - distance) < 1e-9);
        QVERIFY(surface.objectId.empty());
        // Surfaces look back into the room.
        QVERIFY(surface.normal.dot(Vec(x, y, z)) < 0.0);
        QVERIFY((surface.point - (from + distance * Vec(x, y, z))).norm() < 1e-9);
    }
    void furnitureStandsInTheWayOfSight() {
        rig::SetPlan plan = emptyRoom();
        plan.objects.push_back(board(plan, 3.0, 2.5));
        const PlanObject& table = plan.objects.front();
        const double below = table.heightMetres + 0.3 * table.tallMetres;
        const Obstacles obstacles(plan);
        QVERIFY(isSolid(PlanKind::Table));
        QVERIFY(!isSolid(PlanKind::Window));
        const Vec left(0.5, below, 2.5);
        const Vec right(5.5, below, 2.5);
        QVERIFY(obstacles.isBlocked(left, right, {}));
        QVERIFY(!obstacles.isBlocked(left, right, {table.id}));
        const Vec up(0.0, table.tallMetres + 0.5, 0.0);
        QVERIFY(!obstacles.isBlocked(left + up, right + up, {}));
        // A line that ends before it is free.
        QVERIFY(!obstacles.isBlocked(left, {1.5, below, 2.5}, {}));
    }
    void thingsAreMovedInStepsAndKeptInside() {
        rig::SetPlan plan = emptyRoom();
        plan.objects.push_back(board(plan, 3.0, 2.5));
        const std::string id = plan.objects.front().id;
        moveObject(plan, id, 99.0, -99.0);
        const PlanObject& moved = plan.objects.front();
        QVERIFY(moved.xMetres <= plan.widthMetres && moved.xMetres > 3.0);
        QVERIFY(moved.zMetres >= 0.0 && moved.zMetres < 2.5);
        const double step = snapped(plan, 1.2345);
        QVERIFY(std::abs(step - 1.2345) <= 0.06);
        QCOMPARE(snapped(plan, step), step);
    }
    void copiesAndRemovalsKeepIdsApart() {
        rig::SetPlan plan = emptyRoom();
        plan.objects.push_back(board(plan, 1.0, 1.0));
        plan.objects.push_back(newObject(plan, PlanKind::Light, 2.0, 2.0));
        const auto copies =
            duplicateObjects(plan, {plan.objects[0].id, plan.objects[1].id, "nobody"});
        QCOMPARE(copies.size(), std::size_t{2});
        QCOMPARE(plan.objects.size(), std::size_t{4});
        std::set<std::string> ids;
        for (const PlanObject& object : plan.objects) ids.insert(object.id);
        QCOMPARE(ids.size(), std::size_t{4});
        removeObject(plan, copies.front());
        QCOMPARE(plan.objects.size(), std::size_t{3});
        removeObject(plan, "nobody");
        QCOMPARE(plan.objects.size(), std::size_t{3});
    }
    void objectsAreAlignedToTheFirst() {
        rig::SetPlan plan = emptyRoom();
        plan.objects.push_back(board(plan, 1.0, 1.0));
        plan.objects.push_back(board(plan, 2.2, 1.7));
        const std::vector<std::string> ids{plan.objects[0].id, plan.objects[1].id};
        alignObjects(plan, ids, Alignment::X);
        QCOMPARE(plan.objects[1].xMetres, plan.objects[0].xMetres);
        QVERIFY(plan.objects[1].zMetres > plan.objects[0].zMetres);
        alignObjects(plan, ids, Alignment::Z);
        QCOMPARE(plan.objects[1].zMetres, plan.objects[0].zMetres);
    }
};

RIG_TEST(TestPlanGeometry);
#include "test_plan_geometry.moc"
