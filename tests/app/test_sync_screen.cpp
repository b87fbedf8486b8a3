// SPDX-License-Identifier: GPL-3.0-or-later
#include <QClipboard>
#include <QFile>
#include <QLabel>
#include <QPushButton>
#include <nlohmann/json.hpp>

#include "app/screens/sync/channel_cards.h"
#include "app/screens/sync/sync_screen.h"
#include "app/screens/sync/time_line.h"
#include "jobs/intake_job.h"
#include "jobs/measure_job.h"
#include "jobs/picture_job.h"
#include "media/media_reader.h"
#include "support/app_fixture.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/spoken_sound.h"
#include "support/test_list.h"
#include "support/wav_file.h"

using namespace rigmatch;
using support::child;

class TestSyncScreen : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Two cameras of which one shows every second frame twice, and a recorder; the speech begins
    /// at 2.0, 3.1 and 0.7 s of them.
    void initTestCase() {
        const QString speech = m_folder.filePath("speech.wav");
        QVERIFY(support::writeWav(speech, {support::spokenSound(3, 8.0, 16000.0)}, 16000));
        const auto clip = [&](const QString& name, const QString& rate, int delay) {
            return support::writeSoundClip(m_folder.filePath(name),
                                           "testsrc2=size=320x180:rate=25:duration=12," + rate,
                                           {"-i", speech},
                                           QString("adelay=%1,apad=whole_dur=12").arg(delay));
        };
        QVERIFY(clip("A_wide.mov", "fps=25", 2000));
        QVERIFY(clip("B_close.mov", "fps=50", 3100));
        QVERIFY(clip("B_wireless.mov", "fps=25", 2140));
        QVERIFY(support::runFfmpeg({"-i",
                                    speech,
                                    "-af",
                                    "adelay=700,apad=whole_dur=12",
                                    "-ar",
                                    "48000",
                                    m_folder.filePath("recorder.wav")}));
    }
    void init() {
        m_app = std::make_unique<support::AppFixture>();
        m_app->window->show();
    }
    void cleanup() { m_app.reset(); }

    void withoutFilesTheScreenSaysWhatToDo() {
        m_app->window->showScreen("sync");
        QVERIFY(child<QLabel>(window(), "syncEmptyLabel")->isVisible());
        QVERIFY(!child<QPushButton>(window(), "syncButton")->isEnabled());
        QVERIFY(!child<QPushButton>(window(), "exportSyncButton")->isEnabled());
    }
    void aTakeIsLaidOnOneClock() {
        open();
        QCOMPARE(controller().rows().size(), std::size_t{3});
        QVERIFY(!child<QLabel>(window(), "syncEmptyLabel")->isVisible());
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QVERIFY(child<QPushButton>(window(), "cancelSyncButton")->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        QCOMPARE(child<QLabel>(window(), "syncSummary")->text(),
                 QString("3 of 3 lie on one clock"));
        const auto& rows = controller().rows();
        // The recorder hears the speech first: it begins last.
        QVERIFY(std::abs(rows[1].startSeconds - 0.0) < 0.001);
        QVERIFY(std::abs(rows[0].startSeconds - 1.1) < 0.001);
        QVERIFY(std::abs(rows[2].startSeconds - 2.4) < 0.001);
        QVERIFY(app::offsetText(rows[1]).startsWith("+1100.0"));
        QVERIFY(app::offsetText(rows[2]).contains("by sound"));
        auto* line = child<app::TimeLine>(window(), "syncTimeLine");
        line->setFocus();
        QTest::keyClick(line, Qt::Key_Down);
        QCOMPARE(line->current(), 1);
        QVERIFY(child<QLabel>(window(), "syncTiming")->text().contains("every second frame"));
        QVERIFY(child<QLabel>(window(), "syncSound")->text().contains("dBFS"));
        if (const QString shot = qEnvironmentVariable("RIGMATCH_SHOT"); !shot.isEmpty()) {
            app::theme::apply(*qApp);
            m_app->window->resize(1280, 800);
            QTest::qWait(100);
            QVERIFY(m_app->window->grab().save(shot));
        }
    }
    /// A card for every channel, main and backup first; a click shows its source.
    void everyChannelHasACard() {
        open();
        // Before anything is laid on anything there is nothing to be main.
        const auto cards = [&] { return window()->findChildren<app::ChannelCard*>(); };
        const auto said = [&](const QString& what) {
            const auto all = cards();
            return std::count_if(all.begin(), all.end(), [&](const auto* card) {
                return card->accessibleName().contains(what);
            });
        };
        QCOMPARE(said("main"), 0);
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        std::size_t channels = 0;
        for (const auto& row : controller().rows()) channels += row.heard->channels.size();
        QCOMPARE(std::size_t(cards().size()), channels);
        QCOMPARE(said(", main"), 1);
        QCOMPARE(said(", backup"), 1);
        const auto* first = child<app::ChannelCard>(window(), "channelCard0");
        QVERIFY(first->accessibleName().contains("main"));
        QVERIFY(first->accessibleName().contains("dBFS"));
        auto* line = child<app::TimeLine>(window(), "syncTimeLine");
        const int row = controller().channels().back().row;
        line->setCurrent(row == 0 ? 1 : 0);
        auto* last = child<app::ChannelCard>(
            window(), qPrintable(QString("channelCard%1").arg(channels - 1)));
        QTest::mouseClick(last, Qt::LeftButton);
        QCOMPARE(line->current(), row);
    }
    void aCardSaysInShortWhatToDo_data() {
        QTest::addColumn<QString>("code");
        QTest::addColumn<double>("speech");
        QTest::addColumn<double>("peak");
        QTest::addColumn<QString>("words");
        QTest::newRow("good") << "good" << -20.0 << -9.0 << "good";
        QTest::newRow("high") << "good" << -20.0 << -4.0 << "good; peaks 2 dB high";
        QTest::newRow("low") << "quiet" << -41.0 << -26.0 << "△ 21 dB low";
        QTest::newRow("hot") << "hot" << -12.0 << -1.0 << "△ 8 dB too loud";
        QTest::newRow("clipped") << "clipped" << -8.0 << 0.0 << "▲ overdriven: turn it down";
        QTest::newRow("dead") << "dead" << -100.0 << -100.0 << "▲ hears nothing";
    }
    void aCardSaysInShortWhatToDo() {
        QFETCH(QString, code);
        QFETCH(double, speech);
        QFETCH(double, peak);
        app::SyncController::Channel channel;
        channel.name = "a very long name of a microphone that hangs over the bench";
        channel.isOnly = false;
        channel.index = 1;
        channel.report.code = code.toStdString();
        channel.report.speechDbfs = speech;
        channel.report.peakDbfs = peak;
        const app::ChannelCard card(channel, nullptr);
        QFETCH(QString, words);
        QCOMPARE(child<QLabel>(&card, "channelVerdict")->text(), words);
        const QString name = child<QLabel>(&card, "channelName")->text();
        QVERIFY2(name.endsWith(" · 2") && name.contains(u'…'), qPrintable(name));
    }
    /// What was found stands in the rig: it comes back from the file, makes no step, and undoing
    /// does not take it away.
    void whatWasFoundIsKeptInTheRig() {
        open();
        const int steps = m_app->document.undoStack().count();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        QCOMPARE(m_app->document.undoStack().count(), steps);
        const QString file = m_app->folder.filePath("kept.rigmatch");
        QVERIFY(m_app->document.saveAs(file).has_value());
        QFile text(file);
        QVERIFY(text.open(QIODevice::ReadOnly));
        QVERIFY(!text.readAll().contains("\"against\":\"/"));
        m_app->document.start(rig::Rig{});
        QVERIFY(!controller().hasReport());
        QVERIFY(m_app->document.open(file).has_value());
        QVERIFY(controller().hasReport());
        QVERIFY(app::offsetText(controller().rows()[1]).startsWith("+1100.0"));
        QVERIFY(child<QLabel>(window(), "syncMicrophones")->text().startsWith("Main: "));
    }
    /// Ten seconds of both pictures side by side, each at its own time of the same moment, with
    /// both sounds.
    void theCheckClipShowsBothAtOnce() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        child<app::TimeLine>(window(), "syncTimeLine")->setCurrent(1);
        const QString file = m_folder.filePath("check.mov");
        m_app->chooser.offsets = file;
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QVERIFY2(m_app->prompter.errors.isEmpty(), qPrintable(m_app->prompter.errors.join('\n')));
        media::ReaderOptions withSound;
        withSound.hasSound = true;
        auto clip = media::MediaReader::open(file.toStdString(), withSound);
        QVERIFY(clip.has_value());
        QCOMPARE(clip->info().width, 1280);
        QVERIFY(std::abs(clip->info().durationSeconds - 10.0) < 0.1);
        const auto frame = clip->next();
        QVERIFY(frame && *frame);
        const image::Frame shown = image::signalFrame(**frame);
        for (const auto& block : clip->takeSound()) QCOMPARE(block.channels.size(), std::size_t{2});
        // Both heard the same from 0 to 10.9 s of the reference; the middle ten are written.
        const double from = 0.5 * (0.0 + 10.9) - 5.0;
        const auto agrees = [&](const char* name, double seconds, int left) {
            const auto picture =
                jobs::pictureAt(m_folder.filePath(name).toStdString(), seconds + 0.001, {});
            double apart = 0.0;
            int count = 0;
            for (int y = 0; y < picture->height; y += 3)
                for (int x = 0; x < picture->width; x += 3, ++count) {
                    const int cx = left + (640 - picture->width) / 2 + x,
                              cy = (360 - picture->height) / 2 + y;
                    apart += std::abs(shown.at(1, cx, cy) -
                                      picture->rgb[std::size_t(3 * (y * picture->width + x) + 1)] /
                                          255.0);
                }
            return apart / count;
        };
        const double left = agrees("A_wide.mov", from, 0),
                     right = agrees("B_close.mov", from + 1.1, 640),
                     wrong = agrees("B_close.mov", from, 640);
        QVERIFY2(left < 0.03 && right < 0.03 && wrong > 2.0 * right,
                 qPrintable(QString("%1 %2 %3").arg(left).arg(right).arg(wrong)));
    }
    /// A recorder has no pictures: said, and nothing is left.
    void aCheckClipNeedsPictures() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        child<app::TimeLine>(window(), "syncTimeLine")->setCurrent(2);
        m_app->chooser.offsets = m_folder.filePath("none.mov");
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors.front().contains("has no pictures"));
        QVERIFY(!QFile::exists(m_folder.filePath("none.mov")));
        // Nor does it ever take the place of a recording.
        child<app::TimeLine>(window(), "syncTimeLine")->setCurrent(1);
        const QString recording = m_folder.filePath("B_close.mov");
        const qint64 size = QFileInfo(recording).size();
        m_app->chooser.offsets = recording;
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->prompter.errors.size(), 2);
        QVERIFY(m_app->prompter.errors.back().contains("Choose another name"));
        QCOMPARE(QFileInfo(recording).size(), size);
    }
    /// Twenty seconds with the reference left and the other right: both hear the same at once.
    void theCheckSoundHoldsBothAtOnce() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        auto* line = child<app::TimeLine>(window(), "syncTimeLine");
        line->setCurrent(2);
        m_app->chooser.offsets = m_folder.filePath("check.wav");
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QVERIFY(m_app->prompter.errors.isEmpty());
        QFile file(m_app->chooser.offsets);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray bytes = file.readAll().mid(44);
        QVERIFY(bytes.size() > 4 * 16000 * 5);
        const auto* samples = reinterpret_cast<const qint16*>(bytes.constData());
        double products = 0.0, left = 0.0, right = 0.0;
        for (qsizetype i = 0; i < bytes.size() / 4; ++i) {
            products += double(samples[2 * i]) * samples[2 * i + 1];
            left += double(samples[2 * i]) * samples[2 * i];
            right += double(samples[2 * i + 1]) * samples[2 * i + 1];
        }
        QVERIFY(products / std::sqrt(left * right) > 0.9);
    }
    /// The same is played on the spot, and stopped; without an output the button says that it
    /// cannot.
    void theTwoCanBeHeard() {
        open();
        auto* listen = child<QPushButton>(window(), "listenButton");
        QVERIFY(!listen->isEnabled());
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        child<app::TimeLine>(window(), "syncTimeLine")->setCurrent(2);
        QVERIFY(listen->isEnabled());
        QTest::mouseClick(listen, Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().isListening(), 60000);
        QVERIFY(QFileInfo(m_app->player->file).size() > 4 * 16000 * 5);
        QCOMPARE(listen->text().remove('&'), QString("Stop listening"));
        QTest::mouseClick(listen, Qt::LeftButton);
        QVERIFY(!controller().isListening());
        QCOMPARE(listen->text().remove('&'), QString("Listen"));
        m_app->player->hasOutput = false;
        child<app::TimeLine>(window(), "syncTimeLine")->setCurrent(1);
        QVERIFY(!listen->isEnabled());
    }
    /// Clips have pictures along their bar; a recorder has none.
    void clipsShowTheirPictures() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        QVERIFY(m_app->waitForJobs());
        const auto pictures = controller().strip(controller().rows()[0].file);
        QCOMPARE(pictures.size(), 12);
        QVERIFY(pictures[0] != pictures[11]);
        QVERIFY(controller().strip(controller().rows()[2].file).isEmpty());
    }
    void offsetsAreCopiedAndExported() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        QTest::mouseClick(child<QPushButton>(window(), "copyOffsetsButton"), Qt::LeftButton);
        QVERIFY(QApplication::clipboard()->text().contains("B_close.mov,0.00000,1100."));
        // The common edit list: B from its start at 0, A 1.1 s (27 frames) later.
        const QString list = exported("offsets.edl");
        QVERIFY2(list.contains("00:00:01:02 00:00:13:0"), qPrintable(list));
        QVERIFY(list.contains("* FROM CLIP NAME: A_wide.mov"));
        const auto timeline = nlohmann::json::parse(exported("offsets.otio").toStdString());
        QCOMPARE(timeline["OTIO_SCHEMA"].get<std::string>(), std::string("Timeline.1"));
        const auto& tracks = timeline["tracks"]["children"];
        QCOMPARE(tracks.size(), std::size_t{3});
        QCOMPARE(tracks[0]["children"][0]["OTIO_SCHEMA"].get<std::string>(), std::string("Gap.1"));
        QCOMPARE(tracks[1]["children"][0]["OTIO_SCHEMA"].get<std::string>(), std::string("Clip.1"));
        QCOMPARE(tracks[1]["kind"].get<std::string>(), std::string("Video"));
        QCOMPARE(tracks[2]["kind"].get<std::string>(), std::string("Audio"));
        m_app->chooser.offsets = m_folder.filePath("offsets.doc");
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QCOMPARE(m_app->prompter.errors.size(), 1);
    }
    /// Files that begin nearly at once may be feeds of one device: how late each is, and what to
    /// enter. Of files that were started by hand nothing of the kind is said.
    void feedsOfOneDeviceAreTold() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        auto* line = child<app::TimeLine>(window(), "syncTimeLine");
        line->setCurrent(1);
        auto* words = child<QLabel>(window(), "syncTiming");
        QVERIFY(!words->text().contains("feeds"));
        m_app->document.start(measured({{"wide", "A_wide.mov"}, {"close", "B_wireless.mov"}}, {}));
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(controller().hasReport(), 60000);
        line->setCurrent(1);
        QVERIFY2(words->text().contains("If one device began all of these at once"),
                 qPrintable(words->text()));
        QVERIFY2(words->text().contains("sound +140"), qPrintable(words->text()));
        // The pictures are at one: of the sound that comes after them it is said what helps.
        QVERIFY2(words->text().contains("140 ms after the last picture"),
                 qPrintable(words->text()));
        line->setCurrent(0);
        QVERIFY(words->text().contains("no delay to enter"));
    }
    void syncingCanBeCancelled() {
        open();
        QTest::mouseClick(child<QPushButton>(window(), "syncButton"), Qt::LeftButton);
        QTest::mouseClick(child<QPushButton>(window(), "cancelSyncButton"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!controller().isSyncing(), 30000);
        QVERIFY(!controller().hasReport());
        QVERIFY(m_app->prompter.errors.isEmpty());
    }

private:
    /// A rig with one take of these clips and recordings.
    [[nodiscard]] rig::Rig measured(const std::vector<std::pair<const char*, const char*>>& cameras,
                                    const std::vector<const char*>& sounds) const {
        const auto file = [&](const char* name) {
            return std::filesystem::path(m_folder.filePath(name).toStdString());
        };
        jobs::Intake intake;
        for (const auto& [role, name] : cameras) {
            jobs::IntakeCamera camera;
            camera.role = role;
            camera.file = file(name);
            intake.cameras.push_back(camera);
        }
        for (const char* name : sounds) intake.sounds.push_back(file(name));
        rig::Rig rig = jobs::rigFrom({}, intake, "2026-01-02T03:04:05");
        rig::Take& take = rig.takes[0];
        for (std::size_t i = 0; i < take.shots.size(); ++i) {
            const auto what = jobs::lookFor(rig, take, take.shots[i].cameraId);
            take.shots[i] = jobs::measureShot(take.shots[i], what, {}).shot;
        }
        return rig;
    }
    [[nodiscard]] QWidget* window() const { return m_app->window.get(); }
    [[nodiscard]] app::SyncController& controller() const {
        return child<app::SyncScreen>(window(), "syncScreen")->controller();
    }
    void open() {
        if (m_rig.takes.empty())
            m_rig = measured({{"wide", "A_wide.mov"}, {"close", "B_close.mov"}}, {"recorder.wav"});
        m_app->document.start(m_rig);
        m_app->window->showScreen("sync");
    }
    QString exported(const QString& name) {
        m_app->chooser.offsets = m_folder.filePath(name);
        QTest::mouseClick(child<QPushButton>(window(), "exportSyncButton"), Qt::LeftButton);
        QFile made(m_folder.filePath(name));
        return made.open(QIODevice::ReadOnly) ? QString::fromUtf8(made.readAll()) : QString();
    }

    QTemporaryDir m_folder;
    rig::Rig m_rig;  ///< measured once
    std::unique_ptr<support::AppFixture> m_app;
};

RIG_TEST(TestSyncScreen);
#include "test_sync_screen.moc"
