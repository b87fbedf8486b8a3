// SPDX-License-Identifier: GPL-3.0-or-later
#include <QDir>
#include <QTemporaryDir>

#include <fstream>
#include <nlohmann/json.hpp>

#include "base/atomic_file.h"
#include "rig/bodies.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"
#include "support/full_rig.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using nlohmann::json;
using support::fullRig;

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
        QVERIFY(words::inEnglish(shots[1].reading->reason).find("24 patches") != std::string::npos);
        QCOMPARE(QString::fromStdString(words::inEnglish(shots[1].reading->hint)),
                 QString("Measure the shot again."));
    }
    void roundTripKeepsEverything() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        const auto loaded = rig::loadRig(file);
        QVERIFY2(loaded.has_value(), loaded ? "" : words::inEnglish(loaded.error()).c_str());
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
    /// What is said is kept as codes; what an older program wrote in words is shown as it is.
    void textsAreKeptAsCodes() {
        rig::Rig rig = fullRig("/tmp");
        const base::Text how = base::say(
            "some.code",
            {{"name", std::string("B")},
             {"stops", base::Number{-0.25, 2, true}},
             {"nan", base::Number{std::nan(""), 1}},
             {"part", base::say("other.code", {{"count", base::Number{3.0}}}) + base::asIs("x")}});
        rig.takes.front().shots.front().reading->warnings = {{"One", how, base::asIs("as it is")}};
        json document = json::parse(rig::jsonText(rig));
        const auto at = json::json_pointer("/takes/0/shots/0/reading/warnings/0");
        QCOMPARE(document[at]["hint"], json("as it is"));
        const auto parsed = rig::parseRig(document.dump());
        QVERIFY2(parsed.has_value(), parsed ? "" : words::inEnglish(parsed.error().detail).c_str());
        const auto& warning = parsed->rig.takes.front().shots.front().reading->warnings.front();
        QCOMPARE(warning.text.sayings().front().code, std::string("some.code"));
        QVERIFY(warning.text.has("other.code"));
        QCOMPARE(json::parse(rig::jsonText(parsed->rig)), document);
        // A file of version 1.
        document["version"] = 1;
        document[at]["text"] = "Cut at 90 %.";
        const auto older = rig::parseRig(document.dump());
        QVERIFY(older.has_value() && !older->isNewer());
        QVERIFY(older->rig.takes.front().shots.front().reading->warnings.front().text ==
                base::asIs("Cut at 90 %."));
        // And one of version 2: why there is no chart, or why a file could not be read, is words.
        document = json::parse(rig::jsonText(rig));
        document["version"] = 2;
        const auto shot = json::json_pointer("/takes/0/shots/0");
        document[shot]["failure"] = "Cannot read b.mov.";
        document[shot]["reading"]["chart"]["reason"] = "No grid of patches was seen.";
        const auto second = rig::parseRig(document.dump());
        QVERIFY(second.has_value() && !second->isNewer());
        const rig::Shot& old = second->rig.takes.front().shots.front();
        QVERIFY(old.failure == base::asIs("Cannot read b.mov."));
        QVERIFY(old.reading->reason == base::asIs("No grid of patches was seen."));
        // What a later program put there comes back, and what only looks like it spoils no file.
        const json unlike = {{"c", 1}};
        const json only = json::array({"later.value", {{"json", "no JSON"}}});
        const json arguments = {{"b", unlike}, {"d", json::array({only})}};
        document[at]["text"] = json::array({json::array({"a", arguments})});
        const auto later = rig::parseRig(document.dump());
        QVERIFY(later.has_value());
        QCOMPARE(json::parse(rig::jsonText(later->rig))[at]["text"], document[at]["text"]);
        // Neither shape: refused with its place. Too deep: refused, not followed.
        std::string deep = "[]";
        for (int i = 0; i < 30; ++i) deep = "[[\"a\",{\"b\":" + deep + "}]]";
        for (const json& broken : {json(7),
                                   json::parse(R"([["a"]])"),
                                   json::parse(deep),
                                   json::parse(R"([["a",{"b":[1,99,false]}]])")}) {
            document[at]["text"] = broken;
            const auto refused = rig::parseRig(document.dump());
            QVERIFY(!refused.has_value());
            QVERIFY(words::inEnglish(refused.error().detail).find("warnings[0].text") !=
                    std::string::npos);
        }
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
        QVERIFY2(parsed.has_value(), parsed ? "" : words::inEnglish(parsed.error().detail).c_str());
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
        const QString detail = QString::fromStdString(words::inEnglish(parsed.error().detail));
        QVERIFY2(detail.contains("\"" + place + "\""), qPrintable(detail));
        QVERIFY2(detail.contains(reason), qPrintable(detail));
    }
    void partsThatAreGoneDoNotComeBackByTheirUnknownKeys() {
        json document = json::parse(rig::jsonText(support::demoRig()));
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
        // What stands in a text has the names of its code.
        const auto isSaying = [](const json& value) {
            return value.is_array() && value.size() == 2 && value[0].is_string() &&
                   value[1].is_object();
        };
        const std::function<void(const json&)> look = [&](const json& value) {
            if (isSaying(value)) return;
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
        const QString text = QString::fromStdString(words::inEnglish(parsed.error().detail));
        QVERIFY2(text.contains(said), qPrintable(text));
    }
    void newerVersionOpensReadOnly() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("new.rigmatch").toStdString();
        json document = json::parse(rig::jsonText(support::demoRig()));
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
        QVERIFY2(words::inEnglish(parsed.error().detail).find("\"" + place.toStdString() + "\"") !=
                     std::string::npos,
                 words::inEnglish(parsed.error().detail).c_str());
    }
    void missingMediaIsFoundAgainByName() {
        const QTemporaryDir folder;
        QVERIFY(QDir(folder.path()).mkpath("card/deep"));
        QVERIFY(base::writeAtomically(folder.filePath("card/deep/b.mov").toStdString(), "clip")
                    .has_value());
        // Whose content is not known is found by its name alone.
        rig::Rig gone = fullRig("/gone");
        gone.takes[0].shots[0].reading->identity.clear();
        const rig::Relinked relinked = rig::relinkMedia(gone, folder.path().toStdString());
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
    void unwritableFolderIsSaid() {
        const auto saved = rig::saveRig(support::demoRig(), "/proc/no/set.rigmatch");
        QVERIFY(!saved.has_value());
        QCOMPARE(saved.error().code, base::ErrorCode::WriteFailed);
        QVERIFY(words::inEnglish(saved.error().what).find("/proc/no/set.rigmatch") !=
                std::string::npos);
    }
};

RIG_TEST(TestRigStore);
#include "test_rig_store.moc"
