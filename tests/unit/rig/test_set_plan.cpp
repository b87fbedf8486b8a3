// SPDX-License-Identifier: GPL-3.0-or-later
#include <limits>
#include <nlohmann/json.hpp>
#include <set>

#include "plan/layouts.h"
#include "rig/plan_fields.h"
#include "rig/rig_json.h"
#include "rig/user_files.h"
#include "sim/clock_bench.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using namespace rigmatch::rig;
using nlohmann::json;

namespace {

Rig demo() { return sim::clockBenchRig(); }

}  // namespace

/// The plan as values and as a file: what is allowed, and that nothing is lost.
class TestSetPlan : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

private Q_SLOTS:
    void theDemoAndAllLayoutsHold() {
        QVERIFY(checkPlan(*demo().plan));
        for (const Layout& layout : plan::builtInLayouts()) {
            const auto valid = checkPlan(layout.plan);
            QVERIFY2(valid.has_value(), layout.title.c_str());
        }
    }
    void everyKindHasFieldsWithRangeAndReason() {
        for (const PlanKind kind : kPlanKinds) {
            QCOMPARE(kindOfName(kindName(kind)), std::optional(kind));
            std::set<std::string> keys;
            for (const auto& field : planFields(kind).numbers) {
                QVERIFY2(keys.insert(field.key).second, field.key);
                QVERIFY(field.lowest < field.highest);
                for (const base::Text& said : {field.title, field.reason})
                    QVERIFY2(!words::inEnglish(said).starts_with('['), field.key);
                PlanObject object;
                QVERIFY(checkField(field, field.lowest) && checkField(field, field.highest));
                QVERIFY(!checkField(field, field.highest + 1.0 + std::abs(field.highest)));
                QVERIFY(!checkField(field, std::numeric_limits<double>::quiet_NaN()));
                QVERIFY(!checkField(field, std::numeric_limits<double>::infinity()));
            }
        }
        QVERIFY(!kindOfName("spaceship"));
    }
    void refusalsNameValueRangeAndReason() {
        for (const auto& field : planFields(PlanKind::Light).numbers) {
            if (std::string(field.key) != "kelvin") continue;
            const auto refused = checkField(field, 900.0);
            QCOMPARE(
                words::inEnglish(refused.error().detail),
                std::string("900 K was given; allowed is 1500 to 20000 K (a candle has 1850 K, "
                            "blue sky up to 20 000 K)."));
        }
    }
    void camerasOutsideTheWallsAreRefused() {
        SetPlan plan = *demo().plan;
        findPlanCamera(plan, "camera-1")->xMetres = 9.0;
        const auto refused = checkPlan(plan);
        QCOMPARE(words::inEnglish(refused.error().what), std::string("Cannot place wide front"));
        QCOMPARE(words::inEnglish(refused.error().detail),
                 std::string("It would stand 9 m from the left wall; the room is 5.2 m wide."));
        plan = *demo().plan;
        findPlanCamera(plan, "camera-4")->heightMetres = 3.0;
        QVERIFY(words::inEnglish(checkPlan(plan).error().detail).find("the ceiling is at 2.7 m") !=
                std::string::npos);
    }
    void zeroDistancesThousandObjectsAndTwinsAreRefused() {
        SetPlan plan = *demo().plan;
        PlanObject& camera = *findPlanCamera(plan, "camera-1");
        camera.aimXMetres = camera.xMetres;
        camera.aimZMetres = camera.zMetres;
        camera.aimHeightMetres = camera.heightMetres;
        QVERIFY(words::inEnglish(checkPlan(plan).error().detail).find("Its aim is 0 m away") !=
                std::string::npos);
        plan = *demo().plan;
        plan.objects.push_back(plan.objects.front());
        QVERIFY(words::inEnglish(checkPlan(plan).error().detail).find("Two objects have the id") !=
                std::string::npos);
        plan = *demo().plan;
        for (int i = 0; i < 1000; ++i) {
            PlanObject flag = plan.objects.front();
            flag.id = "copy-" + std::to_string(i);
            plan.objects.push_back(flag);
        }
        QVERIFY(words::inEnglish(checkPlan(plan).error().detail).find("up to 200 are allowed") !=
                std::string::npos);
        plan = *demo().plan;
        findObject(plan, "light-1")->modifier = "magic";
        QVERIFY(words::inEnglish(checkPlan(plan).error().detail)
                    .find("\"magic\" was given; allowed are: none") != std::string::npos);
    }
    void roundTripKeepsPlanAndChoicesAndUnknownFields() {
        Rig rig = demo();
        rig.choices.look = "log";
        rig.choices.mainsHz = 60.0;
        json document = json::parse(jsonText(rig));
        document["plan"]["laterField"] = 7;
        document["plan"]["objects"][0]["laterToo"] = "x";
        document["choices"]["alsoLater"] = true;
        document["cameras"][0]["equipment"]["fan"] = "quiet";
        const auto parsed = parseRig(document.dump());
        QVERIFY(parsed.has_value());
        QCOMPARE(parsed->rig.choices.look, std::string("log"));
        QVERIFY(parsed->rig.plan->objects[3] == rig.plan->objects[3]);
        const json again = json::parse(jsonText(parsed->rig));
        QCOMPARE(again["plan"]["laterField"].get<int>(), 7);
        QCOMPARE(again["plan"]["objects"][0]["laterToo"].get<std::string>(), std::string("x"));
        QVERIFY(again["choices"]["alsoLater"].get<bool>());
        QCOMPARE(again["cameras"][0]["equipment"]["fan"].get<std::string>(), std::string("quiet"));
    }
    void filesOfTheFirstSliceOpenWithoutAPlan() {
        json document = json::parse(jsonText(demo()));
        document.erase("plan");
        document.erase("choices");
        for (json& camera : document["cameras"]) {
            camera.erase("equipment");
            camera.erase("sensorWidthMm");
            camera["settings"].erase("codec");
        }
        const auto parsed = parseRig(document.dump());
        QVERIFY(parsed && !parsed->rig.plan);
        QVERIFY(parsed->rig.choices == Choices{});
    }
    void damagedPlansAreRefusedWithTheirPlace_data() {
        QTest::addColumn<QString>("pointer");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("words");
        QTest::newRow("kind") << "/plan/objects/0/kind"
                              << "\"ghost\""
                              << "plan.objects[0].kind";
        QTest::newRow("number") << "/plan/objects/0/xMetres"
                                << "\"left\""
                                << "plan.objects[0].xMetres";
        QTest::newRow("outside") << "/plan/objects/0/xMetres"
                                 << "99"
                                 << "allowed is 0 to 60 m";
        QTest::newRow("lens") << "/plan/lenses/0/shortFocalMm"
                              << "0"
                              << "no possible lens";
        QTest::newRow("list") << "/plan/objects"
                              << "3"
                              << "should be a list";
        QTest::newRow("choice") << "/choices/mainsHz"
                                << "1e300"
                                << "choices.mainsHz";
        QTest::newRow("equipment") << "/cameras/0/equipment/cardGigabytes"
                                   << "-1"
                                   << "cardGigabytes";
        QTest::newRow("sensor") << "/cameras/0/sensorWidthMm"
                                << "0"
                                << "sensorWidthMm";
        QTest::newRow("codec") << "/cameras/0/controls/codecs/0/bitDepth"
                               << "3"
                               << "bitDepth";
    }
    void damagedPlansAreRefusedWithTheirPlace() {
        QFETCH(QString, pointer);
        QFETCH(QString, value);
        QFETCH(QString, words);
        json document = json::parse(jsonText(demo()));
        document[json::json_pointer(pointer.toStdString())] = json::parse(value.toStdString());
        const auto parsed = parseRig(document.dump());
        QVERIFY(!parsed);
        QVERIFY2(
            words::inEnglish(parsed.error().detail).find(words.toStdString()) != std::string::npos,
            words::inEnglish(parsed.error().detail).c_str());
    }
    void layoutsAreKeptAsFiles() {
        Layout layout = plan::builtInLayouts()[1];
        layout.title = "Our corner: evening / take 2";
        const std::string folder = m_folder.filePath("layouts").toStdString();
        const auto saved = saveLayout(layout, folder);
        QVERIFY(saved.has_value());
        QCOMPARE(saved->filename().string(), std::string("Our corner- evening - take 2.riglayout"));
        const auto loaded = loadLayout(*saved);
        QVERIFY(loaded && loaded->plan == layout.plan && loaded->title == layout.title);
        layout.title = " - ";
        QCOMPARE(words::inEnglish(saveLayout(layout, folder).error().hint),
                 std::string("Type a name."));
        QFile broken(m_folder.filePath("layouts/broken.riglayout"));
        QVERIFY(broken.open(QIODevice::WriteOnly) && broken.write("{\"format\": 3") > 0);
        broken.close();
        const auto all = loadLayouts(folder);
        QCOMPARE(all.values.size(), std::size_t{1});
        QCOMPARE(all.failures.size(), std::size_t{1});
        QCOMPARE(words::inEnglish(all.failures[0].what),
                 std::string("Cannot use broken.riglayout"));
        QVERIFY(loadLayouts("/nowhere").values.empty());
    }
    void templatesAreKeptAsFiles() {
        const std::string folder = m_folder.filePath("templates").toStdString();
        const BodyKind kind = templateOf(demo().cameras[3], "bench camera");
        const auto saved = saveTemplate(kind, folder);
        QVERIFY(saved.has_value());
        const auto loaded = loadTemplate(*saved);
        QVERIFY(loaded && *loaded == kind);
        QVERIFY(!loadLayout(*saved));
        QFile file(QString::fromStdString(saved->string()));
        QVERIFY(file.open(QIODevice::ReadOnly));
        json damaged = json::parse(file.readAll().toStdString());
        damaged["controls"]["iso"] = json::array();
        QFile out(m_folder.filePath("templates/none.rigcamera"));
        QVERIFY(out.open(QIODevice::WriteOnly) && out.write(damaged.dump().c_str()) > 0);
        out.close();
        QVERIFY(words::inEnglish(
                    loadTemplate(m_folder.filePath("templates/none.rigcamera").toStdString())
                        .error()
                        .detail)
                    .find("controls.iso") != std::string::npos);
    }
    void aLayoutTakesTheRigsOwnCameras() {
        const Layout& layout = plan::builtInLayouts()[1];
        Rig rig = withLayout(demo(), layout);
        QCOMPARE(rig.cameras.size(), std::size_t{4});
        QCOMPARE(rig.cameras[1].settings.isoValue, 800.0);
        QVERIFY(findPlanCamera(*rig.plan, "camera-1") && findPlanCamera(*rig.plan, "camera-3"));
        QVERIFY(!findPlanCamera(*rig.plan, "camera-4"));
        rig = withLayout(Rig{}, layout);
        QCOMPARE(rig.cameras.size(), std::size_t{3});
        QCOMPARE(rig.cameras[2].letter, std::string("C"));
        QVERIFY(parseRig(jsonText(rig)).has_value());
    }
    void variableAperturesCloseOverTheZoom() {
        const Lens lens{"zoom", 35.0, 3.5, 22.0, 16.0, 50.0, 5.6, 0.0};
        QCOMPARE(largestApertureAt(lens, 16.0), 3.5);
        QCOMPARE(largestApertureAt(lens, 50.0), 5.6);
        QCOMPARE(largestApertureAt(lens, 33.0), 4.55);
        QCOMPARE(largestApertureAt(Lens{}, 50.0), 1.8);
    }
    void cropsFollowTheFrameRate() {
        ControlSheet sheet;
        sheet.rateCrops = {{50.0, 1.25}, {100.0, 1.6}};
        QCOMPARE(cropAtRate(sheet, 25.0), 1.0);
        QCOMPARE(cropAtRate(sheet, 50.0), 1.25);
        QCOMPARE(cropAtRate(sheet, 120.0), 1.6);
    }
};

RIG_TEST(TestSetPlan);
#include "test_set_plan.moc"
