// SPDX-License-Identifier: GPL-3.0-or-later
#include <random>

#include "face/face_finder.h"
#include "framing/person_frame.h"
#include "framing/picture_roll.h"
#include "image/robust.h"
#include "plan/geometry.h"
#include "support/found_faces.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/sitting.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::Sitting;

using support::finder;

namespace {

/// The random sitting of a case: size, turn, skin, glasses, exposure, curve, place, roll.
Sitting sittingOf(int i) {
    std::mt19937 random(static_cast<unsigned>(700 + i));
    std::uniform_real_distribution<double> uniform(0.0, 1.0);
    Sitting sitting;
    sitting.headShare = 0.1 * std::pow(6.0, uniform(random));
    sitting.turnDegrees = 120.0 * (uniform(random) - 0.5);
    sitting.skin = uniform(random) < 0.5 ? 0.085 : 0.29;
    sitting.hasGlasses = uniform(random) < 0.4;
    sitting.stops = 5.0 * (uniform(random) - 0.6);
    const double curve = uniform(random);
    sitting.curve = curve < 0.3   ? colour::CurveKind::Log
                    : curve < 0.5 ? colour::CurveKind::Hlg
                    : curve < 0.7 ? colour::CurveKind::Bt709
                                  : colour::CurveKind::Standard;
    const double free = std::max(0.0, 0.42 - 0.5 * sitting.headShare);
    sitting.aimUp = 0.23 / sitting.headShare * free * (uniform(random) - 0.3) * 0.5;
    sitting.aimRight = 0.23 / sitting.headShare * free * (uniform(random) - 0.5);
    sitting.rollDegrees = uniform(random) < 0.5 ? 0.0 : 4.0 * (uniform(random) - 0.5);
    sitting.hasHat = uniform(random) < 0.15;
    sitting.hasLongHair = uniform(random) < 0.25;
    return sitting;
}

struct Errors {
    std::vector<double> all;
    int covered = 0;
    void add(double error, double uncertainty) {
        all.push_back(std::abs(error));
        covered += std::abs(error) <= 2.0 * uncertainty ? 1 : 0;
    }
    [[nodiscard]] double at(double share) const {
        std::vector<double> sorted = all;
        std::sort(sorted.begin(), sorted.end());
        return sorted.empty() ? 0.0
                              : sorted[static_cast<std::size_t>(
                                    share * static_cast<double>(sorted.size() - 1))];
    }
    void tell(const char* name) const {
        qInfo("%s: %zu, median %.4f, 95th %.4f, covered %.0f %%",
              name,
              all.size(),
              at(0.5),
              at(0.95),
              100.0 * covered / std::max<double>(1.0, static_cast<double>(all.size())));
    }
};

}  // namespace

class TestFraming : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void headsAreMeasured_data() {
        QTest::addColumn<bool>("isLightRoom");
        QTest::newRow("dark walls") << false;
        QTest::newRow("light walls") << true;
    }
    /// Stand-ins whose heads lie where the plan's geometry has them.
    void headsAreMeasured() {
        QFETCH(bool, isLightRoom);
        const int count = support::isFullSample() ? 120 : 8;
        Errors eyes, head, room, roll;
        int found = 0, estimates = 0;
        for (int i = 0; i < count; ++i) {
            Sitting sitting = sittingOf(i);
            sitting.isLightRoom = isLightRoom;
            const auto seen = support::seenOf(sitting);
            const auto frame = image::codedFromSignal(
                sim::CameraModel(seen.camera).develop(seen.linear, 7), {}, 10, 1);
            const auto view = plan::CameraView::of(
                seen.plan, seen.camera, *rig::findPlanCamera(seen.plan, "camera-1"));
            QVERIFY(view.has_value());
            const auto truth = plan::headBox(*view, *rig::findObject(seen.plan, "person-1"));
            QVERIFY(truth.has_value());
            if (const auto turned = framing::pictureRoll(frame)) {
                // + where the content is turned clockwise: against the camera's own roll.
                const double error = turned->degrees - sitting.rollDegrees;
                roll.add(error, turned->uncertaintyDegrees);
                if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                    qInfo("%d: roll %+.2f of %+.2f ± %.2f %s",
                          i,
                          turned->degrees,
                          sitting.rollDegrees,
                          turned->uncertaintyDegrees,
                          turned->source.c_str());
            }
            auto faces = *finder().find(frame);
            if (faces.size() != 1) continue;
            const face::Face rough = faces[0];
            faces[0] = finder().refined(frame, faces[0]);
            if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                qInfo("   eyes of the detector %+.4f, of the first mesh %+.4f; chin %+.4f",
                      ((rough.points.rightEye.y + rough.points.leftEye.y) / 2 + 0.5) /
                              frame.height / truth->height() -
                          truth->eyes.y / truth->height(),
                      (rough.eyes.y + 0.5) / frame.height / truth->height() -
                          truth->eyes.y / truth->height(),
                      (rough.chin.y + 0.5) / frame.height / truth->height() -
                          truth->chin.y / truth->height());
            ++found;
            const auto person = framing::personFrames(frame, faces).front();
            const double size = truth->height();
            if (truth->crown.y < 0.01) continue;
            eyes.add((person.eyeLine.value - truth->eyes.y) / (0.01 * size + 0.002),
                     person.eyeLine.uncertainty / (0.01 * size + 0.002));
            if (person.isCrownEstimate) {
                ++estimates;
            } else {
                head.add(person.headHeight.value / size - 1.0,
                         person.headHeight.uncertainty / size);
                room.add(person.headroom.value - truth->crown.y, person.headroom.uncertainty);
            }
            if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                qInfo(
                    "%d:%s%s share %.2f turn %+.0f eyes %+.4f head %+.4f chin %+.4f crown %+.4f %s",
                    i,
                    sitting.hasHat ? " hat" : "",
                    sitting.hasLongHair ? " hair" : "",
                    sitting.headShare,
                    sitting.turnDegrees,
                    (person.eyeLine.value - truth->eyes.y) / size,
                    person.headHeight.value / size - 1.0,
                    (person.headroom.value + person.headHeight.value - truth->chin.y) / size,
                    (person.headroom.value - truth->crown.y) / size,
                    person.isCrownEstimate ? "estimate" : "");
        }
        qInfo("found %d of %d, %d estimated", found, count, estimates);
        eyes.tell("eye line, of 1 % of the head + 0.2 % of the height");
        head.tell("head, share");
        room.tell("headroom, of the height");
        roll.tell("roll, degrees");
        QVERIFY(found >= 0.85 * count);
        // Of eight sittings the middle one lies where it will.
        const double few = support::isFullSample() ? 1.0 : 1.3;
        QVERIFY(eyes.at(0.5) <= few && eyes.at(0.95) <= 2.5 * few);
        QVERIFY(head.at(0.5) <= 0.02 && head.at(0.95) <= 0.05);
        QVERIFY(room.at(0.5) <= 0.01 && room.at(0.95) <= 0.025);
        QVERIFY(roll.at(0.5) <= 0.2 && roll.at(0.95) <= 0.5);
    }
};

RIG_TEST(TestFraming);
#include "test_framing.moc"
