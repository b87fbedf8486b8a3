// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <set>

#include "plan/camera_sheet.h"
#include "rig/bodies.h"
#include "sim/clock_bench.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/plan_text.h"

using namespace rigmatch;
using namespace rigmatch::plan;

namespace {

words::ToldFact factOf(const rig::Rig& rig, std::size_t camera, const std::string& key) {
    for (const words::ToldFact& fact : words::told(sheetFacts(rig, rig.cameras[camera]))) {
        if (fact.key == key) return fact;
    }
    qFatal("no fact %s", key.c_str());
}

void setFlickerFree(rig::Rig& rig, bool isFlickerFree) {
    for (rig::PlanObject& object : rig.plan->objects) {
        if (object.kind == rig::PlanKind::Light) object.isFlickerFree = isFlickerFree;
    }
}

}  // namespace

class TestCameraSheet : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void keysAreTheSameForEveryCamera() {
        const rig::Rig rig = sim::clockBenchRig();
        const auto first = sheetFacts(rig, rig.cameras[0]);
        for (const rig::Camera& camera : rig.cameras) {
            const auto facts = sheetFacts(rig, camera);
            QCOMPARE(facts.size(), first.size());
            for (std::size_t i = 0; i < facts.size(); ++i) QCOMPARE(facts[i].key, first[i].key);
        }
        // Also without a plan: what the plan would tell is unknown.
        rig::Rig bare = rig;
        bare.plan.reset();
        QCOMPARE(factOf(bare, 1, "depthOfField").verdict, base::Verdict::Unknown);
        QCOMPARE(sheetFacts(bare, bare.cameras[0]).size(), first.size());
    }
    void exposureAgainstTheReferenceIsInStops() {
        rig::Rig rig = sim::clockBenchRig();
        QCOMPARE(factOf(rig, 0, "plannedExposure").value, std::string("reference"));
        QVERIFY(std::abs(*factOf(rig, 1, "plannedExposure").number + 0.337) < 0.005);
        QCOMPARE(factOf(rig, 3, "plannedExposure").verdict, base::Verdict::Unknown);
        rig.cameras[1].settings.isoValue = 1000.0;
        QCOMPARE(factOf(rig, 1, "plannedExposure").verdict, base::Verdict::Good);
    }
    /// sources 4.3: 1/60 under 100 Hz ripple beats at 25 fps not at all, at 30 fps 10 times.
    void shuttersAreJudgedByMainsAndAngle() {
        rig::Rig rig = sim::clockBenchRig();
        setFlickerFree(rig, false);
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Good);
        rig.cameras[0].settings.shutterSeconds = 1.0 / 60.0;
        const words::ToldFact flickers = factOf(rig, 0, "shutter");
        QCOMPARE(flickers.verdict, base::Verdict::Off);
        QVERIFY(flickers.change == "Set 1/50 s (180°)." &&
                flickers.why.find("0.14 stop") != std::string::npos);
        rig.choices.mainsHz = 60.0;
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Good);
        rig.cameras[0].settings.shutterSeconds = 0.2;
        QCOMPARE(factOf(rig, 0, "shutter").value, std::string("longer than a frame"));
    }
    /// 180° at 24 fps under mains of 60 Hz: nothing to warn of where no lamp follows the mains;
    /// what a take has shown outranks what lamps are said to be.
    void withoutAFlickeringLampTheShutterIsFree() {
        rig::Rig rig = sim::clockBenchRig();
        rig.choices.mainsHz = 60.0;
        rig.cameras[0].settings.frameRate = 24.0;
        rig.cameras[0].settings.shutterSeconds = 1.0 / 48.0;
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Good);
        QVERIFY(factOf(rig, 0, "shutter").change.empty());
        setFlickerFree(rig, false);
        QVERIFY(factOf(rig, 0, "shutter").verdict != base::Verdict::Good);
        rig::Take take;
        take.number = 3;
        rig::Shot shot;
        shot.cameraId = rig.cameras[0].id;
        shot.settings = rig.cameras[0].settings;
        rig::Reading reading;
        reading.measuredBy = {{"flicker", 1}};
        shot.reading = reading;
        take.shots.push_back(shot);
        rig.takes.push_back(take);
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Good);
        QVERIFY(factOf(rig, 0, "shutter").value.ends_with("no flicker in take 3"));
        setFlickerFree(rig, true);
        reading.warnings = {{"Flicker", base::asIs("It beats by 0.2 stop."), {}}};
        rig.takes[0].shots[0].reading = reading;
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Off);
        // At another shutter nothing was measured.
        rig.cameras[0].settings.shutterSeconds = 1.0 / 60.0;
        QCOMPARE(factOf(rig, 0, "shutter").verdict, base::Verdict::Good);
    }
    void aRateThatTheBodyDoesNotHaveIsNotAskedOfIt() {
        rig::Rig rig = sim::clockBenchRig();
        rig.choices.deliveryFps = 24000.0 / 1001.0;
        rig.cameras[0].sheet.frameRates = {25.0, 30.0};
        const words::ToldFact other = factOf(rig, 0, "frameRate");
        QCOMPARE(other.verdict, base::Verdict::Off);
        QVERIFY(other.change.find("23.976") == std::string::npos);
        rig.cameras[0].settings.frameRate = 30.0;
        QVERIFY(factOf(rig, 0, "frameRate").change.starts_with("Set 25.000 fps, the nearest"));
    }
    /// Face focus on one who speaks alone is right (common practice): focus alone is no fault, and
    /// no automatic of exposure is said to disagree.
    void focusAloneMakesNoCamerasDisagree() {
        rig::Rig rig = sim::clockBenchRig();
        rig.cameras[0].settings.isAutoFocus = true;
        const words::ToldFact focus = factOf(rig, 0, "automatics");
        QCOMPARE(focus.verdict, base::Verdict::Good);
        QVERIFY(focus.why.find("disagree") == std::string::npos);
        rig.cameras[0].settings.isAutoExposure = true;
        QVERIFY(factOf(rig, 0, "automatics").why.find("disagree") != std::string::npos);
    }
    void frameRatesFollowTheDeliveryAndTheSchool() {
        rig::Rig rig = sim::clockBenchRig();
        QCOMPARE(factOf(rig, 0, "frameRate").verdict, base::Verdict::Good);
        rig.choices.deliveryFps = 23.976;
        QCOMPARE(factOf(rig, 0, "frameRate").change, std::string("Set 23.976 fps."));
        rig.choices.rates = "24/25";
        QCOMPARE(factOf(rig, 0, "frameRate").verdict, base::Verdict::Good);
        rig.choices.rates = "30";
        QCOMPARE(factOf(rig, 0, "frameRate").verdict, base::Verdict::Off);
        rig.choices.rates = "delivery";
        rig.choices.deliveryFps = 25.0;
        rig.choices.slowMotionFactor = 2.0;
        const words::ToldFact slow = factOf(rig, 0, "frameRate");
        QVERIFY(slow.why.find("needs 50 fps at 1/100 s and 1.0 stops more light") !=
                std::string::npos);
        rig.choices.slowMotionFactor = 10.0;
        QVERIFY(factOf(rig, 0, "frameRate").why.find("this body cannot") != std::string::npos);
    }
    void whiteBalanceIsHeldAgainstThePlannedKey() {
        rig::Rig rig = sim::clockBenchRig();
        QVERIFY(std::abs(*factOf(rig, 1, "whiteBalance").number - (1e6 / 5600.0 - 1e6 / 5400.0)) <
                1e-6);
        rig.cameras[1].settings.whiteBalanceKelvin = 3200.0;
        const words::ToldFact cold = factOf(rig, 1, "whiteBalance");
        QCOMPARE(cold.verdict, base::Verdict::Off);
        QVERIFY2(std::abs(*cold.number + 133.9) < 0.1, "sources 11.5");
        QCOMPARE(cold.change, std::string("Start from 5600 K."));
    }
    void equivalentLensesFollowTheTable() {
        rig::Rig rig = sim::clockBenchRig();
        // sources 11.6: four-thirds 25 mm is like 52 mm.
        QVERIFY(std::abs(*factOf(rig, 3, "equivalent").number - 52.0) < 0.05);
        rig.cameras[2].settings.fNumber = 8.0;
        QCOMPARE(factOf(rig, 1, "equivalent").verdict, base::Verdict::Near);
        rig.cameras[1].settings.frameRate = 50.0;
        QVERIFY(factOf(rig, 1, "equivalent").why.find("crops at 50 fps") != std::string::npos);
    }
    void automaticsWeighBySchool() {
        rig::Rig rig = sim::clockBenchRig();
        QCOMPARE(factOf(rig, 3, "automatics").verdict, base::Verdict::Off);
        QCOMPARE(sheetMarks(rig, rig.cameras[3]).front().verdict, base::Verdict::Off);
        rig.choices.automatics = "automatic";
        QCOMPARE(factOf(rig, 3, "automatics").verdict, base::Verdict::Near);
        QCOMPARE(sheetMarks(rig, rig.cameras[3]).front().verdict, base::Verdict::Near);
        rig.cameras[0].settings.isAutoFocus = rig.cameras[0].settings.isStabilised = true;
        QCOMPARE(factOf(rig, 0, "automatics").value, std::string("focus, stabiliser"));
    }
    void profilesThatDoNotMixAreSaid() {
        rig::Rig rig = sim::clockBenchRig();
        QCOMPARE(factOf(rig, 1, "profile").value, std::string("same as A"));
        rig.cameras[1].settings.profile = "Working log";
        QCOMPARE(factOf(rig, 1, "profile").verdict, base::Verdict::Off);
        QVERIFY(factOf(rig, 1, "profile").why.find("8 bit") != std::string::npos);
        rig.cameras[1].settings.codec = "long-GOP 10 bit 4:2:2";
        QVERIFY(factOf(rig, 1, "profile").why.find("The reference records Standard") !=
                std::string::npos);
        rig.choices.look = "log";
        QCOMPARE(factOf(rig, 0, "profile").verdict, base::Verdict::Near);
    }
    /// sources 4.10: a 128 GB card at 100 Mb/s holds 162 min with 5 % reserve.
    void cardsAndDaysAreCounted() {
        rig::Rig rig = sim::clockBenchRig();
        QVERIFY(std::abs(*factOf(rig, 0, "cardTime").number - 162.0) < 0.5);
        rig.choices.dayMinutes = 300.0;
        QCOMPARE(factOf(rig, 0, "day").value, std::string("225 GB, 2 cards"));
        rig.cameras[0].settings.bitRateMbps = 400.0;
        QCOMPARE(factOf(rig, 0, "cardTime").verdict, base::Verdict::Off);
        const DayNeeds needs = dayNeeds(rig);
        QVERIFY(std::abs(needs.gigabytes - (900.0 + 3.0 * 225.0)) < 1e-6);
        QVERIFY(std::abs(needs.copyMinutes - 2.0 * 1575000.0 / 90.0 / 60.0) < 1e-6);
    }
    void powerAndSharedPorts() {
        rig::Rig rig = sim::clockBenchRig();
        rig::Equipment& equipment = rig.cameras[0].equipment;
        equipment.powerSource = "battery";
        QVERIFY(factOf(rig, 0, "power").change.find("Charge 2 batteries") == 0);
        rig::applyBodyKind(rig.cameras[0], rig::bodyKinds()[4]);
        QCOMPARE(factOf(rig, 0, "power").verdict, base::Verdict::Good);
        rig.cameras[0].equipment.isFeedNeeded = true;
        QCOMPARE(factOf(rig, 0, "power").verdict, base::Verdict::Off);
    }
    void soundFollowsTheSchool() {
        rig::Rig rig = sim::clockBenchRig();
        rig.cameras[0].settings.isAutoSoundLevel = true;
        QCOMPARE(factOf(rig, 0, "sound").verdict, base::Verdict::Good);
        rig.choices.sound = "camera";
        QCOMPARE(factOf(rig, 0, "sound").verdict, base::Verdict::Near);
        rig.cameras[0].settings.soundInput = "off";
        QCOMPARE(factOf(rig, 0, "sound").verdict, base::Verdict::Off);
    }
    void marksStandAtTheValueThatDiffers() {
        rig::Rig rig = sim::clockBenchRig();
        rig.cameras[1].settings.frameRate = 24.0;
        rig.cameras[1].settings.profile = "Flat";
        rig.cameras[1].settings.width = 1440;
        std::set<std::string> fields;
        for (const SheetMark& mark : sheetMarks(rig, rig.cameras[1])) fields.insert(mark.field);
        QVERIFY((fields == std::set<std::string>{"frameRate", "profile", "size"}));
        QVERIFY(sheetMarks(rig, rig.cameras[0]).empty());
    }
};

RIG_TEST(TestCameraSheet);
#include "test_camera_sheet.moc"
