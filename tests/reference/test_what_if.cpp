// SPDX-License-Identifier: GPL-3.0-or-later
// Cameras turned by hand before anybody turns them: predicted against the same cameras shot again.
#include "jobs/match_job.h"
#include "jobs/what_if.h"
#include "support/coverage.h"
#include "support/loop_camera.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/try_text.h"

using namespace rigmatch;
using match::Quality;
using support::LoopCamera;
using support::OwnRandom;

namespace {

/// Two bodies of the tests' own: A stands, B is turned.
struct TriedPair {
    rig::Rig rig;
    match::MatchReport report;
    const rig::Take& take() const { return std::as_const(rig.takes).back(); }
};

rig::Settings startSettings() {
    rig::Settings settings;
    settings.isoValue = 800.0;
    settings.whiteBalanceKelvin = 5600.0;
    settings.tintSteps = 0.0;
    settings.knobs["saturation"] = 0.0;
    return settings;
}

TriedPair triedPair(const rig::Reading& a,
                    const rig::Reading& b,
                    const rig::Settings& settingsOfB) {
    TriedPair pair;
    rig::Take take;
    take.id = "take-1";
    for (const char* id : {"a", "b"}) {
        rig::Camera camera;
        camera.id = id;
        camera.sheet.isoValues = {200, 400, 800, 1600, 3200};
        camera.sheet.kelvins = {3200, 4000, 4800, 5600, 6400, 7200};
        camera.sheet.tintSteps = {-9, -6, -3, 0, 3, 6, 9};
        camera.sheet.tintDuvPerStep = 0.001;
        rig::Knob saturation;
        saturation.name = "saturation";
        saturation.kind = rig::KnobKind::Saturation;
        saturation.perStep = 0.06;
        saturation.steps = {-3, -2, -1, 0, 1, 2, 3};
        camera.sheet.knobs = {saturation};
        camera.settings = std::string(id) == "b" ? settingsOfB : startSettings();
        pair.rig.cameras.push_back(camera);
        rig::Shot shot;
        shot.cameraId = id;
        shot.settings = camera.settings;
        shot.reading = std::string(id) == "b" ? b : a;
        take.shots.push_back(shot);
    }
    rig::giveLetters(pair.rig);
    pair.rig.takes.push_back(take);
    pair.report = jobs::matchReport(pair.rig, pair.take());
    return pair;
}

match::MatchReport reportOf(const TriedPair& pair, const jobs::TriedByHand& tried) {
    rig::Rig as = pair.rig;
    as.takes[0] = jobs::takeAsTried(pair.rig, pair.take(), pair.report, tried);
    return jobs::matchReport(as, std::as_const(as.takes)[0]);
}

double valueOf(const match::MatchReport& report, Quality quality) {
    return report.find("b")->differences.of(quality).value.value_or(std::nan(""));
}

}  // namespace

