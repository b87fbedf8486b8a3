// SPDX-License-Identifier: GPL-3.0-or-later
// What the screen Compare rests on: frames at a stage, people by place, and the table of facts; on
// the demo's own footage and readings.
#include "jobs/compare_job.h"
#include "jobs/match_job.h"
#include "jobs/people_job.h"
#include "rig/rig_store.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/reading_facts.h"

using namespace rigmatch;

namespace {

const std::string kRig = RIGMATCH_SOURCE_DIR "/demo/clock-bench/clock-bench.rigmatch";

rig::FaceReading faceAt(double x, double y) {
    rig::FaceReading face;
    face.leftEye = {x + 20, y};
    face.rightEye = {x - 20, y};
    return face;
}

const words::FactRow* rowOf(const words::FactTable& table, const std::string& key) {
    for (const words::FactRow& row : table.rows) {
        if (row.key == key) return &row;
    }
    return nullptr;
}

}  // namespace

class TestCompareJob : public QObject {
    Q_OBJECT
    rig::Rig m_rig;
    match::MatchReport m_report;

private Q_SLOTS:
    void initTestCase() {
        auto loaded = rig::loadRig(kRig);
        QVERIFY(loaded.has_value());
        m_rig = loaded->rig;
        QVERIFY(!m_rig.takes.empty());
        m_report = jobs::matchReport(m_rig, m_rig.takes.back());
    }
    /// The patches of the predicted stage are those that the match predicts.
    void afterTurnsMeetsThePrediction() {
        const match::CameraMatch& b = m_report.cameras[1];
        const auto stage = jobs::StageMap::afterTurns(b);
        QVERIFY(!stage.isIdentity());
        const auto patches = jobs::patchesAt(*m_rig.takes.back().shots[1].reading, stage);
        for (std::size_t i = 0; i < patches.size(); ++i) {
            for (std::size_t c = 0; c < 3; ++c)
                QVERIFY(std::abs(patches[i][c] - b.plan.after[i][c]) < 5e-4);
        }
        QVERIFY(jobs::StageMap::afterTurns(m_report.cameras[0]).isIdentity());
    }
    /// A frame read at a place agrees with the patch that was measured there.
    void signalAtMeetsThePatch() {
        const rig::Shot& shot = m_rig.takes.back().shots[0];
        const auto frame =
            jobs::ComparedFrame::load(shot.media,
                                      jobs::secondsOf(*shot.reading, jobs::Moment::Chart),
                                      jobs::codeReading(shot));
        QVERIFY(frame.has_value());
        const rig::PatchReading& grey = shot.reading->patches[20];
        const auto signal = frame->signalAt(grey.centre.x, grey.centre.y, 3, {});
        QVERIFY(signal.has_value());
        for (std::size_t c = 0; c < 3; ++c)
            QVERIFY(std::abs(signal->signal[c] - grey.signal[c]) < 0.01);
        QVERIFY(signal->lumaUncertainty > 0.0 && signal->lumaUncertainty < 0.5);
        QVERIFY(std::abs(signal->lumaPercent - 100.0 * match::lumaOf(signal->signal)) < 1e-6);
        // Across the border of two patches the mean depends on the very place: that is said.
        const auto& beside = shot.reading->patches[21];
        const auto border = frame->signalAt(0.5 * (grey.centre.x + beside.centre.x),
                                            0.5 * (grey.centre.y + beside.centre.y),
                                            20,
                                            {});
        QVERIFY(border && border->lumaUncertainty > 2.0 * signal->lumaUncertainty);
        QVERIFY(!frame->signalAt(-5.0, 10.0, 2, {}).has_value());
        QVERIFY(!frame->signalAt(1e9, 10.0, 2, {}).has_value());
        const jobs::Picture picture = frame->picture({});
        QCOMPARE(picture.rgb.size(),
                 static_cast<std::size_t>(frame->width()) *
                     static_cast<std::size_t>(frame->height()) * 3);
    }
    /// Scopes of the predicted stage are those of the changed picture.
    void scopesFollowTheStage() {
        const rig::Shot& shot = m_rig.takes.back().shots[1];
        const auto frame =
            jobs::ComparedFrame::load(shot.media,
                                      jobs::secondsOf(*shot.reading, jobs::Moment::Chart),
                                      jobs::codeReading(shot));
        const auto stage = jobs::StageMap::afterTurns(m_report.cameras[1]);
        const rig::PatchReading& grey = shot.reading->patches[20];
        const scope::ScopeOptions there{
            image::PixelRect{int(grey.centre.x) - 5, int(grey.centre.y) - 5, 10, 10}, 0};
        const auto levelOf = [&](const jobs::StageMap& map) {
            const auto histogram = frame->histogram(there, map);
            double sum = 0.0;
            for (std::size_t i = 0; i < histogram->luma.size(); ++i)
                sum += histogram->luma[i] * histogram->scale.signalOf(double(i));
            return sum / double(histogram->pixels);
        };
        const auto luma = [](const std::array<double, 3>& s) {
            return 0.2126 * s[0] + 0.7152 * s[1] + 0.0722 * s[2];
        };
        QVERIFY(std::abs(levelOf({}) - luma(grey.signal)) < 0.01);
        QVERIFY(std::abs(levelOf(stage) - luma(stage.apply(grey.signal))) < 0.01);
        QVERIFY(frame->waveform(scope::WaveformKind::Parade, there, stage).has_value());
        QVERIFY(frame->vectorscope(there, stage).has_value());
        QVERIFY(
            !frame->waveform(scope::WaveformKind::Luma, {image::PixelRect{0, 0, 99999, 5}, 0}, {})
                 .has_value());
    }
    void missingFilesAreSaid() {
        const auto frame = jobs::ComparedFrame::load("/nowhere/x.mov", 0.0, {});
        QVERIFY(!frame.has_value());
        QVERIFY(!jobs::StageMap::throughLut("/nowhere/x.cube").has_value());
    }

