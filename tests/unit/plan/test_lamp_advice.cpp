// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "jobs/lamp_job.h"
#include "jobs/match_job.h"
#include "match/common_light.h"
#include "output/json_output.h"
#include "plan/furnisher.h"
#include "plan/lamp_advice.h"
#include "support/brighter_set.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/lamp_text.h"

using namespace rigmatch;
using namespace rigmatch::plan;
using rig::LampControl;
using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

namespace {

/// A large black room with a chart that faces lamps at `xs`, all as far and as strong.
SetPlan roomWith(const std::vector<double>& xs, double kelvin = 5600.0) {
    SetPlan plan;
    plan.widthMetres = plan.depthMetres = 20.0;
    plan.heightMetres = 8.0;
    plan.wallReflectance = plan.ceilingReflectance = plan.floorReflectance = 0.01;
    Furnisher set(plan);
    PlanObject& chart = set.add(PlanKind::Chart, "chart", {10.0, 1.2, 5.0});
    chart.widthMetres = 0.29;
    for (const double x : xs) {
        PlanObject& lamp =
            set.addLight("lamp", {10.0 + x, 1.2, 10.0}, {10.0, 1.2, 5.0}, 4000.0, kelvin);
        lamp.id = "lamp" + std::to_string(x);
        lamp.sourceMetres = 0.1;
        lamp.beamDegrees = 120.0;
    }
    return plan;
}

}  // namespace

