// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <numbers>

#include "optics/light.h"
#include "plan/face_light.h"
#include "plan/furnisher.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::plan;
using rig::PlanKind;
using rig::SetPlan;

namespace {

/// A large black room: nothing comes back from its walls.
SetPlan blackRoom() {
    SetPlan plan;
    plan.widthMetres = plan.depthMetres = 20.0;
    plan.heightMetres = 8.0;
    plan.wallReflectance = plan.ceilingReflectance = plan.floorReflectance = 0.01;
    return plan;
}

rig::PlanObject& addLamp(SetPlan& plan, const Vec& place, const Vec& aim, double lux, double size) {
    Furnisher set(plan);
    rig::PlanObject& lamp = set.addLight("lamp", place, aim, lux, 5600.0);
    lamp.sourceMetres = size;
    lamp.beamDegrees = 120.0;
    return lamp;
}

double direct(const SetPlan& plan, const Vec& point, const Vec& normal) {
    const LightField field(plan);
    const SpotLight light = field.at(point, normal, "");
    return light.totalLux - light.roomLux;
}

constexpr double kStop = 0.02;  // quadrature of 12 points against the closed formula

bool isStops(double value, double expected, double stops) {
    return std::abs(std::log2(value / expected)) <= stops;
}

}  // namespace