    /// By the plan the wide camera's faces belong to both people, the close ones' to one each.
    void peopleAreToldApartByPlace() {
        const match::People people = jobs::peopleOf(m_rig, m_rig.takes.back());
        QCOMPARE(people.size(), std::size_t{2});
        QCOMPARE(people[0].name, std::string("restorer"));
        const std::string a = m_rig.cameras[0].id;
        QVERIFY(people[0].faces.contains(a) && people[1].faces.contains(a));
        QVERIFY(people[0].faces.at(a) != people[1].faces.at(a));
        QVERIFY(people[0].faces.contains(m_rig.cameras[1].id));
        QVERIFY(!people[1].faces.contains(m_rig.cameras[1].id));
        QVERIFY(people[1].faces.contains(m_rig.cameras[2].id));
    }
    void withoutAPlanPeopleAreCounted() {
        rig::Rig rig = m_rig;
        rig.plan.reset();
        rig::Take take = m_rig.takes.back();
        for (rig::Shot& shot : take.shots) shot.reading = rig::Reading{};
        take.shots[0].reading->faces = {faceAt(100, 100), faceAt(300, 100)};
        take.shots[1].reading->faces = {faceAt(50, 90), faceAt(400, 80)};
        take.shots[2].reading->faces = {faceAt(50, 90)};
        const match::People people = jobs::peopleOf(rig, take);
        QCOMPARE(people.size(), std::size_t{2});
        QCOMPARE(people[1].name, std::string("person 2"));
        QCOMPARE(people[1].faces.at(rig.cameras[1].id), std::size_t{1});
        // One face of two: nobody can tell whose.
        QVERIFY(!people[0].faces.contains(rig.cameras[2].id));
        for (rig::Shot& shot : take.shots) shot.reading->faces.clear();
        QVERIFY(jobs::peopleOf(rig, take).empty());
    }

    void factsNameEveryQuantityOnce() {
        const words::FactTable table = words::readingFacts(m_rig, m_rig.takes.back(), m_report);
        QCOMPARE(table.cameraIds.size(), std::size_t{4});
        QSet<QString> seen;
        for (const words::FactRow& row : table.rows) {
            QCOMPARE(row.cells.size(), std::size_t{4});
            QVERIFY(!row.title.empty() && !row.help.empty() && !row.group.empty());
            const QString name = QString::fromStdString(row.group + row.key);
            QVERIFY2(!seen.contains(name), qPrintable(name));
            seen.insert(name);
            for (const words::FactCell& cell : row.cells) {
                QVERIFY(!cell.text.empty());
                if (cell.text == "unknown") QVERIFY2(!cell.why.empty(), row.key.c_str());
            }
        }
        const words::FactRow* kind = rowOf(table, "profileClass");
        QCOMPARE(kind->cells[0].text, std::string("finished"));
        // The key lamp stands to the left of the bench: the chart's right side gets less light.
        const words::FactRow* fall = rowOf(table, "lightAcrossStops");
        for (const words::FactCell& cell : fall->cells) QVERIFY(*cell.value < -0.1);
        QCOMPARE(rowOf(table, "redSaturation")->cells[0].text, std::string("reference"));
        QCOMPARE(rowOf(table, "redHue")->cells[0].text, std::string("reference"));
        // One number a cell, each with its own verdict.
        for (const char* key : {"blueSaturation", "blueHue"}) {
            const words::FactCell& cell = rowOf(table, key)->cells[1];
            QVERIFY(cell.value && cell.uncertainty > 0.0);
            QVERIFY(cell.text.find(',') == std::string::npos);
        }
    }
    void aReadingAloneHasNoVerdicts() {
        const words::FactTable table = words::readingFacts(*m_rig.takes.back().shots[1].reading);
        QVERIFY(rowOf(table, "noiseGreyPercent")->cells[0].value.has_value());
        QCOMPARE(rowOf(table, "noiseGreyPercent")->cells[0].verdict, match::Verdict::Good);
        QVERIFY(rowOf(table, "redSaturation") == nullptr);
        const words::FactTable none = words::readingFacts(rig::Reading{});
        for (const words::FactRow& row : none.rows)
            QCOMPARE(row.cells[0].text, std::string("unknown"));
    }
};

RIG_TEST(TestCompareJob);
#include "test_compare_job.moc"
