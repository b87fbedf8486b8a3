// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "jobs/match_job.h"
#include "output/json_output.h"
#include "rig/bodies.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"
#include "words/match_text.h"

using namespace rigmatch;
using match::Quality;
using nlohmann::json;

namespace {

match::Difference difference(double value, double uncertainty) {
    match::Difference d = match::toleranceOf(Quality::Exposure);
    d.value = value;
    d.uncertainty = uncertainty;
    return d;
}

struct Measured {
    rig::Rig rig;
    match::MatchReport report;
};

Measured twoCameras() {
    Measured m;
    rig::Take take;
    take.id = "take-1";
    for (const char* id : {"a", "b"}) {
        rig::Camera camera;
        camera.id = id;
        rig::applyBodyKind(camera, rig::bodyKinds().front());
        m.rig.cameras.push_back(camera);
        rig::Shot shot;
        shot.cameraId = id;
        shot.settings = camera.settings;
        support::IdealCamera ideal;
        if (std::string(id) == "b") {
            ideal.exposureStops = -0.63;
            ideal.tintDuv = 0.005;
        }
        shot.reading = support::idealReading(ideal);
        take.shots.push_back(shot);
    }
    rig::giveLetters(m.rig);
    m.rig.takes.push_back(take);
    m.report = jobs::matchReport(m.rig, take);
    return m;
}

}  // namespace

