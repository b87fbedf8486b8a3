// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "framing/darkest_place.h"
#include "framing/framing_findings.h"
#include "jobs/framing_job.h"
#include "plan/geometry.h"
#include "sim/clock_bench.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/framing_text.h"

using namespace rigmatch;
using base::Verdict;

namespace {

rig::FramingReading lookingTo(double turn, double head = 0.45) {
    rig::FramedPerson person;
    person.headHeight = {head, 0.005};
    person.faceHeight = {0.95 * head, 0.006};
    person.headroom = {0.14, 0.002};
    person.eyeLine = {0.14 + 0.5 * head, 0.002};
    person.across = {0.5, 0.002};
    person.turnDegrees = turn;
    rig::FramingReading reading;
    reading.people = {person};
    return reading;
}

framing::FramedCamera seenBy(const std::string& id,
                             const rig::FramingReading& reading,
                             const std::string& subject = "") {
    framing::FramedCamera camera;
    camera.id = id;
    camera.reading = &reading;
    camera.width = 1920;
    camera.height = 1080;
    camera.subjectId = subject;
    camera.profile = "Standard";
    return camera;
}

std::optional<base::Finding> pairFinding(const rig::FramingReading& b,
                                         const std::string& whomB,
                                         const rig::FramingReading& c,
                                         const std::string& whomC,
                                         const std::string& quantity) {
    for (const base::Finding& one :
         framing::framingFindings({seenBy("b", b, whomB), seenBy("c", c, whomC)}, {})) {
        if (one.quantity == quantity) return one;
    }
    return std::nullopt;
}

rig::FramingReading darkAt(double level) {
    rig::FramingReading reading;
    reading.darkest = rig::Doubted{level, 0.003};
    return reading;
}

/// A grey picture with a dark corner, behind a veil of that much signal.
image::CodedFrame veiled(double veil, bool hasBars) {
    image::Frame signal = image::blankFrame(640, 360);
    for (int y = 0; y < 360; ++y) {
        for (int x = 0; x < 640; ++x) {
            const bool isBar = hasBars && (y < 40 || y >= 320);
            const double scene = x < 96 && y > 200 ? 0.05 : 0.4;
            for (auto& channel : signal.channels)
                channel[static_cast<std::size_t>(y * 640 + x)] =
                    static_cast<float>(isBar ? 0.0 : scene + veil);
        }
    }
    return image::codedFromSignal(signal, {}, 10, 1);
}

}  // namespace

