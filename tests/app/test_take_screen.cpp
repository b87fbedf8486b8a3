// SPDX-License-Identifier: GPL-3.0-or-later
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QSlider>

#include "app/models/shot_list_model.h"
#include "app/take_screen_test.h"
#include "app/widgets/frame_view.h"
#include "support/app_drop.h"
#include "support/app_fixture.h"
#include "support/media_files.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::child;
using support::drop;
using support::kClips;
using support::kDemo;
using support::shotOf;

class TestTakeScreen : public support::TakeScreenTest {
    Q_OBJECT
private Q_SLOTS:
    void init() { QVERIFY(openTestTake()); }
    void cleanup() { m_app.reset(); }

    void droppedClipIsMeasuredAndUndoneAsOneStep() {
        startEmpty();
        drop(child<QListView>(m_app->window.get(), "shotList"), 1, {kClips + "B.mov"});
        QVERIFY(shotOf(*m_app, "camera-2") != nullptr);
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(shotOf(*m_app, "camera-2")->reading.has_value());
        QVERIFY(shotOf(*m_app, "camera-2")->reading->hasChart);
        QCOMPARE(m_app->document.undoStack().count(), 1);
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(m_app->document.rig().takes.empty());
        support::trigger(m_app->window.get(), "redoAction");
        QVERIFY(shotOf(*m_app, "camera-2")->reading->hasChart);
    }
    /// What was measured is no step of the user's: results that come late clear no redo.
    void lateReadingsLeaveUndoAndRedoAlone() {
        startEmpty();
        drop(child<QListView>(m_app->window.get(), "shotList"), 1, {kClips + "B.mov"});
        QVERIFY(m_app->waitForJobs());
        rig::Rig next = m_app->document.rig();
        next.name = "Other";
        m_app->document.change("rename", next);
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(m_app->document.undoStack().canRedo());
        const int steps = m_app->document.undoStack().count();
        chooseShot(1);
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "measureAgainButton"),
                          Qt::LeftButton);
        QVERIFY(!m_app->jobs.running().isEmpty());
        QVERIFY(m_app->waitForJobs());
        QVERIFY(shotOf(*m_app, "camera-2")->reading.has_value());
        QCOMPARE(m_app->document.undoStack().count(), steps);
        QVERIFY(m_app->document.undoStack().canRedo());
        support::trigger(m_app->window.get(), "redoAction");
        QCOMPARE(m_app->document.rig().name, std::string("Other"));
        QVERIFY(shotOf(*m_app, "camera-2")->reading.has_value());
    }
    /// Undone while it is measured, then done again: the result is there all the same.
    void undoWhileMeasuringLosesNothing() {
        startEmpty();
        drop(child<QListView>(m_app->window.get(), "shotList"), 1, {kClips + "B.mov"});
        QVERIFY(!m_app->jobs.running().isEmpty());
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(m_app->document.rig().takes.empty());
        QVERIFY(m_app->waitForJobs());
        QCoreApplication::processEvents();
        QVERIFY(m_app->document.rig().takes.empty());
        support::trigger(m_app->window.get(), "redoAction");
        QVERIFY(shotOf(*m_app, "camera-2")->reading.has_value());
        QVERIFY(shotOf(*m_app, "camera-2")->reading->hasChart);
    }
    /// The same camera in two takes, one after the other: neither stops the other.
    void twoTakesAreMeasuredAtOnce() {
        rig::Rig rig = m_app->document.rig();
        rig.takes.clear();
        for (const char* file : {"A.mov", "B.mov"}) {
            rig::Take take;
            take.id = rig::freshTakeId(rig);
            rig::Shot shot;
            shot.cameraId = "camera-1";
            shot.media = (kClips + file).toStdString();
            take.shots.push_back(shot);
            rig.takes.push_back(take);
        }
        m_app->document.start(rig);
        for (const char* take : {"take-1", "take-2"}) {
            m_app->selection.setTakeId(take);
            chooseShot(0);
            QTest::mouseClick(child<QPushButton>(m_app->window.get(), "measureAgainButton"),
                              Qt::LeftButton);
        }
        QVERIFY(m_app->waitForJobs());
        for (const rig::Take& take : m_app->document.rig().takes)
            QVERIFY2(take.shots[0].reading.has_value(), take.id.c_str());
    }
    /// Offers from a clip's metadata belong to the rig they were made for.
    void offersEndWithTheirRig() {
        m_app->selection.offer("camera-1", rig::Settings{});
        m_app->openDemo();
        QVERIFY(m_app->selection.offers().isEmpty());
    }
    void unreadableFileIsSaidAndNothingIsLost() {
        QFile bad(m_app->folder.filePath("broken.mov"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.close();
        drop(child<QListView>(m_app->window.get(), "shotList"), 0, {bad.fileName()});
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(!shotOf(*m_app, "camera-1")->failure.empty());
        QVERIFY(child<QLabel>(m_app->window.get(), "factsLabel")->text().contains("0 bytes long"));
        QVERIFY(shotOf(*m_app, "camera-2")->reading->hasChart);
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(shotOf(*m_app, "camera-1")->reading->hasChart);
    }
    void factsAreSaidInWords() {
        const QString facts = child<QLabel>(m_app->window.get(), "factsLabel")->text();
        QVERIFY(facts.contains("frames were averaged"));
        QVERIFY(facts.contains("No patch is clipped"));
        auto* list = child<QListView>(m_app->window.get(), "shotList");
        list->setFocus();
        QTest::keyClick(list, Qt::Key_Down);
        QTest::keyClick(list, Qt::Key_Down);
        QVERIFY(
            child<QLabel>(m_app->window.get(), "factsTitle")->text().contains("apprentice close"));
        QVERIFY(child<QLabel>(m_app->window.get(), "factsLabel")->text().contains("Clipped: "));
    }
    void cornerIsDraggedByMouseAndTheReadingFollows() {
        QVERIFY(m_app->waitForJobs());
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        QTRY_VERIFY(view->corners().has_value());
        const rig::PictureQuad before = *view->corners();
        const double grey = shotOf(*m_app, "camera-1")->reading->patches[18].signal[1];
        const QPointF from = view->toWidget(before[3]);
        const QPointF to = view->toWidget({before[3].x - 20.0, before[3].y + 14.0});
        QTest::mousePress(view, Qt::LeftButton, {}, from.toPoint());
        QTest::mouseMove(view, ((from + to) / 2).toPoint());
        QTest::mouseMove(view, to.toPoint());
        QTest::mouseRelease(view, Qt::LeftButton, {}, to.toPoint());
        QVERIFY(shotOf(*m_app, "camera-1")->manualCorners.has_value());
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(shotOf(*m_app, "camera-1")->reading->areCornersManual);
        QVERIFY(shotOf(*m_app, "camera-1")->reading->patches[18].signal[1] != grey);
        QCOMPARE(m_app->document.undoStack().count(), 1);
        // Taken back and done again: the older and the newer reading are there at once.
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(!shotOf(*m_app, "camera-1")->reading->areCornersManual);
        QCOMPARE(shotOf(*m_app, "camera-1")->reading->patches[18].signal[1], grey);
        support::trigger(m_app->window.get(), "redoAction");
        QVERIFY(shotOf(*m_app, "camera-1")->reading->areCornersManual);
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "findAgainButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(!shotOf(*m_app, "camera-1")->reading->areCornersManual);
        QVERIFY(std::abs(shotOf(*m_app, "camera-1")->reading->corners[3].x - before[3].x) < 1.0);
    }
    void cornerMovesByArrowKeysToTheTenthOfAPixel() {
        QVERIFY(m_app->waitForJobs());
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        QTRY_VERIFY(view->corners().has_value());
        const rig::PictureQuad before = *view->corners();
        view->setFocus();
        QTest::keyClick(view, Qt::Key_2);
        QCOMPARE(view->activeCorner(), 1);
        QTest::keyClick(view, Qt::Key_Right);
        QTest::keyClick(view, Qt::Key_Down, Qt::ShiftModifier);
        QTest::keyClick(view, Qt::Key_Left, Qt::ControlModifier);
        const rig::PicturePoint after = (*shotOf(*m_app, "camera-1")->manualCorners)[1];
        QVERIFY(std::abs(after.x - before[1].x - 0.9) < 1e-9);
        QVERIFY(std::abs(after.y - before[1].y - 10.0) < 1e-9);
        QVERIFY(view->accessibleDescription().contains("Corner 2"));
        QVERIFY(m_app->waitForJobs());
    }
    void codesCanBeReadAsFullRange() {
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "rangeBox"), "full range");
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(shotOf(*m_app, "camera-1")->reading->range, std::string("full"));
    }
    void coloursCanBeReadByAnotherMatrix() {
        const double red = shotOf(*m_app, "camera-1")->reading->patches[14].signal[0];
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "matrixBox"), "BT.601");
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(shotOf(*m_app, "camera-1")->reading->matrix, std::string("bt601"));
        QVERIFY(std::abs(shotOf(*m_app, "camera-1")->reading->patches[14].signal[0] - red) > 0.01);
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(shotOf(*m_app, "camera-1")->reading->patches[14].signal[0], red);
    }
    /// Other primaries are a matter of the match: chosen and undone without measuring again.
    void coloursCanBeTakenByOtherPrimaries() {
        const rig::Reading before = *shotOf(*m_app, "camera-1")->reading;
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "primariesBox"), "BT.2020");
        QCOMPARE(shotOf(*m_app, "camera-1")->primariesOverride, std::string("bt2020"));
        QVERIFY(m_app->waitForJobs());
        QVERIFY(*shotOf(*m_app, "camera-1")->reading == before);
        // Each key made a step: BT.709, then BT.2020.
        support::trigger(m_app->window.get(), "undoAction");
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(shotOf(*m_app, "camera-1")->primariesOverride.empty());
    }
    void doubtedPrimariesAreOfferedByALink() {
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots[0].reading->warnings = {
            {"PrimariesDoubted", base::asIs("Wide."), base::asIs("Choose.")}};
        m_app->document.start(rig);
        auto* facts = child<QLabel>(m_app->window.get(), "factsLabel");
        QVERIFY(facts->text().contains("href='primaries:bt2020'"));
        Q_EMIT facts->linkActivated("primaries:bt2020");
        QCOMPARE(shotOf(*m_app, "camera-1")->primariesOverride, std::string("bt2020"));
        QVERIFY(facts->text().contains("href='primaries:bt709'"));
    }
    /// Of a long recording only a part was watched: the rest is one click away, and undone.
    void aLongClipIsWatchedWholeOnRequest() {
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots[0].reading->warnings = {
            {"PartLookedAt", base::asIs("Of 1:02:00 …"), base::asIs("Enough.")}};
        m_app->document.start(rig);
        auto* facts = child<QLabel>(m_app->window.get(), "factsLabel");
        QVERIFY(facts->text().contains("href='whole:yes'"));
        Q_EMIT facts->linkActivated("whole:yes");
        QVERIFY(shotOf(*m_app, "camera-1")->isWholeWanted);
        QVERIFY(m_app->waitForJobs());
        QVERIFY(!facts->text().contains("href='whole:yes'"));
        support::trigger(m_app->window.get(), "undoAction");
        QVERIFY(!shotOf(*m_app, "camera-1")->isWholeWanted);
        QVERIFY(facts->text().contains("href='whole:yes'"));
    }
    /// Corners on what is not the chart show on the camera's row.
    void cornersBesideTheChartAreOff() {
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots[0].reading->areColoursDoubtful = true;
        rig.takes[0].shots[0].reading->areCornersManual = true;
        m_app->document.start(rig);
        auto* list = child<QListView>(m_app->window.get(), "shotList");
        QVERIFY(list->model()
                    ->index(0, 0)
                    .data(Qt::AccessibleTextRole)
                    .toString()
                    .contains("corners not on the chart"));
    }
    /// A warning's own link chooses the other reading.
    void aWarningOffersTheOtherReading() {
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots[0].reading->warnings = {
            {"RangeTagMissing", base::asIs("No range."), base::asIs("Choose.")}};
        m_app->document.start(rig);
        auto* facts = child<QLabel>(m_app->window.get(), "factsLabel");
        QVERIFY(facts->text().contains("href='range:full'"));
        Q_EMIT facts->linkActivated("range:full");
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(shotOf(*m_app, "camera-1")->reading->range, std::string("full"));
    }
    /// Corners set on a frame hold on that frame.
    void theShownMomentIsWhereCornersHold() {
        QVERIFY(m_app->waitForJobs());
        auto* slider = child<QSlider>(m_app->window.get(), "timeSlider");
        slider->setFocus();
        QTest::keyClick(slider, Qt::Key_PageDown);
        const double seconds = slider->value() / 1000.0;
        QVERIFY(child<QLabel>(m_app->window.get(), "timeLabel")
                    ->text()
                    .startsWith(QString::number(seconds, 'f', 2)));
        QVERIFY(m_app->waitForJobs());
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        view->setFocus();
        QTest::keyClick(view, Qt::Key_1);
        QTest::keyClick(view, Qt::Key_Right);
        QCOMPARE(*shotOf(*m_app, "camera-1")->cornersAtSeconds, seconds);
        QVERIFY(m_app->waitForJobs());
    }
    void clipCanBeRemovedAndTakesKeptApart() {
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "removeClipButton"),
                          Qt::LeftButton);
        QVERIFY(shotOf(*m_app, "camera-1") == nullptr);
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "newTakeButton"), Qt::LeftButton);
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{2});
        QVERIFY(m_app->document.rig().takes.back().shots.empty());
        auto* takes = child<QComboBox>(m_app->window.get(), "takeBox");
        QCOMPARE(takes->currentIndex(), 1);
        support::chooseByKeys(takes, takes->itemText(0));
        QVERIFY(child<QLabel>(m_app->window.get(), "takeSummary")->text().contains("take 1"));
    }
    /// A sound recorder takes part in the take: added, renamed, heard, removed, each one step.
    void aSoundRecorderTakesPart() {
        startEmpty();
        QWidget* window = m_app->window.get();
        const QString file = m_app->folder.filePath("recorder.wav");
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", "sine=duration=1", file}));
        auto* list = child<QListView>(window, "shotList");
        child<QMenu>(window, "addSourceMenu")->actions().front()->trigger();
        const auto& rig = m_app->document.rig();
        QCOMPARE(rig.sources.size(), std::size_t{1});
        QCOMPARE(list->currentIndex().row(), 4);
        QCOMPARE(list->currentIndex().data().toString(), QString("Sound recorder"));
        list->setFocus();
        QTest::keyClick(list, Qt::Key_F2);
        auto* edit = list->findChild<QLineEdit*>();
        QVERIFY(edit != nullptr);
        edit->setText("mixer under the bench");
        QTest::keyClick(edit, Qt::Key_Return);
        QTRY_COMPARE(std::as_const(rig.sources)[0].name, std::string("mixer under the bench"));
        drop(list, 4, {file});
        QVERIFY(m_app->waitForJobs());
        const rig::Shot* shot = shotOf(*m_app, "source-1");
        QVERIFY(shot != nullptr && shot->reading && shot->reading->sound.has_value());
        QVERIFY(
            child<QLabel>(window, "factsLabel")->text().contains("A recording of sound, 1.0 s"));
        QVERIFY(!child<QLabel>(window, "factsLabel")->text().contains("chart"));
        QVERIFY(!child<QPushButton>(window, "markSkinButton")->isEnabled());
        QTest::keyClick(child<QPushButton>(window, "removeSourceButton"), Qt::Key_Space);
        QVERIFY(rig.sources.empty() && rig.takes.back().shots.empty());
        m_app->document.undoStack().undo();
        QVERIFY(shotOf(*m_app, "source-1") != nullptr);
    }
    /// A take that is not for matching shows no chart, is not told to lack one, and is not matched.
    void onlyWhatATakeIsForIsJudged() {
        QWidget* window = m_app->window.get();
        rig::Rig matched = m_app->document.rig();
        matched.takes[0].purposes = {rig::Purpose::Match};
        m_app->document.start(matched);
        auto* purposes = child<QPushButton>(window, "purposesButton");
        QCOMPARE(purposes->text(), QString("For: matching"));
        const auto choose = [&](int row) {
            child<QMenu>(window, "purposesMenu")->actions().at(row)->trigger();
        };
        choose(0);  // the last purpose stays
        QCOMPARE(purposes->text(), QString("For: matching"));
        choose(1);
        QCOMPARE(purposes->text(), QString("For: matching, the programme"));
        choose(0);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(purposes->text(), QString("For: the programme"));
        for (const rig::Shot& shot : m_app->document.rig().takes.back().shots)
            QVERIFY(shot.reading && !shot.reading->hasChart);
        QVERIFY(m_app->context.matchTake() == nullptr);
        QVERIFY(!child<QLabel>(window, "factsLabel")->text().contains("chart"));
        m_app->document.undoStack().undo();
        // Taken back, the older measurements are there at once.
        for (const rig::Shot& shot : m_app->document.rig().takes.back().shots)
            QVERIFY(shot.reading && (shot.reading->hasChart || !shot.reading->hasPicture));
    }
    /// Another clip under the name of the one that was measured.
    void aReplacedFileSaysSo() {
        startEmpty();
        const QString copy = m_app->folder.filePath("card.mov");
        QVERIFY(QFile::copy(kClips + "B.mov", copy));
        auto* list = child<QListView>(m_app->window.get(), "shotList");
        drop(list, 1, {copy});
        QVERIFY(m_app->waitForJobs());
        const rig::Shot* shot = shotOf(*m_app, "camera-2");
        QVERIFY(shot != nullptr && shot->reading && !shot->reading->identity.empty());
        const auto state = [list] {
            return list->model()->index(1, 0).data(app::ShotListModel::StateRole).toString();
        };
        QVERIFY2(state().startsWith("chart found"), qPrintable(state()));
        QVERIFY(QFile::remove(copy) && QFile::copy(kClips + "A.mov", copy));
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots[0].settings.detailSteps = 2.0;
        m_app->document.change("Set the sharpness", rig);
        QTRY_VERIFY2(state().startsWith("another file has this name"), qPrintable(state()));
    }
    void missingClipsAreFoundInAnotherFolder() {
        rig::Rig rig = m_app->document.rig();
        for (rig::Shot& shot : rig.takes[0].shots)
            shot.media = "/gone/" + shot.media.filename().string();
        m_app->document.change("lose", rig);
        auto* button = child<QPushButton>(m_app->window.get(), "findMissingButton");
        QTRY_VERIFY(button->isVisible());
        const auto stateOf = [&](int row) {
            const auto* model = child<QListView>(m_app->window.get(), "shotList")->model();
            return model->index(row, 0).data(app::ShotListModel::StateRole).toString();
        };
        for (int row = 0; row < 4; ++row) QVERIFY(stateOf(row).startsWith("file not found"));
        m_app->chooser.folder = kDemo;
        QTest::mouseClick(button, Qt::LeftButton);
        QCOMPARE(m_app->prompter.texts.size(), 1);
        QVERIFY(m_app->prompter.texts[0].contains("5 found, 0 still missing"));
        QTRY_VERIFY(!button->isVisible());
        QVERIFY(m_app->waitForJobs());
        for (int row = 0; row < 4; ++row) QVERIFY(stateOf(row).startsWith("chart found"));
    }
};

RIG_TEST(TestTakeScreen);
#include "test_take_screen.moc"
