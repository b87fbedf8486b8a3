// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

#include "cli/command_line.h"
#include "support/clips.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using nlohmann::json;
using support::kClips;
using support::kDemo;

namespace {

struct ProcessRun {
    int code = -1;
    QByteArray out;
    QByteArray err;
};

/// The program as a process of its own.
ProcessRun runProcess(const QStringList& arguments) {
    QProcess process;
    process.start(QStringLiteral(RIGMATCH_BINARY_DIR "/src/cli/rigmatch-cli"), arguments);
    process.waitForFinished(300000);
    return {process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -1,
            process.readAllStandardOutput(),
            process.readAllStandardError()};
}

QStringList demoMatch() {
    return {"match",
            "--reference",
            "A=" + kDemo + "A.mov",
            "--camera",
            "B=" + kDemo + "B.mov",
            "--camera",
            "C=" + kDemo + "C.mov",
            "--camera",
            "D=" + kDemo + "D.mov"};
}

}  // namespace

class TestCli : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void measureFollowsTheContract() {
        const ProcessRun ran = runProcess({"measure", kDemo + "B.mov", "--json"});
        QCOMPARE(ran.code, 0);
        const json document = json::parse(ran.out.toStdString());
        QCOMPARE(document["version"].get<int>(), 1);
        const json& result = document["results"][0];
        QCOMPARE(result["kind"].get<std::string>(), std::string("clip"));
        QCOMPARE(result["width"].get<int>(), 1920);
        QCOMPARE(result["bitDepth"].get<int>(), 8);
        QCOMPARE(result["range"].get<std::string>(), std::string("limited"));
        QCOMPARE(result["frameRate"].get<double>(), 25.0);
        QVERIFY(result["chart"]["found"].get<bool>());
        QCOMPARE(result["chart"]["patches"].size(), std::size_t{24});
        QCOMPARE(result["chart"]["patches"][0]["name"].get<std::string>(),
                 std::string("dark skin"));
        QCOMPARE(result["chart"]["corners"].size(), std::size_t{4});
        QVERIFY(result["chart"]["span"]["framesUsed"].get<int>() > 5);
        // Camera B sees the restorer alone. The level only has to be plausible: neither black nor
        // white.
        QCOMPARE(result["faces"].size(), std::size_t{1});
        const json& face = result["faces"][0];
        QCOMPARE(face["box"].size(), std::size_t{4});
        QVERIFY(face["box"][2].get<double>() > 150.0);
        QVERIFY(face["score"].get<double>() > 0.5);
        const double forehead = face["skin"]["forehead"]["signal"][1].get<double>();
        QVERIFY(forehead > 0.1 && forehead < 0.8);
    }
    /// The demo's truth was written by the simulator from settings and hidden bodies alone; the
    /// match must meet it.
    void matchMeetsTheTruthOfTheDemo() {
        const ProcessRun ran = runProcess(
            demoMatch() + QStringList{"--rig", kDemo + "clock-bench.rigmatch", "--json"});
        QCOMPARE(ran.code, 0);
        const json match = json::parse(ran.out.toStdString());
        QFile file(kDemo + "truth.json");
        QVERIFY(file.open(QIODevice::ReadOnly));
        const json truth = json::parse(file.readAll().toStdString());
        for (std::size_t i = 0; i < 3; ++i) {
            const json& differences = match["cameras"][i]["differences"];
            const json& expected = truth["cameras"][i + 1];
            QCOMPARE(match["cameras"][i]["camera"], expected["camera"]);
            QVERIFY(std::abs(differences["exposureStops"]["value"].get<double>() -
                             expected["exposureStops"].get<double>()) < 0.03);
            QVERIFY(std::abs(differences["whiteBalanceMired"]["value"].get<double>() -
                             expected["whiteBalanceMired"].get<double>()) < 2.0);
            QVERIFY(std::abs(differences["tintDuv"]["value"].get<double>() -
                             expected["tintDuv"].get<double>()) < 0.0005);
            QVERIFY(match["cameras"][i].contains("predicted"));
        }
        QVERIFY(match["worstPair"]["predicted"]["deltaE2000"].get<double>() <
                0.5 * match["worstPair"]["now"]["deltaE2000"].get<double>());
    }
    void withoutRigFileTurnsAreAmounts() {
        const ProcessRun ran = runProcess({"match",
                                           "--reference",
                                           "A=" + kClips + "A.mov",
                                           "--camera",
                                           "B=" + kClips + "B.mov",
                                           "--json"});
        QCOMPARE(ran.code, 0);
        const json turns = json::parse(ran.out.toStdString())["cameras"][0]["turns"];
        QCOMPARE(turns.size(), std::size_t{1});
        QCOMPARE(turns[0]["to"].get<std::string>(), std::string("+2/3 stop"));
        QVERIFY(!turns[0].contains("from"));
    }
    /// ΔE2000 with its uncertainty and the noise that was taken out; the text says how it is
    /// judged.
    void colourDifferencesSayTheirNoiseAndJudge() {
        const QStringList call{
            "match", "--reference", "A=" + kClips + "A.mov", "--camera", "B=" + kClips + "B.mov"};
        const ProcessRun text = runProcess(call);
        QVERIFY(text.out.contains("Colours are judged as recorded."));
        const ProcessRun ran = runProcess(call + QStringList{"--json"});
        const json document = json::parse(ran.out.toStdString());
        QCOMPARE(document["judge"].get<std::string>(), std::string("recorded"));
        const json deltaE = document["cameras"][0]["deltaE2000"];
        QVERIFY(deltaE["noiseFloor"].get<double>() > 0.0);
        QVERIFY(deltaE["meanUncertainty"].get<double>() > 0.0);
        const json exposure = document["cameras"][0]["differences"]["exposureStops"];
        QCOMPARE(exposure["sceneAndMethod"].get<double>(), 0.02);
    }
    void oneBadFileDoesNotStopTheOthers() {
        const QTemporaryDir folder;
        QFile bad(folder.filePath("bad.mov"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("this is a text");
        bad.close();
        const ProcessRun ran =
            runProcess({"measure", bad.fileName(), kClips + "A.mov", "/no/such.mov", "--json"});
        QCOMPARE(ran.code, 1);
        const json results = json::parse(ran.out.toStdString())["results"];
        QCOMPARE(results.size(), std::size_t{3});
        QVERIFY(results[0]["error"].get<std::string>().find("bad.mov") != std::string::npos);
        QVERIFY(results[1]["chart"]["found"].get<bool>());
        QVERIFY(results[2].contains("error"));
        QVERIFY(ran.err.contains("no/such.mov"));
    }
    void clipWithoutChartIsNoFailure() {
        const ProcessRun ran = runProcess({"measure", kDemo + "A.mov", "--at", "0", "--json"});
        QCOMPARE(ran.code, 0);
        const json chart = json::parse(ran.out.toStdString())["results"][0]["chart"];
        QCOMPARE(chart["found"].get<bool>(), false);
        QVERIFY(!chart["reason"].get<std::string>().empty());
    }
    void wrongWordsGiveUsage_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::newRow("nothing") << QStringList();
        QTest::newRow("unknown command") << QStringList{"guess"};
        QTest::newRow("unknown option") << QStringList{"measure", "a.mov", "--loud"};
        QTest::newRow("no file") << QStringList{"measure"};
        QTest::newRow("seven corner numbers")
            << QStringList{"measure", "a.mov", "--corners", "1,2,3,4,5,6,7"};
        QTest::newRow("unknown range") << QStringList{"measure", "a.mov", "--range", "wide"};
        QTest::newRow("unnamed camera")
            << QStringList{"match", "--reference", "a.mov", "--camera", "B=b.mov"};
        QTest::newRow("absurd length")
            << QStringList{"simulate", "--out", "/tmp/x", "--seconds", "1e9"};
        QTest::newRow("absurd size") << QStringList{"simulate", "--out", "/tmp/x", "--size", "0x0"};
    }
    void wrongWordsGiveUsage() {
        QFETCH(QStringList, arguments);
        const ProcessRun ran = runProcess(arguments);
        QCOMPARE(ran.code, 2);
        QVERIFY(ran.out.isEmpty());
        QVERIFY(!ran.err.isEmpty());
    }
    void everyCommandHasHelpWithAnExample() {
        for (const QString& command : {QStringLiteral("measure"),
                                       QStringLiteral("match"),
                                       QStringLiteral("simulate"),
                                       QStringLiteral("plan")}) {
            const ProcessRun ran = runProcess({command, "--help"});
            QCOMPARE(ran.code, 0);
            QVERIFY(ran.out.contains("Example: rigmatch-cli " + command.toUtf8()));
        }
    }
    void simulateWritesFootageTruthAndRig() {
        const QTemporaryDir folder;
        const ProcessRun ran = runProcess(
            {"simulate", "--out", folder.path(), "--size", "320x180", "--seconds", "0.4"});
        QCOMPARE(ran.code, 0);
        for (const char* name :
             {"A.mov", "B.mov", "C.mov", "D.mov", "truth.json", "clock-bench.rigmatch"}) {
            QVERIFY2(QFile::exists(folder.filePath(QString::fromUtf8(name))), name);
        }
        QVERIFY(ran.err.contains("Shooting camera A"));
        const ProcessRun blocked =
            runProcess({"simulate", "--out", "/proc/nowhere", "--size", "64x64"});
        QCOMPARE(blocked.code, 1);
        QVERIFY(blocked.err.contains("Cannot make the folder"));
    }
    void cardWritesAPdf() {
        QTemporaryDir folder;
        const QString file = folder.filePath("card.pdf");
        const ProcessRun ran = runProcess({"card", "--out", file});
        QCOMPARE(ran.code, 0);
        QCOMPARE(QString::fromUtf8(ran.out).trimmed(), file);
        QVERIFY(ran.err.contains("not for absolute colour"));
        QFile pdf(file);
        QVERIFY(pdf.open(QIODevice::ReadOnly));
        QVERIFY(pdf.read(5) == "%PDF-");
        QCOMPARE(runProcess({"card", "--out", "/nowhere/card.pdf"}).code, 1);
        QCOMPARE(runProcess({"card", "--out", file, "--paper", "napkin"}).code, 2);
        QCOMPARE(runProcess({"card"}).code, 2);
    }
    /// The two lower rows of the classic chart are the 12-patch strip; the grey card is any grey
    /// patch, marked by hand on both cameras.
    void otherChartsAreMeasuredAndMatched() {
        const ProcessRun strip =
            runProcess({"measure", kClips + "A.mov", "--chart", "strip-12", "--json"});
        QCOMPARE(strip.code, 0);
        const json chart = json::parse(strip.out.toStdString())["results"][0]["chart"];
        QVERIFY(chart["found"].get<bool>());
        QCOMPARE(chart["layout"].get<std::string>(), std::string("strip-12"));
        QCOMPARE(chart["patches"].size(), std::size_t{12});
        const ProcessRun classic =
            runProcess({"measure", kClips + "A.mov", kClips + "C.mov", "--json"});
        const json both = json::parse(classic.out.toStdString())["results"];
        QStringList corners;
        for (std::size_t i = 0; i < 2; ++i) {
            const json& centre = both[i]["chart"]["patches"][21]["centre"];
            const double x = centre[0].get<double>();
            const double y = centre[1].get<double>();
            corners << QStringLiteral("%1,%2,%3,%2,%3,%4,%1,%4")
                           .arg(x - 8)
                           .arg(y - 8)
                           .arg(x + 8)
                           .arg(y + 8);
        }
        const QStringList call{"match",
                               "--reference",
                               "A=" + kClips + "A.mov",
                               "--camera",
                               "C=" + kClips + "C.mov",
                               "--json"};
        const ProcessRun full = runProcess(call);
        const ProcessRun card = runProcess(call + QStringList{"--chart",
                                                              "grey-card",
                                                              "--corners",
                                                              "A=" + corners[0],
                                                              "--corners",
                                                              "C=" + corners[1]});
        QCOMPARE(card.code, 0);
        const auto cell = [](const ProcessRun& ran, const char* key) {
            return json::parse(ran.out.toStdString())["cameras"][0]["differences"][key];
        };
        for (const char* key : {"exposureStops", "whiteBalanceMired"}) {
            const json few = cell(card, key);
            const json all = cell(full, key);
            QVERIFY2(
                std::abs(few["value"].get<double>() - all["value"].get<double>()) <=
                    2.0 * few["uncertainty"].get<double>() + 2.0 * all["uncertainty"].get<double>(),
                key);
            QVERIFY(few["uncertainty"].get<double>() > all["uncertainty"].get<double>());
        }
        QCOMPARE(cell(card, "contrastRatio")["verdict"].get<std::string>(), std::string("unknown"));
        QCOMPARE(
            runProcess(call + QStringList{"--chart", "grey-card", "--corners", "A=1,2,3"}).code, 2);
        QCOMPARE(runProcess(call + QStringList{"--chart", "/nowhere/x.csv"}).code, 1);
    }
    void planPrintsFactsAndNotes() {
        const QString rig =
            QStringLiteral(RIGMATCH_SOURCE_DIR) + "/demo/clock-bench/clock-bench.rigmatch";
        const ProcessRun asJson = runProcess({"plan", rig, "--json"});
        QCOMPARE(asJson.code, 0);
        const json document = json::parse(asJson.out.toStdString());
        QCOMPARE(document["version"].get<int>(), 1);
        QCOMPARE(document["cameras"].size(), std::size_t{4});
        QVERIFY(!document["notes"].empty() && !document["room"].empty());
        bool hasDepth = false;
        for (const json& object : document["objects"]) {
            QVERIFY(object["facts"].is_array() && !object["id"].get<std::string>().empty());
            for (const json& fact : object["facts"]) {
                QVERIFY(fact.contains("value") && fact.contains("verdict") &&
                        fact.contains("number"));
                hasDepth = hasDepth ||
                           (object.value("camera", "") == "B" && fact["key"] == "depthOfField");
            }
        }
        QVERIFY(hasDepth);
        const ProcessRun asText = runProcess({"plan", rig});
        QCOMPARE(asText.code, 0);
        QVERIFY(asText.out.contains("Lens for a medium close shot") &&
                asText.out.contains("\nNotes\n"));
    }
    /// Board, framing, plan, sheets and files in one list and one vocabulary, the worst first; the
    /// board's numbers are those of `match`.
    void findingsAreOneList() {
        const QString rig = kDemo + "clock-bench.rigmatch";
        const ProcessRun asJson = runProcess({"findings", rig, "--json"});
        QCOMPARE(asJson.code, 0);
        const json findings = json::parse(asJson.out.toStdString())["findings"];
        const std::vector<std::string> order{"off", "near", "unknown", "good"};
        std::ptrdiff_t last = 0;
        std::set<std::string> areas;
        for (const json& one : findings) {
            const auto verdict = one["verdict"].get<std::string>();
            const auto place = std::find(order.begin(), order.end(), verdict) - order.begin();
            QVERIFY2(place >= last && place < 4, verdict.c_str());
            last = place;
            areas.insert(one["area"].get<std::string>());
            QVERIFY(!one["quantity"].get<std::string>().empty() &&
                    !one["headline"].get<std::string>().empty());
            // Inside its limits is good, and outside of them is not; framing is told only where it
            // is surely outside.
            if (!one.contains("good") || one["value"].is_null() || verdict == "unknown") continue;
            const double value = one["value"].get<double>();
            const double slack = one["area"] == "framing" && verdict == "good"
                                     ? 2.0 * one["uncertainty"].get<double>()
                                     : 1e-6;
            const bool isInside = value >= one["good"][0].get<double>() - slack &&
                                  value <= one["good"][1].get<double>() + slack;
            QVERIFY2(isInside == (verdict == "good"), one.dump().c_str());
        }
        for (const char* area : {"match", "numbers", "framing", "sheet", "plan"})
            QVERIFY2(areas.contains(area), area);
        const ProcessRun matched = runProcess({"match", "--rig", rig, "--json"});
        const json board = json::parse(matched.out.toStdString())["cameras"];
        int compared = 0;
        for (const json& camera : board) {
            for (const auto& [key, cell] : camera["differences"].items()) {
                const auto same =
                    std::find_if(findings.begin(), findings.end(), [&](const json& f) {
                        return f["area"] == "match" && f["quantity"] == key &&
                               f["subject"] == camera["camera"];
                    });
                if (same == findings.end()) continue;
                QCOMPARE((*same)["value"], cell["value"]);
                QCOMPARE((*same)["verdict"], cell["verdict"]);
                ++compared;
            }
        }
        QVERIFY(compared >= 20);
        const ProcessRun asText = runProcess({"findings", rig});
        QVERIFY(asText.out.startsWith("▼ match, B: Exposure") &&
                asText.out.contains("    → ISO 800"));
        QVERIFY(!asText.out.contains("numbers, B") && asText.out.contains("(Compare, Numbers)"));
        QCOMPARE(runProcess({"findings", "/nowhere.rigmatch"}).code, 1);
    }
    void planSaysWhatItCannotDo() {
        QCOMPARE(runProcess({"plan", "/nowhere.rigmatch"}).code, 1);
        const QTemporaryDir folder;
        QFile file(folder.filePath("bare.rigmatch"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("{\"format\": \"rigmatch\", \"version\": 1, \"name\": \"bare\"}");
        file.close();
        const ProcessRun bare = runProcess({"plan", file.fileName()});
        QCOMPARE(bare.code, 1);
        QVERIFY2(bare.err.contains("Rig \"bare\" has no plan") &&
                     bare.err.contains("start from a layout"),
                 qPrintable(bare.err));
        QCOMPARE(runProcess({"plan"}).code, 2);
    }
    void commandsRunInProcessToo() {
        std::ostringstream out, err;
        const std::string file = (kDemo + "A.mov").toStdString();
        const std::array<const char*, 3> words{"rigmatch-cli", "measure", file.c_str()};
        QCOMPARE(cli::runCommandLine(3, words.data(), {out, err}), 0);
        QVERIFY(out.str().find("chart found") != std::string::npos);
        QVERIFY(err.str().empty());
    }
};

RIG_TEST(TestCli);
#include "test_cli.moc"
