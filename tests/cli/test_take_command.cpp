// SPDX-License-Identifier: GPL-3.0-or-later
// The loop closed from outside: files in, turns out, carried out on cameras of the tests' own.
#include <QTemporaryDir>
#include <QtTest>
#include <nlohmann/json.hpp>
#include <sstream>

#include "cli/command_line.h"
#include "rig/rig_store.h"
#include "support/loop_camera.h"
#include "support/media_files.h"
#include "support/test_list.h"

using namespace rigmatch;
using nlohmann::json;
using support::LoopCamera;

namespace {

struct Ran {
    int code = -1;
    std::string out;
    std::string err;
    [[nodiscard]] json document() const { return json::parse(out); }
};

Ran run(const QStringList& words) {
    std::vector<QByteArray> bytes{"rigmatch-cli"};
    for (const QString& word : words) bytes.push_back(word.toUtf8());
    std::vector<const char*> argv;
    for (const QByteArray& word : bytes) argv.push_back(word.constData());
    std::ostringstream out, err;
    const int code = cli::runCommandLine(static_cast<int>(argv.size()), argv.data(), {out, err});
    return {code, out.str(), err.str()};
}

/// A clip of the chart before a grey wall, as that camera records it.
bool writeChart(const QString& file, const support::OwnCamera& camera, std::mt19937& random) {
    const auto picture = support::ownPicture(camera);
    constexpr int kWide = 640, kHigh = 360;
    const support::own::Triple wall = support::own::signalOf(camera, {0.12, 0.12, 0.12});
    std::array<std::vector<double>, 3> placed;
    for (std::size_t c = 0; c < 3; ++c) {
        placed[c].assign(static_cast<std::size_t>(kWide * kHigh), wall[c]);
        for (int y = 0; y < support::own::kHeight; ++y) {
            for (int x = 0; x < support::own::kWidth; ++x)
                placed[c][static_cast<std::size_t>((y + 66) * kWide + x + 166)] =
                    picture[c][static_cast<std::size_t>(y * support::own::kWidth + x)];
        }
    }
    return support::writePicture(
        file, support::ownFrame(placed, camera, random, {kWide, kHigh}), 30);
}

LoopCamera body(double mired, double duv, double stops) {
    LoopCamera camera;
    camera.body.stops = stops;
    camera.body.readNoise = 0.001;
    camera.body.photonNoise = 0.002;
    camera.lightMired = mired;
    camera.lightDuv = duv;
    return camera;
}

}  // namespace

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
        const LoopCamera a = body(0.0, 0.0, 0.0);
        LoopCamera b = body(-45.0, 0.007, -0.9);
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
            }
            if (learned["control"] == "tint") {
                isTintLearned = true;
                QVERIFY(learned["perStep"]["tintDuv"].get<double>() > 0.00125);
                QVERIFY(learned["uncertainty"]["tintDuv"].get<double>() < 0.0004);
            }
        }
        QVERIFY(isTintLearned);
    }
    /// What is left goes into a table, which is judged as others will see it.
    void aTableIsWrittenForWhatIsLeft() {
        LoopCamera b = body(8.0, 0.001, -0.1);
        b.body.saturation = 1.25;
        QVERIFY(writeChart(at("a.mov"), body(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(writeChart(at("b.mov"), b.at(rig::Settings{}), m_random));
        QCOMPARE(
            run({"take", m_rig, "--camera", "A=" + at("a.mov"), "--camera", "B=" + at("b.mov")})
                .code,
            0);
        const Ran ran = run({"lut", m_rig, "--out", at("luts"), "--size", "65", "--json"});
        QVERIFY2(ran.code == 0, ran.err.c_str());
        const json document = ran.document();
        const json& lut = document["cameras"][0];
        QCOMPARE(lut["camera"].get<std::string>(), std::string("B"));
        QCOMPARE(lut["inputRange"].get<std::string>(), std::string("full"));
        QVERIFY(QFile::exists(QString::fromStdString(lut["file"].get<std::string>())));
        const double before = lut["deltaE2000"]["before"]["mean"].get<double>();
        const double after = lut["deltaE2000"]["after"]["mean"].get<double>();
        qInfo("mean dE2000 %.2f before, %.2f after", before, after);
        QVERIFY(before > 3.0 && after < 0.7);
        const Ran half = run({"lut", m_rig, "--out", at("half"), "--strength", "50", "--json"});
        const double middle =
            half.document()["cameras"][0]["deltaE2000"]["after"]["mean"].get<double>();
        QVERIFY(middle > after && middle < before);
        QCOMPARE(run({"lut", m_rig, "--out", at("luts"), "--size", "20"}).code, 2);
        QCOMPARE(run({"lut", at("none.rigmatch"), "--out", at("luts")}).code, 1);
    }
    /// A rig that is not there is made; of its cameras nothing is known, so turns are amounts.
    void aNewRigKnowsNothing() {
        QVERIFY(writeChart(at("a.mov"), body(0, 0, 0).at(rig::Settings{}), m_random));
        QVERIFY(writeChart(at("b.mov"), body(-40, 0, -0.7).at(rig::Settings{}), m_random));
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
        QVERIFY(writeChart(at("a.mov"), body(0, 0, 0).at(rig::Settings{}), m_random));
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
        QTest::newRow("control") << QStringList{"camera", "RIG", "A", "--steps", "volume=1,2"}
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
        QVERIFY(writeChart(at("a.mov"), body(0, 0, 0).at(rig::Settings{}), m_random));
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
