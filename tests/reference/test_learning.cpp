// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/keep_learned.h"
#include "match/learning.h"
#include "support/loop_camera.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/learned_text.h"

using namespace rigmatch;
using support::LoopCamera;
using support::OwnRandom;

namespace {

/// Takes of two bodies of the tests' own; the second is set as given.
class Takes {
public:
    explicit Takes(const LoopCamera& camera) : m_camera(camera) {
        m_reference.body.readNoise = m_camera.body.readNoise = 0.001;
        for (const char* id : {"a", "b"}) {
            rig::Camera made;
            made.id = id;
            made.sheet = support::loopSheet();
            m_rig.cameras.push_back(made);
        }
        rig::giveLetters(m_rig);
    }
    void shoot(const rig::Settings& settings, const rig::Settings& ofReference = {}) {
        rig::Take take;
        take.id = rig::freshTakeId(m_rig);
        take.number = static_cast<int>(m_rig.takes.size()) + 1;
        for (const bool isReference : {true, false}) {
            rig::Shot shot;
            shot.cameraId = isReference ? "a" : "b";
            shot.settings = isReference ? ofReference : settings;
            const LoopCamera& body = isReference ? m_reference : m_camera;
            shot.reading = support::ownReading(body.at(shot.settings), m_random, 6);
            take.shots.push_back(shot);
        }
        m_rig.takes.push_back(take);
    }
    [[nodiscard]] match::LearnedControls learned() const {
        return match::learnControls(m_rig, m_rig.takes.back(), "b");
    }
    [[nodiscard]] match::LearnedControls learned(const rig::ControlSheet& sheet) {
        m_rig.cameras[1].sheet = sheet;
        return learned();
    }
    /// Against the first camera, with that sheet.
    [[nodiscard]] match::MatchReport report(const rig::ControlSheet& sheet) {
        m_rig.cameras[1].sheet = sheet;
        m_rig.referenceId = "a";
        return match::matchTake(m_rig, m_rig.takes.back());
    }

private:
    LoopCamera m_reference, m_camera;
    rig::Rig m_rig;
    OwnRandom m_random{std::mt19937(3)};
};

rig::Settings dialled(double kelvin, double tint, double iso) {
    rig::Settings settings;
    settings.whiteBalanceKelvin = kelvin;
    settings.tintSteps = tint;
    settings.isoValue = iso;
    return settings;
}

void tell(const match::StretchResponse& one, const char* unit, double did) {
    qInfo("%g to %g %s: %.3f ± %.3f, truth %.3f%s",
          one.from,
          one.to,
          unit,
          one.share,
          one.uncertainty,
          did,
          one.isUnlike ? ", unlike" : "");
}

}  // namespace

