// SPDX-License-Identifier: GPL-3.0-or-later
// What stands around the turn list: targets, corrections, the list on set, what was learned.
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTableView>
#include <QTableWidget>
#include <QToolButton>

#include "app/models/camera_sheet_model.h"
#include "app/screens/match/on_set_view.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::AppFixture;
using support::child;

class TestMatchDialogs : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QWidget* window() const { return m_app->window.get(); }
    void press(const char* name) const {
        QTest::mouseClick(child<QPushButton>(window(), name), Qt::LeftButton);
    }
    /// The view over the whole screen, which is a window of its own.
    app::OnSetView* onSet() const {
        press("onSetButton");
        return child<app::OnSetView>(window(), "onSetView");
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("match"));
    }
    void cleanup() { m_app.reset(); }

    /// Every camera tells what it would cost as the reference; the choice is a step that can be
    /// taken back.
    void anotherTargetIsChosenByItsCosts() {
        press("targetButton");
        auto* table = child<QTableWidget>(window(), "targetTable");
        QCOMPARE(table->rowCount(), 6);  // four cameras, the least change, the chart
        QTRY_VERIFY(
            child<QLabel>(window(), "targetAdviceLabel")->text().contains("Recommended: camera"));
        for (int row = 0; row < 4; ++row) QVERIFY(!table->item(row, 1)->text().isEmpty());
        QCOMPARE(table->currentRow(), 0);
        table->setFocus();
        QTest::keyClick(table, Qt::Key_Down);
        press("useTargetButton");
        QCOMPARE(m_app->document.rig().referenceId, m_app->document.rig().cameras[1].id);
        support::trigger(window(), "undoAction");
        QCOMPARE(m_app->document.rig().referenceId, m_app->document.rig().cameras[0].id);
        // The chart's values: no camera is the reference, and the button says so.
        QTRY_VERIFY(window()->findChild<QTableWidget*>("targetTable") == nullptr);
        press("targetButton");
        table = child<QTableWidget>(window(), "targetTable");
        table->selectRow(5);
        table->setFocus();
        press("useTargetButton");
        QCOMPARE(m_app->document.rig().target, std::string("chart"));
        QVERIFY(child<QPushButton>(window(), "targetButton")->text().contains("published values"));
    }
    /// A target that is gone is said, and the reference stands in for it.
    void aTargetThatIsGoneIsSaid() {
        rig::Rig rig = m_app->document.rig();
        rig.target = "take:99";
        m_app->document.change("target", rig);
        QVERIFY(child<QLabel>(window(), "matchNotes")->text().contains("has no take"));
        QVERIFY(child<QPushButton>(window(), "targetButton")->text().contains("camera A"));
    }
    void correctionsAreWrittenAndJudged() {
        m_app->chooser.folder = m_app->folder.filePath("luts");
        // D was on automatic: it gets none, and is said.
        support::trigger(window(), "correctionsAction");
        support::chooseByKeys(child<QComboBox>(window(), "correctionSizeBox"), "17");
        press("writeCorrectionsButton");
        QVERIFY(m_app->waitForJobs());
        auto* table = child<QTableWidget>(window(), "correctionTable");
        QCOMPARE(table->rowCount(), 2);
        const QString patches = table->item(0, 1)->text();
        QVERIFY2(patches.contains(" → "), qPrintable(patches));
        QVERIFY(patches.section(u' ', 2).toDouble() < 0.5 * patches.section(u' ', 0, 0).toDouble());
        const QString file = table->item(0, 4)->text();
        QVERIFY(QFile::exists(m_app->chooser.folder + "/" + file));
        const QString said = child<QLabel>(window(), "correctionStateLabel")->text();
        QVERIFY(said.contains("2 files were written"));
        QVERIFY(said.contains("check.png there shows chart and faces"));
        const QImage sheet(m_app->chooser.folder + "/check.png");
        QVERIFY(sheet.width() > 1100 && sheet.height() > 500);
        QVERIFY(said.contains("Camera D was on automatic"));
        // Nothing here is to be converted.
        QVERIFY(!child<QComboBox>(window(), "correctionResultBox")->isEnabled());
        // A decision list has no points and one range.
        support::chooseByKeys(child<QComboBox>(window(), "correctionFormatBox"),
                              ".cc, one decision");
        QVERIFY(!child<QComboBox>(window(), "correctionSizeBox")->isEnabled());
        QVERIFY(!child<QComboBox>(window(), "correctionUseBox")->isEnabled());
        QVERIFY(!child<QComboBox>(window(), "correctionResultBox")->isEnabled());
        press("writeCorrectionsButton");
        QVERIFY(m_app->waitForJobs());
        QVERIFY(table->item(0, 4)->text().endsWith(".cc"));
    }
    /// Where the reference records HLG a finished picture can be asked for, and it gets a file too.
    void correctionsEndInAFinishedPicture() {
        rig::Rig rig = m_app->document.rig();
        for (rig::Profile& profile : rig.cameras[0].sheet.profiles)
            profile.curve = colour::curveOf(colour::CurveKind::Hlg);
        m_app->document.change("curve", rig);
        m_app->chooser.folder = m_app->folder.filePath("luts");
        support::trigger(window(), "correctionsAction");
        support::chooseByKeys(child<QComboBox>(window(), "correctionResultBox"),
                              "a finished picture: log and HLG converted to BT.709");
        press("writeCorrectionsButton");
        QVERIFY(m_app->waitForJobs());
        auto* table = child<QTableWidget>(window(), "correctionTable");
        QCOMPARE(table->rowCount(), 3);
        QCOMPARE(table->item(0, 1)->text(), QString("converted"));
        QCOMPARE(table->item(0, 4)->text(), QString("A-wide-front-to-finished.cube"));
        QVERIFY(table->item(1, 4)->text().endsWith("-to-finished.cube"));
        // What was done stands there whole.
        auto* state = child<QLabel>(window(), "correctionStateLabel");
        QVERIFY(state->text().contains("3 files were written"));
        QTRY_VERIFY(state->height() >= state->heightForWidth(state->width()));
    }
    /// The files stand, and why no picture shows what they do is said.
    void aCheckPictureThatCannotBeDrawnIsSaid() {
        m_app->chooser.folder = m_app->folder.filePath("luts");
        QVERIFY(QDir().mkpath(m_app->chooser.folder + "/check.png/in the way"));
        support::trigger(window(), "correctionsAction");
        press("writeCorrectionsButton");
        QVERIFY(m_app->waitForJobs());
        const QString said = child<QLabel>(window(), "correctionStateLabel")->text();
        QVERIFY2(said.contains("2 files were written"), qPrintable(said));
        QVERIFY2(said.contains("No check picture") && said.contains("check.png"), qPrintable(said));
        QVERIFY(!said.contains("shows chart and faces"));
    }
    void aFolderThatCannotBeWrittenIsSaid() {
        QFile blocker(m_app->folder.filePath("file"));
        QVERIFY(blocker.open(QIODevice::WriteOnly));
        m_app->chooser.folder = blocker.fileName() + "/below";
        support::trigger(window(), "correctionsAction");
        press("writeCorrectionsButton");
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(child<QTableWidget>(window(), "correctionTable")->rowCount(), 0);
        QVERIFY(!child<QLabel>(window(), "correctionStateLabel")->text().contains("written to"));
    }
    /// One turn at a time: camera after camera, by keys; a tick writes the setting and goes on.
    void turnsAreGoneThroughOnSet() {
        app::OnSetView* view = onSet();
        QVERIFY(view->isFullScreen());
        const auto turns = view->turns();
        QVERIFY(turns.size() >= 4);
        for (std::size_t i = 1; i < turns.size(); ++i)
            QVERIFY(
                turns[i].cameraId == turns[i - 1].cameraId ||
                std::none_of(turns.begin(),
                             turns.begin() + static_cast<long>(i) - 1,
                             [&](const rig::Turn& t) { return t.cameraId == turns[i].cameraId; }));
        QCOMPARE(view->current(), 0);
        QVERIFY(view->accessibleName().startsWith("Camera B"));
        QTest::keyClick(view, Qt::Key_Left);
        QCOMPARE(view->current(), 0);
        QTest::keyClick(view, Qt::Key_Right);
        QCOMPARE(view->current(), 1);
        QTest::keyClick(view, Qt::Key_Left);
        QVERIFY(!view->isDone(0));
        QTest::keyClick(view, Qt::Key_Space);
        QVERIFY(view->isDone(0));
        QCOMPARE(view->current(), 1);
        QVERIFY(rig::isDone(rig::findCamera(m_app->document.rig(), turns[0].cameraId)->settings,
                            turns[0]));
        QTest::keyClick(view, Qt::Key_Left);
        QTest::keyClick(view, Qt::Key_Space);
        QVERIFY(!view->isDone(0));
        m_app->chooser.pdf = m_app->folder.filePath("turns.pdf");
        QTest::keyClick(view, Qt::Key_P);
        QFile pdf(m_app->chooser.pdf);
        QVERIFY(pdf.open(QIODevice::ReadOnly) && pdf.read(5) == "%PDF-");
        m_app->chooser.pdf = m_app->folder.filePath("no/such/turns.pdf");
        QTest::keyClick(view, Qt::Key_P);
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QTest::keyClick(view, Qt::Key_Escape);
        QTRY_VERIFY(window()->findChild<app::OnSetView*>("onSetView") == nullptr);
    }
    /// After a second take with the turns carried out something is learned; it can be kept with the
    /// camera, and forgotten.
    void whatWasLearnedIsShownKeptAndForgotten() {
        support::trigger(window(), "learnedAction");
        QVERIFY(
            child<QLabel>(window(), "learnedStateLabel")->text().contains("Nothing is learned"));
        QVERIFY(!child<QPushButton>(window(), "forgetLearnedButton")->isEnabled());
        // A later take in which C's tint was turned by four steps of 0.0015, and did 0.0080: its
        // neutrals are those of the first take with more green.
        rig::Rig rig = m_app->document.rig();
        rig::Take later = std::as_const(rig.takes)[0];
        later.id = "take-2";
        later.number = 2;
        const std::string c = std::as_const(rig.cameras)[2].id;
        rig::Shot* shot = rig::findShot(later, c);
        const double before = shot->settings.tintSteps;
        shot->settings.tintSteps = before + 4.0;
        rig::Reading reading = *shot->reading;
        for (rig::PatchReading& patch : reading.patches) {
            patch.signal[0] *= 0.955;
            patch.signal[2] *= 0.955;
        }
        shot->reading = reading;
        rig::findCamera(rig, c)->settings = shot->settings;
        rig.takes.push_back(later);
        m_app->document.change("A later take", rig);
        auto* table = child<QTableWidget>(window(), "learnedTable");
        QTRY_VERIFY(table->rowCount() == 1);
        QCOMPARE(table->item(0, 0)->text(), QString("C"));
        QCOMPARE(table->item(0, 1)->text(), QString("Tint"));
        // And the differences so far stand beside the evidence.
        QTRY_VERIFY(child<QLabel>(window(), "evidenceWords")->text().startsWith("So far: take 1"));
        const double step = rig::findCamera(m_app->document.rig(), c)->sheet.tintDuvPerStep;
        press("keepLearnedButton");
        const double kept = rig::findCamera(m_app->document.rig(), c)->sheet.tintDuvPerStep;
        QVERIFY2(std::abs(kept / step - 1.0) > 0.05, qPrintable(QString::number(kept / step)));
        QTRY_VERIFY(table->rowCount() == 0);
        support::trigger(window(), "undoAction");
        QTRY_VERIFY(table->rowCount() == 1);
        press("forgetLearnedButton");
        QTRY_VERIFY(table->rowCount() == 0);
        QCOMPARE(rig::findCamera(m_app->document.rig(), c)->sheet.tintDuvPerStep, step);
    }
    /// What a template brought of a dial is seen as kept, and forgotten by one undoable step.
    void whatATemplateBroughtIsSeenAndForgotten() {
        rig::Rig rig = m_app->document.rig();
        const std::string c = std::as_const(rig.cameras)[2].id;
        rig::findCamera(rig, c)->sheet.miredPerMired = 0.72;
        m_app->document.start(rig);
        support::trigger(window(), "learnedAction");
        auto* table = child<QTableWidget>(window(), "learnedTable");
        QTRY_COMPARE(table->rowCount(), 1);
        QCOMPARE(table->item(0, 1)->text(), QString("White balance"));
        QVERIFY(table->item(0, 2)->text().startsWith("0.72 ± 0.10"));
        QCOMPARE(table->item(0, 3)->text(), QString("kept"));
        press("forgetLearnedButton");
        QTRY_COMPARE(table->rowCount(), 0);
        QCOMPARE(rig::findCamera(m_app->document.rig(), c)->sheet.miredPerMired, 1.0);
        support::trigger(window(), "undoAction");
        QTRY_COMPARE(table->rowCount(), 1);
    }
    /// A knob is given to a camera by its values; then it stands on the sheet and takes part.
    void aKnobIsGivenToACamera() {
        rig::Rig bare = m_app->document.rig();
        for (rig::Camera& one : bare.cameras) {
            one.sheet.knobs.clear();
            one.settings.knobs.clear();
        }
        m_app->document.start(bare);
        QVERIFY(m_app->show("cameras"));
        m_app->selection.setCameraId("camera-2");
        auto* menu = child<QToolButton>(window(), "cameraMenuButton")->menu();
        Q_EMIT menu->aboutToShow();
        support::trigger(menu, "controlsAction");
        auto* values = child<QLineEdit>(window(), "controlValuesEdit");
        values->setFocus();
        values->selectAll();
        QTest::keyClicks(values, "5..-5:1");
        press("setControlButton");
        QVERIFY(child<QLabel>(window(), "controlRefusalLabel")->text().contains("rising numbers"));
        values->selectAll();
        QTest::keyClicks(values, "-5..5:1");
        auto* step = child<QLineEdit>(window(), "controlPerStepEdit");
        step->selectAll();
        QTest::keyClicks(step, "0.04");
        press("setControlButton");
        QCOMPARE(child<QLabel>(window(), "controlRefusalLabel")->text(), QString("Set."));
        const rig::Camera& camera = m_app->document.rig().cameras[1];
        QCOMPARE(camera.sheet.knobs.size(), std::size_t{1});
        QCOMPARE(camera.sheet.knobs[0].perStep, 0.04);
        QCOMPARE(camera.sheet.knobs[0].steps.size(), std::size_t{11});
        auto* sheet = child<QTableView>(window(), "cameraSheet");
        const int row = app::CameraSheetModel::rowOf("contrast");
        QVERIFY(!sheet->isRowHidden(row));
        QVERIFY(sheet->isRowHidden(app::CameraSheetModel::rowOf("hue")));
        QCOMPARE(sheet->model()->index(row, 1).data().toString(), QString("unknown"));
        QCOMPARE(sheet->model()->index(row, 0).data().toString(), QString("no such control"));
    }
    /// Rounds to shoot, their ranking, and the best profiles set as one step.
    void profilesAreTriedAndUsed() {
        rig::Rig rig = m_app->document.rig();
        for (rig::Camera& camera : rig.cameras) camera.simulated.reset();
        // Two takes for a try-out: camera B as it was shot, and with D's picture in its place.
        const rig::Take shot = rig.takes.back();
        rig.takes.clear();
        for (const char* profile : {"Standard", "Neutral"}) {
            rig::Take take = shot;
            take.id = rig::freshTakeId(rig);
            take.number = static_cast<int>(rig.takes.size()) + 1;
            take.purposes = {rig::Purpose::TryOut};
            for (rig::Shot& one : take.shots) one.settings.profile = std::string(profile);
            if (!rig.takes.empty())
                rig::findShot(take, "camera-2")->reading = rig::findShot(shot, "camera-4")->reading;
            rig.takes.push_back(take);
        }
        m_app->document.start(rig);
        QVERIFY(m_app->show("match"));
        support::trigger(window(), "profilesAction");
        auto* rounds = child<QTableWidget>(window(), "roundTable");
        QVERIFY(rounds->rowCount() > 2);
        QCOMPARE(rounds->item(0, 5)->text(), QString("shot"));
        QCOMPARE(rounds->item(2, 5)->text(), QString("to shoot"));
        QVERIFY(m_app->waitForJobs());
        auto* ranking = child<QTableWidget>(window(), "profileRanking");
        QCOMPARE(ranking->rowCount(), 16);
        const auto left = [&](int row) {
            return ranking->item(row, 4)->text().section(' ', 0, 0).toDouble();
        };
        QVERIFY(left(0) <= left(15));
        QCOMPARE(ranking->verticalHeaderItem(0)->text(), QString("= 1"));
        QVERIFY(ranking->verticalHeader()->isVisible());
        ranking->selectRow(3);
        const QString ofB = ranking->item(3, 1)->text();
        press("useProfilesButton");
        const auto profileOfB = [&] { return m_app->document.rig().cameras[1].settings.profile; };
        QCOMPARE(QString::fromStdString(profileOfB().value()), ofB);
        support::trigger(window(), "undoAction");
        QTRY_VERIFY(window()->findChild<QTableWidget*>("roundTable") == nullptr);
        // The next round sets the cameras, and begins an empty take for it.
        support::trigger(window(), "profilesAction");
        press("shootRoundButton");
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{3});
        QVERIFY(rig::isFor(m_app->document.rig().takes.back(), rig::Purpose::TryOut));
        QCOMPARE(profileOfB().value(), m_app->document.rig().cameras[1].sheet.profiles[2].name);
        QVERIFY(child<QWidget>(window(), "testTakeScreen")->isVisible());
        // One empty take is enough.
        press("newTakeButton");
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{3});
    }
};

RIG_TEST(TestMatchDialogs);
#include "test_match_dialogs.moc"
