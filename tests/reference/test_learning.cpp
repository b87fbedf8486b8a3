// SPDX-License-Identifier: GPL-3.0-or-later
#include <QtTest>

#include "match/keep_learned.h"
#include "match/learning.h"
#include "support/loop_camera.h"
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
            qInfo("%.0f to %.0f mired: %.3f ± %.3f, truth %.3f%s",
                  one.from,
                  one.to,
                  one.share,
                  one.uncertainty,
                  did,
                  one.isUnlike ? ", unlike" : "");
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
