// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "plan/geometry.h"
#include "sim/clock_bench.h"
#include "sim/moving_people.h"
#include "sim/plan_scene.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using sim::Vec;

namespace {

constexpr double kLength = 5.0, kClap = 4.3;  // s

struct Seen {
    rig::SetPlan plan;
    sim::View view;
    sim::LayeredPicture picture;
};

/// The demo's wide picture, with rays enough for what is asked of it.
const Seen& wide() {
    static const Seen kSeen = [] {
        Seen seen;
        const rig::Rig rig = sim::clockBenchRig();
        seen.plan = *rig.plan;
        seen.view = *sim::planView(rig, rig.cameras[0]);
        seen.view.width = 960;
        seen.view.height = 540;
        sim::RenderOptions few;
        few.lampRays = 1;
        seen.picture = *sim::renderLayers(sim::sceneOf(seen.plan), seen.view, {}, few);
        return seen;
    }();
    return kSeen;
}

sim::MovingPeople people() {
    return {wide().plan, wide().view, wide().picture.parts, kLength, 1, kClap};
}

image::Frame pictureAt(double seconds) {
    image::Frame picture = wide().picture.set;
    people().lay(seconds, {0, 0, picture.width, picture.height}, picture);
    return picture;
}

plan::Head headOf(std::size_t person) {
    return plan::headOf(*plan::objectsOf(wide().plan, rig::PlanKind::Person)[person]);
}

/// Middle of all that differs from the empty set in a box about a place, px.
image::Point middleOf(const image::Frame& picture, image::Point about, int reach) {
    double sum = 0.0, x = 0.0, y = 0.0;
    for (int row = static_cast<int>(about.y) - reach; row <= static_cast<int>(about.y) + reach;
         ++row) {
        for (int column = static_cast<int>(about.x) - reach;
             column <= static_cast<int>(about.x) + reach;
             ++column) {
            double off = 0.0;
            for (int c = 0; c < 3; ++c)
                off += std::abs(double(picture.at(c, column, row)) -
                                double(wide().picture.set.at(c, column, row)));
            if (off < 0.01) continue;
            sum += 1.0;
            x += column;
            y += row;
        }
    }
    return {x / sum, y / sum};
}

}  // namespace

