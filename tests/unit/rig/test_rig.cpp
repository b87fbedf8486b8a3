// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/bodies.h"
#include "rig/rig.h"
#include "rig/turn.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

class TestRig : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void lettersStayForLifeAndAReferenceAlwaysExists() {
        rig::Rig rig;
        for (int i = 0; i < 3; ++i) {
            rig::Camera camera;
            camera.id = rig::freshCameraId(rig);
            rig.cameras.push_back(camera);
        }
        rig::giveLetters(rig);
        QCOMPARE(rig.cameras[2].letter, std::string("C"));
        QCOMPARE(rig.referenceId, rig.cameras[0].id);
        rig.cameras.erase(rig.cameras.begin());
        rig::giveLetters(rig);
        QCOMPARE(rig.cameras[0].letter, std::string("B"));
        QCOMPARE(rig.cameras[1].letter, std::string("C"));
        QCOMPARE(rig.referenceId, rig.cameras[0].id);
        QCOMPARE(rig::freshCameraId(rig), std::string("camera-1"));
        // One more gets the letter that is free; one that is there twice stays with the first.
        rig.cameras.push_back({});
        rig::giveLetters(rig);
        QCOMPARE(rig.cameras[2].letter, std::string("A"));
        rig.cameras[2].letter = "B";
        rig::giveLetters(rig);
        QCOMPARE(rig.cameras[0].letter, std::string("B"));
        QCOMPARE(rig.cameras[2].letter, std::string("A"));
        rig.cameras[2].letter = "tape";
        rig::giveLetters(rig);
        QCOMPARE(rig.cameras[2].letter, std::string("A"));
    }
    void whatWillHurtIsFlagged() {
        rig::Rig rig;
        rig.cameras = {rig::Camera{}, rig::Camera{}};
        rig.cameras[0].id = "a";
        rig.cameras[1].id = "b";
        rig::giveLetters(rig);
        QVERIFY(rig::cameraFlags(rig, rig.cameras[1]).empty());
        rig.cameras[1].settings.frameRate = 24.0;
        rig.cameras[1].settings.shutterSeconds = 1.0 / 100.0;
        rig.cameras[1].settings.isAutoExposure = true;
        rig.cameras[1].settings.isAutoWhiteBalance = true;
        const auto flags = rig::cameraFlags(rig, rig.cameras[1]);
        QCOMPARE(flags.size(), std::size_t{4});
        QVERIFY(flags[2].text ==
                base::say("flag.frameRate",
                          {{"own", base::Number{24.0, 3}}, {"reference", base::Number{25.0, 3}}}));
        QVERIFY(rig::cameraFlags(rig, rig.cameras[0]).empty());
    }
    /// A filter before the lens stays what it is; a wheel has its own steps.
    void ndIsWornWhereABodyHasNone() {
        rig::Camera camera;
        for (const rig::BodyKind& kind : rig::bodyKinds()) {
            camera.settings.ndStops = 3.0;
            rig::applyBodyKind(camera, kind);
            camera.settings.ndStops = 3.0;
            rig::snapSettings(camera);
            QCOMPARE(camera.settings.ndStops.value(), rig::hasOwnNd(kind.sheet) ? 2.0 : 3.0);
        }
    }
    void whatIsNotToldIsNotFlagged() {
        rig::Rig rig;
        rig.cameras = {rig::Camera{}, rig::Camera{}};
        rig.cameras[0].id = "a";
        rig.cameras[1].id = "b";
        rig::giveLetters(rig);
        rig.cameras[1].settings = rig::unknownSettings();
        rig.cameras[1].settings.frameRate = base::Told<double>::assumed(24.0);
        QVERIFY(rig::cameraFlags(rig, rig.cameras[1]).empty());
        rig::snapSettings(rig.cameras[1]);
        QVERIFY(rig.cameras[1].settings == rig::unknownSettings());
        QVERIFY(!rig::isExposureKnown(rig.cameras[1].settings));
    }
    void theNewestTakeIsAskedForByItsPurpose() {
        rig::Rig rig;
        for (const auto purpose :
             {rig::Purpose::Match, rig::Purpose::Programme, rig::Purpose::Timing}) {
            rig::Take take;
            take.id = rig::freshTakeId(rig);
            take.purposes = {purpose};
            rig.takes.push_back(take);
        }
        QCOMPARE(rig::newestTake(rig, rig::Purpose::Match)->id, std::string("take-1"));
        QCOMPARE(rig::newestTake(rig, rig::Purpose::Timing)->id, std::string("take-3"));
        QVERIFY(rig::newestTake(rig, rig::Purpose::Framing) == nullptr);
        rig.takes[2].purposes = {rig::Purpose::Match, rig::Purpose::Timing};
        QCOMPARE(rig::newestTake(rig, rig::Purpose::Match)->id, std::string("take-3"));
        for (const rig::Purpose purpose : rig::kPurposes)
            QCOMPARE(*rig::purposeNamed(rig::nameOf(purpose)), purpose);
        QVERIFY(!rig::purposeNamed("lunch"));
    }
    void onlyCamerasInTakesAboutThemShowTheChart() {
        rig::Rig rig;
        rig.cameras = {rig::Camera{}};
        rig.cameras[0].id = "a";
        rig.sources = {{"source-1", rig::SourceKind::SoundRecorder, "recorder", {}}};
        rig::Take take;
        QCOMPARE(rig::chartFor(rig, take, "a"), rig.chart);
        QCOMPARE(rig::chartFor(rig, take, "source-1"), std::string());
        take.purposes = {rig::Purpose::Programme};
        QCOMPARE(rig::chartFor(rig, take, "a"), std::string());
    }
    void bodiesOfferOnlyWhatTheyHave() {
        for (const rig::BodyKind& kind : rig::bodyKinds()) {
            rig::Camera camera;
            camera.settings.isoValue = 111.0;
            camera.settings.whiteBalanceKelvin = 5555.0;
            rig::applyBodyKind(camera, kind);
            const auto& sheet = camera.sheet;
            QVERIFY2(!sheet.fNumbers.empty(), kind.name.c_str());
            QVERIFY(std::find(sheet.isoValues.begin(),
                              sheet.isoValues.end(),
                              camera.settings.isoValue) != sheet.isoValues.end());
            QVERIFY(std::find(sheet.kelvins.begin(),
                              sheet.kelvins.end(),
                              camera.settings.whiteBalanceKelvin) != sheet.kelvins.end());
            QVERIFY(rig::findProfile(sheet, camera.settings.profile) != nullptr);
        }
    }
    void lensDecidesTheApertures() {
        rig::Camera camera;
        rig::applyBodyKind(camera, rig::bodyKinds().front());
        rig::applyLens(camera, {"kit zoom at 50 mm f/5.6", 50.0, 5.6, 32.0});
        QCOMPARE(camera.sheet.fNumbers.front(), 5.6);
        QCOMPARE(camera.settings.fNumber, 5.6);
        rig::applyLens(camera, {"35 mm T1.5", 35.0, 1.5, 22.0});
        QCOMPARE(camera.sheet.fNumbers.front(), 1.5);
    }
    void turnsAreDoneAndTakenBack() {
        rig::Settings settings;
        rig::Turn turn;
        turn.control = rig::Control::Iso;
        turn.fromValue = 800.0;
        turn.toValue = 1250.0;
        QVERIFY(!rig::isDone(settings, turn));
        const rig::Settings done = rig::applied(settings, turn);
        QCOMPARE(done.isoValue, 1250.0);
        QVERIFY(rig::isDone(done, turn));
        QVERIFY(rig::takenBack(done, turn) == settings);
        turn.control = rig::Control::LockExposure;
        settings.isAutoExposure = true;
        QVERIFY(!rig::applied(settings, turn).isAutoExposure);
        turn.isAmount = true;
        QVERIFY(rig::applied(settings, turn) == settings);
    }
    void valuesReadAsOnTheCamera() {
        QCOMPARE(words::inEnglish(rig::valueText(rig::Control::Aperture, 2.8)),
                 std::string("f/2.8"));
        QCOMPARE(words::inEnglish(rig::valueText(rig::Control::Aperture, 4.0)), std::string("f/4"));
        QCOMPARE(words::inEnglish(rig::valueText(rig::Control::Nd, 0.0)), std::string("no ND"));
        QCOMPARE(words::inEnglish(rig::valueText(rig::Control::Tint, -3.0)),
                 std::string("\u22123"));
        QCOMPARE(words::inEnglish(rig::valueText(rig::Control::WhiteBalance, 5600.0)),
                 std::string("5600 K"));
    }
    /// A lock takes over what the automatic had chosen; taken back, what stood there before is
    /// back.
    void aLockTakenBackPutsBackWhatItOverwrote() {
        rig::Settings dialled;
        dialled.isAutoExposure = dialled.isAutoWhiteBalance = true;
        dialled.isoValue = 400.0;
        dialled.whiteBalanceKelvin = 5600.0;
        rig::Settings shot = dialled;
        shot.isoValue = 1250.0;
        shot.whiteBalanceKelvin = 4300.0;
        rig::Turn exposure, white;
        exposure.control = rig::Control::LockExposure;
        white.control = rig::Control::LockWhiteBalance;
        rig::Settings locked = rig::applied(dialled, exposure, shot);
        locked = rig::applied(locked, white, shot);
        QCOMPARE(locked.isoValue, 1250.0);
        QCOMPARE(locked.whiteBalanceKelvin, 4300.0);
        QVERIFY(!locked.isAutoExposure && !locked.isAutoWhiteBalance);
        // Locked twice is locked once.
        QVERIFY(rig::applied(locked, exposure, shot) == locked);
        QVERIFY(rig::takenBack(rig::takenBack(locked, white), exposure) == dialled);
    }
};

RIG_TEST(TestRig);
#include "test_rig.moc"
