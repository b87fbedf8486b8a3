// SPDX-License-Identifier: GPL-3.0-or-later
// Where files belong that are dropped on a rig with cameras.
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <fstream>

#include "jobs/arrivals.h"
#include "jobs/media_names.h"
#include "jobs/take_job.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "support/wav_file.h"

using namespace rigmatch;
using jobs::Arrival;
using jobs::ArrivalReason;

namespace {

/// What the rig knows of a camera's clips: their picture, and where they lay.
struct Known {
    const char* letter;
    int width, height;
    double rate;
    const char* file;
    const char* role = "";
};

rig::Rig rigOf(std::initializer_list<Known> cameras) {
    rig::Rig rig;
    rig::Take take;
    take.id = rig::freshTakeId(rig);
    for (const Known& known : cameras) {
        const std::string id = jobs::makeCamera(known.letter, rig);
        if (*known.role != '\0') rig::findCamera(rig, id)->role = known.role;
        if (known.width == 0) continue;
        rig::Shot shot;
        shot.cameraId = id;
        shot.media = known.file;
        rig::Reading reading;
        reading.width = known.width;
        reading.height = known.height;
        reading.frameRate = known.rate;
        reading.transfer = "unknown";
        shot.reading = reading;
        take.shots.push_back(shot);
    }
    if (!take.shots.empty()) rig.takes.push_back(take);
    return rig;
}

std::string letterAt(const rig::Rig& rig, const std::string& place) {
    const rig::Camera* camera = rig::findCamera(rig, place);
    return camera == nullptr ? place : camera->letter;
}

}  // namespace

class TestArrivals : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    int m_count = 0;

    /// A clip of three frames whose grey differs from every other's.
    std::filesystem::path clip(const QString& name, const QString& size = "64x36", int rate = 25) {
        const QString path = m_folder.filePath(name);
        QDir().mkpath(QFileInfo(path).path());
        support::runFfmpeg({"-f",
                            "lavfi",
                            "-i",
                            QString("color=0x%1%1%1:s=%2:r=%3:d=0.12")
                                .arg(40 + 7 * (++m_count % 25), 2, 16, QChar('0'))
                                .arg(size)
                                .arg(rate),
                            "-c:v",
                            "libx264",
                            "-pix_fmt",
                            "yuv420p",
                            path});
        return path.toStdString();
    }
    static QStringList lettersIn(const rig::Rig& rig, const jobs::Arrivals& arrivals) {
        QStringList letters;
        for (const Arrival& arrival : arrivals.files)
            letters << QString::fromStdString(letterAt(rig, arrival.place));
        return letters;
    }

