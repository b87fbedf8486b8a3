// SPDX-License-Identifier: GPL-3.0-or-later
#include <set>
#include <utility>

#include "rig/observations.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

rig::Shot shotOf(const std::string& file) {
    rig::Shot shot;
    shot.cameraId = "a";
    shot.media = file;
    return shot;
}

rig::Rig rigWith(const std::vector<rig::Shot>& shots) {
    rig::Rig rig;
    for (const rig::Shot& shot : shots) {
        rig::Take take;
        take.id = rig::freshTakeId(rig);
        take.shots.push_back(shot);
        rig.takes.push_back(take);
    }
    return rig;
}

rig::Observation measuredAt(const rig::Shot& shot,
                            double stops,
                            const std::string& chart = "classic-24") {
    support::IdealCamera ideal;
    ideal.exposureStops = stops;
    rig::Shot measured = shot;
    measured.reading = support::idealReading(ideal);
    return rig::observed(measured, chart);
}

double greenOf(const rig::Rig& rig, std::size_t take) {
    const rig::Shot& shot = rig.takes[take].shots[0];
    return shot.reading ? shot.reading->patches[20].signal[1] : 0.0;
}

}  // namespace

class TestObservations : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Whatever a measurement rests on makes another text; what it does not rest on makes none.
    void everyHandCorrectionIsAnotherMeasurement() {
        const rig::Shot plain = shotOf("/a.mov");
        std::set<std::string> texts{rig::restsOn(plain, "classic-24"),
                                    rig::restsOn(plain, "grey-card")};
        rig::Shot changed = plain;
        changed.rangeOverride = "full";
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed = plain;
        changed.isWholeWanted = true;
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed = plain;
        changed.matrixOverride = "bt601";
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed = plain;
        changed.manualCorners = rig::PictureQuad{{{1, 2}, {3, 4}, {5, 6}, {7, 8}}};
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed.manualCorners->at(2).y += 0.1;
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed.cornersAtSeconds = 1.5;
        texts.insert(rig::restsOn(changed, "classic-24"));
        changed = plain;
        changed.skinMarks = {{10, 20, 30, 40, 0.5}};
        texts.insert(rig::restsOn(changed, "classic-24"));
        texts.insert(rig::restsOn(shotOf("/b.mov"), "classic-24"));
        QCOMPARE(texts.size(), std::size_t{10});
        changed = plain;
        changed.settings.isoValue = 12800.0;
        changed.primariesOverride = "bt2020";  // a matter of the match, not of measuring
        QCOMPARE(rig::restsOn(changed, "classic-24"), rig::restsOn(plain, "classic-24"));
    }
    void aCorrectionTakenBackFindsTheOlderMeasurement() {
        const rig::Shot plain = shotOf("/a.mov");
        rig::Shot corrected = plain;
        corrected.rangeOverride = "full";
        rig::Observations all;
        all.add(measuredAt(plain, 0.0));
        all.add(measuredAt(corrected, 0.7));
        rig::Rig rig = rigWith({corrected});
        all.putInto(rig, {});
        const double full = greenOf(std::as_const(rig), 0);
        rig.takes[0].shots[0].rangeOverride.clear();
        all.putInto(rig, {});
        const double limited = greenOf(std::as_const(rig), 0);
        QVERIFY(full > limited + 0.05);
        rig.takes[0].shots[0].rangeOverride = "full";
        all.putInto(rig, {});
        QCOMPARE(greenOf(std::as_const(rig), 0), full);
    }
    /// What the rig on the screen shares with the one that is put in holds it already: it is not
    /// looked at, and stays the very same take.
    void sharedTakesStayShared() {
        const rig::Shot first = shotOf("/a.mov"), second = shotOf("/b.mov");
        rig::Observations all;
        rig::Rig known = rigWith({first, second});
        all.add(measuredAt(first, 0.0));
        all.putInto(known, {});
        rig::Rig next = known;
        next.takes[1].shots[0].rangeOverride = "full";
        const auto before = next.takes.share(0);
        all.putInto(next, known);
        QVERIFY(next.takes.share(0) == before);
        QVERIFY(next.takes.share(0) == known.takes.share(0));
        QVERIFY(!std::as_const(next).takes[1].shots[0].reading);
    }
    /// Another reference on the set asks for every measurement anew.
    void anotherChartAsksForOtherMeasurements() {
        const rig::Shot shot = shotOf("/a.mov");
        rig::Observations all;
        all.add(measuredAt(shot, 0.0));
        all.add(measuredAt(shot, 0.5, "strip-24"));
        rig::Rig known = rigWith({shot});
        all.putInto(known, {});
        rig::Rig next = known;
        next.chart = "strip-24";
        all.putInto(next, known);
        QVERIFY(greenOf(std::as_const(next), 0) > greenOf(std::as_const(known), 0) + 0.02);
    }
    /// What a file tells of its settings goes over what was assumed; a failure is kept as well.
    void settingsAndFailuresComeWithIt() {
        rig::Shot shot = shotOf("/a.mov");
        shot.settings.isoValue = 100.0;
        shot.settings.fNumber = 4.0;
        rig::Observation observation = measuredAt(shot, 0.0);
        observation.isoValue = 640.0;
        observation.isIsoRecorded = true;
        rig::putInto(observation, shot);
        QCOMPARE(shot.settings.isoValue, 640.0);
        QCOMPARE(shot.settings.fNumber, 4.0);
        QVERIFY(shot.isIsoRecorded && shot.reading);
        observation.reading.reset();
        observation.failure = base::asIs("Cannot read a.mov.");
        rig::putInto(observation, shot);
        QVERIFY(!shot.reading);
        QVERIFY(shot.failure == base::asIs("Cannot read a.mov."));
    }
    void aRigFromItsFileIsKnown() {
        rig::Shot shot = shotOf("/a.mov");
        shot.reading = support::idealReading({});
        const rig::Rig rig = rigWith({shot, shotOf("/never-measured.mov")});
        rig::Observations all;
        all.addAll(rig);
        QVERIFY(all.find(rig::restsOn(shot, rig.chart)) != nullptr);
        QVERIFY(all.find(rig::restsOn(shotOf("/never-measured.mov"), rig.chart)) == nullptr);
        all.clear();
        QVERIFY(all.find(rig::restsOn(shot, rig.chart)) == nullptr);
    }
};

RIG_TEST(TestObservations);
#include "test_observations.moc"
