// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/wait.h>
#include <unistd.h>

#include <sys/wait.h>
#include <unistd.h>
#include <QDir>
#include <QTemporaryDir>

#include <QtTest>
#include <fstream>
#include <nlohmann/json.hpp>

#include "base/atomic_file.h"
#include "rig/bodies.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"
#include "sim/clock_bench.h"
#include "support/test_list.h"

using namespace rigmatch;
using nlohmann::json;

namespace {

/// The demo rig with a take in which every field has a value of its own.
rig::Rig fullRig(const std::filesystem::path& folder) {
    rig::Rig rig = sim::clockBenchRig();
    rig.judge = "linear";
    rig::Take take;
    take.id = "take-1";
    take.number = 3;
    take.purposes = {rig::Purpose::Match, rig::Purpose::Timing};
    rig.sources = {{"source-1", rig::SourceKind::Switcher, "the mixer's recording", {}}};
    take.startedAt = "2026-01-05T10:20:30";
    rig::Shot shot;
    shot.cameraId = rig.cameras[1].id;
    shot.media = folder / "clips" / "b.mov";
    shot.settings = rig.cameras[1].settings;
    shot.laterParts = {folder / "clips" / "b2.mov", folder / "clips" / "b3.mov"};
    shot.settings.isoValue = 1234.0;
    shot.settings.tintSteps.forget();
    shot.settings.knobs = {{"contrast", -2.0}};
    shot.manualCorners = rig::PictureQuad{{{1, 2}, {3.5, 4}, {5, 6}, {7, 8}}};
    shot.rangeOverride = "full";
    rig::Reading reading;
    reading.hasChart = true;
    reading.width = 1920;
    reading.range = "limited";
    reading.framesUsed = 12;
    reading.warnings = {{"Code", "text", "hint"}};
    reading.patches = {{"white",
                        true,
                        {.9, .9, .9},
                        {.95, .94, .93},
                        {.001, .002, .003},
                        {.0001, .0002, .0003},
                        0.25,
                        0.125,
                        {10.5, 11.5}}};
    reading.reasonCode = "NotMarked";
    reading.layout = "grey-card";
    rig::FramedPerson person;
    person.headroom = {0.12, 0.002};
    person.lookRoom = rig::Doubted{1.8, 0.2};
    person.isCut = person.isCrownEstimate = true;
    rig::FramingReading framing;
    framing.roll = rig::RollReading{0.2, 0.1, 1.0, "uprights"};
    framing.people = {person};
    framing.focus = {1.2, 1.3, 1.4, 2.0, "eyes"};
    framing.drift = rig::FrameDrift{};
    framing.drift->reason = "nothing to lay it on";
    reading.framing = framing;
    sound::ChannelReport channel;
    channel.speechDbfs = -20.0;
    channel.loudnessLufs = -23.0;
    channel.noiseDbfs = -60.0;
    channel.humDbfs = -70.0;
    channel.humHz = 50.0;
    channel.clippedRuns = 2;
    channel.gaps = {{1.0, 0.02}};
    channel.offsetPercent = 0.4;
    channel.bandwidthHz = 12000.0;
    channel.decaySeconds = 0.4;
    channel.levelRisePerSecond = 6.0;
    channel.rumbleDbfs = -50.0;
    sound::SoundReport heard;
    heard.channels = {channel};
    heard.loudnessLufs = -23.0;
    heard.loudnessRangeLu = 6.0;
    heard.truePeakDbtp = -3.0;
    heard.envelopeDbfs = {-30.0, -20.5};
    heard.clapSeconds = 4.2;
    heard.findings = {{"Code", "text", "hint"}};
    reading.heard = heard;
    timing::FrameReport frames;
    frames.rateText = "25/1";
    frames.isVariable = true;
    frames.intervals = {{0.04, 30}, {0.05, 3}};
    frames.repeated = {1.0};
    frames.missing = {2.0};
    frames.late = {3.0};
    frames.notJudged = {{4.0, 5.0}};
    frames.unsteady = {{6.0, 7.0}};
    frames.pattern = "every second frame";
    reading.frames = frames;
    rig::SyncReading sync;
    sync.against = "/tmp/a.mov";
    sync.sound = timing::SoundOffset{};
    sync.sound->driftPpm = 12.0;
    sync.sound->isInverted = true;
    sync.sound->jump = timing::OffsetPoint{1.0, 2.0, 3.0, true};
    sync.picture = timing::PictureOffset{};
    sync.reason = "none";
    sync.distanceSeconds = 0.003;
    sync.findings = {{"Code", "text", "hint"}};
    reading.sync = sync;
    reading.columns = 1;
    reading.rows = 1;
    reading.trust = base::ValueTrust::Found;
    shot.cornersAtSeconds = 1.25;
    shot.skinMarks = {{10.0, 20.0, 30.5, 40.0, 0.75}};
    shot.matrixOverride = "bt601";
    shot.isWholeWanted = true;
    rig::FaceReading face;
    face.left = 411.5;
    face.width = 120.0;
    face.turnDegrees = -12.0;
    face.leftEye = {470.0, 300.0};
    face.forehead = rig::SkinReading{{0.5, 0.4, 0.3}, {0.001, 0.001, 0.002}, 0.0, 900};
    face.background = rig::SkinReading{{0.2, 0.2, 0.25}, {0.002, 0.002, 0.002}, 0.1, 50};
    face.isManual = true;
    reading.faces = {face};
    reading.noise = rig::NoiseReading{{0.002, 0.0018, 0.003}, {0.004, 0.0031, 0.005}};
    reading.sharpness = rig::SharpnessReading{2.4, 0.1, 6.5, 1.0};
    reading.drift = rig::DriftReading{{0.001, 0.0, -0.001}, {1e-4, 2e-4, 3e-4}, 2.5};
    shot.reading = reading;
    take.shots.push_back(shot);
    rig.takes.push_back(take);
    rig.chart = (folder / "charts" / "mine.csv").string();
    rig.cameras[1].sheet.profiles.push_back(
        {"Worklog",
         *colour::tableCurve({"worklog.cube", {0.0, 0.2, 0.5, 1.0}, {0.0, 0.05, 0.2, 4.0}})});
    rig.cameras[1].viewingLut = folder / "luts" / "look.cube";
    return rig;
}

}  // namespace

