// SPDX-License-Identifier: GPL-3.0-or-later
// Ways to a brightness beside ISO and ND, the second axis of a white balance, and sharpening.
#include "match/match_report.h"
#include "match/sharpness_turn.h"
#include "match/turn_options.h"
#include "optics/exposure.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using rig::Control;
using support::IdealCamera;

namespace {

constexpr double k50 = 1.0 / 50.0, k100 = 1.0 / 100.0, k125 = 1.0 / 125.0, k60 = 1.0 / 60.0;

struct Pair {
    rig::Rig rig;
    rig::Take take;

    rig::Camera& camera() { return rig.cameras[1]; }
    rig::Settings& settings() { return take.shots[1].settings; }
    [[nodiscard]] match::MatchReport report() const { return match::matchTake(rig, take); }
    [[nodiscard]] std::vector<double> free() const {
        return match::freeShutters(
            rig, rig.cameras[1], take.shots[1].settings, take.shots[0].settings);
    }
};

/// Two bodies whose only control is a shutter; B sees the chart as `camera`, A ideally.
Pair shutterOnly(const IdealCamera& camera) {
    Pair made;
    for (const char* id : {"a", "b"}) {
        rig::Camera body;
        body.id = id;
        body.sheet.shutterSeconds = {k50, k60, k100, k125};
        rig::Shot shot;
        shot.cameraId = id;
        shot.settings = body.settings;
        shot.reading = support::idealReading(std::string(id) == "a" ? IdealCamera{} : camera);
        made.rig.cameras.push_back(body);
        made.take.shots.push_back(shot);
    }
    rig::giveLetters(made.rig);
    return made;
}

IdealCamera brighter(double stops) { return {colour::curveOf(colour::CurveKind::Bt709), stops}; }

const rig::Turn* turnOf(const std::vector<rig::Turn>& turns, Control control) {
    for (const rig::Turn& turn : turns) {
        if (turn.control == control) return &turn;
    }
    return nullptr;
}

rig::Reading withOvershoot(double percent, double error = 0.5) {
    rig::Reading reading = support::idealReading({});
    reading.sharpness = rig::SharpnessReading{2.0, 0.05, percent, error};
    return reading;
}

rig::Camera withDetail() {
    rig::Camera camera;
    camera.id = "b";
    camera.sheet.detailSteps = {-4, -3, -2, -1, 0, 1, 2, 3, 4};
    return camera;
}

}  // namespace

