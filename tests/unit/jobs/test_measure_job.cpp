// SPDX-License-Identifier: GPL-3.0-or-later
#include <QDir>
#include <QFile>
#include <QTemporaryDir>

#include "jobs/measure_job.h"
#include "jobs/picture_job.h"
#include "jobs/shoot_job.h"
#include "sim/shoot.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

const std::string kDemo = RIGMATCH_SOURCE_DIR "/demo/clock-bench/";

rig::Rig rigOf(int cameras) {
    rig::Rig rig;
    for (int i = 0; i < cameras; ++i) {
        rig::Camera camera;
        camera.id = rig::freshCameraId(rig);
        rig.cameras.push_back(camera);
    }
    rig::giveLetters(rig);
    return rig;
}

}  // namespace

class TestMeasureJob : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// What is looked for follows from the take's purposes and from the source.
    void takesThatAreNotForMatchingLookForNoChart() {
        rig::Rig rig = rigOf(1);
        rig::Take take;
        rig::Shot shot;
        shot.cameraId = rig.cameras[0].id;
        shot.media = kDemo + "A.mov";
        take.shots = {shot};
        take.purposes = {rig::Purpose::Programme};
        const auto what = jobs::lookFor(rig, take, shot.cameraId);
        const auto watched = jobs::measureShot(shot, what, {}).shot;
        QVERIFY(watched.reading && !watched.reading->hasChart);
        QCOMPARE(watched.reading->reasonCode, std::string("NotLookedFor"));
        QVERIFY(!watched.reading->measuredBy.empty());
        take.purposes = {rig::Purpose::Match, rig::Purpose::Programme};
        const auto matched =
            jobs::measureShot(shot, jobs::lookFor(rig, take, shot.cameraId), {}).shot;
        QVERIFY(matched.reading && matched.reading->hasChart);
    }
    void foldersGiveClipsAndStillsByName() {
        const QTemporaryDir folder;
        for (const char* name :
             {"b.MOV", "a.mp4", "notes.txt", ".hidden.mov", "c.PNG", "truth.json"}) {
            QFile file(folder.filePath(QString::fromUtf8(name)));
            QVERIFY(file.open(QIODevice::WriteOnly));
        }
        QVERIFY(QDir(folder.path()).mkdir("deep.mov"));
        const auto files = jobs::mediaInFolder(folder.path().toStdString());
        QCOMPARE(files.size(), std::size_t{3});
        QCOMPARE(files[0].filename().string(), std::string("a.mp4"));
        QVERIFY(jobs::mediaInFolder("/no/such/folder").empty());
    }
    void measuredShotKeepsItsSettings() {
        rig::Shot shot;
        shot.cameraId = "camera-2";
        shot.media = kDemo + "B.mov";
        shot.settings.isoValue = 1234.0;
        shot.failure = base::asIs("an old failure");
        const auto measured = jobs::measureShot(shot, std::string("classic-24"), {});
        QVERIFY(measured.shot.reading && measured.shot.reading->hasChart);
        QCOMPARE(measured.shot.settings.isoValue, 1234.0);
        QVERIFY(measured.shot.failure.empty());
        QVERIFY(!measured.isCancelled);
    }
    void failedShotLosesItsOldReading() {
        rig::Shot shot;
        shot.media = "/gone/B.mov";
        shot.reading = rig::Reading{};
        const auto measured = jobs::measureShot(shot, std::string("classic-24"), {});
        QVERIFY(!measured.shot.reading);
        QVERIFY(words::inEnglish(measured.shot.failure).find("There is no such file") !=
                std::string::npos);
    }
    void cancelledShotSaysSo() {
        rig::Shot shot;
        shot.media = kDemo + "B.mov";
        const base::Progress progress;
        progress.cancel();
        QVERIFY(jobs::measureShot(shot, std::string("classic-24"), progress).isCancelled);
    }
    void progressRisesToTheEnd() {
        rig::Shot shot;
        shot.media = kDemo + "A.mov";
        std::vector<double> fractions;
        const base::Progress progress(
            [&](double fraction, const base::Text&) { fractions.push_back(fraction); });
        (void)jobs::measureShot(shot, std::string("classic-24"), progress);
        QVERIFY(fractions.size() > 3);
        QVERIFY(std::is_sorted(fractions.begin(), fractions.end()));
        QCOMPARE(fractions.back(), 1.0);
    }
    void picturesAreGivenAtTheirTimeAndRange() {
        const auto picture = jobs::pictureAt(kDemo + "A.mov", 1.0, {});
        QVERIFY(picture.has_value());
        QCOMPARE(picture->width, 1920);
        QCOMPARE(picture->rgb.size(), std::size_t{1920 * 1080 * 3});
        QVERIFY(std::abs(picture->seconds - 1.0) < 0.03);
        const auto full = jobs::pictureAt(kDemo + "A.mov", 1.0, {"full", ""});
        const auto sum = [](const jobs::Picture& p) {
            return std::accumulate(p.rgb.begin(), p.rgb.end(), 0.0);
        };
        QVERIFY(sum(*full) != sum(*picture));
        QVERIFY(!jobs::pictureAt("/gone.mov", 0.0, {}).has_value());
    }
    void cancelledShootLeavesNoFolder() {
        const rig::Rig demo = jobs::demoRig();
        sim::SimulatedSet set;
        const QTemporaryDir folder;
        const auto place = std::filesystem::path(folder.path().toStdString()) / "takes" / "one";
        base::Progress progress;
        progress.cancel();
        const auto files = jobs::shootTake(set, demo, place, "", {}, progress);
        QVERIFY(!files.has_value());
        QVERIFY(files.error().code == base::ErrorCode::Cancelled);
        QVERIFY(!std::filesystem::exists(place));
        QVERIFY(!std::filesystem::exists(place.parent_path()));
        QVERIFY2(std::filesystem::exists(place.parent_path().parent_path()),
                 "only what the shoot made is taken away");
    }
    void rigWithoutSimulatedCamerasCannotShoot() {
        sim::SimulatedSet set;
        const QTemporaryDir folder;
        const auto files = jobs::shootTake(set, rigOf(2), folder.path().toStdString(), "", {}, {});
        QVERIFY(!files.has_value());
        QCOMPARE(words::inEnglish(files.error().what),
                 std::string("No camera here can shoot by itself"));
    }
};

RIG_TEST(TestMeasureJob);
#include "test_measure_job.moc"