class TestRigStore : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// A chart whose patches do not fill its grid is no chart; the rest of the file is kept.
    void patchesThatDoNotFitTheGridAreLeftOut_data() {
        QTest::addColumn<QByteArray>("key");
        QTest::addColumn<int>("value");
        QTest::newRow("fewer rows") << QByteArray("rows") << 3;
        QTest::newRow("no columns") << QByteArray("columns") << 0;
        QTest::newRow("columns without end") << QByteArray("columns") << 1000000;
        QTest::newRow("columns below nothing") << QByteArray("columns") << -6;
    }
    void patchesThatDoNotFitTheGridAreLeftOut() {
        QFETCH(QByteArray, key);
        QFETCH(int, value);
        std::ifstream in(RIGMATCH_SOURCE_DIR "/demo/clock-bench/clock-bench.rigmatch");
        json document = json::parse(in);
        document["takes"][0]["shots"][1]["reading"]["chart"][key.toStdString()] = value;
        QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("misfit.rigmatch").toStdString();
        std::ofstream(file) << document.dump();
        const auto loaded = rig::loadRig(file);
        QVERIFY(loaded.has_value());
        const auto& shots = loaded->rig.takes[0].shots;
        QVERIFY(shots[0].reading->hasChart);
        QVERIFY(!shots[1].reading->hasChart);
        QVERIFY(shots[1].reading->patches.empty());
        QVERIFY(shots[1].reading->reason.find("24 patches") != std::string::npos);
        QCOMPARE(QString::fromStdString(shots[1].reading->hint),
                 QString("Measure the shot again."));
    }
    void roundTripKeepsEverything() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        const auto loaded = rig::loadRig(file);
        QVERIFY2(loaded.has_value(), loaded ? "" : base::fullText(loaded.error()).c_str());
        QVERIFY(loaded->rig == rig);
        QVERIFY(!loaded->isReadOnly);
        QCOMPARE(loaded->missingMedia.size(), std::size_t{3});
    }
    void mediaIsWrittenRelative() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        QVERIFY(rig::saveRig(fullRig(folder.path().toStdString()), file).has_value());
        const json document = json::parse(base::readWhole(file).value());
        QCOMPARE(document["takes"][0]["shots"][0]["media"].get<std::string>(),
                 std::string("clips/b.mov"));
        QCOMPARE(document["cameras"][1]["viewingLut"].get<std::string>(),
                 std::string("luts/look.cube"));
        QCOMPARE(document["chart"].get<std::string>(), std::string("charts/mine.csv"));
    }
    void unknownFieldsSurvive() {
        json document = json::parse(rig::jsonText(fullRig("/tmp")));
        document["weather"] = {{"sky", "grey"}};
        document["cameras"][0]["serial"] = "12-34";
        document["cameras"][0]["settings"]["zebra"] = 70;
        document["cameras"][0]["controls"]["knee"] = {1, 2};
        document["takes"][0]["slate"] = "3A";
        document["takes"][0]["shots"][0]["card"] = "red";
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY(parsed.has_value());
        const json again = json::parse(rig::jsonText(parsed->rig));
        QCOMPARE(again["weather"]["sky"].get<std::string>(), std::string("grey"));
        QCOMPARE(again["cameras"][0]["serial"].get<std::string>(), std::string("12-34"));
        QCOMPARE(again["cameras"][0]["settings"]["zebra"].get<int>(), 70);
        QCOMPARE(again["cameras"][0]["controls"]["knee"].size(), std::size_t{2});
        QCOMPARE(again["takes"][0]["slate"].get<std::string>(), std::string("3A"));
        QCOMPARE(again["takes"][0]["shots"][0]["card"].get<std::string>(), std::string("red"));
    }
    /// Every object of the document, however deep, gets a key that nobody knows; all come back.
    void unknownKeysSurviveAtEveryLevel_data() {
        QTest::addColumn<QString>("text");
        QTest::newRow("a rig with everything")
            << QString::fromStdString(rig::jsonText(fullRig("/tmp")));
        QFile demo(RIGMATCH_SOURCE_DIR "/demo/clock-bench/clock-bench.rigmatch");
        QVERIFY(demo.open(QIODevice::ReadOnly));
        QTest::newRow("the demo, measured and planned") << QString::fromUtf8(demo.readAll());
    }
    void unknownKeysSurviveAtEveryLevel() {
        QFETCH(QString, text);
        const auto first = rig::parseRig(text.toStdString());
        QVERIFY(first.has_value());
        json document = json::parse(rig::jsonText(first->rig));
        int marked = 0;
        const std::function<void(json&)> mark = [&](json& value) {
            for (auto& each : value) {
                if (each.is_structured()) mark(each);
            }
            if (value.is_object()) value["ofALaterProgram"] = {{"number", ++marked}};
        };
        mark(document);
        document["version"] = 9;
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY2(parsed.has_value(), parsed ? "" : parsed.error().detail.c_str());
        const json again = json::parse(rig::jsonText(parsed->rig));
        QVERIFY(marked > 30);
        const json difference = json::diff(document, again);
        QVERIFY2(difference.empty(), difference.dump(1).substr(0, 600).c_str());
        // Twice through is as good as once, and a copy in memory is the same rig.
        QVERIFY(rig::parseRig(rig::jsonText(parsed->rig))->rig == parsed->rig);
    }
    /// What does not belong there is refused with its place and what should stand there.
    void everyFieldNamesItsPlace_data() {
        QTest::addColumn<QString>("pointer");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("place");
        QTest::addColumn<QString>("reason");
        const auto row =
            [](const char* pointer, const char* value, const char* place, const char* reason) {
                QTest::newRow(place) << pointer << value << place << reason;
            };
        row("/cameras/0/settings/iso", "-1", "cameras[0].settings.iso", "should be above 0");
        row("/cameras/1/settings/profile", "7", "cameras[1].settings.profile", "should be a text");
        row("/cameras/0/controls/iso/1", "0", "cameras[0].controls.iso", "not above 0");
        row("/cameras/0/controls/hasAutoFocus",
            "1",
            "cameras[0].controls.hasAutoFocus",
            "should be true or false");
        row("/cameras/0/lens/focalLengthMm",
            "\"long\"",
            "cameras[0].lens.focalLengthMm",
            "should be a number");
        row("/cameras/0/id", "\"\"", "cameras[0].id", "is missing");
        row("/takes/0/shots/0/manualCorners",
            "[[1,2]]",
            "takes[0].shots[0].manualCorners",
            "should be a list of 4");
        row("/takes/0/shots/0/manualCorners/2",
            "[1]",
            "takes[0].shots[0].manualCorners[2]",
            "should be a list of 2");
        row("/takes/0/shots/0/reading/chart/trust",
            "\"faith\"",
            "takes[0].shots[0].reading.chart.trust",
            "measured, nominal, printed or found");
        row("/takes/0/shots/0/reading/chart/patches/0/signal",
            "null",
            "takes[0].shots[0].reading.chart.patches[0].signal",
            "is missing");
        row("/takes/0/shots/0/skinMarks/0/box",
            "[1,2,3]",
            "takes[0].shots[0].skinMarks[0].box",
            "should be a list of 4");
        row("/version", "0", "version", "should be 1 or more");
    }
    void everyFieldNamesItsPlace() {
        QFETCH(QString, pointer);
        QFETCH(QString, value);
        QFETCH(QString, place);
        QFETCH(QString, reason);
        json document = json::parse(rig::jsonText(fullRig("/tmp")));
        document[json::json_pointer(pointer.toStdString())] = json::parse(value.toStdString());
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY(!parsed.has_value());
        const QString detail = QString::fromStdString(parsed.error().detail);
        QVERIFY2(detail.contains("\"" + place + "\""), qPrintable(detail));
        QVERIFY2(detail.contains(reason), qPrintable(detail));
    }
    void partsThatAreGoneDoNotComeBackByTheirUnknownKeys() {
        json document = json::parse(rig::jsonText(sim::clockBenchRig()));
        document["cameras"][0]["simulated"]["ofALaterProgram"] = 1;
        auto parsed = rig::parseRig(document.dump());
        QVERIFY(parsed.has_value());
        parsed->rig.cameras[0].simulated.reset();
        const auto again = rig::parseRig(rig::jsonText(parsed->rig));
        QVERIFY(again.has_value());
        QVERIFY(!again->rig.cameras[0].simulated);
    }
    /// docs/store-format.md names every key that the program writes.
    void everyKeyIsDocumented() {
        QFile doc(RIGMATCH_SOURCE_DIR "/docs/store-format.md");
        QVERIFY(doc.open(QIODevice::ReadOnly));
        const QString words = QString::fromUtf8(doc.readAll());
        QStringList missing;
        const std::function<void(const json&)> look = [&](const json& value) {
            for (const auto& [key, child] : value.items()) {
                const QString name = QString::fromStdString(key);
                if (value.is_object() && !words.contains("`" + name + "`") &&
                    !words.contains("`" + name + "[]`"))
                    missing << name;
                if (child.is_structured()) look(child);
            }
        };
        json document = json::parse(rig::jsonText(fullRig("/tmp")));
        document.erase("plan");  // its fields are those of plan_fields.cpp
        look(document);
        missing.removeDuplicates();
        QVERIFY2(missing.isEmpty(), qPrintable(missing.join(", ")));
    }
    /// An unknown setting is no key; a key that is missing, or null, is no setting.
    void unknownSettingsAreNotWritten() {
        rig::Rig rig = fullRig("/tmp");
        rig.cameras[0].settings = rig::unknownSettings();
        json document = json::parse(rig::jsonText(rig));
        QVERIFY(document["cameras"][0]["settings"].empty());
        QVERIFY(!document["takes"][0]["shots"][0]["settings"].contains("tintSteps"));
        document["cameras"][1]["settings"]["iso"] = nullptr;
        document["cameras"][1]["settings"].erase("profile");
        const auto again = rig::parseRig(document.dump());
        QVERIFY(again.has_value());
        QVERIFY(again->rig.cameras[0].settings == rig::unknownSettings());
        const rig::Settings& settings = again->rig.cameras[1].settings;
        QVERIFY(!settings.isoValue.isTold() && !settings.profile.isTold());
        QVERIFY(settings.fNumber.isTold());
    }
    void purposesAndSourcesAreChecked_data() {
        QTest::addColumn<QString>("place");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("said");
        QTest::newRow("no purpose") << "/takes/0/purposes"
                                    << "[]"
                                    << "one purpose at least";
        QTest::newRow("strange purpose") << "/takes/0/purposes"
                                         << "[\"lunch\"]"
                                         << "match, framing, timing";
        QTest::newRow("strange kind") << "/sources/0/kind"
                                      << "\"radio\""
                                      << "soundRecorder, switcher or computer";
        QTest::newRow("no id") << "/sources/0/id"
                               << "\"\""
                               << "is missing";
        QTest::newRow("a camera's id") << "/sources/0/id"
                                       << "\"camera-1\""
                                       << "two sources";
    }
    void purposesAndSourcesAreChecked() {
        QFETCH(QString, place);
        QFETCH(QString, value);
        QFETCH(QString, said);
        json document = json::parse(rig::jsonText(fullRig("/tmp")));
        if (value.contains("camera-1"))
            document[json::json_pointer(place.toStdString())] = document["cameras"][0]["id"];
        else
            document[json::json_pointer(place.toStdString())] = json::parse(value.toStdString());
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY(!parsed);
        const QString text = QString::fromStdString(parsed.error().detail);
        QVERIFY2(text.contains(said), qPrintable(text));
    }
    void newerVersionOpensReadOnly() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("new.rigmatch").toStdString();
        json document = json::parse(rig::jsonText(sim::clockBenchRig()));
        document["version"] = 7;
        QVERIFY(base::writeAtomically(file, document.dump()).has_value());
        const auto loaded = rig::loadRig(file);
        QVERIFY(loaded.has_value());
        QVERIFY(loaded->isReadOnly);
        QCOMPARE(loaded->rig.cameras.size(), std::size_t{4});
    }
    void everyTruncationIsRefusedInWords() {
        const std::string text = rig::jsonText(fullRig("/tmp"));
        for (std::size_t length = 0; length + 3 < text.size(); length += text.size() / 60) {
            const auto parsed = rig::parseRig(text.substr(0, length));
            QVERIFY(!parsed.has_value());
            QCOMPARE(parsed.error().code, base::ErrorCode::CorruptDocument);
            QVERIFY(!parsed.error().detail.empty() && !parsed.error().hint.empty());
        }
    }
    void wrongTypesNameTheirPlace_data() {
        QTest::addColumn<QString>("pointer");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("place");
        QTest::newRow("text for a number") << "/cameras/2/settings/iso"
                                           << "\"fast\""
                                           << "cameras[2].settings.iso";
        QTest::newRow("zero aperture") << "/cameras/0/settings/fNumber"
                                       << "0"
                                       << "cameras[0].settings.fNumber";
        QTest::newRow("object for a list") << "/cameras"
                                           << "{}"
                                           << "cameras";
        QTest::newRow("missing id") << "/cameras/1/id"
                                    << "\"\""
                                    << "cameras[1].id";
        QTest::newRow("two points") << "/takes/0/shots/0/manualCorners"
                                    << "[[1,2],[3,4]]"
                                    << "takes[0].shots[0].manualCorners";
        QTest::newRow("other document") << "/format"
                                        << "\"recipe\""
                                        << "format";
        QTest::newRow("twins") << "/cameras/1/id"
                               << "\"camera-1\""
                               << "cameras";
        QTest::newRow("wide angle of 400 degrees") << "/cameras/0/simulated/horizontalViewDegrees"
                                                   << "400"
                                                   << "cameras[0].simulated.horizontalViewDegrees";
    }
    void wrongTypesNameTheirPlace() {
        QFETCH(QString, pointer);
        QFETCH(QString, value);
        QFETCH(QString, place);
        json document = json::parse(rig::jsonText(fullRig("/tmp")));
        document[json::json_pointer(pointer.toStdString())] = json::parse(value.toStdString());
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY(!parsed.has_value());
        QVERIFY2(parsed.error().detail.find("\"" + place.toStdString() + "\"") != std::string::npos,
                 parsed.error().detail.c_str());
    }
    void missingMediaIsFoundAgainByName() {
        const QTemporaryDir folder;
        QVERIFY(QDir(folder.path()).mkpath("card/deep"));
        QVERIFY(base::writeAtomically(folder.filePath("card/deep/b.mov").toStdString(), "clip")
                    .has_value());
        const rig::Relinked relinked =
            rig::relinkMedia(fullRig("/gone"), folder.path().toStdString());
        QCOMPARE(relinked.found, 1);
        QCOMPARE(relinked.stillMissing, 2);
        // The same, for a rig that has moved on while the folder was looked through.
        rig::Rig moved = fullRig("/gone");
        moved.name = "moved on";
        rig::moveFiles(relinked.moved, moved);
        QCOMPARE(moved.takes[0].shots[0].media, relinked.rig.takes[0].shots[0].media);
        QCOMPARE(relinked.rig.takes[0].shots[0].media.filename().string(), std::string("b.mov"));
        QVERIFY(std::filesystem::exists(relinked.rig.takes[0].shots[0].media));
    }
    void journalGivesBackWhatWasNotSaved() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        QVERIFY(journal.write(rig, file).has_value());
        QVERIFY2(!journal.find(file), "the same as the file: nothing to recover");
        rig.name = "Changed after the save";
        QVERIFY(journal.write(rig, file).has_value());
        const auto recovery = journal.find(file);
        QVERIFY(recovery.has_value());
        QVERIFY(recovery->rig == rig);
        journal.remove(file);
        QVERIFY(!journal.find(file));
        QVERIFY(journal.write(rig, {}).has_value());
        QCOMPARE(journal.findAll().size(), std::size_t{1});
        QVERIFY(journal.findAll()[0].document.empty());
    }
    /// Rigs with a file and without one, changed one after the other: all are found again, the last
    /// first, until they are given up.
    void everyJournalIsFoundAtTheStart() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        std::vector<std::filesystem::path> files;
        for (const char* name : {"first.rigmatch", "second.rigmatch"}) {
            files.emplace_back(folder.filePath(name).toStdString());
            rig.name = name;
            QVERIFY(rig::saveRig(rig, files.back()).has_value());
            rig.name += " changed";
            QVERIFY(journal.write(rig, files.back()).has_value());
            QTest::qWait(20);
        }
        QVERIFY(journal.write(rig, {}).has_value());
        const auto all = journal.findAll();
        QCOMPARE(all.size(), std::size_t{3});
        QVERIFY(all[0].document.empty() && !all[0].savedAt);
        QCOMPARE(all[1].document, files[1]);
        QVERIFY(all[1].savedAt && *all[1].savedAt <= all[1].changedAt);
        QCOMPARE(all[2].rig.name, std::string("first.rigmatch changed"));
        journal.discard(all[1]);
        QCOMPARE(journal.findAll().size(), std::size_t{2});
        journal.remove(files[0]);
        QCOMPARE(journal.findAll().size(), std::size_t{1});
    }
    /// A writer that has ended but was not yet cleared away by its parent (state Z) is gone; so is
    /// one whose number another process has got since.
    void endedProcessesDoNotHoldTheirJournals() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        rig.name = "Changed";
        const pid_t child = ::fork();
        if (child == 0) {
            (void)journal.write(rig, file);
            ::_exit(0);
        }
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal.pathFor(file)), 5000);
        siginfo_t ended;
        QCOMPARE(::waitid(P_PID, static_cast<id_t>(child), &ended, WEXITED | WNOWAIT), 0);
        QVERIFY2(journal.find(file), "a process in state Z counts as gone");
        ::waitpid(child, nullptr, 0);
        // This test's parent runs under another name; a running process of this name would be one
        // that started later: the number is that of a living child, the time is not.
        const pid_t other = ::fork();
        if (other == 0) {
            ::pause();
            ::_exit(0);
        }
        const std::string text =
            "rigmatch-journal " + std::to_string(other) + " 1\n" + rig::jsonText(rig);
        QVERIFY(base::writeAtomically(journal.pathFor(file), text).has_value());
        const bool isFound = journal.find(file).has_value();
        const std::string held =
            "rigmatch-journal " + std::to_string(other) + "\n" + rig::jsonText(rig);
        QVERIFY(base::writeAtomically(journal.pathFor(file), held).has_value());
        const bool isHeld = !journal.find(file).has_value();
        ::kill(other, SIGKILL);
        ::waitpid(other, nullptr, 0);
        QVERIFY2(isFound, "started at another time");
        QVERIFY2(isHeld, "a living process of this name keeps its journal");
    }
    void damagedJournalIsNotOffered() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.path().toStdString());
        QVERIFY(base::writeAtomically(journal.pathFor(file), "rigmatch-journal 1\n{ \"format\": ")
                    .has_value());
        QVERIFY(!journal.find(file));
    }
    /// A process that saves over and over is killed at a dozen moments; what was saved before is
    /// always whole.
    void killAtAnyMomentOfASaveLosesNothing() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        for (int round = 0; round < 12; ++round) {
            const pid_t writer = ::fork();
            if (writer == 0) {
                rig::Rig mine = rig;
                for (int i = 0;; ++i) {
                    mine.name = std::to_string(i);
                    if (!rig::saveRig(mine, file)) ::_exit(1);
                }
            }
            ::usleep(static_cast<useconds_t>(3000 + 2711 * round));
            ::kill(writer, SIGKILL);
            int status = 0;
            ::waitpid(writer, &status, 0);
            QVERIFY(WIFSIGNALED(status));
            const auto loaded = rig::loadRig(file);
            QVERIFY2(loaded.has_value(), loaded ? "" : base::fullText(loaded.error()).c_str());
            QCOMPARE(loaded->rig.cameras.size(), std::size_t{4});
        }
    }
    void unwritableFolderIsSaid() {
        const auto saved = rig::saveRig(sim::clockBenchRig(), "/proc/no/set.rigmatch");
        QVERIFY(!saved.has_value());
        QCOMPARE(saved.error().code, base::ErrorCode::WriteFailed);
        QVERIFY(saved.error().what.find("/proc/no/set.rigmatch") != std::string::npos);
    }
};

RIG_TEST(TestRigStore);
#include "test_rig_store.moc"
