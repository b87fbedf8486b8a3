// SPDX-License-Identifier: GPL-3.0-or-later
// Profile try-out on bodies of the tests' own: which of their looks can be brought together.
#include <QTemporaryDir>

#include "jobs/try_out.h"
#include "rig/rig_store.h"
#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::LoopCamera;
using support::OwnRandom;

namespace {

/// A look: contrast and saturation after the curve.
struct Look {
    const char* name;
    double contrast;
    double saturation;
    double noise = 0.001;
};

/// One take in which every camera shows its look of that number, or its last.
void shoot(rig::Rig& rig, const std::vector<std::vector<Look>>& looks, OwnRandom& random) {
    std::size_t most = 0;
    for (const auto& of : looks) most = std::max(most, of.size());
    for (std::size_t round = 0; round < most; ++round) {
        rig::Take take;
        take.id = rig::freshTakeId(rig);
        take.number = static_cast<int>(round) + 1;
        take.purposes = {rig::Purpose::TryOut};
        for (std::size_t i = 0; i < looks.size(); ++i) {
            const Look& look = looks[i][std::min(round, looks[i].size() - 1)];
            LoopCamera camera = support::loopBody(0.0, 0.0, -0.3);
            camera.body.contrast = look.contrast;
            camera.body.saturation = look.saturation;
            camera.body.readNoise = look.noise;
            rig::Shot shot;
            shot.cameraId = std::as_const(rig.cameras)[i].id;
            shot.settings = std::as_const(rig.cameras)[i].settings;
            shot.settings.profile = std::string(look.name);
            rig::Reading reading = support::ownReading(camera.at(rig::Settings{}), random, 5);
            rig::NoiseReading noise;
            noise.grey = {look.noise, look.noise, look.noise};
            reading.noise = noise;
            shot.reading = reading;
            take.shots.push_back(shot);
        }
        rig.takes.push_back(take);
    }
}

rig::Rig rigOfThree(const std::vector<std::vector<Look>>& looks) {
    OwnRandom random{std::mt19937(12)};
    rig::Rig rig;
    for (const auto& of : looks) {
        rig::Camera camera;
        camera.id = rig::freshCameraId(rig);
        for (const Look& look : of) {
            rig::Profile profile;
            profile.name = look.name;
            camera.sheet.profiles.push_back(profile);
        }
        rig.cameras.push_back(camera);
    }
    rig::giveLetters(rig);
    shoot(rig, looks, random);
    return rig;
}

const std::vector<std::vector<Look>> kLooks{
    {{"Plain", 1.0, 1.0}},
    {{"Hard", 1.3, 1.25}, {"Soft", 0.75, 0.85}, {"Even", 1.0, 1.0}},
    {{"Vivid", 1.05, 1.3}, {"Natural", 1.0, 1.02}}};

}  // namespace

