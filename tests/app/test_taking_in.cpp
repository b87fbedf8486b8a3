// SPDX-License-Identifier: GPL-3.0-or-later
// How files come into a rig that has cameras: by letters, by guess, by hand.
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QListView>
#include <QMimeData>
#include <QPushButton>
#include <QRadioButton>
#include <QTreeWidget>

#include "app/take_screen_test.h"
#include "support/app_drop.h"
#include "support/app_fixture.h"
#include "support/media_files.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::child;
using support::drop;
using support::dropOn;
using support::kClips;
using support::shotOf;

class TestTakingIn : public support::TakeScreenTest {
    Q_OBJECT

    QString still(const QString& name, int grey) const {
        const QString path = m_app->folder.filePath(name);
        support::runFfmpeg({"-f",
                            "lavfi",
                            "-i",
                            QString("color=0x%1%1%1:s=64x36").arg(grey, 2, 16, QChar('0')),
                            "-frames:v",
                            "1",
                            path});
        return path;
    }
    /// Chooses files by the button, and waits for what is made of them.
    void chooseClips(const QStringList& files) {
        m_app->chooser.media = files;
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "chooseClipsButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
    }
    QDialog* dialog() const { return m_app->window->findChild<QDialog*>("arrivalsDialog"); }
    QTreeWidget* tree() const { return child<QTreeWidget>(dialog(), "arrivalsTree"); }
    /// Names of the files that lie on a camera, a recorder or elsewhere, by the row's words.
    QStringList filesOf(const QString& place) const {
        QStringList names;
        for (int i = 0; i < tree()->topLevelItemCount(); ++i) {
            const QTreeWidgetItem* item = tree()->topLevelItem(i);
            if (item->text(0) != place) continue;
            for (int j = 0; j < item->childCount(); ++j) names << item->child(j)->text(0);
        }
        return names;
    }
    QTreeWidgetItem* file(const QString& name) const {
        const auto found = tree()->findItems(name, Qt::MatchExactly | Qt::MatchRecursive);
        return found.isEmpty() ? nullptr : found.front();
    }

private Q_SLOTS:
    void init() { QVERIFY(openTestTake()); }
    void cleanup() { m_app.reset(); }