class TestMatchJob : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void cellsCarrySignUnitAndUncertainty() {
        const auto exposure = words::cellText(Quality::Exposure, difference(-0.634, 0.021));
        QCOMPARE(exposure.value, std::string("\u22120.63"));
        QCOMPARE(exposure.uncertainty, std::string("0.02"));
        QCOMPARE(exposure.unit, std::string("stop"));
        QCOMPARE(words::cellText(Quality::Contrast, difference(1.021, 0.02)).value,
                 std::string("×1.02"));
        QCOMPARE(words::cellText(Quality::Tint, difference(-0.0052, 0.0003)).value,
                 std::string("\u22125.2"));
        QCOMPARE(words::cellText(Quality::WhiteBalance, difference(2.6, 0.8)).value,
                 std::string("+3"));
        QCOMPARE(words::cellText(Quality::DeltaE, difference(6.42, 0.1)).value, std::string("6.4"));
    }
    void noNumberIsSurerThanItIsWritten() {
        QCOMPARE(words::cellText(Quality::Exposure, difference(0.1, 0.00001)).uncertainty,
                 std::string("0.01"));
        QCOMPARE(words::cellText(Quality::WhiteBalance, difference(0.1, 0.01)).uncertainty,
                 std::string("1"));
    }
    void unknownIsSaidAsUnknown() {
        const auto text = words::cellText(Quality::Hue, match::toleranceOf(Quality::Hue));
        QCOMPARE(text.value, std::string("unknown"));
        QVERIFY(text.uncertainty.empty());
    }
    void everyQualityHasTitleAndHelp() {
        for (std::size_t i = 0; i < match::kQualityCount; ++i) {
            QVERIFY(!words::qualityTitle(static_cast<Quality>(i)).empty());
            QVERIFY(!words::qualityHelp(static_cast<Quality>(i)).empty());
        }
    }
    void effectsReadFromBeforeToAfter() {
        rig::Turn turn;
        turn.control = rig::Control::Iso;
        turn.effect = "exposureStops";
        turn.before = -0.634;
        turn.after = 0.033;
        QCOMPARE(words::effectText(turn), std::string("\u22120.63 → +0.03 stop"));
        turn.changeUncertainty.exposureStops = 0.034;
        QCOMPARE(words::effectText(turn), std::string("\u22120.63 → +0.03 ± 0.03 stop"));
        turn.changeUncertainty.exposureStops = 0.001;
        QCOMPARE(words::effectText(turn), std::string("\u22120.63 → +0.03 ± 0.01 stop"));
        turn.control = rig::Control::Tint;
        turn.effect = "tintDuv";
        turn.before = -0.0052;
        turn.after = -0.0006;
        QCOMPARE(words::effectText(turn), std::string("\u22120.0052 → \u22120.0006 Duv"));
        turn.control = rig::Control::LockExposure;
        QCOMPARE(words::effectText(turn), std::string("stays put"));
    }
    void curveEvidenceMeetsAtTheReferencesGrey() {
        const Measured m = twoCameras();
        const auto* a = m.report.find("a");
        const auto* b = m.report.find("b");
        const auto reference = jobs::curveEvidence(*a, *a);
        const auto camera = jobs::curveEvidence(*b, *a);
        QCOMPARE(reference.patchStops.size(), std::size_t{6});
        QVERIFY(std::abs(reference.greyPercent - 40.9) < 0.3);
        QVERIFY(std::abs(reference.greyAtReferenceStops) < 1e-6);
        // Differences are rounded once, to a thousandth of a stop.
        QVERIFY(std::abs(camera.greyAtReferenceStops +
                         *b->differences.of(Quality::Exposure).value) <= 0.0005 + 1e-9);
        QVERIFY(std::is_sorted(camera.curvePercent.begin(), camera.curvePercent.end()));
        QVERIFY(jobs::curveEvidence(match::CameraMatch{}, *a).patchStops.empty());
    }
    /// sources 11.9, column "sRGB 8 bit" is the colour itself; shown through BT.1886 the BT.709
    /// signal of white stays white.
    void screenColoursAreThoseOfADisplay() {
        const auto colours = jobs::screenColours(
            {{1.0, 1.0, 1.0}, {0.0, 0.0, 0.0}, {0.5, 0.5, 0.5}, {1.4, -0.2, 0.5}});
        QCOMPARE(int(colours[0][0]), 255);
        QCOMPARE(int(colours[1][1]), 0);
        QVERIFY(std::abs(int(colours[2][1]) - 120) <= 1);  // 0.5^2.4 = 0.18946 linear is sRGB 120
        QCOMPARE(int(colours[3][0]), 255);
        QCOMPARE(int(colours[3][1]), 0);
    }
    void matchJsonFollowsTheContract() {
        const Measured m = twoCameras();
        const json document = json::parse(output::matchJson(m.rig, m.rig.takes[0], m.report));
        QCOMPARE(document["version"].get<int>(), 1);
        QCOMPARE(document["reference"].get<std::string>(), std::string("A"));
        QCOMPARE(document["cameras"].size(), std::size_t{1});
        const json& b = document["cameras"][0];
        for (const char* key : {"exposureStops",
                                "whiteBalanceMired",
                                "tintDuv",
                                "contrastRatio",
                                "blackLevelPercent",
                                "saturationRatio",
                                "hueDegrees"}) {
            QVERIFY2(b["differences"].contains(key), key);
            for (const char* part : {"value", "uncertainty", "good", "accept", "verdict"})
                QVERIFY2(b["differences"][key].contains(part), part);
        }
        QCOMPARE(b["differences"]["exposureStops"]["verdict"].get<std::string>(),
                 std::string("off"));
        QCOMPARE(b["differences"]["exposureStops"]["good"].get<double>(), 0.10);
        QVERIFY(b["deltaE2000"]["mean"].get<double>() > 5.0);
        QVERIFY(!b["deltaE2000"]["worstPatch"].get<std::string>().empty());
        QCOMPARE(b["turns"][0]["control"].get<std::string>(), std::string("iso"));
        QVERIFY(b["turns"][0]["expected"].contains("exposureStops"));
        QVERIFY(b["predicted"]["deltaE2000"]["mean"].get<double>() < 1.0);
    }
    /// A number that rounding would move across a limit is shown with one more digit.
    void textsNeverContradictTheirVerdict() {
        for (double value = 0.88; value < 1.13; value += 0.0007) {
            match::Difference d = match::toleranceOf(Quality::Contrast);
            match::setValue(d, Quality::Contrast, value, 0.01);
            match::Difference shown = d;
            shown.value = QString::fromStdString(words::cellText(Quality::Contrast, d).value)
                              .mid(1)
                              .toDouble();
            QVERIFY2(match::verdictOf(shown, true) == d.verdict,
                     qPrintable(QString::number(value, 'f', 5)));
        }
        match::Difference d = match::toleranceOf(Quality::Exposure);
        match::setValue(d, Quality::Exposure, 0.104, 0.01);
        QCOMPARE(words::cellText(Quality::Exposure, d).value, std::string("+0.104"));
        match::setValue(d, Quality::Exposure, 0.114, 0.01);
        QCOMPARE(words::cellText(Quality::Exposure, d).value, std::string("+0.11"));
    }
    /// Board, worst pair and prediction are judged alike, and the words say how.
    void oneJudgeForBoardPairAndPrediction() {
        Measured m = twoCameras();
        for (rig::Camera& camera : m.rig.cameras) {
            camera.sheet.profiles = {
                {camera.settings.profile, colour::curveOf(colour::CurveKind::Bt709)}};
        }
        const auto recorded = jobs::matchReport(m.rig, m.rig.takes[0]);
        m.rig.judge = "linear";
        const auto linear = jobs::matchReport(m.rig, m.rig.takes[0]);
        QCOMPARE(words::judgeText(recorded, m.rig), std::string("as recorded"));
        QCOMPARE(words::judgeText(linear, m.rig), std::string("in linear light"));
        for (const auto* report : {&recorded, &linear}) {
            const auto* b = report->find("b");
            QVERIFY(std::abs(report->worstNow->deltaE -
                             *b->differences.of(Quality::DeltaE).value) <= 0.005 + 1e-9);
            QVERIFY(std::abs(report->worstAfter->deltaE - b->plan.predicted.mean) < 1e-9);
        }
        QVERIFY(std::abs(recorded.worstNow->deltaE - linear.worstNow->deltaE) > 0.1);
        QVERIFY(std::abs(recorded.worstAfter->deltaE - linear.worstAfter->deltaE) > 1e-4);
        // Without a declared curve there is no linear judgement, and no pair either.
        m.rig.cameras[1].sheet.profiles.clear();
        const auto none = jobs::matchReport(m.rig, m.rig.takes[0]);
        QVERIFY(!none.worstNow && !none.find("b")->differences.of(Quality::DeltaE).value);
    }
    /// Through LUTs as well: the same pictures look more apart where a LUT steepens them, and board
    /// and pair agree on by how much.
    void viewingLutsJudgeBoardAndPairAlike() {
        Measured m = twoCameras();
        const QTemporaryDir folder;
        const auto withLut = [&](const char* name, double slope) {
            QFile file(folder.filePath(name));
            if (!file.open(QIODevice::WriteOnly)) return match::MatchReport{};
            file.write("LUT_1D_SIZE 3\n");
            for (const double in : {0.0, 0.5, 1.0}) {
                const double out = std::clamp(0.5 + slope * (in - 0.5), 0.0, 1.0);
                file.write(QByteArray::number(out) + ' ' + QByteArray::number(out) + ' ' +
                           QByteArray::number(out) + '\n');
            }
            file.close();
            for (rig::Camera& camera : m.rig.cameras)
                camera.viewingLut = folder.filePath(name).toStdString();
            m.rig.judge = "lut";
            return jobs::matchReport(m.rig, m.rig.takes[0]);
        };
        const auto plain = withLut("plain.cube", 1.0);
        const auto flat = withLut("flat.cube", 0.5);
        for (const auto* report : {&plain, &flat}) {
            QVERIFY(report->worstNow.has_value());
            QCOMPARE(words::judgeText(*report, m.rig), std::string("through viewing LUTs"));
            QVERIFY(std::abs(report->worstNow->deltaE -
                             *report->find("b")->differences.of(Quality::DeltaE).value) <=
                    0.005 + 1e-9);
        }
        m.rig.judge = "recorded";
        const auto recorded = jobs::matchReport(m.rig, m.rig.takes[0]);
        QVERIFY2(std::abs(plain.worstNow->deltaE - recorded.worstNow->deltaE) < 0.02,
                 "a LUT that changes nothing judges as recorded");
        QVERIFY(flat.worstNow->deltaE < 0.8 * plain.worstNow->deltaE);
    }
    void unknownQuantitiesAreNullWithTheirReason() {
        Measured m = twoCameras();
        m.rig.takes[0].shots[1].reading->hasChart = false;
        m.rig.takes[0].shots[1].reading->reason = base::asIs("The picture is black.");
        const auto report = jobs::matchReport(m.rig, m.rig.takes[0]);
        const json d = json::parse(output::matchJson(
            m.rig, m.rig.takes[0], report))["cameras"][0]["differences"]["exposureStops"];
        QVERIFY(d["value"].is_null());
        QCOMPARE(d["verdict"].get<std::string>(), std::string("unknown"));
        QVERIFY(d["reason"].get<std::string>().find("The picture is black.") != std::string::npos);
    }
    void measureJsonSaysErrorsPerFile() {
        rig::Shot good;
        good.reading = support::idealReading({});
        rig::Shot bad;
        bad.failure = base::asIs("Cannot read b.mov. It is empty.");
        const json document = json::parse(output::measureJson({{"a.mov", good}, {"b.mov", bad}}));
        QCOMPARE(document["results"][0]["chart"]["patches"].size(), std::size_t{24});
        QCOMPARE(document["results"][1]["error"].get<std::string>(), words::inEnglish(bad.failure));
    }
};

RIG_TEST(TestMatchJob);
#include "test_match_job.moc"