/// Truth: a linear dimmer's percent is 100 · 2^stops, mired are 10⁶ / K (published); lamps add in
/// linear light (docs/sources.md, 3.12).
class TestLampAdvice : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void oneLampIsDimmedByTheStops_data() {
        QTest::addColumn<double>("stops");
        QTest::addColumn<double>("percent");
        QTest::newRow("a third") << -1.0 / 3.0 << 79.0;
        QTest::newRow("half") << -0.5 << 71.0;
        QTest::newRow("two") << -2.0 << 25.0;
    }
    void oneLampIsDimmedByTheStops() {
        QFETCH(double, stops);
        QFETCH(double, percent);
        const SetPlan plan = roomWith({0.0});
        const auto advice = lampAdvice(plan, {stops, std::nullopt});
        QCOMPARE(advice.size(), std::size_t{1});
        QCOMPARE(advice[0].turn.control, LampControl::Dimmer);
        QCOMPARE(advice[0].turn.from, 100.0);
        QCOMPARE(advice[0].turn.to, percent);
        QVERIFY(std::abs(advice[0].stops - std::log2(percent / 100.0)) < 0.01);
        QVERIFY(advice[0].share > 0.95);
        // All of the light is its: what is open is its dial's tenth.
        QVERIFY(std::abs(advice[0].uncertainty + 0.1 * advice[0].stops) < 0.01);
        QVERIFY(words::lampTurnText(advice[0]).find("100 → ") != std::string::npos);
    }
    void aLampAtFullGivesNoMore() {
        QVERIFY(lampAdvice(roomWith({0.0}), {0.5, std::nullopt}).empty());
        SetPlan dimmed = roomWith({0.0});
        dimmed.objects.back().dimPercent = 60.0;
        const auto advice = lampAdvice(dimmed, {0.5, std::nullopt});
        QCOMPARE(advice.size(), std::size_t{1});
        QCOMPARE(advice[0].turn.to, 85.0);  // 60 · √2
    }
    /// Of three alike none is the light: all go together, so that their ratio stays.
    void severalLampsGoTogether() {
        const auto advice = lampAdvice(roomWith({-1.5, 0.0, 1.5}), {-1.0, std::nullopt});
        QCOMPARE(advice.size(), std::size_t{3});
        double all = 0.0;
        for (const LampAdvice& one : advice) {
            QVERIFY(std::abs(one.turn.to - 50.0) <= 1.0);
            all += one.stops;
        }
        QVERIFY(std::abs(all + 1.0) < 0.05);
    }
    /// One that gives more than half has to be turned by more than is wanted.
    void theStrongestMakesUpForTheRest() {
        SetPlan plan = roomWith({-1.0, 1.0});
        plan.objects[1].luxAtOneMetre = 3.0 * plan.objects[2].luxAtOneMetre;
        const auto advice = lampAdvice(plan, {-0.5, std::nullopt});
        QCOMPARE(advice.size(), std::size_t{1});
        QCOMPARE(advice[0].turn.objectId, plan.objects[1].id);
        // Of 3 + 1 parts 2.83 are to stay: 1.83 of its 3.
        QVERIFY(std::abs(advice[0].turn.to - 61.0) <= 1.0);
        QVERIFY(std::abs(advice[0].stops + 0.5) < 0.03);
        // p = 3/4, its level ± 0.15 and the other's ± 0.3 stop: d log2(1 − 0.39 p) / dp · dp is
        // 0.035 stop; the dial's tenth is 0.05.
        QVERIFY(std::abs(advice[0].uncertainty - std::hypot(0.035, 0.05)) < 0.006);
    }
    void aWindowGetsFilmInWholeStops() {
        SetPlan plan = roomWith({});
        Furnisher set(plan);
        PlanObject& window = set.add(PlanKind::Window, "window", {10.0, 0.5, 0.0});
        window.widthMetres = 3.0;
        window.tallMetres = 2.0;
        window.facingDegrees = 0.0;
        window.luxAtGlass = 5000.0;
        plan.objects.front().facingDegrees = 180.0;
        const auto advice = lampAdvice(plan, {-0.9, std::nullopt});
        QCOMPARE(advice.size(), std::size_t{1});
        QCOMPARE(advice[0].turn.control, LampControl::Film);
        QCOMPARE(advice[0].turn.to, 1.0);
        // Half a stop is no film's: the cameras are turned.
        QVERIFY(lampAdvice(plan, {-0.45, std::nullopt}).empty());
        // No film can be taken off that is not on.
        QVERIFY(lampAdvice(plan, {1.0, std::nullopt}).empty());
    }
    void coloursTurnInMired() {
        const auto warmer = lampAdvice(roomWith({0.0}), {std::nullopt, 20.0});
        QCOMPARE(warmer.size(), std::size_t{1});
        QCOMPARE(warmer[0].turn.control, LampControl::Kelvin);
        QVERIFY(std::abs(1e6 / warmer[0].turn.to - 1e6 / 5600.0 - 20.0) < 2.0);
        QVERIFY(std::abs(warmer[0].mired - 20.0) < 3.0);
        QVERIFY(std::abs(warmer[0].stops) < 0.05);
        // Both at once, one control each.
        const auto both = lampAdvice(roomWith({0.0}), {-0.5, -15.0});
        QCOMPARE(both.size(), std::size_t{2});
        QVERIFY(std::abs(1e6 / both[1].turn.to - 1e6 / 5600.0 + 15.0) < 2.0);
    }
    void whatHasNoDialIsLeft() {
        SetPlan tungsten = roomWith({0.0}, 3200.0);
        tungsten.objects.back().lightType = "tungsten spot";
        QVERIFY(lampAdvice(tungsten, {std::nullopt, -30.0}).empty());
        SetPlan meant = roomWith({0.0});
        meant.objects.back().isMeantToDiffer = true;
        QVERIFY(lampAdvice(meant, {std::nullopt, 20.0}).empty());
        SetPlan off = roomWith({0.0});
        off.objects.back().isOn = false;
        QVERIFY(lampAdvice(off, {-0.5, std::nullopt}).empty());
        QVERIFY(lampAdvice(SetPlan{}, {-0.5, 10.0}).empty());
        // Beyond what such dials reach.
        QVERIFY(lampAdvice(roomWith({0.0}), {std::nullopt, -120.0}).empty());
    }
    /// What was ticked is counted from the plan as the take was shot in it, and can be taken back.
    void ticksStandInThePlanAndComeBack() {
        rig::Rig rig;
        rig.plan = roomWith({0.0});
        rig::Take take;
        take.id = "take-1";
        rig.takes.push_back(take);
        match::MatchReport report;
        report.commonLight = match::CommonLight{2, 0.5, 0.02, std::nullopt, 0.0};
        const auto taken = [&] { return std::as_const(rig).takes.front(); };
        const auto open = jobs::lightTurns(rig, taken(), report);
        QCOMPARE(open.size(), std::size_t{1});
        QVERIFY(!open[0].isDone);
        const rig::Rig before = rig;
        rig = jobs::withLightTurn(rig, "take-1", open[0].advice.turn, true);
        QCOMPARE(rig.plan->objects.back().dimPercent, 71.0);
        const auto done = jobs::lightTurns(rig, taken(), report);
        QCOMPARE(done.size(), std::size_t{1});
        QVERIFY(done[0].isDone);
        QVERIFY(done[0].advice.turn == open[0].advice.turn);
        // Only what nobody asks for any more is a former one, and only of a lamp that is there.
        QVERIFY(jobs::formerLightTurns(rig, taken(), done).empty());
        const auto former = jobs::formerLightTurns(rig, taken(), {});
        QCOMPARE(former.size(), std::size_t{1});
        QVERIFY(former[0].turn == done[0].advice.turn && former[0].name == done[0].advice.name);
        rig::Rig bare = rig;
        bare.plan->objects.clear();
        QVERIFY(jobs::formerLightTurns(bare, taken(), {}).empty());
        rig = jobs::withLightTurn(rig, "take-1", done[0].advice.turn, false);
        QVERIFY(rig == before);
        // Nothing in common, or no plan: nothing to turn.
        QVERIFY(jobs::lightTurns(rig, taken(), {}).empty());
        rig.plan.reset();
        QVERIFY(jobs::lightTurns(rig, taken(), report).empty());
    }
    /// What `done --lamps` does: once, and never the cameras' turns as well.
    void allAreCarriedOutOnce() {
        rig::Rig rig = support::brighterSince(0.5);
        const auto done = jobs::carryOutLightTurns(rig);
        QVERIFY(done && done->size() == 1);
        QCOMPARE(std::as_const(rig).takes.back().doneAtLamps.size(), std::size_t{1});
        QVERIFY(rig::findObject(*rig.plan, done->front().turn.objectId)->dimPercent ==
                done->front().turn.to);
        const rig::Rig before = rig;
        const auto again = jobs::carryOutLightTurns(rig);
        QVERIFY(again && again->empty());
        QVERIFY(rig == before);
        // What the command line prints of it.
        const rig::Take& take = std::as_const(rig).takes.back();
        const std::string json = output::matchJson(rig, take, jobs::matchReport(rig, take));
        QVERIFY(json.find("\"control\": \"dimPercent\"") != std::string::npos);
        QVERIFY(json.find("\"done\": true") != std::string::npos);
        rig::Rig same = support::brighterSince(0.0);
        QVERIFY(!jobs::carryOutLightTurns(same));
    }
};

RIG_TEST(TestLampAdvice);
#include "test_lamp_advice.moc"