class TestLightField : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// sources 3.13: change = 2 log2(d1 / d2).
    void smallSourcesFollowTheInverseSquare() {
        SetPlan plan = blackRoom();
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        QVERIFY(isStops(direct(plan, {10, 2, 3}, {0, 0, -1}), 1000.0, kStop));
        QVERIFY(isStops(direct(plan, {10, 2, 4}, {0, 0, -1}), 250.0, kStop));
        QVERIFY(isStops(direct(plan, {10, 2, 4.5}, {0, 0, -1}), 1000.0 / 6.25, kStop));
    }
    /// sources 11.16: a matt wall gives back rho of the beam's light, seen from afar as a small
    /// disc of that flux (Lambert); the narrow beam's flux is pi I h^2 / ln 2 for half at h.
    void aLampTurnedIntoAWallLightsFromThere() {
        SetPlan plan = blackRoom();
        plan.wallReflectance = 0.8;
        rig::PlanObject& lamp = addLamp(plan, {1, 2, 10}, {0, 2, 10}, 1e5, 0.02);
        lamp.beamDegrees = 20.0;
        const double half = 10.0 * std::numbers::pi / 180.0;
        const double flux = std::numbers::pi * 1e5 * half * half / std::numbers::ln2;
        const Vec spot(6, 2, 10), toWall(-1, 0, 0);
        QVERIFY(
            isStops(direct(plan, spot, toWall), 0.8 * flux / std::numbers::pi / (6.0 * 6.0), 0.05));
        QCOMPARE(LightField(plan).at(spot, toWall, "").luxOf("light-1"),
                 direct(plan, spot, toWall));
        // Half of it where the wall is seen under 60 degrees.
        const Vec aside = Vec(0, 2, 10) + 6.0 * Vec(0.5, 0.0, std::sqrt(0.75));
        QVERIFY(isStops(direct(plan, aside, (Vec(0, 2, 10) - aside).normalized()),
                        0.5 * 0.8 * flux / std::numbers::pi / (6.0 * 6.0),
                        0.08));
        // A board before the wall catches it, and a far wall is the room's.
        QVERIFY(LightField(plan).wallDiscOf("light-1") != nullptr);
        plan.objects[0].xMetres = 5.0;
        QVERIFY(LightField(plan).wallDiscOf("light-1") == nullptr);
        plan.objects[0].xMetres = 1.0;
        rig::PlanObject board;
        board.id = "bounce-1";
        board.kind = PlanKind::Bounce;
        board.widthMetres = board.tallMetres = 1.0;
        board.facingDegrees = 90.0;
        board.xMetres = 0.3;
        board.heightMetres = 1.5;
        board.zMetres = 10.0;
        plan.objects.push_back(board);
        QVERIFY(LightField(plan).wallDiscOf("light-1") == nullptr);
    }
    /// sources 11.12: a black square twice as wide as it is far takes 0.5541 of what the room
    /// gives; nothing of it behind, and next to nothing far off.
    void blackClothTakesTheRoomsLight() {
        SetPlan plan = blackRoom();
        plan.wallReflectance = plan.ceilingReflectance = plan.floorReflectance = 0.4;
        addLamp(plan, {4, 3, 4}, {4, 0, 4}, 4000.0, 0.3);
        const Vec spot(10, 2, 10), toRight(1, 0, 0);
        const double before = LightField(plan).at(spot, toRight, "").roomLux;
        QVERIFY(before > 1.0);
        rig::PlanObject cloth;
        cloth.id = "flag-1";
        cloth.kind = PlanKind::Flag;
        cloth.widthMetres = cloth.tallMetres = 2.0;
        cloth.facingDegrees = -90.0;
        cloth.xMetres = 11.0;
        cloth.heightMetres = 1.0;
        cloth.zMetres = 10.0;
        plan.objects.push_back(cloth);
        const double beside = LightField(plan).at(spot, toRight, "").roomLux;
        QVERIFY2(std::abs(beside / before - (1.0 - 0.5541)) < 0.01,
                 qPrintable(QString::number(beside / before)));
        QCOMPARE(LightField(plan).at(spot, -toRight, "").roomLux, before);
        plan.objects.back().xMetres = 16.0;
        QVERIFY(LightField(plan).at(spot, toRight, "").roomLux > 0.95 * before);
    }
    /// sources 3.13: a disc gives d² / (d² + a²/4) of the point law.
    void discsFollowTheDiscLaw_data() {
        QTest::addColumn<double>("distance");
        QTest::newRow("at its own width") << 1.0;
        QTest::newRow("twice its width") << 2.0;
        QTest::newRow("five times its width") << 5.0;
    }
    void discsFollowTheDiscLaw() {
        QFETCH(double, distance);
        SetPlan plan = blackRoom();
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 1.0);
        const double point = 1000.0 / (distance * distance);
        const double expected = point * std::exp2(optics::discLoss(1.0, distance).value());
        // The beam is a bell that meets the cosine at 0 and 60°, not between: 0.06 stop near by.
        QVERIFY(isStops(direct(plan, {10, 2, 2 + distance}, {0, 0, -1}), expected, 0.06));
    }
    void lightFallsWithTheCosine() {
        SetPlan plan = blackRoom();
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        const double straight = direct(plan, {10, 2, 4}, {0, 0, -1});
        const double turned = direct(plan, {10, 2, 4}, facingVector(180.0 - 60.0));
        QVERIFY(isStops(turned, 0.5 * straight, kStop));
        QVERIFY(direct(plan, {10, 2, 4}, {0, 0, 1}) < 1e-6);
    }
    /// sources 3.14: losses add in stops.
    void modifierGridAndDimmerTakeTheirStops() {
        SetPlan plan = blackRoom();
        rig::PlanObject& lamp = addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        const double bare = direct(plan, {10, 2, 4}, {0, 0, -1});
        lamp.dimPercent = 25.0;
        QVERIFY(isStops(direct(plan, {10, 2, 4}, {0, 0, -1}), bare / 4.0, 1e-6));
        lamp.modifier = "soft box, one layer";
        lamp.hasGrid = true;
        QVERIFY(std::abs(lampLossStops(lamp) + 2.0 + 1.25 + 1.4) < 0.01);
        lamp.isOn = false;
        QVERIFY(direct(plan, {10, 2, 4}, {0, 0, -1}) < 1e-9);
    }
    /// A spot of 30° put into a soft box spreads the same light over 120°: energy is kept.
    void aWiderBeamIsThinner() {
        SetPlan plan = blackRoom();
        rig::PlanObject& lamp = addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        lamp.beamDegrees = 30.0;
        const double spotFlux = LightField(plan).sources()[0].flux();
        lamp.modifier = "soft box, one layer";
        const double boxFlux = LightField(plan).sources()[0].flux();
        QVERIFY(isStops(boxFlux, spotFlux * std::exp2(-1.25), 0.01));
    }
    /// A pane of luminance L at a distance far beyond its size: E = L A / d², M = pi L.
    void windowsShineAsMattPanes() {
        SetPlan plan = blackRoom();
        Furnisher set(plan);
        rig::PlanObject& window = set.add(PlanKind::Window, "window", {10, 1.5, 0});
        window.widthMetres = window.tallMetres = 1.0;
        window.luxAtGlass = 3000.0;
        const double expected = 3000.0 / std::numbers::pi * 1.0 / 64.0;
        const double bare = direct(plan, {10, 2, 8}, {0, 0, -1});
        QVERIFY(isStops(bare, expected, 0.03));
        window.filmStops = 3.0;
        QVERIFY(isStops(direct(plan, {10, 2, 8}, {0, 0, -1}), bare / 8.0, 1e-6));
        window.isBlackedOut = true;
        QVERIFY(direct(plan, {10, 2, 8}, {0, 0, -1}) < 1e-9);
    }
    void flagsAndPeopleCastShadows() {
        SetPlan plan = blackRoom();
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.3);
        QVERIFY(direct(plan, {10, 2, 6}, {0, 0, -1}) > 50.0);
        Furnisher set(plan);
        rig::PlanObject& flag = set.add(PlanKind::Flag, "flag", {10, 1.5, 4});
        flag.widthMetres = flag.tallMetres = 1.0;
        QVERIFY(direct(plan, {10, 2, 6}, {0, 0, -1}) < 1e-6);
        flag.xMetres = 10.55;  // only a part of the lamp is seen past its edge
        const double half = direct(plan, {10, 2, 6}, {0, 0, -1});
        QVERIFY(half > 10.0 && half < 62.0);
    }
    void boardsGiveBackWhatTheyCatch() {
        SetPlan plan = blackRoom();
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        const double before = direct(plan, {10, 2, 3}, {0, 0, 1});
        Furnisher set(plan);
        rig::PlanObject& board = set.add(PlanKind::Bounce, "board", {10, 1.5, 5});
        board.facingDegrees = 180.0;
        const double after = direct(plan, {10, 2, 3}, {0, 0, 1});
        QVERIFY(before < 1e-6 && after > 1.0 && after < 111.0 * 0.85);
    }
    /// Integrating sphere: E = flux rho / (A (1 - rho)).
    void theRoomGivesBackItsShare() {
        SetPlan plan = blackRoom();
        plan.wallReflectance = plan.ceilingReflectance = plan.floorReflectance = 0.5;
        addLamp(plan, {10, 2, 2}, {10, 2, 8}, 1000.0, 0.02);
        const LightField field(plan);
        const double area = 2.0 * 400.0 + 4.0 * 20.0 * 8.0;
        QVERIFY(isStops(field.roomLux(), field.sources()[0].flux() / area, 1e-6));
    }
    void coloursAddByTheirLight() {
        const Vec warm = lightColour(3200.0, 0.0);
        QVERIFY(warm.x() > 1.1 && warm.z() < 0.6);
        const Vec white = lightColour(5600.0, 0.0);
        QVERIFY((white - Vec(1, 1, 1)).norm() < 0.005);
        QVERIFY(lightColour(5600.0, 0.006).y() > lightColour(5600.0, -0.006).y());
    }
    /// sources 3.7: key path 2.0 m, hair path 1.2 m: hair 1.47 stops brighter.
    void crossKeysAreKeyAndHairLight() {
        SetPlan plan = blackRoom();
        Furnisher set(plan);
        set.addPerson("left", {9.4, 1.3, 8}, 60.0, 0.3);
        set.addPerson("right", {10.6, 1.3, 8}, -60.0, 0.3);
        rig::PlanObject& lamp = addLamp(plan, {11.5, 2.2, 7.3}, {9.4, 1.3, 8}, 3000.0, 0.5);
        const LightField field(plan);
        const FaceLight far = faceLight(field, plan.objects[0]);
        const FaceLight near = faceLight(field, plan.objects[1]);
        QVERIFY(far.keyLamp() != nullptr && far.keyLamp()->objectId == lamp.id);
        const auto roleOn = [&](const FaceLight& face) {
            for (const LampOnFace& each : face.lamps) {
                if (each.objectId == lamp.id) return each.role;
            }
            return LampRole::None;
        };
        QCOMPARE(roleOn(far), LampRole::Key);
        QVERIFY(near.hair.luxOf(lamp.id) > far.faceLux);
    }
    /// sources 11.11: key alone 0.310, fill alone 0.094 on one side: 4.3 : 1, 2.1 stops.
    void ratioIsKeyAndFillAgainstFill() {
        SetPlan plan = blackRoom();
        Furnisher set(plan);
        set.addPerson("host", {10, 1.3, 8}, 0.0, 0.3);
        addLamp(plan, {10 - 3, 1.3, 11}, {10, 1.3, 8}, 3000.0, 0.02);
        addLamp(plan, {10, 1.3, 12}, {10, 1.3, 8}, 1000.0, 0.02);
        const LightField field(plan);
        const FaceLight face = faceLight(field, plan.objects[0]);
        const double key = face.right.luxOf("light-1");
        const double fill = face.left.luxOf("light-2");
        QVERIFY(face.left.luxOf("light-1") < 0.02 * key);
        QVERIFY(std::abs(face.ratioStops - optics::lightingRatio(key, fill).value()) < 0.05);
        QCOMPARE(face.litSide, FaceSide::Right);
        QVERIFY(face.ratioUncertainty > 0.05 && face.ratioUncertainty < 1.0);
    }
};

RIG_TEST(TestLightField);
#include "test_light_field.moc"