class TestLearning : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void beforeAnyTurnThePriorStands() {
        Takes takes{LoopCamera{}};
        takes.shoot(dialled(5600, 0, 800));
        takes.shoot(dialled(5600, 0, 800));
        QVERIFY(!takes.learned().isAnythingLearned());
        QCOMPARE(takes.learned().whiteBalance.share, 1.0);
    }
    /// The answer is the dial's own, whatever saturation stands behind it.
    void theDialIsSeenThroughTheBody_data() {
        QTest::addColumn<double>("saturation");
        QTest::addColumn<double>("response");
        QTest::newRow("vivid, weak dial") << 1.3 << 0.75;
        QTest::newRow("pale, strong dial") << 0.75 << 1.3;
        QTest::newRow("plain") << 1.0 << 1.0;
    }
    void theDialIsSeenThroughTheBody() {
        QFETCH(double, saturation);
        QFETCH(double, response);
        LoopCamera camera;
        camera.body.saturation = saturation;
        camera.response = response;
        camera.tintPerStep = 0.001 * response;
        Takes takes(camera);
        takes.shoot(dialled(5600, 0, 800));
        takes.shoot(dialled(4300, 6, 800));
        takes.shoot(dialled(4300, 6, 1600));
        const auto learned = takes.learned();
        // Where it was turned it is known; elsewhere it may do otherwise.
        const double did = learned.miredBetween(5600.0, 4300.0) / (1e6 / 5600.0 - 1e6 / 4300.0);
        QVERIFY2(std::abs(did - response) < 0.05, std::to_string(did).c_str());
        QVERIFY2(std::abs(learned.whiteBalance.share - response) < 0.09,
                 std::to_string(learned.whiteBalance.share).c_str());
        QVERIFY2(std::abs(learned.tint.share - response) < 0.15,
                 std::to_string(learned.tint.share).c_str());
        QVERIFY(std::abs(learned.exposure.share - 1.0) < 0.05);
        QCOMPARE(learned.exposure.takes, 1);
        QVERIFY(learned.whiteBalance.uncertainty < 0.1);
        QVERIFY(learned.surprises.empty());
    }
    /// A dial that lies off its line by up to five mired about 4200 K: what it does there is told
    /// from what it did beside, and what it does where it was never turned to is unsure.
    void theDialIsLearnedOverItsRange() {
        LoopCamera camera;
        camera.response = 0.9;
        camera.kelvinBend = 5.0;
        Takes takes(camera);
        for (const double kelvin : {5600.0, 4800.0, 4300.0, 3800.0, 3300.0, 5000.0})
            takes.shoot(dialled(kelvin, 0, 800));
        const auto learned = takes.learned();
        const auto truth = [&](double from, double to) {
            return camera.response * (1e6 / from - 1e6 / to) + camera.bentBy(to) -
                   camera.bentBy(from);
        };
        const auto unsureBetween = [&](double from, double to) {
            const auto moves = match::movesBetween({}, dialled(from, 0, 800), dialled(to, 0, 800));
            return learned.uncertainty(moves).whiteBalanceMired;
        };
        for (const auto& [from, to] :
             {std::pair{4900.0, 4200.0}, {4200.0, 3400.0}, {5500.0, 3600.0}}) {
            const double told = learned.miredBetween(from, to);
            const double line = learned.whiteBalance.share * (1e6 / from - 1e6 / to);
            qInfo("%.0f to %.0f K: told %.1f, by a line %.1f, truth %.1f mired",
                  from,
                  to,
                  told,
                  line,
                  truth(from, to));
            QVERIFY(std::abs(told - truth(from, to)) < 2.5);
            QVERIFY(std::abs(told - truth(from, to)) < 2.0 * unsureBetween(from, to));
        }
        // Told stretch by stretch, each within what it says of itself; none is surely unlike the
        // rest.
        int inside = 0, unlike = 0;
        const auto stretches = learned.whiteBalanceStretches();
        QCOMPARE(stretches.size(), std::size_t{8});
        for (const match::StretchResponse& one : stretches) {
            const double did = truth(1e6 / one.from, 1e6 / one.to) / (one.from - one.to);
            inside += std::abs(one.share - did) <= 2.0 * one.uncertainty ? 1 : 0;
            unlike += one.isUnlike ? 1 : 0;
            tell(one, "mired", did);
        }
        QVERIFY(inside >= 7);
        QCOMPARE(unlike, 0);
        QVERIFY(std::abs(learned.miredBetween(4900.0, 4200.0) - truth(4900.0, 4200.0)) <
                0.75 * std::abs(learned.whiteBalance.share * (1e6 / 4900.0 - 1e6 / 4200.0) -
                                truth(4900.0, 4200.0)));
        // As long a way beyond what was tried is less sure.
        const double tried = unsureBetween(5600.0, 4100.0);
        const double beyond = unsureBetween(3300.0, 2700.0);
        QVERIFY2(beyond > 1.3 * tried, qPrintable(QString("%1 %2").arg(tried).arg(beyond)));
        QVERIFY(learned.surprises.empty());
    }
    /// A stretch that surely does otherwise is told as such and in words, on the side of the truth;
    /// of a straight dial none is.
    void unlikeStretchesAreTold() {
        int told = 0, right = 0, rows = 0;
        for (const double bend : {0.0, 8.0, 10.0, 12.0}) {
            LoopCamera camera;
            camera.kelvinBend = bend;
            Takes takes(camera);
            for (const double kelvin :
                 {5600.0, 4800.0, 4300.0, 3800.0, 3300.0, 5000.0, 4200.0, 3600.0, 5600.0, 4000.0})
                takes.shoot(dialled(kelvin, 0, 800));
            const auto learned = takes.learned();
            for (const match::StretchResponse& one : learned.whiteBalanceStretches()) {
                if (!one.isUnlike) continue;
                QVERIFY(bend > 0.0);
                const double wide = one.from - one.to;
                const double did =
                    1.0 + (camera.bentBy(1e6 / one.to) - camera.bentBy(1e6 / one.from)) / wide;
                ++told;
                right +=
                    (did > learned.whiteBalance.share) == (one.share > learned.whiteBalance.share)
                        ? 1
                        : 0;
            }
            for (const words::LearnedRow& row : words::learnedRows(rig::Camera{}, learned))
                rows += row.effect.find("; from ") != std::string::npos ? 1 : 0;
        }
        qInfo("%d stretches told as unlike, %d rightly, in %d rows", told, right, rows);
        QVERIFY(told >= 1 && right == told && rows >= 1);
    }
    /// The same of a tint whose outer steps do more than the inner ones.
    void unlikeStretchesOfTheTintAreTold() {
        LoopCamera camera;
        camera.tintBend = 1.0;
        Takes takes(camera);
        for (const double tint : {0.0, 4.0, 8.0, 12.0, 8.0, 4.0, 12.0, 0.0, -4.0, -8.0, -12.0, 0.0})
            takes.shoot(dialled(5600, tint, 800));
        const auto learned = takes.learned();
        const auto truth = [&](double step) { return step * (1.0 + std::abs(step) / 15.0); };
        int told = 0;
        for (const match::StretchResponse& one : learned.tintStretches()) {
            const double did = (truth(1000.0 * one.to) - truth(1000.0 * one.from)) /
                               (1000.0 * (one.to - one.from));
            tell(one, "Duv", did);
            if (!one.isUnlike) continue;
            ++told;
            QVERIFY((did > learned.tint.share) == (one.share > learned.tint.share));
        }
        QVERIFY(told >= 1);
        rig::Camera sheet;
        sheet.sheet = support::loopSheet();
        const auto rows = words::learnedRows(sheet, learned);
        QCOMPARE(rows.size(), std::size_t{1});
        QCOMPARE(rows[0].control, std::string("Tint"));
        QVERIFY2(rows[0].effect.find(" Duv a step; from ") != std::string::npos,
                 rows[0].effect.c_str());
    }
    /// Each way to turn exposure is learned by itself: filters that take more or less than they
    /// say, and warm; an iris that does more from one stop on; an ISO that does less.
    void waysToTurnExposureAreLearnedApart() {
        LoopCamera camera;
        camera.ndTakes = {{2.0, 1.7}, {4.0, 4.3}};
        camera.ndMired = 6.0;
        camera.closedTakes = 0.2;
        camera.isoResponse = 0.94;
        Takes takes(camera);
        const auto set = [](double iso, double nd, double fNumber, double shutter = 0.02) {
            rig::Settings settings = dialled(5600, 0, iso);
            settings.ndStops = nd;
            settings.fNumber = fNumber;
            settings.shutterSeconds = shutter;
            return settings;
        };
        for (const rig::Settings& settings : {set(800, 0, 2.8),
                                              set(800, 2, 2.8),
                                              set(3200, 2, 2.8),
                                              set(3200, 4, 2.8),
                                              set(800, 0, 2.8),
                                              set(800, 0, 5.6),
                                              set(800, 0, 5.6, 0.04),
                                              set(800, 0, 4.0, 0.04),
                                              set(800, 0, 4.0)})
            takes.shoot(settings);
        rig::Camera told;
        told.sheet = support::loopSheet();
        told.sheet.ndStops = {0.0, 2.0, 4.0};
        told.sheet.fNumbers = {2.8, 4.0, 5.6};
        const auto learned = takes.learned(told.sheet);
        for (const words::LearnedRow& row : words::learnedRows(told, learned))
            qInfo("%s: %s (%d)", row.control.c_str(), row.effect.c_str(), row.takes);
        const auto stops = [&](const rig::Settings& from, const rig::Settings& to) {
            return learned.answer(match::movesBetween(told.sheet, from, to)).exposureStops;
        };
        const auto isWithin = [&](const rig::Settings& from, const rig::Settings& to, double did) {
            const double by = stops(from, to);
            const double unsure =
                learned.uncertainty(match::movesBetween(told.sheet, from, to)).exposureStops;
            qInfo("%.3f ± %.3f, truth %.3f", by, unsure, did);
            return std::abs(by - did) < std::max(2.0 * unsure, 0.01) && unsure < 0.1;
        };
        QVERIFY(isWithin(set(800, 0, 2.8), set(800, 2, 2.8), -1.7));
        QVERIFY(isWithin(set(800, 0, 2.8), set(800, 4, 2.8), -4.3));
        QVERIFY(isWithin(set(800, 0, 2.8), set(800, 0, 4.0), -1.2));
        QVERIFY(isWithin(set(800, 0, 4.0), set(800, 0, 5.6), -1.0));
        QVERIFY(isWithin(set(800, 0, 4.0), set(1600, 0, 4.0), 0.94));
        QVERIFY(std::abs(learned.shutter.share - 1.0) < 0.02);
        QVERIFY(std::abs(learned.exposure.share - 0.94) < 0.02);
        QVERIFY(learned.ndOf(2.0).isUnlike || learned.ndOf(4.0).isUnlike);
        const match::Change filtered =
            learned.answer(match::movesBetween(told.sheet, set(800, 0, 2.8), set(800, 2, 2.8)));
        QVERIFY2(std::abs(filtered.whiteBalanceMired - 6.0) < 2.0,
                 std::to_string(filtered.whiteBalanceMired).c_str());
        QVERIFY(learned.surprises.empty());
        QCOMPARE(learned.nd.takes, 3);
        QCOMPARE(learned.aperture.takes, 2);
        QCOMPARE(learned.shutter.takes, 2);

        // A body's own filters go with its template; the lens's iris does not.
        rig::ControlSheet sheet = told.sheet;
        match::keepLearned(learned, sheet);
        const match::LearnedControls next(sheet);
        QVERIFY(std::abs(2.0 * next.ndOf(2.0).share - 1.7) < 0.1);
        QVERIFY(std::abs(4.0 * next.ndOf(4.0).share - 4.3) < 0.15);
        QCOMPARE(next.aperture.share, 1.0);
        match::forgetKept(sheet);
        QCOMPARE(sheet, told.sheet);
    }
    /// A sheet written by hand, in any order and with one opening by two names: every number told
    /// is one.
    void sheetsWrittenByHandGiveNumbers() {
        rig::ControlSheet sheet = support::loopSheet();
        sheet.fNumbers = {5.6, 2.8, 2.8, 2.83, 4.0};
        sheet.ndStops = {4.0, 0.0, 2.0};
        const match::LearnedControls controls(sheet);
        QCOMPARE(controls.aperture.share, 1.0);
        QCOMPARE(controls.nd.share, 1.0);
        QVERIFY(controls.aperture.uncertainty > 0.0 && controls.nd.uncertainty > 0.0);
        QCOMPARE(controls.apertureStretches().size(), std::size_t{2});
        for (const match::StretchResponse& one : controls.apertureStretches())
            QVERIFY(one.share == 1.0 && one.from < one.to);
    }
    /// A filter that is taken off takes its colour with it: white balance is turned with it, though
    /// nothing is to be seen of it yet.
    void theColourOfAnNdIsMadeUpFor() {
        LoopCamera camera;
        camera.ndTakes = {{2.0, 1.7}};
        camera.ndMired = 9.0;
        camera.lightMired = -9.0;
        Takes takes(camera);
        rig::Settings clear = dialled(5600, 0, 800), filtered = clear;
        filtered.ndStops = 2.0;
        for (const rig::Settings& settings : {clear, filtered, clear, filtered})
            takes.shoot(settings);
        rig::ControlSheet sheet = support::loopSheet();
        sheet.isoValues = {800.0};
        sheet.ndStops = {0.0, 2.0};
        sheet.tintSteps = {};
        const auto report = takes.report(sheet);
        const auto& b = *report.find("b");
        QVERIFY(std::abs(b.differences.of(match::Quality::WhiteBalance).value.value()) < 2.5);
        rig::Settings turned = filtered;
        for (const rig::Turn& turn : b.plan.turns) {
            turned = rig::applied(turned, turn);
            qInfo("%s → %s: %s",
                  words::inEnglish(turn.fromText).c_str(),
                  words::inEnglish(turn.toText).c_str(),
                  words::inEnglish(turn.reason).c_str());
        }
        QCOMPARE(b.plan.turns.size(), std::size_t{2});
        QCOMPARE(b.plan.turns[0].control, rig::Control::Nd);
        QVERIFY(words::inEnglish(b.plan.turns[0].reason).find("0.8") != std::string::npos);
        QCOMPARE(b.plan.turns[1].control, rig::Control::WhiteBalance);
        QVERIFY(words::inEnglish(b.plan.turns[1].reason).starts_with("the turn of the ND brings"));
        takes.shoot(turned);
        const auto after = takes.report(sheet);
        const auto& left = after.find("b")->differences;
        const double stops = left.of(match::Quality::Exposure).value.value();
        const double mired = left.of(match::Quality::WhiteBalance).value.value();
        qInfo("left: %+.2f stop, %+.1f mired", stops, mired);
        QVERIFY(std::abs(stops) < 0.05 && std::abs(mired) < 3.0);
    }
    /// What one rig learned of a kind of camera is where another begins.
    void whatWasLearnedGoesWithTheTemplate() {
        LoopCamera camera;
        camera.response = 0.7;
        Takes takes(camera);
        takes.shoot(dialled(5600, 0, 800));
        takes.shoot(dialled(4300, 0, 800));
        takes.shoot(dialled(4300, 0, 1600));
        rig::ControlSheet sheet = support::loopSheet();
        match::keepLearned(takes.learned(), sheet);
        const match::LearnedControls next(sheet);
        QVERIFY(std::abs(next.whiteBalance.share - 0.7) < 0.06);
        QVERIFY(next.whiteBalance.uncertainty <
                match::LearnedControls(support::loopSheet()).whiteBalance.uncertainty);
        QCOMPARE(next.exposure.share, takes.learned().exposure.share);
    }
    /// Turned the other way, or not at all: told, and nothing is learned.
    void whatDidNotAnswerIsTold() {
        // The sheet says that it was turned; the body stayed as it was.
        LoopCamera camera;
        camera.response = 0.0;
        Takes stuck(camera);
        stuck.shoot(dialled(5600, 0, 800));
        stuck.shoot(dialled(4300, 0, 800));
        QCOMPARE(stuck.learned().surprises.size(), std::size_t{1});
        QVERIFY(words::inEnglish(stuck.learned().surprises[0]).find("Take 2") != std::string::npos);
        QCOMPARE(stuck.learned().whiteBalance.takes, 0);
        QCOMPARE(stuck.learned().whiteBalance.share, 1.0);
    }
    /// A dial that does nearly twice what it says: told the first time, believed the second; a slip
    /// between two turns that answer stays a slip.
    void whatIsOffTwiceAlikeIsBelieved() {
        LoopCamera camera;
        camera.response = 1.9;
        Takes takes(camera);
        takes.shoot(dialled(5600, 0, 800));
        takes.shoot(dialled(4600, 0, 800));
        QCOMPARE(takes.learned().whiteBalance.takes, 0);
        QCOMPARE(takes.learned().surprises.size(), std::size_t{1});
        takes.shoot(dialled(5600, 0, 800));
        const auto learned = takes.learned();
        QCOMPARE(learned.surprises.size(), std::size_t{1});
        QCOMPARE(learned.whiteBalance.takes, 1);
        const double did = learned.miredBetween(5600.0, 4600.0) / (1e6 / 5600.0 - 1e6 / 4600.0);
        QVERIFY2(did > 1.6 && did < 2.0, std::to_string(did).c_str());

        // An ISO whose numbers mean much less than they say, too.
        LoopCamera weak;
        weak.isoResponse = 0.6;
        Takes stops(weak);
        for (const double iso : {400.0, 800.0, 1250.0}) stops.shoot(dialled(5600, 0, iso));
        QCOMPARE(stops.learned().surprises.size(), std::size_t{1});
        QVERIFY2(std::abs(stops.learned().exposure.share - 0.6) < 0.05,
                 std::to_string(stops.learned().exposure.share).c_str());

        // Learned by hand: off, as it says, off in the same way.
        match::LearnedControls slips(support::loopSheet());
        const auto moves = match::movesBetween({}, dialled(5600, 0, 800), dialled(4600, 0, 800));
        match::Change seen, error;
        error.whiteBalanceMired = 1.5;
        for (const double share : {1.9, 1.0, 1.9}) {
            seen.whiteBalanceMired = share * moves[1];
            QCOMPARE(slips.learn(moves, seen, error, 0b10U), share == 1.0);
        }
    }
    /// Where anything else may have moved the picture nothing is learned.
    void onlyCleanPairsTeach() {
        LoopCamera camera;
        camera.response = 0.8;
        rig::Settings flat = dialled(4300, 0, 800);
        flat.profile = "flat";
        rig::Settings automatic = dialled(4300, 0, 800);
        automatic.isAutoWhiteBalance = true;
        rig::Settings untold = dialled(4300, 0, 800);
        untold.whiteBalanceKelvin.forget();
        for (const rig::Settings& after : {flat, automatic, untold}) {
            Takes takes(camera);
            takes.shoot(dialled(5600, 0, 800));
            takes.shoot(after);
            QCOMPARE(takes.learned().whiteBalance.takes, 0);
        }
        Takes turned(camera);  // the reference was turned too
        turned.shoot(dialled(5600, 0, 800));
        turned.shoot(dialled(4300, 0, 800), dialled(5000, 0, 800));
        QCOMPARE(turned.learned().whiteBalance.takes, 0);
    }
};

RIG_TEST(TestLearning);
#include "test_learning.moc"
