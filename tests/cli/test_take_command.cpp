// SPDX-License-Identifier: GPL-3.0-or-later
// The loop closed from outside: files in, turns out, carried out on cameras of the tests' own.
#include <QTemporaryDir>

#include "rig/rig_store.h"
#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using nlohmann::json;
using support::LoopCamera;
using support::Ran;
using support::run;
using support::writeChart;

class TestTakeCommand : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    QString m_rig;
    std::mt19937 m_random{7};

    QString at(const QString& name) const { return m_folder.filePath(name); }
    /// The rig's camera B as it stands.
    rig::Settings settingsOfB() const {
        return std::as_const(rig::loadRig(m_rig.toStdString())->rig).cameras[1].settings;
    }

private Q_SLOTS:
    void init() {
        m_rig = at("set.rigmatch");
        QFile::remove(m_rig);
    }

    /// Three rounds with a body whose dials do less, and more, than they say: each round is nearer,
    /// and what was learned is told.
    void theLoopClosesAndLearns() {
        const LoopCamera a = support::loopBody(0.0, 0.0, 0.0);
        LoopCamera b = support::loopBody(-45.0, 0.007, -0.9);
        b.body.saturation = 1.2;
        b.response = 0.7;
        b.tintPerStep = 0.0016;
        QVERIFY(writeChart(at("a.mov"), a.at(rig::Settings{}), m_random));
        QCOMPARE(run({"camera", m_rig, "A", "--body", "wide body", "--set", "iso=800"}).code, 0);
        QCOMPARE(run({"camera",
                      m_rig,
                      "B",
                      "--body",
                      "close body",
                      "--steps",
                      "iso=100,125,160,200,250,320,400,500,640,800,1000,1250,1600,2000,2500,3200",
                      "--steps",
                      "kelvin=2500..9900:100",
                      "--steps",
                      "tint=-15..15:1",
                      "--duv-per-step",
                      "0.001",
                      "--set",
                      "iso=800",
                      "--set",
                      "kelvin=5600",
                      "--set",
                      "tint=0",
                      "--set",
                      "shutter=1/50",
                      "--set",
                      "fNumber=2.8",
                      "--set",
                      "ndStops=0"})
                     .code,
                 0);
        std::vector<double> left;
        json last;
        for (int round = 0; round < 4; ++round) {
            const QString clip = at(QString("b%1.mov").arg(round));
            QVERIFY(writeChart(clip, b.at(settingsOfB()), m_random));
            const Ran taken = run({"take",
                                   m_rig,
                                   "--camera",
                                   "A=" + at("a.mov"),
                                   "--camera",
                                   "B=" + clip,
                                   "--reference",
                                   "A",
                                   "--json"});
            QVERIFY2(taken.code == 0, taken.err.c_str());
            QCOMPARE(taken.document()["take"]["number"].get<int>(), round + 1);
            QVERIFY(taken.document()["results"][1]["chart"]["found"].get<bool>());
            const Ran matched = run({"match", "--rig", m_rig, "--json"});
            QVERIFY2(matched.code == 0, matched.err.c_str());
            last = matched.document();
            left.push_back(
                std::abs(support::ownDifference(b.at(settingsOfB()), a.at(rig::Settings{})).mired));
            const json& turns = last["cameras"][0]["turns"];
            for (const json& turn : turns) {
                if (round > 0 && turn["control"] == "whiteBalance") {
                    const auto reason = turn["reason"].get<std::string>();
                    QVERIFY2(reason.find("learned from") != std::string::npos, reason.c_str());
                }
                QVERIFY(turn["fromValue"].is_number() && turn["toValue"].is_number());
                QVERIFY(turn["change"].contains("exposureStops"));
                QVERIFY(turn["changeUncertainty"]["whiteBalanceMired"].get<double>() >= 0.0);
            }
            const Ran done = run({"done", m_rig, "--camera", "B", "--json"});
            QCOMPARE(done.code, 0);
            QCOMPARE(done.document()["done"].size(), turns.size());
            QCOMPARE(run({"done", m_rig}).out, std::string("No turn is open.\n"));
        }
        qInfo(
            "white balance left: %.1f, %.1f, %.1f, %.1f mired", left[0], left[1], left[2], left[3]);
        QVERIFY(left[0] > 40.0);
        // Mis-stated controls: at most 0.65 of the first difference and half a step.
        QVERIFY(left[1] < 0.65 * left[0] + 2.0);
        QVERIFY(left[2] < 5.0 && left[3] < 4.0);
        bool isTintLearned = false;
        for (const json& learned : last["learned"]) {
            QCOMPARE(learned["camera"].get<std::string>(), std::string("B"));
            if (learned["control"] == "whiteBalance") {
                const double share = learned["perStep"]["whiteBalanceMired"].get<double>();
                QVERIFY2(std::abs(share - 0.7) < 0.08, std::to_string(share).c_str());
                QCOMPARE(learned["along"].size(), std::size_t{8});
                const json& along = learned["along"][0];
                QVERIFY(along["fromKelvin"].get<double>() > along["toKelvin"].get<double>());
                QVERIFY(along["uncertainty"].get<double>() > 0.0 && !along["isUnlike"].is_null());
            }
            if (learned["control"] == "tint") {
                isTintLearned = true;
                QVERIFY(learned["perStep"]["tintDuv"].get<double>() > 0.00125);
                QVERIFY(learned["uncertainty"]["tintDuv"].get<double>() < 0.0004);
            }
        }
        QVERIFY(isTintLearned);
    }
    /// Knobs of the profile are controls like any other: stated, turned, learned and told.
    void knobsAreTurnedAndLearned() {
        LoopCamera b = support::loopBody(0.0, 0.0, 0.0);
        b.body.saturation = 1.35;
        b.saturationPerStep = 0.06;
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QCOMPARE(run({"camera",
                      m_rig,
                      "B",
                      "--steps",
                      "saturation=-8..8:1",
                      "--per-step",
                      "saturation=0.1",
                      "--set",
                      "saturation=0",
                      "--set",
                      "iso=800",
                      "--set",
                      "kelvin=5600",
                      "--set",
                      "tint=0"})
                     .code,
                 0);
        json last;
        for (int round = 0; round < 3; ++round) {
            const QString clip = at(QString("b%1.mov").arg(round));
            QVERIFY(writeChart(clip, b.at(settingsOfB()), m_random));
            QCOMPARE(
                run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + clip}).code,
                0);
            last = run({"match", "--rig", m_rig, "--json"}).document();
            if (round == 0) {
                bool isTurned = false;
                for (const json& turn : last["cameras"][0]["turns"]) {
                    if (turn["control"] != "saturation") continue;
                    isTurned = true;
                    QVERIFY(turn["toValue"].get<double>() < 0.0);
                    QVERIFY(turn["change"]["saturationRatio"].get<double>() < 1.0);
                    QVERIFY(turn["expected"].contains("saturationRatio"));
                }
                QVERIFY(isTurned);
            }
            QCOMPARE(run({"done", m_rig}).code, 0);
        }
        const double ratio =
            last["cameras"][0]["differences"]["saturationRatio"]["value"].get<double>();
        QVERIFY2(std::abs(std::log(ratio)) < 0.06, std::to_string(ratio).c_str());
        bool isLearned = false;
        for (const json& learned : last["learned"]) {
            if (learned["control"] != "saturation") continue;
            isLearned = true;
            const double step = learned["perStep"]["saturationRatio"].get<double>();
            QVERIFY2(std::abs(std::log(step) - 0.06) < 0.015, std::to_string(step).c_str());
        }
        QVERIFY(isLearned);
        QCOMPARE(run({"camera", m_rig, "B", "--per-step", "gloss=1"}).code, 2);
    }
    /// A body that states a gain instead of an ISO.
    void gainIsTurnedInDecibels() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(
            writeChart(at("b.mov"), support::loopBody(0, 0, -1.0).at(rig::Settings{}), m_random));
        const QStringList words{
            "camera", m_rig, "B", "--steps", "gainDb=0..24:3", "--set", "gainDb=6"};
        QCOMPARE(run(words).code, 0);
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        auto loaded = rig::loadRig(m_rig.toStdString());
        rig::Rig rig = loaded->rig;
        rig.cameras[1].sheet.isoValues.clear();
        rig.cameras[1].sheet.fNumbers.clear();
        rig.cameras[1].sheet.ndStops.clear();
        QVERIFY(rig::saveRig(rig, m_rig.toStdString()).has_value());
        const json document = run({"match", "--rig", m_rig, "--json"}).document();
        const json& turns = document["cameras"][0]["turns"];
        QCOMPARE(turns[0]["control"].get<std::string>(), std::string("gainDb"));
        QCOMPARE(turns[0]["toValue"].get<double>(), 12.0);
        QCOMPARE(turns[0]["to"].get<std::string>(), std::string("+12 dB"));
    }
    /// An unknown knob is probed: the takes are named, marked as they come, and what the knob does
    /// is told.
    void anUnknownKnobIsProbed() {
        LoopCamera b = support::loopBody(0.0, 0.0, 0.0);
        b.contrastPerStep = 0.05;
        const LoopCamera a = support::loopBody(0.0, 0.0, 0.0);
        QVERIFY(writeChart(at("a.mov"), a.at(rig::Settings{}), m_random));
        QCOMPARE(run({"take",
                      m_rig,
                      "--camera",
                      "A=" + at("a.mov"),
                      "--camera",
                      "B=" + at("a.mov"),
                      "--purpose",
                      "programme"})
                     .code,
                 0);
        QVERIFY(run({"probe", m_rig, "B", "contrast"}).err.find("--steps contrast") !=
                std::string::npos);
        QCOMPARE(run({"camera", m_rig, "B", "--steps", "contrast=-4..4:1"}).code, 0);
        QVERIFY(run({"probe", m_rig, "B", "contrast"}).err.find("--set contrast=0") !=
                std::string::npos);
        QCOMPARE(run({"camera", m_rig, "B", "--set", "contrast=0"}).code, 0);
        const json plan = run({"probe", m_rig, "B", "contrast", "--json"}).document();
        QCOMPARE(plan["shoot"].size(), std::size_t{5});
        QVERIFY(plan["learned"].is_null());
        for (const json& step : plan["shoot"]) {
            const double value = step["value"].get<double>();
            rig::Settings settings;
            settings.knobs["contrast"] = value;
            QVERIFY(writeChart(at("b.mov"), b.at(settings), m_random));
            const QString given = QString("B.contrast=%1").arg(value);
            QCOMPARE(run({"take",
                          m_rig,
                          "--camera",
                          "A=" + at("a.mov"),
                          "--camera",
                          "B=" + at("b.mov"),
                          "--set",
                          given,
                          "--purpose",
                          "probe"})
                         .code,
                     0);
        }
        const json told = run({"probe", m_rig, "B", "contrast", "--json"}).document();
        for (const json& step : told["shoot"]) QVERIFY(step["shot"].get<bool>());
        QVERIFY(told["learned"]["takes"].get<int>() >= 3);
        const double ratio = told["learned"]["perStep"]["contrastRatio"].get<double>();
        QVERIFY2(std::abs(std::log(ratio) - 0.05) < 0.012, std::to_string(ratio).c_str());
        QVERIFY(run({"probe", m_rig, "B", "contrast"}).out.find("% contrast") != std::string::npos);
        QCOMPARE(run({"probe", m_rig, "A", "iso"}).code, 2);
        QCOMPARE(run({"probe", m_rig, "Q", "iso"}).code, 2);
    }
    /// A take whose settings are not what was ticked: said, and taken as it is given.
    void aTakeAgainstItsTicksIsSaid() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(writeChart(at("b.mov"), support::loopBody(-40, 0, 0).at({}), m_random));
        const QStringList take{
            "take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")};
        QCOMPARE(run(take + QStringList{"--set", "B.kelvin=5600"}).code, 0);
        QVERIFY(run({"done", m_rig, "--json"}).document()["done"].size() == 1);
        const double ticked = settingsOfB().whiteBalanceKelvin;
        QVERIFY(ticked > 6000.0);
        const Ran against = run(take + QStringList{"--set", "B.kelvin=5600"});
        QCOMPARE(against.code, 0);
        QVERIFY2(against.err.find("white balance was ticked to") != std::string::npos,
                 against.err.c_str());
        QCOMPARE(settingsOfB().whiteBalanceKelvin.value(), 5600.0);
        // What is given as it was ticked, or turned by hand since, is no contradiction.
        QVERIFY(run(take + QStringList{"--set", "B.kelvin=6000"}).err.empty());
    }
    /// How differences moved, from take to take.
    void historyIsTold() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        for (const double mired : {-40.0, -2.0}) {
            QVERIFY(writeChart(
                at("b.mov"), support::loopBody(mired, 0, 0).at(rig::Settings{}), m_random));
            QCOMPARE(
                run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                    .code,
                0);
        }
        const json document = run({"match", "--rig", m_rig, "--history", "--json"}).document();
        const json& takes = document["history"][0]["takes"];
        QCOMPARE(takes.size(), std::size_t{2});
        QVERIFY(takes[0]["whiteBalanceMired"]["value"].get<double>() < -30.0);
        QVERIFY(std::abs(takes[1]["whiteBalanceMired"]["value"].get<double>()) < 5.0);
        const Ran words = run({"match", "--rig", m_rig, "--history"});
        QVERIFY(words.out.find("take 1 \u2212") != std::string::npos);
        QVERIFY(words.out.find("stop here") != std::string::npos);
    }
    void targetsAreGivenByName() {
        for (const auto& [name, mired] : {std::pair{"a", 0.0}, {"b", 20.0}, {"c", 60.0}})
            QVERIFY(writeChart(
                at(QString(name) + ".mov"), support::loopBody(mired, 0, 0).at({}), m_random));
        QCOMPARE(run({"take",
                      m_rig,
                      "--camera",
                      "A=" + at("a.mov"),
                      "--camera",
                      "B=" + at("b.mov"),
                      "--camera",
                      "C=" + at("c.mov")})
                     .code,
                 0);
        const json least =
            run({"match", "--rig", m_rig, "--target", "least", "--targets", "--json"}).document();
        QCOMPARE(least["reference"].get<std::string>(), std::string("B"));
        QCOMPARE(least["targets"].size(), std::size_t{3});
        QVERIFY(!least["recommended"]["reasons"].empty());
        const json chart = run({"match", "--rig", m_rig, "--target", "chart", "--json"}).document();
        QCOMPARE(chart["cameras"].size(), std::size_t{3});
        QVERIFY(chart["target"].get<std::string>().find("published") != std::string::npos);
        QCOMPARE(run({"match", "--rig", m_rig, "--target", "take:7"}).code, 2);
        const Ran words = run({"match", "--rig", m_rig, "--target", "take:1", "--targets"});
        QCOMPARE(words.code, 0);
        QVERIFY(words.out.find("Recommended: camera") != std::string::npos);
    }
    /// A rig that is not there is made; of its cameras nothing is known, so turns are amounts.
    void aNewRigKnowsNothing() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(
            writeChart(at("b.mov"), support::loopBody(-40, 0, -0.7).at(rig::Settings{}), m_random));
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        QVERIFY(settingsOfB() == rig::unknownSettings());
        const json document = run({"match", "--rig", m_rig, "--json"}).document();
        const json& turns = document["cameras"][0]["turns"];
        QVERIFY(!turns.empty());
        for (const json& turn : turns)
            QVERIFY(turn["fromValue"].is_null() && turn["toValue"].is_null());
        QCOMPARE(run({"done", m_rig}).out, std::string("No turn is open.\n"));
    }
    void settingsAreTakenInTheWordsOfTheTrade() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        const Ran ran = run({"take",
                             m_rig,
                             "--camera",
                             "A=" + at("a.mov"),
                             "--camera",
                             "B=" + at("a.mov"),
                             "--set",
                             "B.frameRate=24000/1001",
                             "--set",
                             "B.shutter=180deg",
                             "--set",
                             "B.iso=640",
                             "--set",
                             "B.contrast=-2",
                             "--set",
                             "B.profile=flat",
                             "--purpose",
                             "programme"});
        QVERIFY2(ran.code == 0, ran.err.c_str());
        const rig::Settings s = settingsOfB();
        QVERIFY(std::abs(s.shutterSeconds - 1001.0 / 48000.0) < 1e-9);
        QCOMPARE(s.isoValue.value(), 640.0);
        QCOMPARE(s.knobs.at("contrast"), -2.0);
        QVERIFY(s.profile == "flat");
        QVERIFY(!s.fNumber.isTold());
        QCOMPARE(run({"camera", m_rig, "B", "--set", "iso=unknown"}).code, 0);
        QVERIFY(!settingsOfB().isoValue.isTold());
        // A take of the programme is not matched.
        const Ran matched = run({"match", "--rig", m_rig});
        QCOMPARE(matched.code, 1);
        QVERIFY(matched.err.find("no take for matching") != std::string::npos);
    }
    void wrongWordsAreRefusedAndNothingIsWritten_data() {
        QTest::addColumn<QStringList>("words");
        QTest::addColumn<QString>("said");
        const QStringList take{"take", "RIG", "--camera", "A=CLIP"};
        QTest::newRow("no file") << QStringList{"take", "RIG", "--camera", "A"} << "LETTER=FILE";
        QTest::newRow("letter") << QStringList{"take", "RIG", "--camera", "Z=CLIP"} << "A to P";
        QTest::newRow("setting") << take + QStringList{"--set", "iso=800"} << "LETTER.KEY=VALUE";
        QTest::newRow("camera") << take + QStringList{"--set", "B.iso=800"} << "No camera \"B\"";
        QTest::newRow("value") << take + QStringList{"--set", "A.iso=fast"} << "\"fast\" was given";
        QTest::newRow("range") << take + QStringList{"--set", "A.kelvin=5"} << "1000 to 40000 K";
        QTest::newRow("angle") << take + QStringList{"--set", "A.shutter=180deg"}
                               << "while the frame rate is not known";
        QTest::newRow("reference") << take + QStringList{"--reference", "C"} << "No camera \"C\"";
        QTest::newRow("steps") << QStringList{"camera", "RIG", "A", "--steps", "iso=9..1:1"}
                               << "rising numbers";
        QTest::newRow("control") << QStringList{"camera", "RIG", "A", "--steps", "a b=1,2"}
                                 << "iso, shutter, fNumber";
    }
    void wrongWordsAreRefusedAndNothingIsWritten() {
        QFETCH(QStringList, words);
        QFETCH(QString, said);
        for (QString& word : words)
            word.replace("RIG", m_rig)
                .replace("CLIP", RIGMATCH_SOURCE_DIR "/demo/clock-bench/B.mov");
        const Ran ran = run(words);
        QCOMPARE(ran.code, 2);
        QVERIFY2(QString::fromStdString(ran.err).contains(said), ran.err.c_str());
        QVERIFY(!QFile::exists(m_rig));
    }
    void unreadableFilesAreSaidAndTheRestIsDone() {
        QVERIFY(writeChart(at("a.mov"), support::loopBody(0, 0, 0).at(rig::Settings{}), m_random));
        const Ran ran = run({"take",
                             m_rig,
                             "--camera",
                             "A=" + at("a.mov"),
                             "--camera",
                             "B=" + at("gone.mov"),
                             "--json"});
        QCOMPARE(ran.code, 1);
        QVERIFY(ran.err.find("gone.mov") != std::string::npos);
        QVERIFY(ran.document()["results"][0]["chart"]["found"].get<bool>());
        QVERIFY(ran.document()["results"][1].contains("error"));
        QCOMPARE(run({"match", "--rig", m_rig}).code, 0);
    }
};

RIG_TEST(TestTakeCommand);
#include "test_take_command.moc"