class TestFramingPairs : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// sources 3.7: two in talk look at each other; one person is cut between angles 30° apart, or
    /// sizes 1.3 apart, on one side of the look.
    void looksMeetOrDoNot() {
        const auto left = lookingTo(-28.0), right = lookingTo(31.0), leftToo = lookingTo(-35.0);
        auto told = pairFinding(left, "p1", right, "p2", "looksMeet");
        QVERIFY(told && told->verdict == Verdict::Good && told->advice.code.empty());
        told = pairFinding(left, "p1", leftToo, "p2", "looksMeet");
        QVERIFY(told && told->verdict == Verdict::Near);
        QCOMPARE(told->advice.code, std::string("otherSide"));
        // One person from both sides.
        told = pairFinding(left, "p1", right, "p1", "lookFlips");
        QVERIFY(told && told->verdict == Verdict::Near);
        QCOMPARE(told->advice.code, std::string("oneSide"));
        QVERIFY(!pairFinding(left, "p1", right, "p1", "looksMeet"));
        // To the lens nobody looks anywhere.
        const auto lens = lookingTo(4.0);
        QVERIFY(!pairFinding(left, "p1", lens, "p2", "looksMeet"));
    }
    void anglesTooAlikeJump() {
        const auto one = lookingTo(-28.0), near = lookingTo(-20.0), far = lookingTo(-60.0),
                   large = lookingTo(-20.0, 0.62);
        auto told = pairFinding(one, "p1", near, "p1", "anglesAlike");
        QVERIFY(told && told->verdict != Verdict::Good);
        QCOMPARE(told->advice.code, std::string("widenAngle"));
        told = pairFinding(one, "p1", far, "p1", "anglesAlike");
        QVERIFY(told && told->verdict == Verdict::Good);
        QVERIFY(!pairFinding(one, "p1", large, "p1", "anglesAlike"));
    }
    /// Whom they see is not told: what is wrong in either case is told, nothing else.
    void withoutAPlanEitherIsSaid() {
        const auto one = lookingTo(-28.0), alike = lookingTo(-25.0), other = lookingTo(30.0);
        const auto told = pairFinding(one, "", alike, "", "looksAlike");
        QVERIFY(told && told->verdict == Verdict::Near);
        QVERIFY(!pairFinding(one, "", other, "", "looksAlike"));
        rig::Rig rig;
        for (const char* id : {"b", "c"}) {
            rig::Camera camera;
            camera.id = id;
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
        const auto words = words::framingWords(*told, rig, {});
        QVERIFY(!words.headline.empty() && !words.turn.empty() && !words.numbers.empty());
    }
    /// A veil lifts what is darkest by itself, and bars at the edges are no part of the picture.
    void theDarkestIsReadWithoutBars() {
        const auto bare = framing::darkestPlace(veiled(0.0, false));
        const auto lifted = framing::darkestPlace(veiled(0.04, true));
        QVERIFY(bare && lifted);
        QVERIFY2(std::abs(bare->value - 0.05) < 0.003, qPrintable(QString::number(bare->value)));
        QVERIFY(std::abs(lifted->value - bare->value - 0.04) < 0.003);
        QVERIFY(
            !framing::darkestPlace(image::codedFromSignal(image::blankFrame(640, 360), {}, 8, 1)));
    }
    void aVeilIsToldAgainstTheOthersAndTheLastTake() {
        const auto dark = darkAt(0.04), alike = darkAt(0.05), veil = darkAt(0.14),
                   little = darkAt(0.075);
        const auto verdictOf = [&](const rig::FramingReading& mine,
                                   std::optional<double> before,
                                   const std::string& quantity) -> std::optional<Verdict> {
            framing::FramedCamera camera = seenBy("a", mine);
            if (before) camera.darkestBefore = rig::Doubted{*before, 0.003};
            for (const base::Finding& one :
                 framing::framingFindings({camera, seenBy("b", dark), seenBy("c", alike)}, {})) {
                if (one.subject == "a" && one.quantity == quantity) return one.verdict;
            }
            return std::nullopt;
        };
        QCOMPARE(verdictOf(veil, {}, "veil"), Verdict::Near);
        QCOMPARE(verdictOf(little, {}, "veil"), Verdict::Good);
        QCOMPARE(verdictOf(little, 0.04, "veilSince"), Verdict::Near);
        QCOMPARE(verdictOf(veil, 0.04, "veilSince"), Verdict::Off);
        QCOMPARE(verdictOf(little, 0.07, "veilSince"), Verdict::Good);
        // Two pictures of other things tell nothing.
        const auto two = framing::framingFindings({seenBy("a", veil), seenBy("b", dark)}, {});
        QVERIFY(std::none_of(
            two.begin(), two.end(), [](const auto& one) { return one.quantity == "veil"; }));
    }
    /// Pinhole: a lens that tilts up by an angle moves what stands on its axis down by its tangent;
    /// taken back, the plan is as it was.
    void thePlanMovesWithItsTurns_data() {
        QTest::addColumn<QString>("code");
        QTest::addColumn<double>("x");
        QTest::addColumn<double>("y");
        QTest::newRow("up") << "tiltUp" << 0.0 << 1.0;
        QTest::newRow("down") << "tiltDown" << 0.0 << -1.0;
        QTest::newRow("left") << "panLeft" << 1.0 << 0.0;
        QTest::newRow("right") << "panRight" << -1.0 << 0.0;
        QTest::newRow("clockwise") << "rollClockwise" << 0.0 << 0.0;
        QTest::newRow("nearer") << "stepNearer" << 0.0 << 0.0;
        QTest::newRow("back") << "stepBack" << 0.0 << 0.0;
    }
    void thePlanMovesWithItsTurns() {
        QFETCH(QString, code);
        QFETCH(double, x);
        QFETCH(double, y);
        rig::Rig rig = sim::clockBenchRig();
        rig.plan = sim::clockBenchPlan();
        const rig::Camera& camera = rig.cameras[1];
        base::Finding finding;
        finding.subject = camera.id;
        finding.advice = {code.toStdString(), {{"degrees", 2.0}, {"percent", 10.0}}};
        const auto viewIn = [&](const rig::SetPlan& plan) {
            return *plan::CameraView::of(plan, camera, *rig::findPlanCamera(plan, camera.id));
        };
        const auto before = viewIn(*rig.plan);
        const rig::PlanObject& place = *rig::findPlanCamera(*rig.plan, camera.id);
        const plan::Vec aim(place.aimXMetres, place.aimHeightMetres, place.aimZMetres);
        const auto moved = jobs::planAfterTurn(rig, finding, false);
        QVERIFY(moved.has_value());
        const auto after = viewIn(*moved);
        const auto at = after.project(aim);
        QVERIFY(at.has_value());
        const double focal = camera.lens.focalLengthMm / camera.sensorWidthMm;  // of the width
        const double way = focal * std::tan(2.0 * M_PI / 180.0);
        QVERIFY2(std::abs(at->x - 0.5 - x * way) < 0.002,
                 qPrintable(QString("%1 of %2").arg(at->x - 0.5).arg(x * way)));
        QVERIFY(std::abs(at->y - 0.5 - y * way * 16.0 / 9.0) < 0.004);
        const double distance = (before.position() - aim).norm();
        const double ratio = distance / (after.position() - aim).norm();
        if (code == "stepNearer") QVERIFY(std::abs(ratio - 1.1) < 0.03);
        if (code == "stepBack") QVERIFY(std::abs(ratio - 0.9) < 0.03);
        rig.plan = *moved;
        const auto back = jobs::planAfterTurn(rig, finding, true);
        QVERIFY(back.has_value());
        const auto again = viewIn(*back);
        QVERIFY((again.position() - before.position()).norm() < 1e-6);
        const auto there = again.project(aim);
        QVERIFY(there && std::abs(there->x - 0.5) < 1e-4 && std::abs(there->y - 0.5) < 1e-4);
    }
    void whatIsNoTurnMovesNothing() {
        rig::Rig rig = sim::clockBenchRig();
        rig.plan.reset();
        base::Finding finding;
        finding.subject = rig.cameras[0].id;
        finding.advice = {"tiltUp", {{"degrees", 2.0}}};
        QVERIFY(!jobs::planAfterTurn(rig, finding, false));
        rig.plan = sim::clockBenchPlan();
        finding.advice = {"tiltUp", {{"share", 0.1}}};
        QVERIFY(!jobs::planAfterTurn(rig, finding, false));
        finding.advice = {"hideSpot", {}};
        QVERIFY(!jobs::planAfterTurn(rig, finding, false));
    }
};

RIG_TEST(TestFramingPairs);
#include "test_framing_pairs.moc"