class TestWhatIf : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void nothingTriedIsAsMeasured() {
        OwnRandom random{std::mt19937(3)};
        const LoopCamera a = support::randomLoopCamera(random, 0.0);
        const LoopCamera b = support::randomLoopCamera(random, 0.0);
        const TriedPair pair = triedPair(support::ownReading(a.at(startSettings()), random, 5),
                                         support::ownReading(b.at(startSettings()), random, 5),
                                         startSettings());
        const auto report = reportOf(pair, {{"b", {startSettings()}}});
        for (const Quality quality : {Quality::Exposure, Quality::WhiteBalance, Quality::DeltaE})
            QVERIFY(std::abs(valueOf(report, quality) - valueOf(pair.report, quality)) < 1e-6);
    }
    /// Twelve unlike bodies, each tried elsewhere and then shot there.
    void whatIsPredictedIsWhatIsThenShot() {
        OwnRandom random{std::mt19937(41)};
        std::map<Quality, std::vector<double>> errors;
        for (int i = 0; i < 12; ++i) {
            const LoopCamera a = support::randomLoopCamera(random, 0.0);
            LoopCamera b = support::randomLoopCamera(random, 0.0);
            b.saturationPerStep = 0.06;
            const rig::Reading reference = support::ownReading(a.at(startSettings()), random, 5);
            const TriedPair pair = triedPair(
                reference, support::ownReading(b.at(startSettings()), random, 5), startSettings());
            rig::Settings to = startSettings();
            to.isoValue = i % 2 == 0 ? 400.0 : 800.0;
            to.whiteBalanceKelvin = i % 3 == 0 ? 4800.0 : 6400.0;
            to.tintSteps = i % 4 == 0 ? 3.0 : -3.0;
            to.knobs["saturation"] = i % 5 == 0 ? -2.0 : 2.0;
            const auto predicted = reportOf(pair, {{"b", {to}}});
            const TriedPair shot =
                triedPair(reference, support::ownReading(b.at(to), random, 5), to);
            for (const Quality quality : {Quality::Exposure,
                                          Quality::WhiteBalance,
                                          Quality::Tint,
                                          Quality::Saturation,
                                          Quality::DeltaE})
                errors[quality].push_back(
                    std::abs(valueOf(predicted, quality) - valueOf(shot.report, quality)));
        }
        const auto told = [&](Quality quality, double median, double worst) {
            const double half = support::quantile(errors[quality], 0.5),
                         most = support::quantile(errors[quality], 0.9);
            qInfo("quality %d: median %.4f, 90 %% %.4f", int(quality), half, most);
            return half < median && most < worst;
        };
        // What is held when white balance moves is not known: up to 0.12 stop in 100 mired
        // (docs/sources.md 6.6).
        QVERIFY(told(Quality::Exposure, 0.08, 0.20));
        QVERIFY(told(Quality::WhiteBalance, 2.5, 8.0));
        QVERIFY(told(Quality::Tint, 0.0008, 0.0030));
        QVERIFY(told(Quality::Saturation, 0.03, 0.10));
        QVERIFY(told(Quality::DeltaE, 0.6, 2.0));
    }
    /// The reference turned by hand moves all others.
    void theReferenceCanBeTriedToo() {
        OwnRandom random{std::mt19937(5)};
        const LoopCamera a = support::loopBody(0.0, 0.0, -0.4), b = support::loopBody(0, 0, -0.4);
        const TriedPair pair = triedPair(support::ownReading(a.at(startSettings()), random, 5),
                                         support::ownReading(b.at(startSettings()), random, 5),
                                         startSettings());
        rig::Settings darker = startSettings();
        darker.isoValue = 400.0;
        const auto report = reportOf(pair, {{"a", {darker}}});
        QVERIFY(std::abs(valueOf(report, Quality::Exposure) - 1.0) < 0.03);
    }
    void brighterThanTheTopIsClipped() {
        OwnRandom random{std::mt19937(6)};
        const LoopCamera a = support::loopBody(0.0, 0.0, 0.0);
        const TriedPair pair = triedPair(support::ownReading(a.at(startSettings()), random, 5),
                                         support::ownReading(a.at(startSettings()), random, 5),
                                         startSettings());
        rig::Settings brighter = startSettings();
        brighter.isoValue = 3200.0;
        const rig::Take take =
            jobs::takeAsTried(pair.rig, pair.take(), pair.report, {{"b", {brighter}}});
        const rig::Shot* shot = rig::findShot(take, "b");
        QVERIFY(rig::isClipped(shot->reading->patches[18]));
        QVERIFY(!rig::isClipped(shot->reading->patches[23]));
        QCOMPARE(shot->settings.isoValue, 3200.0);
    }
    void controlsAreThoseOfTheSheetOrAmounts() {
        rig::Camera camera;
        camera.sheet.isoValues = {400, 800};
        camera.sheet.kelvins = {3200, 5600};
        rig::Settings told = startSettings();
        told.isoValue = 640.0;
        auto controls = jobs::tryControls(camera, told);
        QCOMPARE(controls[0].control, rig::Control::Iso);
        QCOMPARE(controls[0].values, std::vector<double>({400, 640, 800}));
        QCOMPARE(controls[0].shot, std::size_t{1});
        QCOMPARE(words::tryText(controls[0], 2), std::string("ISO 800"));
        QCOMPARE(controls[1].control, rig::Control::WhiteBalance);
        // No tint steps on the sheet: by amounts.
        QVERIFY(controls[2].isAmount);
        controls = jobs::tryControls(camera, rig::unknownSettings());
        QCOMPARE(controls.size(), std::size_t{3});
        QVERIFY(controls[0].isAmount && controls[0].control == rig::Control::Exposure);
        QCOMPARE(words::tryText(controls[0], controls[0].shot), std::string("as shot"));
        QCOMPARE(words::tryText(controls[0], controls[0].shot + 2), std::string("+2/3 stop"));
        jobs::Tried tried{rig::unknownSettings()};
        jobs::turnTo(controls[0], controls[0].shot + 2, tried);
        QVERIFY(std::abs(tried.exposureStops - 2.0 / 3.0) < 1e-9);
        QCOMPARE(jobs::triedIndex(controls[0], tried), controls[0].shot + 2);
    }
    void keepingWritesOnlyWhatWasTurned() {
        OwnRandom random{std::mt19937(7)};
        const LoopCamera a = support::loopBody(0.0, 0.0, 0.0);
        const TriedPair pair = triedPair(support::ownReading(a.at(startSettings()), random, 4),
                                         support::ownReading(a.at(startSettings()), random, 4),
                                         startSettings());
        rig::Rig rig = pair.rig;
        rig.cameras[1].settings.fNumber = 5.6;  // told since the take
        rig::Settings to = startSettings();
        to.whiteBalanceKelvin = 4800.0;
        to.knobs["saturation"] = 1.0;
        jobs::keepTried({{"b", {to}}}, pair.take(), rig);
        const rig::Settings& now = std::as_const(rig.cameras)[1].settings;
        QCOMPARE(now.whiteBalanceKelvin, 4800.0);
        QCOMPARE(now.knobs.at("saturation"), 1.0);
        QCOMPARE(now.fNumber, 5.6);
        QCOMPARE(now.isoValue, 800.0);
    }
};

RIG_TEST(TestWhatIf);
#include "test_what_if.moc"