class TestTryOut : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void looksThatGoTogetherComeFirst() {
        const rig::Rig rig = rigOfThree(kLooks);
        const auto report = jobs::rankProfiles(rig);
        QVERIFY2(report.has_value(), report ? "" : words::inEnglish(report.error()).c_str());
        QCOMPARE(report->profiles.size(), std::size_t{6});
        QCOMPARE(report->ranked.size(), std::size_t{6});
        const auto& best = report->ranked.front();
        QCOMPARE(report->profiles[best.chosen[1]].profile, std::string("Even"));
        QCOMPARE(report->profiles[best.chosen[2]].profile, std::string("Natural"));
        QVERIFY2(best.afterTurns < 0.6, std::to_string(best.afterTurns).c_str());
        // What no exposure or white balance brings together is left.
        const auto& worst = report->ranked.back();
        QVERIFY(worst.afterTurns > 3.0);
        QVERIFY(worst.afterLut < 0.5 * worst.afterTurns);
        for (std::size_t i = 1; i < report->ranked.size(); ++i)
            QVERIFY(report->ranked[i].afterTurns >= best.afterTurns - 0.3);
        // BT.709 has 2.5 stops from 18 % to white (docs/sources.md 5.5), less the exposure of 0.3
        // under it.
        const auto plain = std::find_if(report->profiles.begin(),
                                        report->profiles.end(),
                                        [](const auto& tried) { return tried.profile == "Plain"; });
        QVERIFY2(std::abs(*plain->headroomStops - 2.77) < 0.25,
                 std::to_string(*plain->headroomStops).c_str());
    }
    void amongEqualsTheQuietOneComesFirst() {
        const rig::Rig rig = rigOfThree(
            {{{"Plain", 1.0, 1.0}}, {{"A loud one", 1.0, 1.0, 0.006}, {"Quiet", 1.0, 1.0}}});
        const auto report = jobs::rankProfiles(rig);
        QVERIFY(report.has_value());
        QCOMPARE(report->profiles[report->ranked.front().chosen[1]].profile, std::string("Quiet"));
        QVERIFY2(report->ranked[0].isAsGoodAsBest && report->ranked[1].isAsGoodAsBest,
                 "they leave the same");
        const auto apart = jobs::rankProfiles(rigOfThree(kLooks));
        QVERIFY(apart->ranked.front().isAsGoodAsBest && !apart->ranked.back().isAsGoodAsBest);
    }
    void roundsLeadThroughAllProfiles() {
        rig::Rig rig = rigOfThree(kLooks);
        auto rounds = jobs::tryOutRounds(rig);
        QCOMPARE(rounds.size(), std::size_t{3});
        QCOMPARE(rounds[2].settings[1].profile, std::string("Even"));
        QCOMPARE(rounds[2].settings[2].profile, std::string("Natural"));
        for (const auto& round : rounds) QVERIFY(round.isShot);
        rig.takes.erase(rig.takes.begin() + 2);
        rounds = jobs::tryOutRounds(rig);
        QVERIFY(!rounds[2].isShot);
        jobs::setRound(rounds[2], rig);
        QCOMPARE(std::as_const(rig.cameras)[1].settings.profile, std::string("Even"));
    }
    void chosenProfilesAreSet() {
        rig::Rig rig = rigOfThree(kLooks);
        const auto report = jobs::rankProfiles(rig);
        jobs::useProfiles(*report, report->ranked.front(), rig);
        QCOMPARE(std::as_const(rig.cameras)[1].settings.profile, std::string("Even"));
        QCOMPARE(std::as_const(rig.cameras)[2].settings.profile, std::string("Natural"));
    }
    void theCommandRanksToo() {
        QTemporaryDir folder;
        const QString file = folder.filePath("try.rigmatch");
        QVERIFY(rig::saveRig(rigOfThree(kLooks), file.toStdString()));
        const auto ran = support::run({"tryout", file, "--json"});
        QCOMPARE(ran.code, 0);
        const auto ranked = ran.document()["ranked"];
        QCOMPARE(ranked[0]["profiles"]["B"].get<std::string>(), std::string("Even"));
        QVERIFY(ranked[0]["uncertainty"].get<double>() > 0.0);
        QVERIFY(support::run({"tryout", file}).out.find("1.  A Plain  B Even  C Natural") !=
                std::string::npos);
    }
    void withoutTriesItIsSaid() {
        rig::Rig rig = rigOfThree({{{"Plain", 1.0, 1.0}}, {{"Even", 1.0, 1.0}}});
        const auto one = jobs::rankProfiles(rig);
        QVERIFY(!one);
        QVERIFY(words::inEnglish(one.error().detail).find("two profiles") != std::string::npos);
        QVERIFY(!one.error().hint.empty());
        rig.takes.clear();
        QVERIFY(!jobs::rankProfiles(rig));
        // One camera's clip without a chart is told, the others are ranked all the same.
        rig = rigOfThree(kLooks);
        rig::Shot* shot = rig::findShot(rig.takes[0], std::as_const(rig.cameras)[1].id);
        rig::Reading blind = *shot->reading;
        blind.hasChart = false;
        shot->reading = blind;
        const auto rest = jobs::rankProfiles(rig);
        QVERIFY(rest.has_value());
        QCOMPARE(rest->ranked.size(), std::size_t{4});
        QCOMPARE(rest->notes.size(), std::size_t{1});
    }
};

RIG_TEST(TestTryOut);
#include "test_try_out.moc"