    /// What is only a guess is shown, changed by a drag, a letter or the list, and then measured.
    void aGuessIsShownAndCorrected() {
        startEmpty();
        m_app->selection.setCameraId("");
        chooseClips({still("MVI_1.png", 60),
                     still("MVI_2.png", 90),
                     still("MVI_3.png", 120),
                     still("MVI_4.png", 150),
                     still("MVI_5.png", 180)});
        QVERIFY(dialog() != nullptr);
        QVERIFY(m_app->document.rig().takes.empty());
        QCOMPARE(filesOf("wide front"), QStringList("MVI_1.png"));
        QCOMPARE(filesOf("A new camera each"), QStringList("MVI_5.png"));
        QVERIFY(file("MVI_2.png")->text(1).contains("only by order"));
        // By the mouse to the third camera.
        tree()->setCurrentItem(file("MVI_1.png"));
        const std::unique_ptr<QMimeData> data(
            tree()->model()->mimeData(tree()->selectionModel()->selectedIndexes()));
        dropOn(tree(), tree()->visualItemRect(tree()->topLevelItem(2)).center(), *data);
        QCOMPARE(filesOf("wide front"), QStringList());
        QCOMPARE(filesOf("apprentice close"), QStringList({"MVI_3.png", "MVI_1.png"}));
        QCOMPARE(tree()->topLevelItem(2)->text(1), QString("2 parts of one recording"));
        // By its letter to the first, by Delete out of it, by the list back in.
        tree()->setCurrentItem(file("MVI_3.png"));
        QTest::keyClick(tree(), Qt::Key_A);
        QCOMPARE(filesOf("wide front"), QStringList("MVI_3.png"));
        tree()->setCurrentItem(file("MVI_5.png"));
        QTest::keyClick(tree(), Qt::Key_Delete);
        QCOMPARE(filesOf("Left out"), QStringList("MVI_5.png"));
        auto* belongs = child<QComboBox>(dialog(), "belongsBox");
        QCOMPARE(belongs->currentText(), QString("Left out"));
        QTest::mouseClick(child<QPushButton>(dialog(), "takeInButton"), Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        QCOMPARE(shotOf(*m_app, "camera-1")->media.filename().string(), std::string("MVI_3.png"));
        QCOMPARE(shotOf(*m_app, "camera-2")->media.filename().string(), std::string("MVI_2.png"));
        QCOMPARE(shotOf(*m_app, "camera-3")->media.filename().string(), std::string("MVI_1.png"));
        QVERIFY(shotOf(*m_app, "camera-3")->reading);
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(m_app->document.rig().takes.empty());
    }
    void clipsOfTheNextRoundAreATakeOfTheirOwn() {
        const std::size_t before = m_app->document.rig().takes.size();
        chooseClips({still("A_2.png", 60), still("B_2.png", 90)});
        QVERIFY(dialog() != nullptr);
        QVERIFY(child<QRadioButton>(dialog(), "newTakeChoice")->isChecked());
        auto* note = child<QLabel>(dialog(), "arrivalsNote");
        QVERIFY(!note->isVisible());
        QTest::mouseClick(child<QRadioButton>(dialog(), "sameTakeChoice"), Qt::LeftButton);
        QVERIFY(note->isVisible());
        QVERIFY2(note->text().contains("wide front (A.mov)"), qPrintable(note->text()));
        child<QRadioButton>(dialog(), "newTakeChoice")->click();
        QTest::keyClick(dialog(), Qt::Key_Return);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->document.rig().takes.size(), before + 1);
        QCOMPARE(m_app->document.rig().takes.back().shots.size(), std::size_t{2});
    }
    /// One file without a letter goes to the camera that is chosen, not to the first.
    void theChosenCameraWins() {
        startEmpty();
        m_app->selection.setCameraId("camera-3");
        chooseClips({still("MVI_1.png", 60)});
        QVERIFY(dialog() == nullptr);
        QVERIFY(shotOf(*m_app, "camera-3") != nullptr);
        QVERIFY(shotOf(*m_app, "camera-1") == nullptr);
        // Against its name it is asked; giving up changes nothing.
        chooseClips({still("A_1.png", 90)});
        QVERIFY(dialog() != nullptr);
        QCOMPARE(filesOf("apprentice close"), QStringList("A_1.png"));
        QTest::keyClick(dialog(), Qt::Key_Escape);
        QCOMPARE(shotOf(*m_app, "camera-3")->media.filename().string(), std::string("MVI_1.png"));
    }
    void theSameContentForTwoCamerasIsTold() {
        startEmpty();
        const QString first = still("A_1.png", 60);
        const QString copy = m_app->folder.filePath("B_1.png");
        QVERIFY(QFile::copy(first, copy));
        chooseClips({first, copy});
        QVERIFY(dialog() != nullptr);
        QVERIFY(file("B_1.png")->text(1).contains("the same content as A_1.png"));
    }
    void wholeTakeIsSortedByLetters() {
        startEmpty();
        drop(child<QListView>(m_app->window.get(), "shotList"),
             -1,
             {kClips + "D.mov", kClips + "A.mov", kClips + "C.mov", kClips + "B.mov"});
        QVERIFY(m_app->waitForJobs());
        for (const auto& [camera, file] : {std::pair{"camera-1", "A.mov"},
                                           {"camera-2", "B.mov"},
                                           {"camera-3", "C.mov"},
                                           {"camera-4", "D.mov"}}) {
            QVERIFY(shotOf(*m_app, camera) != nullptr);
            QCOMPARE(shotOf(*m_app, camera)->media.filename().string(), std::string(file));
        }
    }
    void folderIsTakenToo() {
        startEmpty();
        m_app->chooser.folder = support::kDemo;
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "chooseFolderButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        // Four cameras by their letters, and the recorder that was not there before.
        QCOMPARE(m_app->document.rig().takes.back().shots.size(), std::size_t{5});
        QCOMPARE(m_app->document.rig().sources.size(), std::size_t{1});
        m_app->chooser.folder = m_app->folder.path();
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "chooseFolderButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors[0].contains("None of this can be read"));
    }
    /// Files dropped together on one row are parts of one recording, in the order of their names.
    void severalFilesOnOneRowAreOneRecording() {
        startEmpty();
        auto* list = child<QListView>(m_app->window.get(), "shotList");
        drop(list, 0, {kClips + "B.mov", kClips + "A.mov"});
        QVERIFY(m_app->waitForJobs());
        const rig::Shot* shot = shotOf(*m_app, "camera-1");
        QVERIFY(shot != nullptr && shot->reading);
        QCOMPARE(shot->media.filename().string(), std::string("A.mov"));
        QCOMPARE(shot->laterParts.size(), std::size_t{1});
        QVERIFY(
            child<QLabel>(m_app->window.get(), "factsLabel")->text().contains("Goes on in B.mov"));
        QCOMPARE(m_app->document.rig().takes.back().shots.size(), std::size_t{1});
    }
};

RIG_TEST(TestTakingIn);
#include "test_taking_in.moc"
