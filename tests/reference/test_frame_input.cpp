// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "support/cli_run.h"
#include "support/media_files.h"
#include "support/photos.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

const QString kFront = support::kPhotos + "frontal.png", kSide = support::kPhotos + "profile.png";

/// Written sentences of the same.
QString wordsOf(const QString& file) {
    return QString::fromStdString(support::run(QStringList{"frame", file}).out);
}

}  // namespace

/// Pictures that are not what a framing is measured on: said as what they are, nothing invented.
/// Made by ffmpeg from the photographs of tests/data/faces.
class TestFrameInput : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void initTestCase() { QVERIFY(m_folder.isValid()); }

    /// Ten of one size: all told from left to right, each as the lone one stands.
    void tenFacesAreTen() {
        const QString ten = made("ten.png",
                                 {"-i",
                                  kFront,
                                  "-filter_complex",
                                  "[0]crop=360:440:50:0,split=10[a][b][c][d][e][f][g][h][i][j];"
                                  "[a][b][c][d][e][f][g][h][i][j]xstack=inputs=10:layout="
                                  "0_0|w0_0|w0+w1_0|w0+w1+w2_0|w0+w1+w2+w3_0|"
                                  "0_h0|w0_h0|w0+w1_h0|w0+w1+w2_h0|w0+w1+w2+w3_h0"});
        const auto people = support::framed({ten})["people"];
        QCOMPARE(people.size(), std::size_t(10));
        double before = -1.0;
        for (const auto& person : people) {
            const double across = person["across"]["value"];
            QVERIFY(across >= before);
            before = across;
            // Pupils at (225.4, 101.9) of the photograph, read by eye: columns of 360, rows of 440.
            const double column = std::fmod(across * 1800.0, 360.0);
            const double row = std::fmod(person["eyeLine"]["value"].get<double>() * 880.0, 440.0);
            QVERIFY2(std::abs(column - 175.4) < 3.0 && std::abs(row - 101.9) < 3.0,
                     qPrintable(QString("%1 %2").arg(column).arg(row)));
        }
    }
    /// Cut through the middle, from every side: no face, or one that is cut.
    void aFaceHalfOutIsCut_data() {
        QTest::addColumn<QString>("crop");
        QTest::newRow("its left half") << "crop=225:512:0:0";
        QTest::newRow("its right half") << "crop=287:512:225:0";
        QTest::newRow("below the eyes") << "crop=512:392:0:120";
        QTest::newRow("without a chin") << "crop=512:150:0:0";
    }
    void aFaceHalfOutIsCut() {
        QFETCH(QString, crop);
        const QString half = made("half.png", {"-i", kFront, "-vf", crop});
        const auto framed = support::framed({half});
        QVERIFY2(framed.contains("people"), framed.dump().c_str());
        for (const auto& person : framed["people"])
            QVERIFY2(person["isCut"].get<bool>(), person.dump().c_str());
    }
    /// A portrait on the wall and a mirror behind somebody show a smaller face: told beside the
    /// person, who is framed as without it.
    void aPictureOnTheWallIsNotJudged() {
        const QString lone = wall("lone.png", false), both = wall("both.png", true);
        const auto alone = support::framed({lone})["people"],
                   with = support::framed({both})["people"];
        QCOMPARE(alone.size(), std::size_t(1));
        QCOMPARE(with.size(), std::size_t(2));
        for (const char* what : {"eyeLine", "headHeight", "headroom", "across"}) {
            const double own = alone[0][what]["value"], beside = with[1][what]["value"];
            QVERIFY2(std::abs(own - beside) < 0.005, what);
        }
        QVERIFY(with[0]["headHeight"]["value"].get<double>() <
                0.6 * with[1]["headHeight"]["value"].get<double>());
        QVERIFY(wordsOf(both).contains("person 1 from the left"));
    }
    /// Seen in a mirror somebody looks the other way, and all else stays.
    void aMirrorTurnsTheLook() {
        const QString mirrored = made("mirrored.png", {"-i", kSide, "-vf", "hflip"});
        const auto then = support::framed({kSide})["people"],
                   now = support::framed({mirrored})["people"];
        QCOMPARE(then.size(), std::size_t(1));
        QCOMPARE(now.size(), std::size_t(1));
        const auto of = [](const nlohmann::json& people, const char* what) {
            return people[0][what]["value"].get<double>();
        };
        QVERIFY(std::abs(of(then, "across") + of(now, "across") - 1.0) < 0.01);
        QVERIFY(std::abs(of(then, "eyeLine") - of(now, "eyeLine")) < 0.01);
        const double turnThen = then[0]["turnDegrees"], turnNow = now[0]["turnDegrees"];
        QVERIFY(turnThen * turnNow < 0.0);
        QVERIFY(std::abs(turnThen + turnNow) < 10.0);
    }
    /// A phone held upright writes its picture lying and says so beside it.
    void anUprightPhoneClipStands() {
        const QString lying = m_folder.filePath("lying.mp4"),
                      phone = m_folder.filePath("phone.mp4");
        QVERIFY(support::runFfmpeg({"-loop",
                                    "1",
                                    "-t",
                                    "1",
                                    "-i",
                                    kFront,
                                    "-vf",
                                    "crop=320:512:64:0,transpose=2,format=yuv420p",
                                    "-c:v",
                                    "libx264",
                                    "-qp",
                                    "18",
                                    lying}));
        QVERIFY(support::runFfmpeg(
            {"-i", lying, "-c", "copy", "-metadata:s:v:0", "rotate=270", phone}));
        const auto framed = support::framed({phone});
        QCOMPARE(framed["width"].get<int>(), 320);
        QCOMPARE(framed["height"].get<int>(), 512);
        QCOMPARE(framed["people"].size(), std::size_t(1));
        // Read by eye: pupils at row 101.9 of 512.
        QVERIFY(std::abs(framed["people"][0]["eyeLine"]["value"].get<double>() - 101.9 / 512.0) <
                0.005);
    }
    void noFaceIsSaid() {
        const QString bars =
            made("bars.png", {"-f", "lavfi", "-i", "testsrc2=size=640x360:rate=1"});
        QVERIFY(support::framed({bars})["people"].empty());
        QVERIFY(wordsOf(bars).contains("no face found"));
    }

private:
    QString made(const QString& name, const QStringList& words) {
        const QString file = m_folder.filePath(name);
        const QStringList whole = QStringList{"-y"} + words + QStringList{"-frames:v", "1", file};
        if (!support::runFfmpeg(whole)) qFatal("ffmpeg made no %s", qPrintable(name));
        return file;
    }
    /// Somebody before a wall, and a portrait of a third of the size beside them.
    QString wall(const QString& name, bool hasPortrait) {
        QString filter = "color=0x707478:size=1280x720[w];[0]scale=640:640[p];[w][p]overlay=560:80";
        filter +=
            hasPortrait ? "[v];[1]crop=360:440:50:0,scale=180:220[s];[v][s]overlay=160:90" : "";
        return made(name, {"-i", kFront, "-i", kFront, "-filter_complex", filter});
    }
    QTemporaryDir m_folder;
};

RIG_TEST(TestFrameInput);
#include "test_frame_input.moc"