class TestMovingPeople : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Nobody is in the empty set, and everybody is in the picture.
    void peopleAreLaidOverTheSet() {
        QCOMPARE(wide().picture.parts.size(), std::size_t{4});  // two trunks, two forearms
        for (const std::size_t person : {0U, 1U}) {
            const image::Point at = wide().view.project(headOf(person).centre);
            const auto x = static_cast<int>(at.x), y = static_cast<int>(at.y);
            const image::Frame picture = pictureAt(0.0);
            QVERIFY(std::abs(picture.at(0, x, y) - wide().picture.set.at(0, x, y)) > 0.02F);
        }
    }
    /// At rest the layers make the picture that a plain rendering makes.
    void layersMakeThePlainPicture() {
        sim::RenderOptions few;
        few.lampRays = 1;
        const auto plain = sim::render(sim::sceneOf(wide().plan), wide().view, {}, few);
        image::Frame laid = wide().picture.set;
        // Far from every lean and clap, and half a centimetre of sway undone by looking at flat
        // places: shirts.
        people().lay(0.0, {0, 0, laid.width, laid.height}, laid);
        for (const std::size_t person : {0U, 1U}) {
            const plan::Head head = headOf(person);
            const image::Point at = wide().view.project(head.at(0.0, -0.62, 0.08));
            const auto x = static_cast<int>(at.x), y = static_cast<int>(at.y);
            for (int c = 0; c < 3; ++c)
                QVERIFY(std::abs(laid.at(c, x, y) - plain->at(c, x, y)) < 0.02F);
        }
    }
    /// Heads go where the pose has them, as the lens projects it.
    void headsGoWithTheirPose() {
        for (const std::size_t person : {0U, 1U}) {
            const plan::Head head = headOf(person);
            const auto placeAt = [&](double seconds) {
                return wide().view.project(
                    head.centre +
                    sim::poseAt(person, head, seconds, kLength, 1, std::nullopt).sway);
            };
            const image::Point rest = wide().view.project(head.at(0.0, 0.03, 0.0));
            double farthest = 0.0;
            for (const double seconds : {0.4, 1.5, 2.3, 2.9}) {
                const image::Point was = middleOf(pictureAt(0.0), rest, 40),
                                   is = middleOf(pictureAt(seconds), rest, 40);
                const image::Point from = placeAt(0.0), to = placeAt(seconds);
                farthest = std::max(farthest, std::abs(to.x - from.x));
                const double off = std::abs((is.x - was.x) - (to.x - from.x));
                QVERIFY2(off < 0.6,
                         qPrintable(QStringLiteral("%1 px at %2 s").arg(off).arg(seconds)));
            }
            QVERIFY(farthest > 1.5);
        }
    }
    /// Before the clap one sees the apron between the hands; at the clap, skin.
    void handsMeetAtTheClap() {
        const plan::Head head = headOf(0);
        const auto skinBetween = [&](double seconds) {
            const sim::Pose pose = sim::poseAt(0, head, seconds, kLength, 1, kClap);
            const image::Point at =
                wide().view.project(head.centre + 0.35 * pose.sway +
                                    head.scale * (-0.375 * Vec::UnitY() + 0.295 * head.forward));
            const image::Frame picture = pictureAt(seconds);
            double red = 0.0, blue = 0.0;
            for (int x = -3; x <= 3; ++x) {
                red += double(picture.at(0, static_cast<int>(at.x) + x, static_cast<int>(at.y)));
                blue += double(picture.at(2, static_cast<int>(at.x) + x, static_cast<int>(at.y)));
            }
            return red / std::max(blue, 1e-6);
        };
        QVERIFY(sim::poseAt(0, head, kClap, kLength, 1, kClap).clap == 1.0);
        QVERIFY(sim::poseAt(0, head, kClap - 0.2, kLength, 1, kClap).clap < 0.0);
        QVERIFY(sim::poseAt(0, head, kClap - 1.0, kLength, 1, kClap).clap == 0.0);
        QVERIFY2(skinBetween(kClap) > 1.5, qPrintable(QString::number(skinBetween(kClap))));
        QVERIFY2(skinBetween(2.0) < 1.3, qPrintable(QString::number(skinBetween(2.0))));
    }
    /// The same for every camera, other for every person and take, and once in a take a lean.
    void posesBelongToTheTake() {
        const plan::Head head = headOf(0);
        const auto swayAt = [&](std::size_t person, double seconds, std::uint64_t seed) {
            return sim::poseAt(person, head, seconds, kLength, seed, std::nullopt).sway;
        };
        QVERIFY(swayAt(0, 1.0, 1) == swayAt(0, 1.0, 1));
        QVERIFY((swayAt(0, 1.0, 1) - swayAt(1, 1.0, 1)).norm() > 1e-4);
        QVERIFY((swayAt(0, 1.0, 1) - swayAt(0, 1.0, 2)).norm() > 1e-4);
        double most = 0.0, aside = 0.0;
        for (double seconds = 0.0; seconds < kLength; seconds += 0.05) {
            most = std::max(most, swayAt(0, seconds, 1).dot(head.forward));
            aside = std::max(aside, std::abs(swayAt(0, seconds, 1).dot(head.left)));
        }
        QVERIFY(most > 0.04 && most < 0.08);
        QVERIFY(aside > 0.004 && aside < 0.016);
    }
    /// Long hair and hats are variants of everybody.
    void hatsAndLongHairAreSeen() {
        const auto colourAt = [](bool hasHat, bool hasLongHair, double x, double y, double z) {
            rig::Rig rig = sim::clockBenchRig();
            rig::PlanObject& person = *rig::findObject(*rig.plan, "person-1");
            person.hasHat = hasHat;
            person.hasLongHair = hasLongHair;
            person.hasGlasses = false;
            sim::View view = *sim::planView(rig, rig.cameras[1]);
            view.width = 480;
            view.height = 270;
            sim::RenderOptions few;
            few.lampRays = 1;
            const auto picture = sim::render(sim::sceneOf(*rig.plan), view, {}, few);
            const image::Point at = view.project(plan::headOf(person).at(x, y, z));
            return std::array<float, 2>{
                picture->at(0, static_cast<int>(at.x), static_cast<int>(at.y)),
                picture->at(2, static_cast<int>(at.x), static_cast<int>(at.y))};
        };
        // Over the crown: wall, or hat. Beside the neck: wall, or hair.
        QVERIFY(colourAt(true, false, 0.0, 0.172, -0.01) !=
                colourAt(false, false, 0.0, 0.172, -0.01));
        QVERIFY(colourAt(false, true, 0.075, -0.13, -0.05) !=
                colourAt(false, false, 0.075, -0.13, -0.05));
        // The face stays free.
        const auto with = colourAt(true, true, 0.03, -0.03, 0.09);
        QVERIFY(with[0] > 1.5F * with[1]);
    }
};

RIG_TEST(TestMovingPeople);
#include "test_moving_people.moc"