class TestTurnOptions : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Nobody told the mains, and no lamp was looked at: nothing is free but the reference's own.
    void theShutterIsFreeOnlyWhereNothingBeats() {
        Pair pair = shutterOnly({});
        QCOMPARE(pair.free(), std::vector<double>{k50});
        pair.take.shots[0].settings.shutterSeconds = k100;
        QCOMPARE(pair.free(), (std::vector<double>{k50, k100}));
        pair.take.shots[0].settings.shutterSeconds = k50;
        // 50 Hz told: whole ripples of 100 Hz are 1/50 and 1/100 s (sources 4.3).
        pair.rig.choices.region = "europe";
        QCOMPARE(pair.free(), (std::vector<double>{k50, k100}));
        // No lamp on the plan is on: all within a stop of the reference's angle.
        pair.rig.choices.region.clear();
        pair.rig.plan = rig::SetPlan{};
        QCOMPARE(pair.free(), (std::vector<double>{k50, k60, k100}));
        pair.settings().shutterSeconds.forget();
        QVERIFY(pair.free().empty());
    }
    /// 1/50 to 1/100 s is one stop (sources 4.1).
    void whereNothingElseIsThereAFreeShutterIsTurned() {
        Pair pair = shutterOnly(brighter(1.0));
        QVERIFY2(turnOf(pair.report().turns(), Control::Shutter) == nullptr, "not free");
        pair.rig.choices.region = "europe";
        const auto report = pair.report();
        const auto turns = report.turns();
        const rig::Turn* turn = turnOf(turns, Control::Shutter);
        QVERIFY(turn != nullptr);
        QCOMPARE(words::inEnglish(turn->toText), optics::shutterText(k100));
        QVERIFY(std::abs(turn->change.exposureStops + 1.0) < 0.01);
        QVERIFY(QString::fromStdString(words::inEnglish(turn->reason)).contains("motion"));
        const rig::Settings after = rig::applied(pair.settings(), *turn);
        QCOMPARE(after.shutterSeconds.value(), k100);
        QVERIFY(rig::isDone(after, *turn) && !rig::isDone(pair.settings(), *turn));
        QCOMPARE(rig::takenBack(after, *turn).shutterSeconds.value(), k50);
    }
    void anIsoIsTurnedBeforeTheShutter() {
        Pair pair = shutterOnly(brighter(1.0));
        pair.rig.choices.region = "europe";
        pair.camera().sheet.isoValues = optics::isoSeries(100.0, 6400.0);
        const auto turns = pair.report().turns();
        QVERIFY(turnOf(turns, Control::Iso) != nullptr);
        QVERIFY(turnOf(turns, Control::Shutter) == nullptr);
    }
    /// Equal exposure by 1/100 s at twice the ISO: the reference's 1/50 s is worth two turns.
    void anUnlikeShutterGoesToTheReferences() {
        Pair pair = shutterOnly({});
        pair.camera().sheet.isoValues = optics::isoSeries(100.0, 6400.0);
        pair.camera().sheet.nativeIsoValues = {100.0};
        pair.settings().shutterSeconds = k100;
        pair.settings().isoValue = 1600.0;
        const auto turns = pair.report().turns();
        const rig::Turn* shutter = turnOf(turns, Control::Shutter);
        const rig::Turn* iso = turnOf(turns, Control::Iso);
        QVERIFY(shutter != nullptr && iso != nullptr);
        QCOMPARE(shutter->toValue, k50);
        QCOMPARE(iso->toValue, 800.0);
        QCOMPARE(words::inEnglish(shutter->reason),
                 std::string("motion then looks as the reference's"));
        QVERIFY(shutter < iso);
    }
    /// A body that is noisier than the reference pays more for every stop of ISO.
    void noiseWeighsOnIso() {
        Pair pair = shutterOnly({});
        const auto weight = [&](double mine) {
            pair.take.shots[0].reading->noise = rig::NoiseReading{{0.002, 0.002, 0.002}, {}};
            pair.take.shots[1].reading->noise = rig::NoiseReading{{mine, mine, mine}, {}};
            return match::turnOptions(
                       pair.rig, pair.camera(), pair.take.shots[1], pair.take.shots[0])
                .isoPerStopAboveNative;
        };
        QVERIFY(std::abs(weight(0.0025) / weight(0.002) - 1.25) < 1e-9);
        QVERIFY(weight(0.001) < weight(0.002));
    }
    /// 5600 K and 3200 K are all there is: 30 mired are taken up by the axis, four mired a step.
    void amberTakesUpWhatPresetsLeave() {
        IdealCamera warm;
        warm.whiteBalanceMired = 30.0;
        Pair pair = shutterOnly(warm);
        pair.camera().sheet.kelvins = {3200.0, 5600.0};
        pair.camera().sheet.knobs = {
            {"amber", rig::KnobKind::Amber, {-9, -8, -7, -6, -5, -4, -3, -2, -1, 0, 1, 2}, 4.0}};
        pair.settings().knobs["amber"] = 0.0;
        const auto turns = pair.report().turns();
        QCOMPARE(turns.size(), std::size_t{1});
        QCOMPARE(turns[0].knob, std::string("amber"));
        QVERIFY(std::abs(turns[0].toValue + 7.5) <= 0.5);
        QCOMPARE(turns[0].effect, std::string("whiteBalanceMired"));
        QVERIFY(std::abs(turns[0].before - 30.0) < 1.5 && std::abs(turns[0].after) < 3.0);
        QVERIFY(QString::fromStdString(words::inEnglish(turns[0].reason)).contains("too warm"));
        pair.camera().sheet.kelvins = {5200.0, 5300.0, 5600.0, 4800.0, 4900.0};
        const auto finer = pair.report().turns();
        QVERIFY2(turnOf(finer, Control::WhiteBalance) != nullptr, "the dial comes first");
    }
    void sharpeningGoesWhereEdgesOvershootAlike() {
        const rig::Camera camera = withDetail();
        const match::Response threeAStep{3.0, 0.3, 2};
        const auto turn = [&](double mine, double error = 0.5) {
            return match::sharpnessTurn(camera,
                                        camera.settings,
                                        withOvershoot(mine, error),
                                        withOvershoot(2.0),
                                        threeAStep);
        };
        const auto made = turn(11.5);
        QVERIFY(made.has_value());
        QCOMPARE(made->toValue, -3.0);
        QCOMPARE(made->before, 9.5);
        QCOMPARE(made->after, 0.5);
        QCOMPARE(words::inEnglish(made->toText), std::string("−3"));
        QVERIFY2(!turn(6.9), "within 5 % of the step");
        QVERIFY2(!turn(11.5, 6.0), "no more than can be told");
        rig::Settings untold = camera.settings;
        untold.detailSteps.forget();
        QVERIFY(!match::sharpnessTurn(
            camera, untold, withOvershoot(11.5), withOvershoot(2.0), threeAStep));
        QVERIFY(!match::sharpnessTurn(
            rig::Camera{}, camera.settings, withOvershoot(11.5), withOvershoot(2.0), threeAStep));
    }
    /// Two steps that made 9 % more: 4.5 % a step, whatever was guessed; and what answers the other
    /// way is told, not learned.
    void whatAStepOfSharpeningDoesIsLearned() {
        match::LearnedControls learned(withDetail().sheet);
        const double guess = learned.sharpness.share;
        QVERIFY(learned.learnSharpness(2.0, 9.0, 0.4));
        QVERIFY(std::abs(learned.sharpness.share - 4.5) < 0.15);
        QVERIFY(learned.sharpness.uncertainty < 0.3 && guess > 0.0);
        QCOMPARE(learned.sharpness.takes, 1);
        QVERIFY(learned.isAnythingLearned());
        QVERIFY(!learned.learnSharpness(2.0, -9.0, 0.4));
        QCOMPARE(learned.sharpness.takes, 1);
    }
};

RIG_TEST(TestTurnOptions);
#include "test_turn_options.moc"
