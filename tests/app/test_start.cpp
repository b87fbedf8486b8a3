// SPDX-License-Identifier: GPL-3.0-or-later
#include <QDir>
#include <QDragEnterEvent>
#include <QFile>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <random>

#include "app/shell/start_page.h"
#include "support/app_fixture.h"
#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::child;

namespace {

/// The first path of a new user: an empty rig, files, a turn list.
void drop(QWidget* target, const QStringList& files) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& file : files) urls << QUrl::fromLocalFile(file);
    data.setUrls(urls);
    const QPoint middle = target->rect().center();
    QDragEnterEvent enter(middle, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(target, &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent event(middle, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(target, &event);
}

}  // namespace

class TestStart : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Two cameras, one 0.5 stop darker, as nobody has told the program anything about them.
    void initTestCase() {
        std::mt19937 random(5);
        QVERIFY(QDir(m_clips.path()).mkpath("test"));
        const QString folder = m_clips.filePath("test/");
        QVERIFY(support::writeChart(
            folder + "cam-b_close.mov", support::loopBody(182.0, 0.0, -0.5).body, random));
        QVERIFY(support::writeChart(
            folder + "cam-a_wide.mov", support::loopBody(182.0, 0.0, 0.0).body, random));
    }
    void init() {
        m_app = std::make_unique<support::AppFixture>();
        m_app->window->show();
        QVERIFY(QTest::qWaitForWindowActive(m_app->window.get()));
    }
    void cleanup() { m_app.reset(); }

    void anEmptyRigBeginsHere() {
        auto* page = child<app::StartPage>(window(), "startPage");
        QVERIFY(page->isVisible());
        QVERIFY(child<QLabel>(window(), "startNoRecentLabel")->isVisible());
        for (const char* name : {"startClipsButton",
                                 "startFolderButton",
                                 "startPlanButton",
                                 "startDemoButton",
                                 "startCardButton"}) {
            auto* button = child<QPushButton>(window(), name);
            QVERIFY(button->isVisible() && button->isEnabled());
            QVERIFY(!button->accessibleName().isEmpty() && !button->toolTip().isEmpty());
        }
        // By key alone: the first button has the focus.
        QCOMPARE(QApplication::focusWidget(), child<QPushButton>(window(), "startClipsButton"));
    }
    void droppedFolderBecomesCamerasAndATurnList() {
        auto* page = child<app::StartPage>(window(), "startPage");
        drop(page, {m_clips.filePath("test")});
        QTRY_VERIFY_WITH_TIMEOUT(!rig().cameras.empty(), 20000);
        QCOMPARE(rig().cameras.size(), std::size_t{2});
        QCOMPARE(rig().cameras[0].role, std::string("wide"));
        QCOMPARE(rig().cameras[1].role, std::string("close"));
        QVERIFY(!page->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(child<QWidget>(window(), "matchScreen")->isVisible(), 60000);
        const auto& take = rig().takes.back();
        QVERIFY(take.shots[0].reading && take.shots[0].reading->hasChart);
        // Nobody told an ISO: the turn is an amount.
        QTRY_VERIFY_WITH_TIMEOUT(!m_app->context.reports->of(rig(), take)->turns().empty(), 20000);
        const auto turn = m_app->context.reports->of(rig(), take)->turns().front();
        QCOMPARE(turn.cameraId, rig().cameras[1].id);
        QVERIFY(turn.isAmount && turn.fromText.empty());
        QVERIFY(words::inEnglish(turn.toText).find("stop") != std::string::npos);
        support::trigger(window(), "undoAction");
        QVERIFY(rig().cameras.empty() && rig().takes.empty());
    }
    void chosenClipsDoTheSame() {
        m_app->chooser.media = {m_clips.filePath("test/cam-a_wide.mov"),
                                m_clips.filePath("test/cam-b_close.mov")};
        QTest::keyClick(child<QPushButton>(window(), "startClipsButton"), Qt::Key_Space);
        QTRY_COMPARE_WITH_TIMEOUT(rig().cameras.size(), std::size_t{2}, 20000);
        QCOMPARE(rig().takes.size(), std::size_t{1});
    }
    void whatCannotBeReadIsSaidAndNothingIsLost() {
        QFile notes(m_clips.filePath("notes.txt"));
        QVERIFY(notes.open(QIODevice::WriteOnly));
        notes.write("no clip");
        notes.close();
        drop(child<app::StartPage>(window(), "startPage"), {notes.fileName()});
        QTRY_COMPARE_WITH_TIMEOUT(m_app->prompter.errors.size(), 1, 20000);
        QVERIFY(m_app->prompter.errors.front().contains("notes.txt"));
        QVERIFY(child<app::StartPage>(window(), "startPage")->isVisible());
        QVERIFY(child<QPushButton>(window(), "startClipsButton")->isVisible());
        QVERIFY(rig().cameras.empty());
    }
    void otherBeginnings() {
        QTest::mouseClick(child<QPushButton>(window(), "startPlanButton"), Qt::LeftButton);
        QVERIFY(child<QWidget>(window(), "setScreen")->isVisible());
        support::trigger(window(), "newAction");
        QVERIFY(child<QWidget>(window(), "startPage")->isVisible());
        QTest::mouseClick(child<QPushButton>(window(), "startDemoButton"), Qt::LeftButton);
        QVERIFY(!rig().cameras.empty());
        QVERIFY(!child<QWidget>(window(), "startPage")->isVisible());
    }
    void recentRigsStandThere() {
        const QString file = m_app->folder.filePath("bench.rigmatch");
        m_app->chooser.saveTo = file;
        m_app->window->files().openDemo();
        m_app->window->files().saveAs();
        QTRY_VERIFY(m_app->window->files().recentFiles().contains(file));
        support::trigger(window(), "newAction");
        auto* button = child<QPushButton>(window(), "startRecentButton");
        QVERIFY(button->isVisible() && button->text().contains("bench"));
        QTest::mouseClick(button, Qt::LeftButton);
        QTRY_COMPARE(m_app->document.path(), file);
        QVERIFY(!child<QWidget>(window(), "startPage")->isVisible());
    }

private:
    [[nodiscard]] QWidget* window() const { return m_app->window.get(); }
    [[nodiscard]] const rig::Rig& rig() const { return m_app->document.rig(); }

    QTemporaryDir m_clips;
    std::unique_ptr<support::AppFixture> m_app;
};

RIG_TEST(TestStart);
#include "test_start.moc"
