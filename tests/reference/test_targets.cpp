// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "jobs/match_job.h"
#include "jobs/target_job.h"
#include "rig/rig_store.h"
#include "support/loop_camera.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/match_text.h"

using namespace rigmatch;
using match::Quality;
using support::LoopCamera;
using support::OwnRandom;

namespace {

/// Three cameras of one take; B is warm, C is far off.
class Three {
public:
    Three() {
        for (const char* id : {"a", "b", "c"}) {
            rig::Camera camera;
            camera.id = id;
            camera.sheet = support::loopSheet();
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
    }
    void shoot(double a, double b, double c, double stops = 0.0) {
        rig::Take take;
        take.id = rig::freshTakeId(rig);
        take.number = static_cast<int>(rig.takes.size()) + 1;
        take.startedAt = "2026-05-04T10:00:00";
        const std::array<double, 3> mired{a, b, c};
        for (std::size_t i = 0; i < 3; ++i) {
            LoopCamera body;
            body.lightMired = mired[i];
            body.body.stops = stops;
            body.body.readNoise = 0.001;
            rig::Shot shot;
            shot.cameraId = std::as_const(rig).cameras[i].id;
            shot.reading = support::ownReading(body.at(shot.settings), m_random, 4);
            take.shots.push_back(shot);
        }
        rig.takes.push_back(take);
    }
    [[nodiscard]] const rig::Take& newest() const { return std::as_const(rig.takes).back(); }
    [[nodiscard]] double miredOf(const char* id, const std::string& words) const {
        const auto target = jobs::targetOf(words, rig, newest());
        if (!target) return 1e9;
        return jobs::matchReport(rig, newest(), *target, true)
            .find(id)
            ->differences.of(Quality::WhiteBalance)
            .value.value_or(1e9);
    }

    rig::Rig rig;

private:
    OwnRandom m_random{std::mt19937(11)};
};

bool isNear(double value, double wanted, double by) { return std::abs(value - wanted) <= by; }

}  // namespace

class TestTargets : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aCameraByItsLetter() {
        Three three;
        three.shoot(0.0, 10.0, 60.0);
        QVERIFY(isNear(three.miredOf("b", "A"), 10.0, 1.0));
        QVERIFY(isNear(three.miredOf("a", "B"), -10.0, 1.0));
        QVERIFY(isNear(three.miredOf("c", "B"), 50.0, 1.5));
    }
    /// The camera in the middle asks the least of the others.
    void theLeastChange() {
        Three three;
        three.shoot(0.0, 20.0, 60.0);
        const auto least = jobs::targetOf("least", three.rig, three.newest());
        QVERIFY(least.has_value());
        QCOMPARE(least->cameraId, std::string("b"));
        const auto costs = jobs::targetCosts(three.rig, three.newest());
        QCOMPARE(costs.size(), std::size_t{3});
        QVERIFY(costs[1].change < costs[0].change && costs[1].change < costs[2].change);
        const auto best = jobs::recommendedReference(costs);
        QCOMPARE(best.cameraId, std::string("b"));
        QVERIFY(!best.reasons.empty());
    }
    /// One that cannot be turned is what the others come to.
    void theStiffOneIsRecommended() {
        Three three;
        three.rig.cameras[2].sheet.kelvins.clear();
        three.shoot(0.0, 20.0, 60.0);
        const auto best = jobs::recommendedReference(jobs::targetCosts(three.rig, three.newest()));
        QCOMPARE(best.cameraId, std::string("c"));
        QVERIFY(words::inEnglish(best.reasons[0]).find("hardly be turned") != std::string::npos);
    }
    /// Published values: a camera by BT.709 that renders neutrals neutral is there already.
    void theChartItself() {
        Three three;
        three.shoot(0.0, 20.0, 60.0);
        const auto target = jobs::targetOf("chart", three.rig, three.newest());
        QVERIFY(target.has_value());
        const auto report = jobs::matchReport(three.rig, three.newest(), *target, true);
        QVERIFY(report.referenceId.empty() && !report.targetWords.empty());
        const auto& a = report.find("a")->differences;
        QVERIFY2(a.of(Quality::WhiteBalance).value,
                 words::inEnglish(a.of(Quality::WhiteBalance).reason).c_str());
        QVERIFY(isNear(*a.of(Quality::WhiteBalance).value, 0.0, 1.5));
        QVERIFY(isNear(*a.of(Quality::Exposure).value, 0.0, 0.05));
        QVERIFY(a.colour.mean < 0.8);
        // The reference is matched too, for it is none.
        QVERIFY(!report.find("a")->isReference);
        QVERIFY(isNear(*report.find("c")->differences.of(Quality::WhiteBalance).value, 60.0, 2.0));
    }
    /// As last week: all cameras against what the reference looked like then, here or in another
    /// rig's file.
    void anEarlierTake() {
        Three three;
        three.shoot(0.0, 0.0, 0.0);
        three.shoot(25.0, 30.0, 40.0);
        for (const std::string words : {"take:1", "take:take-1"}) {
            QVERIFY(isNear(three.miredOf("a", words), 25.0, 1.5));
            QVERIFY(isNear(three.miredOf("c", words), 40.0, 1.5));
            // Its camera is none of today's: people are not looked up in the wrong picture.
            const auto target = jobs::targetOf(words, three.rig, three.newest());
            QVERIFY(target->outside->camera.id.empty());
        }
        const QTemporaryDir folder;
        const std::string file = folder.filePath("last week.rigmatch").toStdString();
        QVERIFY(rig::saveRig(three.rig, file).has_value());
        QVERIFY(isNear(three.miredOf("b", file + ":1"), 30.0, 1.5));
    }
    /// What all cameras have alike against another day is the light's: told with its uncertainty,
    /// in either direction; what one of them has alone is not.
    void whatAllHaveAlikeIsTheLights() {
        Three three;
        three.shoot(0.0, 0.0, 0.0);
        three.shoot(12.0, 13.0, 11.0, -0.4);
        const auto common = [&] {
            const auto target = jobs::targetOf("take:1", three.rig, three.newest());
            return jobs::matchReport(three.rig, three.newest(), *target, true);
        };
        const auto dark = common();
        QVERIFY(dark.commonLight && dark.commonLight->stops && dark.commonLight->mired);
        QCOMPARE(dark.commonLight->cameras, std::size_t{3});
        QVERIFY(std::abs(*dark.commonLight->stops + 0.4) <=
                2.0 * dark.commonLight->stopsUncertainty);
        QVERIFY(std::abs(*dark.commonLight->mired - 12.0) <=
                2.0 * dark.commonLight->miredUncertainty);
        const std::string words = words::commonLightText(dark);
        QVERIFY2(words.find("All 3 cameras are 0.") != std::string::npos &&
                     words.find("stop darker and ") != std::string::npos &&
                     words.find("raise it by 0.") != std::string::npos &&
                     words.find("mired cooler") != std::string::npos,
                 words.c_str());
        three.shoot(0.0, 0.0, 45.0, 0.3);
        const auto bright = common();
        QVERIFY(bright.commonLight && bright.commonLight->stops && !bright.commonLight->mired);
        QVERIFY(words::commonLightText(bright).find("dim it by 0.3") != std::string::npos);
        three.shoot(0.0, 0.0, 45.0);
        QVERIFY(!common().commonLight);
        // Against a camera of the take nothing is the light's: all of them stand in it.
        three.shoot(12.0, 13.0, 11.0, -0.4);
        QVERIFY(!jobs::matchReport(three.rig, three.newest()).commonLight);
    }
    void wrongTargetsAreSaid_data() {
        QTest::addColumn<QString>("words");
        QTest::addColumn<QString>("said");
        QTest::newRow("letter") << "Q"
                                << "No camera of the rig has that letter";
        QTest::newRow("take") << "take:9"
                              << "has no take \"9\"";
        QTest::newRow("file") << "/nowhere.rigmatch:1"
                              << "nowhere.rigmatch";
        QTest::newRow("nothing") << ""
                                 << "No camera of the rig";
    }
    void wrongTargetsAreSaid() {
        QFETCH(QString, words);
        QFETCH(QString, said);
        Three three;
        three.shoot(0.0, 0.0, 0.0);
        const auto target = jobs::targetOf(words.toStdString(), three.rig, three.newest());
        QVERIFY(!target.has_value());
        QVERIFY2(QString::fromStdString(words::inEnglish(target.error())).contains(said),
                 words::inEnglish(target.error()).c_str());
    }
    /// An earlier take without a chart has nothing to match to.
    void anEmptyTakeIsNoTarget() {
        Three three;
        three.rig.takes.push_back(rig::Take{});
        three.rig.takes[0].id = "take-0";
        three.rig.takes[0].number = 7;
        three.shoot(0.0, 0.0, 0.0);
        const auto target = jobs::targetOf("take:7", three.rig, three.newest());
        QVERIFY(!target.has_value());
        QVERIFY(target.error().code == base::ErrorCode::Unmeasurable);
    }
};

RIG_TEST(TestTargets);
#include "test_targets.moc"
