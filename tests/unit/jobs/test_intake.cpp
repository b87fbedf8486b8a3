// SPDX-License-Identifier: GPL-3.0-or-later
#include <QDir>
#include <QFile>
#include <QTemporaryDir>

#include "jobs/intake_job.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "support/wav_file.h"

using namespace rigmatch;

class TestIntake : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void initTestCase() {
        m_still = m_folder.filePath("still.png");
        QVERIFY(support::runFfmpeg(
            {"-f", "lavfi", "-i", "color=gray:size=64x64", "-frames:v", "1", m_still}));
    }
    void namesDecideTheOrder_data() {
        QTest::addColumn<QStringList>("names");
        QTest::addColumn<QStringList>("order");
        QTest::newRow("letters") << QStringList{"x_C.png", "cam-a.png", "B_0012.png"}
                                 << QStringList{"cam-a.png", "B_0012.png", "x_C.png"};
        QTest::newRow("numbers") << QStringList{"clip10.png", "clip9.png", "clip100.png"}
                                 << QStringList{"clip9.png", "clip10.png", "clip100.png"};
        QTest::newRow("letters before others")
            << QStringList{"bench.png", "B.png"} << QStringList{"B.png", "bench.png"};
    }
    void namesDecideTheOrder() {
        QFETCH(QStringList, names);
        QFETCH(QStringList, order);
        const QString folder = fresh();
        std::vector<std::filesystem::path> dropped;
        for (const QString& name : names) {
            put(folder + name);
            dropped.push_back((folder + name).toStdString());
        }
        const auto intake = jobs::intakeOf(dropped);
        QVERIFY(intake.has_value());
        QStringList got;
        for (const auto& camera : intake->cameras)
            got << QString::fromStdString(camera.file.filename().string());
        QCOMPARE(got, order);
        // The same as one folder.
        const auto whole = jobs::intakeOf({folder.toStdString()});
        QCOMPARE(whole->cameras.size(), intake->cameras.size());
    }
    /// Cards as cameras write them: clips some folders deep, of each card the newest.
    void aFolderPerCamera() {
        const QString folder = fresh();
        for (const char* name :
             {"left/DCIM/100/old.png", "left/DCIM/100/new.png", "overhead/PRIVATE/CLIP/one.png"})
            put(folder + name);
        QFile old(folder + "left/DCIM/100/old.png");
        QVERIFY(old.open(QIODevice::ReadWrite));
        QVERIFY(old.setFileTime(QDateTime::currentDateTime().addDays(-1),
                                QFileDevice::FileModificationTime));
        old.close();
        for (const auto& dropped :
             {std::vector<std::filesystem::path>{folder.toStdString()},
              std::vector<std::filesystem::path>{(folder + "left").toStdString(),
                                                 (folder + "overhead").toStdString()}}) {
            const auto intake = jobs::intakeOf(dropped);
            QVERIFY(intake.has_value());
            QCOMPARE(intake->cameras.size(), std::size_t{2});
            QCOMPARE(intake->cameras[0].role, std::string("left"));
            QCOMPARE(intake->cameras[0].file.filename().string(), std::string("new.png"));
            QCOMPARE(intake->cameras[1].role, std::string("overhead"));
            QCOMPARE(intake->olderOnCard.size(), std::size_t{1});
        }
    }
    void soundBecomesARecorder() {
        const QString folder = fresh();
        put(folder + "A.png");
        QVERIFY(
            support::writeWav(folder + "recorder_01.wav", {std::vector<float>(4800, 0.1F)}, 48000));
        const auto intake = jobs::intakeOf({folder.toStdString()});
        QVERIFY(intake.has_value());
        const rig::Rig rig = jobs::rigFrom({}, *intake, "2026-01-02T03:04:05");
        QCOMPARE(rig.cameras.size(), std::size_t{1});
        QCOMPARE(rig.sources.size(), std::size_t{1});
        QCOMPARE(rig.sources[0].name, std::string("recorder"));
        QCOMPARE(rig.takes.back().shots.size(), std::size_t{2});
        // What nobody told is unknown.
        QVERIFY(!rig.cameras[0].settings.isoValue.isTold());
        QVERIFY(!rig.cameras[0].settings.whiteBalanceKelvin.isTold());
    }
    void moreThanSixteenAndUnreadableAreLeftOut() {
        const QString folder = fresh();
        for (int i = 1; i <= 18; ++i) put(folder + QString("clip%1.png").arg(i));
        QFile bad(folder + "clip0.png");
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("no picture");
        bad.close();
        const auto intake = jobs::intakeOf({folder.toStdString()});
        QVERIFY(intake.has_value());
        QCOMPARE(intake->cameras.size(), rig::kMostCameras);
        QCOMPARE(intake->leftOut.size(), std::size_t{3});
    }
    void nothingToReadIsSaid() {
        const auto none = jobs::intakeOf({fresh().toStdString()});
        QVERIFY(!none);
        QVERIFY(!none.error().hint.empty());
        QVERIFY(!jobs::intakeOf({}));
        QVERIFY(!jobs::intakeOf({"/nowhere/at-all.mov"}));
    }

private:
    QString fresh() {
        const QString path = m_folder.filePath(QString::number(++m_count)) + "/";
        QDir().mkpath(path);
        return path;
    }
    void put(const QString& path) {
        QDir().mkpath(QFileInfo(path).path());
        QVERIFY(QFile::copy(m_still, path));
    }

    QTemporaryDir m_folder;
    QString m_still;
    int m_count = 0;
};

RIG_TEST(TestIntake);
#include "test_intake.moc"
