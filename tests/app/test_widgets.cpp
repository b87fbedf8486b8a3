// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractItemModelTester>
#include <QApplication>
#include <QLabel>
#include <QMessageBox>
#include <QMimeData>
#include <QProgressBar>
#include <QPushButton>
#include <QSemaphore>
#include <QThread>
#include <QUrl>

#include "app/models/camera_sheet_model.h"
#include "app/models/settings_text.h"
#include "app/models/shot_list_model.h"
#include "app/models/turn_list_model.h"
#include "app/services/dialogs.h"
#include "app/services/job_runner.h"
#include "app/shell/rail_button.h"
#include "app/widgets/badge_label.h"
#include "app/widgets/curve_plot.h"
#include "app/widgets/frame_view.h"
#include "app/widgets/patch_quilt.h"
#include "app/widgets/theme.h"
#include "sim/clock_bench.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::app;

namespace {

QImage pictureOf(QWidget& widget) {
    widget.ensurePolished();
    return widget.grab().toImage();
}

}  // namespace

class TestWidgets : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void jobsBringTheirResultBackToTheInterfaceThread() {
        JobRunner runner;
        QObject context;
        int result = 0;
        QThread* thread = nullptr;
        runner.start<int>(
            "add",
            &context,
            [](const base::Progress&) { return 42; },
            [&](int value) {
                result = value;
                thread = QThread::currentThread();
            });
        QTRY_COMPARE(result, 42);
        QCOMPARE(thread, QThread::currentThread());
        QVERIFY(runner.running().isEmpty());
    }
    void resultOfADeadReceiverIsDropped() {
        JobRunner runner;
        auto context = std::make_unique<QObject>();
        bool hasCome = false;
        QSemaphore go;
        runner.start<int>(
            "late",
            context.get(),
            [&go](const base::Progress&) {
                go.acquire();
                return 1;
            },
            [&](int) { hasCome = true; });
        context.reset();
        go.release();
        QTRY_VERIFY(runner.running().isEmpty());
        QVERIFY(!hasCome);
    }
    void cancelReachesTheWork() {
        JobRunner runner;
        QObject context;
        bool wasCancelled = false;
        const int job = runner.start<bool>(
            "endless",
            &context,
            [](const base::Progress& progress) {
                while (!progress.isCancelled()) QThread::msleep(1);
                return true;
            },
            [&](bool value) { wasCancelled = value; });
        runner.cancel(job);
        QTRY_VERIFY(wasCancelled);
    }
    void progressIsReportedWithAnEstimate() {
        JobRunner runner;
        QObject context;
        QSemaphore go;
        runner.start<int>(
            "half",
            &context,
            [&go](const base::Progress& progress) {
                progress.report(0.5, base::asIs("half way"));
                go.acquire();
                return 0;
            },
            [](int) {});
        QTRY_COMPARE(runner.running().first().fraction, 0.5);
        QCOMPARE(runner.running().first().stage, QString("half way"));
        QVERIFY(runner.running().first().remainingSeconds() >= 0.0);
        go.release();
        QTRY_VERIFY(runner.running().isEmpty());
    }
    void frameViewMapsBothWays() {
        FrameView view;
        view.resize(640, 480);
        view.setPicture(QImage(1920, 1080, QImage::Format_RGB888));
        const rig::PicturePoint point{123.4, 567.8};
        const rig::PicturePoint back = view.toPicture(view.toWidget(point));
        QVERIFY(std::abs(back.x - point.x) < 1e-9 && std::abs(back.y - point.y) < 1e-9);
        QVERIFY(std::abs(view.toWidget({-0.5, -0.5}).y() - 60.0) <
                1e-9);  // letterboxed: (480 - 360) / 2
    }
    void frameViewDrawsTheChartOverThePicture() {
        FrameView view;
        view.resize(640, 360);
        QImage picture(640, 360, QImage::Format_RGB888);
        picture.fill(QColor(100, 100, 100));
        view.setPicture(picture);
        QCOMPARE(pictureOf(view).pixelColor(200, 100), QColor(100, 100, 100));
        view.setChart(rig::PictureQuad{{{200, 100}, {440, 100}, {440, 260}, {200, 260}}}, 0.86);
        const QImage drawn = pictureOf(view);
        QVERIFY(drawn.pixelColor(320, 100).lightness() > 180);  // the field's upper edge
        QVERIFY(drawn.pixelColor(200, 94).lightness() > 180);   // the handle of corner 1
        QCOMPARE(drawn.pixelColor(50, 50), QColor(100, 100, 100));
    }
    void cornersStayInsideThePictureAndCanBeFixed() {
        FrameView view;
        view.resize(640, 360);
        view.setPicture(QImage(640, 360, QImage::Format_RGB888));
        view.setChart(rig::PictureQuad{{{5, 5}, {440, 100}, {440, 260}, {200, 260}}}, 0.86);
        QTest::keyClick(&view, Qt::Key_1);
        QTest::keyClick(&view, Qt::Key_Left, Qt::ShiftModifier);
        QCOMPARE((*view.corners())[0].x, 0.0);
        view.setEditable(false);
        QTest::keyClick(&view, Qt::Key_Right, Qt::ShiftModifier);
        QCOMPARE((*view.corners())[0].x, 0.0);
    }
    void emptyFrameViewSaysWhatToDo() {
        FrameView view;
        view.resize(400, 200);
        view.setEmptyText("Drop a clip here.");
        QImage before = pictureOf(view);
        view.setEmptyText("");
        QVERIFY(before != pictureOf(view));
    }
    void stripesShowBothColoursAndNameTheWorst() {
        PatchQuilt stripes;
        stripes.resize(300, 200);
        QVector<PatchQuilt::Patch> patches(
            24, {"patch", {QColor(200, 10, 10), QColor(10, 200, 10)}, 1.0});
        patches[5] = {"bluish green", {QColor(0, 0, 250), QColor(0, 0, 120)}, 7.25};
        stripes.setPatches(patches, {"A", "B"});
        const QImage drawn = pictureOf(stripes);
        QCOMPARE(drawn.pixelColor(10, 15), QColor(200, 10, 10));
        QCOMPARE(drawn.pixelColor(40, 15), QColor(10, 200, 10));
        QVERIFY(stripes.accessibleDescription().contains("bluish green"));
        // The quilt is walked with the arrow keys.
        QSignalSpy chosen(&stripes, &PatchQuilt::chosen);
        QTest::keyClick(&stripes, Qt::Key_Down);
        QTest::keyClick(&stripes, Qt::Key_Down);
        QTest::keyClick(&stripes, Qt::Key_Right);
        QCOMPARE(stripes.current(), 7);
        QTest::keyClick(&stripes, Qt::Key_Up);
        QTest::keyClick(&stripes, Qt::Key_Up);
        QCOMPARE(stripes.current(), 1);
        QTest::mouseClick(&stripes, Qt::LeftButton, {}, {290, 20});
        QCOMPARE(stripes.current(), 5);
        QCOMPARE(chosen.count(), 5);
        stripes.setPatches({}, {});
        QCOMPARE(stripes.accessibleDescription(), QString("No patches."));
    }
    void badgeCarriesLetterAndColour() {
        BadgeLabel badge;
        badge.setLetter("B");
        QCOMPARE(badge.accessibleName(), QString("Camera B"));
        QCOMPARE(pictureOf(badge).pixelColor(3, 10), theme::cameraColour("B"));
        QVERIFY(theme::cameraColour("A") != theme::cameraColour("B"));
        QVERIFY(theme::cameraColour("").isValid());
    }
    void railEntrySaysItsState() {
        RailButton button(3, "Match", nullptr);
        button.resize(148, 38);
        button.setState(RailButton::State::Attention, 5);
        QCOMPARE(button.accessibleDescription(), QString("5 things want attention"));
        const QImage amber = pictureOf(button);
        button.setState(RailButton::State::Attention, 1);
        QCOMPARE(button.accessibleDescription(), QString("1 thing wants attention"));
        button.setState(RailButton::State::Done, 0);
        QCOMPARE(button.accessibleDescription(), QString("done"));
        QVERIFY(amber != pictureOf(button));
    }
    void curvePlotCanBeClearedAndFilled() {
        CurvePlot plot;
        jobs::CurveEvidence evidence;
        evidence.patchStops = {-2, 0, 2};
        evidence.patchPercent = {10, 40, 90};
        evidence.curveStops = {-2, 0, 2};
        evidence.curvePercent = {10, 40, 90};
        evidence.greyPercent = 40;
        plot.show(evidence, "A", evidence, "B", true);
        QCOMPARE(plot.pointCount(), 6);
        QVERIFY(plot.accessibleDescription().contains("40.0 % on A"));
        plot.clear();
        QCOMPARE(plot.pointCount(), 0);
    }
    void cameraSheetModelKeepsItsContract() {
        CameraSheetModel model;
        QAbstractItemModelTester tester(&model,
                                        QAbstractItemModelTester::FailureReportingMode::QtTest);
        rig::Rig rig = sim::clockBenchRig();
        model.setRig(rig);
        QCOMPARE(model.columnCount(), 4);
        QVERIFY(model.headerData(0, Qt::Horizontal, CameraSheetModel::IsReferenceRole).toBool());
        const QModelIndex automatic = model.index(CameraSheetModel::rowOf("autoExposure"), 3);
        QCOMPARE(automatic.data().toString(), QString("on"));
        QVERIFY(automatic.data(Qt::ToolTipRole).toString().contains("lock it"));
        rig.cameras.pop_back();
        model.setRig(rig);
        QCOMPARE(model.columnCount(), 3);
        model.setRig({});
        QCOMPARE(model.columnCount(), 0);
        QCOMPARE(exposureText(rig.cameras[0].settings), QString("ISO 640 · f/2.8 · 1/50 s"));
    }
    void shotListModelTakesOnlyLocalFiles() {
        ShotListModel model;
        QAbstractItemModelTester tester(&model,
                                        QAbstractItemModelTester::FailureReportingMode::QtTest);
        QMimeData files;
        files.setUrls({QUrl::fromLocalFile("/clips/a.mov")});
        QVERIFY2(!model.canDropMimeData(&files, Qt::CopyAction, -1, -1, {}), "no cameras, no drop");
        model.setRows(
            {{"camera-1", "A", "wide", {}, "no clip yet", ShotListModel::Attention::None}});
        QSignalSpy dropped(&model, &ShotListModel::filesDropped);
        QVERIFY(model.dropMimeData(&files, Qt::CopyAction, -1, -1, model.index(0)));
        QCOMPARE(dropped.first().at(0).toStringList(), QStringList{"/clips/a.mov"});
        QCOMPARE(dropped.first().at(1).toString(), QString("camera-1"));
        QMimeData web;
        web.setUrls({QUrl("https://example.invalid/a.mov")});
        QVERIFY(!model.canDropMimeData(&web, Qt::CopyAction, -1, -1, model.index(0)));
        model.setRows({});
        QCOMPARE(model.rowCount(), 0);
    }
    void turnModelTicksOnlyItsBox() {
        rig::Rig rig = sim::clockBenchRig();
        rig::Turn turn;
        turn.cameraId = "camera-2";
        turn.control = rig::Control::Iso;
        turn.fromValue = 800;
        turn.toValue = 1250;
        turn.toText = rig::valueText(rig::Control::Iso, 1250.0);
        TurnListModel model;
        QAbstractItemModelTester tester(&model,
                                        QAbstractItemModelTester::FailureReportingMode::QtTest);
        model.setTurns(rig, {turn}, false);
        QSignalSpy ticked(&model, &TurnListModel::ticked);
        QVERIFY(!model.setData(model.index(0, 1), Qt::Checked, Qt::CheckStateRole));
        QVERIFY(model.setData(model.index(0, 0), Qt::Checked, Qt::CheckStateRole));
        QCOMPARE(ticked.count(), 1);
        QCOMPARE(model.openTurns(), 1);
        rig.cameras[1].settings.isoValue = 1250;
        model.setTurns(rig, {turn}, false);
        QCOMPARE(model.openTurns(), 0);
        QCOMPARE(model.index(0, 0).data(Qt::CheckStateRole).toInt(), int(Qt::Checked));
    }
    /// The real message box, answered by a click.
    void promptersAskWithTheirOwnWords() {
        QWidget window;
        window.show();
        DialogPrompter prompter;
        std::optional<Answer> answer;
        prompter.ask(
            &window, "Save?", "It would be lost.", "Save", "Do not save", "Cancel", [&](Answer a) {
                answer = a;
            });
        auto* box = window.findChild<QMessageBox*>();
        QVERIFY(box != nullptr);
        for (QAbstractButton* button : box->buttons()) {
            if (button->text() == "Do not save") QTest::mouseClick(button, Qt::LeftButton);
        }
        QTRY_COMPARE(answer, std::optional(Answer::No));
    }
    void errorsShowAllThreeSentences() {
        QWidget window;
        window.show();
        DialogPrompter prompter;
        bool isRead = false;
        prompter.showError(&window,
                           {base::ErrorCode::NotFound,
                            base::asIs("Cannot read b.mov"),
                            base::asIs("There is no such file."),
                            base::asIs("Choose it again.")},
                           [&] { isRead = true; });
        auto* box = window.findChild<QMessageBox*>();
        QVERIFY(box != nullptr);
        QCOMPARE(box->text(), QString("Cannot read b.mov"));
        QVERIFY(box->informativeText().contains("There is no such file.") &&
                box->informativeText().contains("Choose it again."));
        QVERIFY(!isRead);
        QTest::keyClick(box, Qt::Key_Escape);
        QTRY_VERIFY(isRead);
    }
    void progressAppearsOnlyForLongWork() {
        support::AppFixture fixture;
        QVERIFY(fixture.show("cameras"));
        auto* bar = support::child<QProgressBar>(fixture.window.get(), "jobProgress");
        QVERIFY(!bar->isVisible());
        QObject context;
        QSemaphore go;
        fixture.jobs.start<int>(
            "Long work",
            &context,
            [&go](const base::Progress& progress) {
                progress.report(0.25, base::asIs("going"));
                go.acquire();
                return 0;
            },
            [](int) {});
        QTRY_VERIFY(bar->isVisible());
        QCOMPARE(bar->value(), 25);
        QVERIFY(support::child<QLabel>(fixture.window.get(), "jobLabel")
                    ->text()
                    .contains("Long work, about"));
        QVERIFY(support::child<QLabel>(fixture.window.get(), "jobLabel")->text().endsWith("going"));
        QVERIFY(bar->accessibleDescription().endsWith("going"));
        QVERIFY(support::child<QPushButton>(fixture.window.get(), "cancelJobsButton")->isVisible());
        go.release();
        QTRY_VERIFY(!bar->isVisible());
    }
};

RIG_TEST(TestWidgets);
#include "test_widgets.moc"
