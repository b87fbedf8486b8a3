// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "jobs/measure_job.h"
#include "measure/measurer.h"
#include "rig/rig_store.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

constexpr const char* kAsked = "classic-24";

/// A reading by today's measurers of the file that a shot names.
rig::Observation measuredFrom(const rig::Shot& shot, int newer = 0) {
    rig::Shot measured = shot;
    rig::Reading reading = support::idealReading({});
    reading.identity = rig::identityOf(shot);
    for (const auto& kind : measure::measurerKinds())
        reading.measuredBy.push_back({kind.name, kind.version + newer, {}});
    reading.sync.emplace();
    reading.sync->against = "/reference.mov";
    measured.reading = reading;
    rig::Observation observation = rig::observed(measured, kAsked);
    observation.isoValue = 1600.0;
    return observation;
}

}  // namespace

/// Files that no reader understands: only what was measured before can tell anything of them.
class TestKnownContent : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theSameContentIsNotMeasuredAgain() {
        const rig::Shot before = shotOf("card/A001.mov", "content"),
                        copied = shotOf("drive/renamed.mov", "content");
        rig::Observations all;
        all.add(measuredFrom(before));
        const auto known = all.correctedAlike(copied, kAsked);
        QCOMPARE(known.size(), std::size_t{1});
        const auto measured = jobs::measureShot(copied, {std::string(kAsked)}, {}, known);
        QVERIFY(measured.shot.reading && measured.shot.reading->hasChart);
        QVERIFY(measured.shot.failure.empty());
        QCOMPARE(measured.shot.media, copied.media);
        QVERIFY(measured.recorded.isoValue && *measured.recorded.isoValue == 1600.0);
        // Where it lies against others is another question there.
        QVERIFY(!measured.shot.reading->sync);
    }
    void otherContentOrOtherCorrectionsAreMeasured() {
        const rig::Shot before = shotOf("card/A001.mov", "content");
        rig::Observations all;
        all.add(measuredFrom(before));
        const rig::Shot other = shotOf("drive/A001.mov", "other content");
        auto measured =
            jobs::measureShot(other, {std::string(kAsked)}, {}, all.correctedAlike(other, kAsked));
        QVERIFY(!measured.shot.reading && !measured.shot.failure.empty());
        rig::Shot corrected = shotOf("drive/B.mov", "content");
        corrected.rangeOverride = "full";
        QVERIFY(all.correctedAlike(corrected, kAsked).empty());
        QVERIFY(all.correctedAlike(before, "no chart").empty());
    }
    /// What another version of a measurer said may be told otherwise today.
    void anotherVersionsMeasurementIsNotTakenOver() {
        const rig::Shot before = shotOf("card/A001.mov", "content"),
                        copied = shotOf("drive/A001.mov", "content");
        const auto measured =
            jobs::measureShot(copied, {std::string(kAsked)}, {}, {measuredFrom(before, 1)});
        QVERIFY(!measured.shot.reading);
    }
    /// A clip that was renamed is found by its content, and another clip that took its name is not.
    void renamedClipsAreFoundByContent() {
        rig::Shot gone = shotOf("wiped/A001.mov", "the clip");
        gone.reading = *measuredFrom(gone).reading;
        QVERIFY(QFile::remove(QString::fromStdString(gone.media.string())));
        (void)shotOf("archive/A001.mov", "not this!");  // as long, and of the same name
        const rig::Shot renamed = shotOf("archive/day 1/scene 4.mov", "the clip");
        rig::Rig rig;
        rig::Take take;
        take.id = "take-1";
        take.shots.push_back(gone);
        rig.takes.push_back(take);
        const auto relinked = rig::relinkMedia(rig, m_folder.filePath("archive").toStdString());
        QCOMPARE(relinked.found, 1);
        QCOMPARE(relinked.stillMissing, 0);
        QCOMPARE(relinked.rig.takes[0].shots[0].media.filename().string(),
                 renamed.media.filename().string());
    }

private:
    rig::Shot shotOf(const QString& name, const QByteArray& content) {
        QFile file(m_folder.filePath(name));
        QDir().mkpath(QFileInfo(file).path());
        if (file.open(QIODevice::WriteOnly)) file.write(content);
        rig::Shot shot;
        shot.cameraId = "camera-1";
        shot.media = file.fileName().toStdString();
        return shot;
    }
    QTemporaryDir m_folder;
};

RIG_TEST(TestKnownContent);
#include "test_known_content.moc"