private Q_SLOTS:
    void init() {
        m_folder.remove();
        m_folder = QTemporaryDir();
    }

    void lettersStandAlone() {
        for (const char* name :
             {"B_0012.mov", "cam-b.mp4", "cameraB.mp4", "take3_B.mov", "A-B.mov"})
            QVERIFY2(jobs::namesLetter(name, 'b'), name);
        for (const char* name : {"abacus.mov", "tabby.mov", "0001.mov", "x_A.mov"})
            QVERIFY2(!jobs::namesLetter(name, 'b'), name);
    }
    void lettersAreSure() {
        const rig::Rig rig = rigOf({{"A", 0, 0, 0, ""}, {"B", 0, 0, 0, ""}, {"D", 0, 0, 0, ""}});
        const auto got =
            jobs::arrivalsOf(rig, "", "", {clip("take3_D.mp4"), clip("cam-a.mp4"), clip("B.mp4")});
        QVERIFY(got.has_value());
        QCOMPARE(lettersIn(rig, *got), QStringList({"A", "B", "D"}));
        QVERIFY(got->isSure);
        QVERIFY(!got->isNewTake);
    }
    void namesWithoutLettersGoByOrderAndAreAsked() {
        const rig::Rig rig = rigOf({{"A", 0, 0, 0, ""}, {"B", 0, 0, 0, ""}});
        const auto got = jobs::arrivalsOf(rig, "", "", {clip("0010.mp4"), clip("0009.mp4")});
        QVERIFY(got.has_value());
        QCOMPARE(lettersIn(rig, *got), QStringList({"A", "B"}));
        QCOMPARE(got->files[0].what.file.filename().string(), std::string("0009.mp4"));
        QCOMPARE(got->files[0].reason, ArrivalReason::Order);
        QVERIFY(!got->isSure);
    }
    /// Every one of them is shown, whatever the number of cameras.
    void noFileIsLost() {
        const rig::Rig rig = rigOf({{"A", 0, 0, 0, ""}, {"B", 0, 0, 0, ""}, {"C", 0, 0, 0, ""}});
        std::vector<std::filesystem::path> files;
        for (int i = 1; i <= 4; ++i) files.push_back(clip(QString("clip%1.mp4").arg(i)));
        std::ofstream(m_folder.filePath("text.mov").toStdString()) << "no clip";
        files.push_back(m_folder.filePath("text.mov").toStdString());
        const auto got = jobs::arrivalsOf(rig, "", "", files);
        QVERIFY(got.has_value());
        QCOMPARE(lettersIn(rig, *got), QStringList({"A", "B", "C", "+camera", ""}));
        QCOMPARE(got->files.back().reason, ArrivalReason::Unusable);
    }
    /// Picture, rate and folder of the clips before tell cameras apart, in whatever order.
    void picturesAsBeforeAreRecognised() {
        const rig::Rig rig = rigOf({{"A", 64, 36, 25, "/cards/one/C0001.MP4"},
                                    {"B", 128, 72, 25, "/cards/two/MVI_7.MP4"},
                                    {"C", 64, 36, 50, "/cards/three/GX01.MP4"}});
        const auto got = jobs::arrivalsOf(rig,
                                          rig.takes.back().id,
                                          "",
                                          {clip("1.mp4", "128x72"),
                                           clip("2.mp4", "64x36", 50),
                                           clip("3.mp4", "64x36", 25),
                                           clip("4.mp4", "32x18", 30)});
        QVERIFY(got.has_value());
        QCOMPARE(lettersIn(rig, *got), QStringList({"B", "C", "A", "+camera"}));
        for (int i = 0; i < 3; ++i)
            QCOMPARE(got->files[std::size_t(i)].reason, ArrivalReason::Alike);
        QCOMPARE(got->files[3].reason, ArrivalReason::New);
        // The shown take holds clips of these cameras: this is the next one.
        QVERIFY(got->isNewTake);
        QVERIFY(!got->isSure);
    }
    void namesAndFoldersTellLikeBodiesApart() {
        const rig::Rig rig = rigOf({{"A", 64, 36, 25, "/cards/left/C0001.MP4"},
                                    {"B", 64, 36, 25, "/cards/right/C0044.MP4"}});
        const auto got = jobs::arrivalsOf(
            rig, rig.takes.back().id, "", {clip("right/C0045.mp4"), clip("left/C0002.mp4")});
        QVERIFY(got.has_value());
        for (const Arrival& arrival : got->files) {
            const bool isLeft = arrival.what.file.parent_path().filename() == "left";
            QCOMPARE(letterAt(rig, arrival.place), std::string(isLeft ? "A" : "B"));
        }
    }
    void theChosenCameraWins() {
        const rig::Rig rig = rigOf({{"A", 64, 36, 25, "/x/a.mp4"}, {"C", 64, 36, 25, "/x/c.mp4"}});
        const std::string c = rig.cameras[1].id;
        const auto plainName =
            jobs::arrivalsOf(rig, rig.takes.back().id, c, {clip("MVI_0815.mp4")});
        QCOMPARE(lettersIn(rig, *plainName), QStringList({"C"}));
        QVERIFY(plainName->isSure);
        QVERIFY(!plainName->isNewTake);
        // Against the letter in its name it is asked.
        const auto against = jobs::arrivalsOf(rig, rig.takes.back().id, c, {clip("A_0002.mp4")});
        QCOMPARE(lettersIn(rig, *against), QStringList({"C"}));
        QVERIFY(!against->isSure);
    }
    void theSameContentTwiceIsTold() {
        const rig::Rig rig = rigOf({{"A", 0, 0, 0, ""}, {"B", 0, 0, 0, ""}});
        const auto a = clip("A.mp4");
        const QString copy = m_folder.filePath("B.mp4");
        QVERIFY(QFile::copy(QString::fromStdString(a.string()), copy));
        const auto got = jobs::arrivalsOf(rig, "", "", {a, copy.toStdString()});
        QCOMPARE(got->files[1].sameAs, std::string("A.mp4"));
        QVERIFY(!got->isSure);
        QVERIFY(jobs::isSameContent(a, copy.toStdString()));
        QVERIFY(!jobs::isSameContent(a, clip("C.mp4")));
        QVERIFY(!jobs::isSameContent(a, "/nowhere/at-all.mov"));
    }
    void soundGoesToRecordersAndNeverToCameras() {
        rig::Rig rig = rigOf({{"A", 0, 0, 0, ""}});
        rig.sources = {{"source-1", rig::SourceKind::Computer, "screen", {}},
                       {"source-2", rig::SourceKind::SoundRecorder, "recorder", {}}};
        const QString first = m_folder.filePath("A.wav"), second = m_folder.filePath("tone.WAV");
        QVERIFY(support::writeWav(first, {std::vector<float>(480, 0.1F)}, 48000));
        QVERIFY(support::writeWav(second, {std::vector<float>(480, 0.2F)}, 48000));
        const auto got = jobs::arrivalsOf(rig, "", "", {first.toStdString(), second.toStdString()});
        QCOMPARE(got->files[0].place, std::string("source-2"));
        QCOMPARE(got->files[1].place, std::string(Arrival::kNewRecorder));
    }
    void theyArePutIntoATakeOfTheirOwn() {
        rig::Rig rig = rigOf({{"A", 64, 36, 25, "/x/1.mp4"}, {"B", 64, 36, 25, "/x/2.mp4"}});
        const std::string before = rig.takes.back().id;
        jobs::Arrivals arrivals;
        for (const char* name : {"/y/A10.mp4", "/y/A9.mp4", "/y/E.mp4", "/y/old.mp4"}) {
            Arrival arrival;
            arrival.what.file = name;
            arrival.place = rig.cameras[0].id;
            arrivals.files.push_back(arrival);
        }
        arrivals.files[2].place = Arrival::kNewCamera;
        arrivals.files[2].what.letter = "E";
        arrivals.files[3].place = Arrival::kLeftOut;
        arrivals.isNewTake = true;
        const auto put = jobs::putArrivals(arrivals, before, "2026-01-02T03:04:05", rig);
        QVERIFY(put.takeId != before);
        const rig::Take& take = std::as_const(rig.takes).back();
        QCOMPARE(take.number, 2);
        QCOMPARE(take.shots.size(), std::size_t{2});
        const rig::Shot* a = rig::findShot(take, rig.cameras[0].id);
        // Parts of one recording, by the value of their numbers.
        QCOMPARE(a->media.filename().string(), std::string("A9.mp4"));
        QCOMPARE(a->laterParts.front().filename().string(), std::string("A10.mp4"));
        QCOMPARE(rig.cameras.size(), std::size_t{3});
        QCOMPARE(std::as_const(rig.cameras)[2].letter, std::string("E"));
        // Into the take that is there: what it held for that camera is replaced, the rest stays.
        arrivals.isNewTake = false;
        arrivals.files.resize(1);
        QCOMPARE(jobs::putArrivals(arrivals, before, "", rig).takeId, before);
        const rig::Take& first = std::as_const(rig.takes).front();
        QCOMPARE(first.shots.size(), std::size_t{2});
        QCOMPARE(rig::findShot(first, rig.cameras[0].id)->media.string(),
                 std::string("/y/A10.mp4"));
    }
};

RIG_TEST(TestArrivals);
#include "test_arrivals.moc"
