// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractItemModelTester>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QStackedWidget>
#include <QTableView>

#include "app/models/match_board_model.h"
#include "app/models/turn_list_model.h"
#include "app/widgets/curve_plot.h"
#include "app/widgets/patch_quilt.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using app::MatchBoardModel;
using support::AppFixture;
using support::child;

class TestMatchScreen : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QTableView* board() const { return child<QTableView>(m_app->window.get(), "matchBoard"); }
    QTableView* turns() const { return child<QTableView>(m_app->window.get(), "turnList"); }
    double number(const char* label) const {
        return child<QLabel>(m_app->window.get(), label)->text().section(' ', 0, 0).toDouble();
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("match"));
    }
    void cleanup() { m_app.reset(); }

    void boardShowsDifferencesWithUncertaintyAndVerdict() {
        const QAbstractItemModel* model = board()->model();
        QCOMPARE(model->rowCount(), 10);
        QCOMPARE(model->columnCount(), 4);
        const QModelIndex exposureB = model->index(0, 1);
        QVERIFY(std::abs(exposureB.data(MatchBoardModel::ValueRole).toDouble() + 0.64) < 0.06);
        QCOMPARE(exposureB.data(MatchBoardModel::VerdictRole).toInt(), int(match::Verdict::Off));
        const QString spoken = exposureB.data(Qt::AccessibleTextRole).toString();
        QVERIFY2(spoken.contains(QRegularExpression("± 0\\.[01]\\d stop, off")),
                 qPrintable(spoken));
        QVERIFY(model->index(0, 0).data(MatchBoardModel::IsReferenceRole).toBool());
        QCOMPARE(model->headerData(1, Qt::Horizontal, Qt::DisplayRole).toString(),
                 QString("restorer close"));
        QVERIFY(number("worstNowLabel") > 2.0 * number("worstAfterLabel"));
    }
    /// A shooter's words come first, with the number beside them; the menu brings the terms of
    /// colour science back, and the choice is remembered.
    void wordsComeFirstUnlessTermsAreAsked() {
        const auto* board = child<QTableView>(m_app->window.get(), "matchBoard");
        const auto* model = board->model();
        const auto words = [&] {
            return model->index(0, 1).data(app::MatchBoardModel::WordsRole).toString();
        };
        const auto title = [&](int row) {
            return model->headerData(row, Qt::Vertical, Qt::DisplayRole).toString();
        };
        QCOMPARE(words(), QString("2/3 stop darker"));
        QCOMPARE(title(0), QString("Brightness"));
        QVERIFY(model->index(0, 1).data().toString().startsWith(QChar(0x2212)));
        QVERIFY(model->index(0, 1).data(Qt::AccessibleTextRole).toString().contains("darker"));
        const auto* action = child<QAction>(m_app->window.get(), "technicalTermsAction");
        child<QAction>(m_app->window.get(), "technicalTermsAction")->trigger();
        QVERIFY(action->isChecked());
        QVERIFY(words().isEmpty());
        QCOMPARE(title(0), QString("Exposure"));
        QVERIFY(m_app->settings.value("technicalTerms").toBool());
    }
    void everyCellHasItsEvidence() {
        board()->setFocus();
        board()->setCurrentIndex(board()->model()->index(0, 1));
        QCOMPARE(child<QLabel>(m_app->window.get(), "evidenceTitle")->text(),
                 QString("Why: B Brightness"));
        QVERIFY(child<app::CurvePlot>(m_app->window.get(), "curvePlot")->isVisible());
        QVERIFY(child<app::CurvePlot>(m_app->window.get(), "curvePlot")->pointCount() >= 10);
        for (int i = 0; i < 7; ++i) QTest::keyClick(board(), Qt::Key_Down);
        auto* stripes = child<app::PatchQuilt>(m_app->window.get(), "patchStripes");
        QVERIFY(stripes->isVisible());
        QCOMPARE(stripes->patches().size(), 24);
        QVERIFY(stripes->patches()[1].colours[0] != stripes->patches()[1].colours[1]);
        QTest::keyClick(board(), Qt::Key_Left);
        QVERIFY(
            child<QLabel>(m_app->window.get(), "evidenceWords")->text().contains("Choose a cell"));
    }
    void tickingWritesTheSettingAndUndoTakesItBack() {
        auto* model = static_cast<app::TurnListModel*>(turns()->model());
        int row = 0;
        while (model->turns()[std::size_t(row)].control != rig::Control::Iso) ++row;
        const rig::Turn turn = model->turns()[std::size_t(row)];
        const QRect box = turns()->visualRect(model->index(row, 0));
        QTest::mouseClick(
            turns()->viewport(), Qt::LeftButton, {}, QPoint(box.left() + 16, box.center().y()));
        const auto iso = [&] {
            return rig::findCamera(m_app->document.rig(), turn.cameraId)->settings.isoValue;
        };
        QCOMPARE(iso(), turn.toValue);
        QVERIFY(model->isDone(row));
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(iso(), turn.fromValue);
        QVERIFY(!model->isDone(row));
        turns()->setFocus();
        turns()->setCurrentIndex(model->index(row, 1));
        QTest::keyClick(turns(), Qt::Key_Space);
        QCOMPARE(iso(), turn.toValue);
        QTest::keyClick(turns(), Qt::Key_Space);
        QCOMPARE(iso(), turn.fromValue);
    }
    /// Two cameras that recorded the same: nothing is left to turn, and that is said.
    void theEndIsSaid() {
        rig::Rig alike = m_app->document.rig();
        while (alike.takes[0].shots.size() > 2)
            alike.takes[0].shots.erase(alike.takes[0].shots.begin() + 2);
        alike.takes[0].shots[1].reading = alike.takes[0].shots[0].reading;
        m_app->document.start(alike);
        auto* rest = child<QLabel>(m_app->window.get(), "restLabel");
        QTRY_VERIFY(rest->isVisible());
        QVERIFY2(rest->text().contains("Done: every row that can be judged is good."),
                 qPrintable(rest->text()));
        QVERIFY(!turns()->isVisible());
        // Another contrast, which no control of these bodies moves: why, and what would help.
        rig::Rig harder = alike;
        for (rig::Camera& camera : harder.cameras) {
            camera.sheet.knobs.clear();
            camera.settings.knobs.clear();
        }
        for (rig::PatchReading& patch : harder.takes[0].shots[1].reading->patches) {
            for (double& value : patch.signal)
                value = std::clamp(0.42 + 1.2 * (value - 0.42), 0.0, 1.0);
        }
        m_app->document.start(harder);
        QTRY_VERIFY(rest->text().contains("Contrast") && rest->isVisible());
        QVERIFY2(rest->text().contains("<b>B</b>"), qPrintable(rest->text()));
        QVERIFY(!rest->text().contains("Done"));
    }
    /// Long notes and a small window: what has no room scrolls, nothing lies over anything.
    void nothingOverlapsInASmallWindow() {
        m_app->window->resize(1024, 680);
        QVERIFY(QTest::qWaitForWindowExposed(m_app->window.get()));
        const auto* notes = child<QWidget>(m_app->window.get(), "matchNotesArea");
        const auto* card = child<QWidget>(m_app->window.get(), "turnsCard");
        const auto areaOf = [&](const QWidget* widget) {
            return QRect(widget->mapTo(m_app->window.get(), QPoint(0, 0)), widget->size());
        };
        QTRY_VERIFY(!areaOf(board()).intersects(areaOf(card)));
        if (notes->isVisible()) {
            QTRY_VERIFY(!areaOf(notes).intersects(areaOf(board())));
            QTRY_VERIFY(!areaOf(notes).intersects(areaOf(card)));
        }
        QTRY_VERIFY(card->height() >= card->minimumSizeHint().height());
    }
    /// The main promise: one round of turns, one more take, and the worst pair falls below half;
    /// every exposure and white-balance cell is good or at its camera's nearest step.
    void shootingAgainShowsTheMatchImprove() {
        rig::Rig small = m_app->document.rig();
        for (rig::Camera& camera : small.cameras) {
            camera.settings.width = 512;
            camera.settings.height = 288;
        }
        m_app->document.start(small);
        const double before = number("worstNowLabel");
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "tickAllButton"), Qt::LeftButton);
        QCOMPARE(static_cast<app::TurnListModel*>(turns()->model())->openTurns(), 0);
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "nextTakeButton"),
                          Qt::LeftButton);
        QVERIFY(child<QWidget>(m_app->window.get(), "testTakeScreen")->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(m_app->document.rig().takes.size() == 2, 300000);
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(std::all_of(m_app->document.rig().takes[1].shots.begin(),
                                m_app->document.rig().takes[1].shots.end(),
                                [](const rig::Shot& s) { return s.reading.has_value(); }));
        m_app->window->showScreen("match");
        const double after = number("worstNowLabel");
        qInfo("worst pair %.1f before, %.1f after one round", before, after);
        QVERIFY2(after < 0.5 * before, qPrintable(QString("%1 to %2").arg(before).arg(after)));
        const auto& report = static_cast<MatchBoardModel*>(board()->model())->report();
        for (const match::CameraMatch& camera : report.cameras) {
            if (camera.isReference) continue;
            for (const match::Quality quality :
                 {match::Quality::Exposure, match::Quality::WhiteBalance}) {
                const bool isGood = camera.differences.of(quality).verdict == match::Verdict::Good;
                const bool hasNearerStep = std::any_of(
                    camera.plan.turns.begin(), camera.plan.turns.end(), [&](const rig::Turn& t) {
                        return t.effect == (quality == match::Quality::Exposure
                                                ? "exposureStops"
                                                : "whiteBalanceMired");
                    });
                QVERIFY2(isGood || !hasNearerStep, camera.cameraId.c_str());
            }
        }
        const int steps = m_app->document.undoStack().index();
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{1});
        QCOMPARE(m_app->document.undoStack().index(), steps - 1);
    }
    void changingTheReferenceTurnsTheBoard() {
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "referenceBox"),
                              "restorer close");
        QVERIFY(board()->model()->index(0, 1).data(MatchBoardModel::IsReferenceRole).toBool());
        QVERIFY(std::abs(board()->model()->index(0, 0).data(MatchBoardModel::ValueRole).toDouble() -
                         0.63) < 0.08);
    }
    /// Skin is compared between the same people; a camera that sees nobody stays quiet about it.
    void skinRowsCompareTheSamePeople() {
        const QModelIndex level = board()->model()->index(8, 1);
        QVERIFY(level.data(MatchBoardModel::ValueRole).toDouble() < -4.0);
        QVERIFY(board()->model()->index(8, 0).data().toString().contains(" %"));
        const QModelIndex nobody = board()->model()->index(8, 3);
        QCOMPARE(nobody.data().toString(), QString("no face found"));
        QVERIFY(nobody.data(MatchBoardModel::IsQuietRole).toBool());
        board()->setCurrentIndex(level);
        QVERIFY(child<QLabel>(m_app->window.get(), "evidenceWords")->text().contains("restorer"));
    }
    void missingClipSaysWhyInItsCells() {
        rig::Rig rig = m_app->document.rig();
        rig.takes[0].shots.erase(rig.takes[0].shots.begin() + 2);
        m_app->document.change("lose C", rig);
        const QModelIndex cell = board()->model()->index(0, 2);
        QVERIFY(!cell.data(MatchBoardModel::ValueRole).isValid());
        QVERIFY(cell.data(Qt::ToolTipRole).toString().contains("No clip in this take"));
    }
    void linearJudgingSaysWhatItNeeds() {
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "judgeBox"), "in linear light");
        QVERIFY(board()
                    ->model()
                    ->index(7, 1)
                    .data(Qt::ToolTipRole)
                    .toString()
                    .contains("declared curve"));
    }
    void judgingThroughLutsChangesTheColourRow() {
        auto* box = child<QComboBox>(m_app->window.get(), "judgeBox");
        const QModelIndex cell = board()->model()->index(7, 1);
        const double before = cell.data(MatchBoardModel::ValueRole).toDouble();
        QFile file(m_app->folder.filePath("dark.cube"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("LUT_1D_SIZE 2\n0 0 0\n0.5 0.5 0.5\n");
        file.close();
        rig::Rig rig = m_app->document.rig();
        rig.cameras[1].viewingLut = file.fileName().toStdString();
        m_app->document.change("set LUT", rig);
        QCOMPARE(cell.data(MatchBoardModel::ValueRole).toDouble(), before);
        support::chooseByKeys(box, "through viewing LUTs");
        QVERIFY(cell.data(MatchBoardModel::ValueRole).toDouble() > before + 2.0);
        // A LUT that is gone is said, and the camera judged as recorded.
        rig = m_app->document.rig();
        rig.cameras[1].viewingLut = m_app->folder.filePath("gone.cube").toStdString();
        m_app->document.change("lose LUT", rig);
        QCOMPARE(cell.data(MatchBoardModel::ValueRole).toDouble(), before);
        QVERIFY(child<QLabel>(m_app->window.get(), "matchNotes")->text().contains("gone.cube"));
    }
    void emptyTakeSaysWhatToDo() {
        rig::Rig rig = m_app->document.rig();
        rig.takes.clear();
        m_app->document.change("clear", rig);
        auto* label = child<QLabel>(m_app->window.get(), "matchEmptyLabel");
        QVERIFY(label->isVisible());
        QVERIFY(label->text().contains("24-patch chart"));
    }
    void modelsKeepTheirContracts() {
        QAbstractItemModelTester boardTester(
            board()->model(), QAbstractItemModelTester::FailureReportingMode::QtTest);
        QAbstractItemModelTester turnTester(turns()->model(),
                                            QAbstractItemModelTester::FailureReportingMode::QtTest);
        rig::Rig rig = m_app->document.rig();
        rig.cameras.pop_back();
        m_app->document.change("fewer", rig);
        rig.takes.clear();
        m_app->document.change("none", rig);
        support::trigger(m_app->window.get(), "undoAction");
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(board()->model()->columnCount(), 4);
    }
    /// An earlier take shows the settings it was shot with and what was carried out after it; it
    /// cannot be ticked.
    void anEarlierTakeIsReadOnly() {
        rig::Rig rig = m_app->document.rig();
        const rig::Turn turn =
            child<QTableView>(m_app->window.get(), "turnList")->model()->rowCount() > 0
                ? static_cast<app::TurnListModel*>(turns()->model())->turns().front()
                : rig::Turn{};
        QVERIFY(!turn.cameraId.empty());
        rig::Take later = std::as_const(rig.takes)[0];
        later.id = "take-2";
        later.number = 2;
        rig::Shot* shot = rig::findShot(later, turn.cameraId);
        shot->settings = rig::applied(shot->settings, turn);
        rig.takes.push_back(later);
        rig::findCamera(rig, turn.cameraId)->settings = shot->settings;
        rig::findCamera(rig, turn.cameraId)->settings.isoValue = 12345.0;
        m_app->document.change("A later take", rig);
        m_app->selection.setTakeId("take-1");
        const QAbstractItemModel* model = turns()->model();
        QVERIFY(!model->flags(model->index(0, 0)).testFlag(Qt::ItemIsUserCheckable));
        QCOMPARE(model->index(0, 0).data(Qt::CheckStateRole).toInt(), int(Qt::Checked));
        QVERIFY(!child<QPushButton>(m_app->window.get(), "tickAllButton")->isEnabled());
        for (int column = 0; column < board()->model()->columnCount(); ++column) {
            QVERIFY(!board()
                         ->model()
                         ->headerData(column, Qt::Horizontal, Qt::ToolTipRole)
                         .toString()
                         .contains("12345"));
        }
        const rig::Rig before = m_app->document.rig();
        turns()->setFocus();
        turns()->setCurrentIndex(model->index(0, 0));
        QTest::keyClick(turns(), Qt::Key_Space);
        QVERIFY(m_app->document.rig() == before);
        m_app->selection.setTakeId("take-2");
        QVERIFY(model->rowCount() == 0 ||
                model->flags(model->index(0, 0)).testFlag(Qt::ItemIsUserCheckable));
    }
    /// A control turned by hand: board, head and picture follow, nothing in the rig changes until
    /// it is kept; that is one step to be undone.
    void whatIfFollowsAtOnceAndIsKeptOrDropped() {
        auto* window = m_app->window.get();
        const QModelIndex exposureB = board()->model()->index(0, 1);
        const auto exposure = [&] { return exposureB.data(MatchBoardModel::ValueRole).toDouble(); };
        const double before = exposure();
        board()->setCurrentIndex(exposureB);
        const rig::Rig asOpened = m_app->document.rig();
        QTest::mouseClick(child<QPushButton>(window, "whatIfButton"), Qt::LeftButton);
        QVERIFY(child<QWidget>(window, "whatIfPanel")->isVisible());
        QVERIFY(child<QPushButton>(window, "tryCameraB")->isChecked());
        auto* keep = child<QPushButton>(window, "keepTriedButton");
        QVERIFY(!keep->isEnabled());
        QSlider* iso = nullptr;
        for (auto* slider : window->findChildren<QSlider*>()) {
            if (slider->accessibleName() == "ISO" && slider->isVisible()) iso = slider;
        }
        QVERIFY(iso != nullptr);
        iso->setFocus();
        // Three thirds of a stop brighter.
        for (int i = 0; i < 3; ++i) QTest::keyClick(iso, Qt::Key_Right);
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(std::abs(exposure() - before - 1.0) < 0.1);
        QVERIFY(child<QLabel>(window, "worstPairLabel")->text().startsWith("what if"));
        QVERIFY(m_app->document.rig() == asOpened);
        QVERIFY(!child<QLabel>(window, "whatIfPicture")->pixmap().isNull());
        QVERIFY(child<QLabel>(window, "whatIfPictureName")->text().startsWith("B as tried"));
        QTest::mouseClick(child<QPushButton>(window, "resetTriedButton"), Qt::LeftButton);
        QTRY_VERIFY(std::abs(exposure() - before) < 1e-9);
        for (int i = 0; i < 2; ++i) QTest::keyClick(iso, Qt::Key_Right);
        QTest::mouseClick(child<QPushButton>(window, "dropTriedButton"), Qt::LeftButton);
        QVERIFY(turns()->isVisible());
        QVERIFY(m_app->document.rig() == asOpened);
        QTRY_VERIFY(std::abs(exposure() - before) < 1e-9);
        QTest::mouseClick(child<QPushButton>(window, "whatIfButton"), Qt::LeftButton);
        for (auto* slider : window->findChildren<QSlider*>()) {
            if (slider->accessibleName() == "ISO" && slider->isVisible()) iso = slider;
        }
        for (int i = 0; i < 2; ++i) QTest::keyClick(iso, Qt::Key_Right);
        QTest::mouseClick(keep, Qt::LeftButton);
        const auto isoOfB = [&] { return m_app->document.rig().cameras[1].settings.isoValue; };
        QVERIFY(isoOfB().value() > asOpened.cameras[1].settings.isoValue.value() * 1.5);
        support::trigger(window, "undoAction");
        QCOMPARE(isoOfB(), asOpened.cameras[1].settings.isoValue);
    }
};

RIG_TEST(TestMatchScreen);
#include "test_match_screen.moc"
