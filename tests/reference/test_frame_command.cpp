// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>

#include "rig/rig_store.h"
#include "support/cli_run.h"
#include "support/media_files.h"
#include "support/photos.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

class TestFrameCommand : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Read by eye off the photograph, enlarged six times: pupils at (203.7, 100.5) and (247.0,
    /// 103.3) px of 512, the hair's upper edge at row 15, the chin at row 178.
    void aPhotographReadsAsByEye() {
        const auto result = support::framed({support::kPhotos + "frontal.png"});
        QCOMPARE(result["people"].size(), std::size_t{1});
        const auto& person = result["people"][0];
        const auto value = [&](const char* key) { return person[key]["value"].get<double>(); };
        const double head = (178.0 - 15.0) / 512.0;
        QVERIFY(std::abs(value("eyeLine") - 102.4 / 512.0) < 0.01 * head + 0.002);
        QVERIFY(std::abs(value("across") - 225.85 / 512.0) < 0.01 * head + 0.002);
        QVERIFY(std::abs(value("headHeight") - head) < 0.05 * head);
        QVERIFY(std::abs(value("headroom") - 15.5 / 512.0) < 0.01);
        QVERIFY(person["lookRoom"].is_null());
        QVERIFY(std::abs(person["turnDegrees"].get<double>()) < 15.0);
    }
    /// A take keeps in the rig what the command tells of the clip, and a framing that was saved is
    /// what later files are laid on.
    void aTakeKeepsItsFraming() {
        const QTemporaryDir folder;
        const QString clip = folder.filePath("A.mov"), rigFile = folder.filePath("r.rigmatch");
        QVERIFY(support::runFfmpeg({"-loop",
                                    "1",
                                    "-i",
                                    support::kPhotos + "frontal.png",
                                    "-t",
                                    "2",
                                    "-pix_fmt",
                                    "yuv420p",
                                    "-crf",
                                    "12",
                                    clip}));
        const auto taken = support::run(
            {"take", rigFile, "--camera", "A=" + clip, "--purpose", "framing", "--json"});
        QCOMPARE(taken.code, 0);
        auto loaded = rig::loadRig(rigFile.toStdString());
        QVERIFY(loaded.has_value());
        const auto& reading = loaded->rig.takes[0].shots[0].reading;
        QVERIFY(reading && reading->framing);
        QCOMPARE(reading->framing->people.size(), std::size_t{1});
        const auto& person = reading->framing->people[0];
        const auto told = support::framed({clip})["people"][0];
        QVERIFY(std::abs(person.eyeLine.value - told["eyeLine"]["value"].get<double>()) < 0.002);
        QVERIFY(std::abs(person.headHeight.value - told["headHeight"]["value"].get<double>()) <
                0.005);
        QVERIFY(!reading->hasChart && reading->reasonCode == "NotLookedFor");
        // A lens that nobody told is no lens.
        QVERIFY(!loaded->rig.cameras[0].isLensTold);
        loaded->rig.cameras[0].savedFraming = rig::SavedFraming{
            (support::kPhotos + "frontal.png").toStdString(), "take-1", "2026-03-02", {}};
        QVERIFY(rig::saveRig(loaded->rig, rigFile.toStdString()).has_value());
        const auto drift = support::framed({clip, "--rig", rigFile})["drift"];
        QCOMPARE(drift["cause"].get<std::string>(), std::string("none"));
        QVERIFY(!drift.contains("shiftDegrees"));
    }
    /// The photograph goes to and fro over a grey ground, as ffmpeg moves it: the window follows,
    /// with its middle on the eyes, and never leaves the picture.
    void aCropFollowsAPerson() {
        const QTemporaryDir folder;
        const QString clip = folder.filePath("sway.mov"), table = folder.filePath("crop.csv");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "color=c=gray:s=1280x720:r=10:d=6",
                                    "-i",
                                    support::kPhotos + "frontal.png",
                                    "-filter_complex",
                                    "overlay=x='384+200*sin(1.2*t)':y=120",
                                    "-pix_fmt",
                                    "yuv420p",
                                    "-crf",
                                    "14",
                                    clip}));
        const auto run = support::run({"frame", clip, "--track", "9:16", "--out", table});
        QCOMPARE(run.code, 0);
        QVERIFY2(run.out.find("9:16 window of 404 × 720 px") != std::string::npos, run.out.c_str());
        QFile file(table);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QStringList lines = QString::fromUtf8(file.readAll()).trimmed().split('\n');
        QCOMPARE(lines[0], QString("seconds,leftPx,topPx,widthPx,heightPx,seen"));
        QVERIFY(lines.size() > 20);
        // Smoothing over 0.6 s takes a fifth of a swing of 5 s: exp(-(1.2 * 0.6)² / 2) is 0.77.
        for (const QString& line : lines.mid(5, lines.size() - 9)) {
            const QStringList values = line.split(',');
            const double t = values[0].toDouble(), left = values[1].toDouble();
            const double eyes = 384.0 + 225.85 + 0.77 * 200.0 * std::sin(1.2 * t);
            QVERIFY2(std::abs(left + 202.0 - eyes) < 20.0, qPrintable(line));
            QVERIFY(left >= 0.0 && left <= 1280.0 - 404.0);
            QCOMPARE(values[5], QString("1"));
        }
        QCOMPARE(support::run({"frame", clip, "--track", "9to16"}).code, 1);
        QCOMPARE(support::run({"frame", clip, clip, "--track", "9:16"}).code, 2);
        QCOMPARE(support::run({"frame", clip, "--out", table}).code, 2);
        const auto nobody = support::run({"frame", clip, "--track", "1:1", "--person", "4"});
        QCOMPARE(nobody.code, 1);
        QVERIFY(nobody.err.find("never found") != std::string::npos);
    }
    void aProfileLooksIntoItsRoom() {
        const auto result = support::framed({support::kPhotos + "profile.png"});
        const auto& person = result["people"][0];
        QVERIFY(std::abs(person["turnDegrees"].get<double>()) > 45.0);
        QVERIFY(person["lookRoom"]["value"].get<double>() > 1.0);
    }
    /// Shifts, a turn and a zoom that ffmpeg made of a photograph.
    void ffmpegsWarpsAreRead_data() {
        QTest::addColumn<QString>("filter");
        QTest::addColumn<double>("x");
        QTest::addColumn<double>("y");
        QTest::addColumn<double>("roll");
        QTest::addColumn<double>("scale");
        QTest::addColumn<QString>("cause");
        // The reference is the photograph's middle, 400 px of 512.
        QTest::newRow("none") << "crop=400:400:56:56" << 0.0 << 0.0 << 0.0 << 1.0 << "none";
        QTest::newRow("to the left") << "crop=400:400:63:56" << -7.0 << 0.0 << 0.0 << 1.0 << "pan";
        QTest::newRow("down") << "crop=400:400:56:51" << 0.0 << 5.0 << 0.0 << 1.0 << "tilt";
        QTest::newRow("clockwise")
            << "rotate=0.02:bilinear=1,crop=400:400:56:56" << 0.0 << 0.0 << 1.1459 << 1.0 << "roll";
        QTest::newRow("larger") << "scale=528:528:flags=lanczos,crop=400:400:64:64" << 0.0 << 0.0
                                << 0.0 << 528.0 / 512.0 << "zoom";
        QTest::newRow("both") << "crop=400:400:63:51" << -7.0 << 5.0 << 0.0 << 1.0 << "moved";
    }
    void ffmpegsWarpsAreRead() {
        QFETCH(QString, filter);
        QFETCH(double, x);
        QFETCH(double, y);
        QFETCH(double, roll);
        QFETCH(double, scale);
        QFETCH(QString, cause);
        const QTemporaryDir folder;
        const QString reference = folder.filePath("then.png"), file = folder.filePath("now.png");
        const QString photo = support::kPhotos + "profile.png";
        QVERIFY(support::runFfmpeg({"-i", photo, "-vf", "crop=400:400:56:56", reference}));
        QVERIFY(support::runFfmpeg({"-i", photo, "-vf", filter, file}));
        const auto drift = support::framed({file, "--against", reference})["drift"];
        QVERIFY2(drift["shiftPx"].is_array(), drift.dump().c_str());
        const QByteArray told = QByteArray::fromStdString(drift.dump());
        QVERIFY2(std::abs(drift["shiftPx"][0].get<double>() - x) < 0.5, told);
        QVERIFY2(std::abs(drift["shiftPx"][1].get<double>() - y) < 0.5, told);
        QVERIFY2(std::abs(drift["rollDegrees"].get<double>() - roll) < 0.06, told);
        QVERIFY2(std::abs(drift["scale"].get<double>() - scale) < 0.002, told);
        QCOMPARE(QString::fromStdString(drift["cause"].get<std::string>()), cause);
    }
    /// Blur of a known deviation: the 10 to 90 % rise of a Gaussian edge is 2.563 of it.
    void edgeWidthsFollowTheBlur() {
        const QTemporaryDir folder;
        const QString bars =
            "color=gray:size=640x360,drawbox=x=100:y=60:w=80:h=240:c=white:t=fill,"
            "drawbox=x=300:y=60:w=80:h=240:c=black:t=fill,"
            "drawbox=x=460:y=60:w=80:h=240:c=white:t=fill,format=rgb24";
        for (const double sigma : {1.5, 3.0}) {
            const QString file = folder.filePath(QString("blur%1.png").arg(sigma));
            QVERIFY(support::runFfmpeg({"-f",
                                        "lavfi",
                                        "-i",
                                        bars + QString(",gblur=sigma=%1:steps=6").arg(sigma),
                                        "-frames:v",
                                        "1",
                                        file}));
            const auto focus = support::framed({file})["focus"];
            const double width = focus["edgeWidthPx"]["background"];
            QVERIFY2(std::abs(width - 2.563 * sigma) < std::max(0.5, 0.1 * 2.563 * sigma),
                     qPrintable(QString::number(width)));
            QCOMPARE(focus["sharpest"].get<std::string>(), std::string("background"));
            QVERIFY(focus["edgeWidthPx"]["eyes"].is_null());
        }
    }
    void badInputIsSaid() {
        const QTemporaryDir folder;
        const QString grey = folder.filePath("grey.png");
        QVERIFY(support::runFfmpeg(
            {"-f", "lavfi", "-i", "color=gray:size=320x180", "-frames:v", "1", grey}));
        const auto nothing = support::framed({grey, "--against", grey});
        QVERIFY(nothing["people"].empty());
        QVERIFY(nothing["rollDegrees"].is_null());
        QCOMPARE(nothing["drift"]["cause"].get<std::string>(), std::string("unknown"));
        QVERIFY(!nothing["drift"]["reason"].get<std::string>().empty());
        const auto gone = support::run({"frame", folder.filePath("gone.mov"), grey, "--json"});
        QCOMPARE(gone.code, 1);
        QVERIFY(gone.document()["results"][0].contains("error"));
        QVERIFY(gone.document()["results"][1].contains("people"));
        QCOMPARE(support::run({"frame"}).code, 2);
        QCOMPARE(support::run({"frame", grey, "--rig", folder.filePath("gone.rigmatch")}).code, 1);
    }
};

RIG_TEST(TestFrameCommand);
#include "test_frame_command.moc"
