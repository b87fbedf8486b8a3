// SPDX-License-Identifier: GPL-3.0-or-later
// Faces alone: no chart anywhere, light and curves by published formulas, shine and side light at
// random.
#include "match/match_report.h"
#include "support/coverage.h"
#include "support/own_take.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Quality;
using support::OwnCamera;
using support::OwnRandom;
using support::own::Triple;

namespace {

/// Forehead of light or dark skin (reflectances of linear BT.709, own), with shine on it.
rig::FaceReading faceOn(const OwnCamera& camera, const Triple& skin, double shine, double degrees) {
    rig::FaceReading face;
    face.turnDegrees = degrees;
    Triple light{};
    for (std::size_t c = 0; c < 3; ++c) light[c] = skin[c] + shine;
    rig::SkinReading spot;
    spot.signal = support::own::signalOf(camera, light);
    spot.standardError = {0.001, 0.001, 0.001};
    spot.pixels = 500;
    face.forehead = spot;
    return face;
}

constexpr Triple kLight{0.42, 0.24, 0.17}, kDark{0.10, 0.055, 0.035};

/// Two cameras that see the same people.
struct Scene {
    rig::Rig rig;
    match::People people;

    explicit Scene(bool areCurvesDeclared) {
        for (const char* id : {"a", "b"}) {
            rig::Camera camera;
            camera.id = id;
            camera.sheet.isoValues = optics::isoSeries(100.0, 6400.0);
            for (double k = 2500.0; k <= 9900.0; k += 100.0) camera.sheet.kelvins.push_back(k);
            for (double t = -9.0; t <= 9.0; t += 1.0) camera.sheet.tintSteps.push_back(t);
            rig::Profile profile{"Standard"};
            if (areCurvesDeclared) profile.curve = colour::curveOf(colour::CurveKind::Bt709);
            camera.sheet.profiles = {profile};
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
    }
    rig::Take& take(
        const OwnCamera& a, const OwnCamera& b, int faces, OwnRandom& random, double apart) {
        rig::Take take;
        take.id = rig::freshTakeId(rig);
        people.clear();
        for (const bool isA : {true, false}) {
            rig::Reading reading;
            reading.width = 1920;
            reading.height = 1080;
            for (int i = 0; i < faces; ++i) {
                const Triple& skin = i % 2 == 0 ? kLight : kDark;
                // Shine, and light from the side, differ between places to look from.
                Triple seen = skin;
                const double side = std::exp2(random.normal(0.06));
                for (double& value : seen) value *= side;
                reading.faces.push_back(
                    faceOn(isA ? a : b, seen, std::abs(random.normal(0.004)), isA ? 0.0 : apart));
            }
            rig::Shot shot;
            shot.cameraId = isA ? "a" : "b";
            shot.reading = reading;
            take.shots.push_back(shot);
        }
        for (int i = 0; i < faces; ++i) {
            const auto face = static_cast<std::size_t>(i);
            people.push_back({"person " + std::to_string(i + 1), {{"a", face}, {"b", face}}});
        }
        rig.takes.push_back(take);
        return rig.takes.back();
    }
    [[nodiscard]] match::MatchReport report() const {
        return match::matchTake(rig, rig.takes.back(), true, people);
    }
};

OwnCamera plain() {
    OwnCamera camera;
    camera.stops = -0.4;
    return camera;
}

/// Gains that render a neutral by so many mired warmer and Duv greener, green held.
Triple gainsFor(double mired, double duv) {
    const auto d65 = colour::whitePointOf(colour::kD65).value();
    const colour::WhitePoint white{d65.mired + base::Mired(mired), d65.duv + base::Duv(duv)};
    const colour::Vector3 rgb =
        colour::xyzToRgb(colour::kBt709) * colour::xyzOf(colour::chromaticityOf(white).value());
    return {rgb.x() / rgb.y(), 1.0, rgb.z() / rgb.y()};
}

}  // namespace

class TestFaceMatch : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// One face: 0.15 stop, 6 mired, 0.0015 Duv from under 20° apart, twice that at 45° (common
    /// practice); twice it covers what is true.
    void oneFaceTellsWhatIsStatedOfIt() {
        OwnRandom random{std::mt19937(61)};
        support::CoverageRow stops{"exposure"}, mired{"white balance"}, duv{"tint"};
        const int count = support::sampleSize(400, 100);
        for (int i = 0; i < count; ++i) {
            Scene scene(true);
            const OwnCamera a = plain();
            OwnCamera b = plain();
            const double byMired = random.normal(15.0), byDuv = random.normal(0.003),
                         byStops = random.normal(0.4);
            b.gains = gainsFor(byMired, byDuv);
            b.stops += byStops;
            scene.take(a, b, 1, random, random.between(0.0, 20.0));
            const auto report = scene.report();
            const auto& d = report.find("b")->differences;
            QVERIFY(d.of(Quality::Exposure).value.has_value());
            stops.take(d.of(Quality::Exposure), byStops);
            mired.take(d.of(Quality::WhiteBalance), byMired);
            duv.take(d.of(Quality::Tint), byDuv);
            QVERIFY(std::abs(d.of(Quality::Exposure).uncertainty - 0.15) < 0.001);
            QVERIFY(std::abs(d.of(Quality::WhiteBalance).uncertainty - 6.0) < 0.01);
        }
        for (const auto* one : {&stops, &mired, &duv}) {
            one->tell();
            QVERIFY(one->percent() >= 90.0);
        }
    }
    void fartherApartIsLessSureAndMorePeopleMore() {
        OwnRandom random{std::mt19937(62)};
        const auto unsure = [&](int faces, double apart) {
            Scene scene(true);
            scene.take(plain(), plain(), faces, random, apart);
            return scene.report().find("b")->differences.of(Quality::WhiteBalance).uncertainty;
        };
        QVERIFY(std::abs(unsure(1, 45.0) / unsure(1, 10.0) - 2.0) < 0.01);
        QVERIFY(unsure(4, 10.0) < 0.7 * unsure(1, 10.0));
    }
    /// What exceeds twice its uncertainty is turned, what does not is left.
    void onlyWhatIsSureIsTurned() {
        OwnRandom random{std::mt19937(63)};
        Scene scene(true);
        OwnCamera b = plain();
        b.gains = gainsFor(-50.0, 0.0);
        b.stops += 0.1;
        scene.take(plain(), b, 2, random, 10.0);
        const auto report = scene.report();
        bool isBalanced = false;
        for (const rig::Turn& turn : report.turns()) {
            QVERIFY(turn.control == rig::Control::WhiteBalance);
            isBalanced = turn.toValue > turn.fromValue;
        }
        QVERIFY(isBalanced);
        bool isSaid = false;
        for (const base::Text& note : report.find("b")->differences.notes)
            isSaid = isSaid || words::inEnglish(note).find("From 2 faces, without a chart") !=
                                   std::string::npos;
        QVERIFY(isSaid);
    }
    /// No curve, no stops; once a chart has shown it, there are.
    void stopsNeedACurve() {
        OwnRandom random{std::mt19937(64)};
        Scene scene(false);
        OwnCamera b = plain();
        b.stops += 1.0;
        scene.take(plain(), b, 1, random, 5.0);
        const auto first = scene.report();
        const auto& before = first.find("b")->differences;
        QVERIFY(!before.of(Quality::Exposure).value);
        QVERIFY(words::inEnglish(before.of(Quality::Exposure).reason).find("curve") !=
                std::string::npos);
        QVERIFY(before.of(Quality::WhiteBalance).value.has_value());
        for (const rig::Turn& turn : scene.report().turns())
            QVERIFY(turn.control != rig::Control::Iso);

        Scene later(false);
        rig::Take charted;
        charted.id = "take-1";
        for (const char* id : {"a", "b"}) {
            rig::Shot shot;
            shot.cameraId = id;
            shot.reading = support::ownReading(plain(), random, 4);
            charted.shots.push_back(shot);
        }
        later.rig.takes.push_back(charted);
        later.take(plain(), b, 1, random, 5.0);
        const auto report = later.report();
        const auto& after = report.find("b")->differences.of(Quality::Exposure);
        QVERIFY(after.value.has_value());
        QVERIFY(std::abs(*after.value - 1.0) < 0.35);
        QVERIFY(!report.turns().empty() && report.turns()[0].control == rig::Control::Iso);
    }
    void nobodyInCommonTellsNothing() {
        OwnRandom random{std::mt19937(65)};
        Scene scene(true);
        scene.take(plain(), plain(), 1, random, 5.0);
        scene.people.clear();
        const auto report = scene.report();
        QVERIFY(!report.find("b")->differences.of(Quality::WhiteBalance).value);
        QVERIFY(report.turns().empty());
    }
};

RIG_TEST(TestFaceMatch);
#include "test_face_match.moc"
