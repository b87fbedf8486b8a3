// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "face/face_finder.h"
#include "face/skin_patch.h"
#include "media/media_reader.h"
#include "sim/random_frames.h"
#include "sim/stand_in.h"
#include "support/found_faces.h"
#include "support/photos.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/sitting.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::pictureOf;
using support::Sitting;

using support::finder;

namespace {

std::vector<face::Face> facesIn(const QString& file) {
    auto reader = media::MediaReader::open(file.toStdString());
    if (!reader) qFatal("cannot read %s", qPrintable(file));
    const auto frame = reader->next();
    return *finder().find(**frame);
}

}  // namespace

/// The networks that come with the program (Apache-2.0, provenance in data/models/README.md), on
/// two clean-licence photographs and on the stand-ins of the simulated set.
class TestFaces : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Public domain photograph, one frontal face.
    void aFrontalPhotographHasOneFace() {
        const auto faces = facesIn(support::kPhotos + "frontal.png");
        QCOMPARE(faces.size(), std::size_t{1});
        QCOMPARE(faces[0].turn(), face::Turn::Frontal);
        QVERIFY(faces[0].presence > 0.9);
        QVERIFY(!faces[0].forehead.empty() && !faces[0].leftCheek.empty() &&
                !faces[0].rightCheek.empty());
        // The person's own right is on the left of the picture.
        QVERIFY(faces[0].points.rightEye.x < faces[0].points.leftEye.x);
        QVERIFY(faces[0].rightCheek[0].x < faces[0].leftCheek[0].x);
        QVERIFY(faces[0].points.nose.y > faces[0].points.leftEye.y);
        QVERIFY(faces[0].chin.y > faces[0].points.mouth.y);
    }
    /// CC0 photograph, one profile.
    void aProfilePhotographHasOneFaceTurnedAway() {
        const auto faces = facesIn(support::kPhotos + "profile.png");
        QCOMPARE(faces.size(), std::size_t{1});
        QCOMPARE(faces[0].turn(), face::Turn::Side);
        QVERIFY2(faces[0].leftCheek.empty() != faces[0].rightCheek.empty(),
                 "the far cheek is not seen");
    }
    void standInsAreFound_data() {
        QTest::addColumn<double>("turn");
        QTest::addColumn<double>("share");
        QTest::addColumn<double>("stops");
        QTest::addColumn<double>("skin");
        QTest::addColumn<bool>("glasses");
        QTest::addColumn<int>("curve");
        const auto row = [](const char* name, const Sitting& s) {
            QTest::newRow(name) << s.turnDegrees << s.headShare << s.stops << s.skin << s.hasGlasses
                                << static_cast<int>(s.curve);
        };
        using colour::CurveKind;
        row("front, light skin", {});
        row("front, dark skin", {0, 0.3, 0, 0.085});
        row("front, dark skin, glasses", {0, 0.3, 0, 0.085, true});
        row("turned 25 degrees", {25});
        row("turned 40 degrees the other way, glasses", {-40, 0.3, 0, 0.29, true});
        row("turned 55 degrees", {55});
        row("turned 75 degrees", {75});
        row("turned 75 degrees the other way, dark skin", {-75, 0.3, 0, 0.085});
        row("side, 90 degrees", {90});
        row("side, the other way, dark skin, glasses", {-90, 0.3, 0, 0.085, true});
        row("turned 50 degrees the other way", {-50, 0.35});
        row("small, 8 % of the height", {10, 0.08});
        row("large, 60 %", {-10, 0.6});
        row("two stops under", {15, 0.25, -2.0});
        row("one stop over", {15, 0.25, 1.0});
        row("log", {20, 0.25, 0.0, 0.29, false, CurveKind::Log});
        row("log, dark skin, two stops under", {20, 0.25, -2.0, 0.085, false, CurveKind::Log});
        row("HLG", {-20, 0.25, 0.0, 0.29, false, CurveKind::Hlg});
    }
    void standInsAreFound() {
        QFETCH(double, turn);
        QFETCH(double, share);
        QFETCH(double, stops);
        QFETCH(double, skin);
        QFETCH(bool, glasses);
        QFETCH(int, curve);
        const auto frame =
            pictureOf({turn, share, stops, skin, glasses, static_cast<colour::CurveKind>(curve)});
        const auto faces = *finder().find(frame);
        if (!faces.empty()) {
            qInfo("score %.2f, presence %.2f, turn %.0f",
                  faces[0].score,
                  faces[0].presence,
                  faces[0].turnDegrees);
        }
        QCOMPARE(faces.size(), std::size_t{1});
        QVERIFY(std::abs(faces[0].centre().x - 480.0) < 0.35 * share * 540.0);
        QVERIFY(std::abs(faces[0].centre().y - 270.0) < 0.35 * share * 540.0);
        if (std::abs(turn) < 1.0) QVERIFY(std::abs(faces[0].turnDegrees) < 12.0);
        if (std::abs(turn) > 20.0 && std::abs(turn) < 60.0) {
            QVERIFY2((faces[0].turnDegrees > 0.0) == (turn > 0.0),
                     "+ is toward the person's own left");
        }
    }
    void hatsAndLongHairHideNobody_data() {
        QTest::addColumn<double>("turn");
        QTest::addColumn<double>("skin");
        QTest::addColumn<bool>("hat");
        QTest::addColumn<bool>("longHair");
        for (const double turn : {0.0, 30.0, -60.0}) {
            for (const double skin : {0.29, 0.085}) {
                const QString name =
                    QStringLiteral("%1 degrees, skin %2").arg(turn).arg(skin, 0, 'f', 2);
                QTest::addRow("hat, %s", qPrintable(name)) << turn << skin << true << false;
                QTest::addRow("long hair, %s", qPrintable(name)) << turn << skin << false << true;
            }
        }
    }
    void hatsAndLongHairHideNobody() {
        QFETCH(double, turn);
        QFETCH(double, skin);
        QFETCH(bool, hat);
        QFETCH(bool, longHair);
        Sitting sitting{turn, 0.3, 0.0, skin};
        sitting.hasHat = hat;
        sitting.hasLongHair = longHair;
        const auto faces = *finder().find(pictureOf(sitting));
        QCOMPARE(faces.size(), std::size_t{1});
        QVERIFY(std::abs(faces[0].centre().x - 480.0) < 0.1 * 540.0);
        QVERIFY(std::abs(faces[0].centre().y - 270.0) < 0.1 * 540.0);
    }
    /// The mesh's forehead is skin, and its colour that of the planned skin under the set's light:
    /// red over green and blue over green of the linearised signal, within the light's own cast.
    void skinIsReadWhereItIs() {
        const Sitting sitting{0, 0.4, 0, 0.29, false, colour::CurveKind::Bt709};
        const auto frame = pictureOf(sitting);
        const auto faces = *finder().find(frame);
        QCOMPARE(faces.size(), std::size_t{1});
        const auto forehead = face::skinPatch(frame, faces[0].forehead);
        QVERIFY(forehead && forehead->pixels > 300);
        const auto curve = colour::curveOf(colour::CurveKind::Bt709);
        const double red = curve.decode(forehead->signal[0]);
        const double green = curve.decode(forehead->signal[1]);
        const double blue = curve.decode(forehead->signal[2]);
        const sim::Vec skin = sim::skinColour(sitting.skin);
        qInfo("red/green %.3f (skin %.3f), blue/green %.3f (skin %.3f)",
              red / green,
              skin.x() / skin.y(),
              blue / green,
              skin.z() / skin.y());
        QVERIFY(std::abs(red / green / (skin.x() / skin.y()) - 1.0) < 0.08);
        QVERIFY(std::abs(blue / green / (skin.z() / skin.y()) - 1.0) < 0.08);
    }
    /// Rooms without people: clutter, shelves, charts.
    void nobodyIsFoundWhereNobodyIs() {
        int found = 0;
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(support::sampleSize(48));
             ++seed) {
            sim::RandomFrameOptions options;
            options.hasChart = seed % 2 == 0;
            options.width = 960;
            options.height = 540;
            found += static_cast<int>(finder().find(sim::randomFrame(seed, options).frame)->size());
        }
        QCOMPARE(found, 0);
    }
    void badInputIsRefusedInWords() {
        const auto small = image::codedFromSignal(image::blankFrame(32, 32), {}, 8, 0);
        QCOMPARE(words::inEnglish(finder().find(small).error().detail),
                 std::string("32 × 32 pixels were given; at least 64 × 64 are needed."));
        face::FaceOptions options;
        options.leastScore = 3.0;
        QVERIFY(words::inEnglish(finder().find(small, options).error().detail)
                    .find("scores of 0 to 1") != std::string::npos);
        const auto black = image::codedFromSignal(image::blankFrame(640, 360), {}, 8, 1);
        QVERIFY(finder().find(black)->empty());
    }
};

RIG_TEST(TestFaces);
#include "test_faces.moc"
