// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QWheelEvent>

#include "app/screens/set/layout_dialogs.h"
#include "app/screens/set/picture_strip.h"
#include "app/screens/set/plan_painter.h"
#include "app/screens/set/plan_view.h"
#include "app/widgets/fact_list.h"
#include "plan/layouts.h"
#include "rig/bodies.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::app;
using support::AppFixture;
using support::child;

class TestSetScreen : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QWidget* window() const { return m_app->window.get(); }
    PlanView* view() const { return child<PlanView>(window(), "planView"); }
    const rig::PlanObject& object(const char* id) const {
        return *rig::findObject(*m_app->document.rig().plan, id);
    }
    bool isChosen(const char* id) const {
        return child<QLineEdit>(window(), "objectNameEdit")->text() ==
               QString::fromStdString(plan::nameOf(object(id)));
    }
    void click(const QPointF& at, Qt::KeyboardModifiers keys = {}) const {
        QTest::mouseClick(view(), Qt::LeftButton, keys, at.toPoint());
    }
    void drag(const QPointF& from, const QPointF& by, Qt::KeyboardModifiers keys = {}) const {
        QTest::mousePress(view(), Qt::LeftButton, keys, from.toPoint());
        for (int step = 1; step <= 5; ++step) {
            const QPointF at = from + by * step / 5.0;
            QMouseEvent move(
                QEvent::MouseMove, at, view()->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, keys);
            QApplication::sendEvent(view(), &move);
        }
        QTest::mouseRelease(view(), Qt::LeftButton, keys, (from + by).toPoint());
    }
    QString factValue(const QString& title) const {
        const auto* model = child<FactList>(window(), "factList")->model();
        for (int row = 0; row < model->rowCount(); ++row) {
            const QModelIndex index = model->index(row, 0);
            if (index.data(FactListModel::TitleRole).toString().startsWith(title)) {
                return index.data(FactListModel::ValueRole).toString();
            }
        }
        return "no such fact";
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("set"));
    }
    void cleanup() { m_app.reset(); }

    void clickingChoosesAndTellsFacts() {
        click(view()->placeOf("camera-2"));
        QCOMPARE(child<QLineEdit>(window(), "objectNameEdit")->text(), QString("restorer close"));
        QCOMPARE(factValue("Lens for a medium close shot"), QString("50 mm"));
        QVERIFY(factValue("Brightness against A").startsWith(QString::fromUtf8("−0.34")));
        click(view()->placeOf("person-1"));
        QVERIFY(factValue("Key").startsWith("key, "));
        QTest::keyClick(view(), Qt::Key_Escape);
        QCOMPARE(child<QLineEdit>(window(), "objectNameEdit")->text(), QString("Room"));
        QVERIFY(factValue("Workshop sockets").contains("of 1840 VA"));
    }
    void draggingMovesOnTheGridAndIsOneUndoStep() {
        const auto before = object("light-1");
        const int steps = m_app->document.undoStack().count();
        drag(view()->placeOf("light-1"), {57, 33});
        const auto after = object("light-1");
        QVERIFY(after.xMetres > before.xMetres + 0.3);
        QVERIFY(std::abs(std::remainder(after.xMetres, 0.05)) < 1e-6);
        QVERIFY(std::abs(std::remainder(after.zMetres, 0.05)) < 1e-6);
        QCOMPARE(m_app->document.undoStack().count(), steps + 1);
        support::trigger(window(), "undoAction");
        QVERIFY(object("light-1") == before);
    }
    void altDragsOffTheGrid() {
        drag(view()->placeOf("light-1"), {41, 0}, Qt::AltModifier);
        QVERIFY(std::abs(std::remainder(object("light-1").xMetres, 0.05)) > 1e-4);
    }
    /// No name lies on another, covers what it names or leaves the view; on every layout.
    void namesKeepApart() {
        for (const rig::Layout& layout : plan::builtInLayouts()) {
            rig::Rig rig = rig::withLayout({}, layout);
            // Two lamps and two people on one spot: their names part.
            rig::PlanObject twin = *rig::findObject(*rig.plan, "light-1");
            twin.id = "light-99";
            twin.name = "a lamp with a long name, on the same stand";
            rig.plan->objects.push_back(twin);
            twin = *rig::findObject(*rig.plan, "person-1");
            twin.id = "person-99";
            rig.plan->objects.push_back(twin);
            const plan::SetAnalysis set(rig);
            for (const QSize& size : {QSize(360, 240), QSize(736, 480), QSize(1400, 900)}) {
                for (const PlanSide side : {PlanSide::Above, PlanSide::Side}) {
                    QImage image(size, QImage::Format_RGB32);
                    QPainter painter(&image);
                    const QRectF area = QRectF(image.rect()).adjusted(20, 20, -20, -30);
                    PlanPainter plan(painter, set, PlanScale::fitting(*rig.plan, side, area));
                    plan.paintRoom();
                    plan.paintObjects({"person-99"});
                    const QVector<QRectF>& boxes = plan.nameBoxes();
                    QVERIFY(boxes.size() >= 4);
                    for (qsizetype i = 0; i < boxes.size(); ++i) {
                        QVERIFY(QRectF(image.rect()).contains(boxes[i]));
                        for (qsizetype k = 0; k < i; ++k) {
                            const QRectF both = boxes[i].intersected(boxes[k]);
                            QVERIFY2(both.width() * both.height() < 1.0,
                                     qPrintable(QString("%1 at %2 × %3, names %4 and %5")
                                                    .arg(QString::fromStdString(layout.title))
                                                    .arg(size.width())
                                                    .arg(size.height())
                                                    .arg(i)
                                                    .arg(k)));
                        }
                    }
                }
            }
        }
    }
    void anotherRigIsSeenWhole() {
        QTest::mouseClick(child<QPushButton>(window(), "planZoomIn"), Qt::LeftButton);
        QVERIFY(!view()->zoom().isWhole());
        m_app->document.start(m_app->document.rig());
        QVERIFY(view()->zoom().isWhole());
    }
    void thePlanIsZoomedByTheWheelAndByKeys() {
        const auto wheel = [&](const QPointF& at, int notches) {
            QWheelEvent event(at,
                              view()->mapToGlobal(at),
                              QPoint(),
                              QPoint(0, 120 * notches),
                              Qt::NoButton,
                              Qt::NoModifier,
                              Qt::NoScrollPhase,
                              false);
            QApplication::sendEvent(view(), &event);
        };
        const auto lengthOf = [](const QPointF& way) { return std::hypot(way.x(), way.y()); };
        const QPointF lamp = view()->placeOf("light-1"), other = view()->placeOf("person-1");
        const double metre = lengthOf(other - lamp) /
                             std::hypot(object("person-1").xMetres - object("light-1").xMetres,
                                        object("person-1").zMetres - object("light-1").zMetres);
        QVERIFY(!child<QPushButton>(window(), "planZoomOut")->isEnabled());
        wheel(lamp, 3);
        // What lies under the pointer stays there, all else moves away from it.
        QVERIFY(lengthOf(view()->placeOf("light-1") - lamp) < 0.01);
        const double grown = lengthOf(view()->placeOf("person-1") - lamp) / lengthOf(other - lamp);
        QVERIFY(std::abs(grown - std::pow(1.25, 3)) < 0.01);
        // Dragging is to scale: the same way on the widget is a shorter one in the room.
        const double before = object("light-1").xMetres;
        const int steps = m_app->document.undoStack().count();
        drag(lamp, {100, 0}, Qt::AltModifier);
        QVERIFY(std::abs(object("light-1").xMetres - before - 100.0 / (metre * grown)) < 0.02);
        QCOMPARE(m_app->document.undoStack().count(), steps + 1);
        // Free floor is moved by a drag, which changes nothing.
        view()->setFocus();
        const QPointF place = view()->placeOf("person-1");
        drag(view()->placeOf("light-1") + QPointF(0, 90), {40, 20});
        QVERIFY(lengthOf(view()->placeOf("person-1") - place - QPointF(40, 20)) < 1.0);
        if (const QString shot = qEnvironmentVariable("RIGMATCH_SHOT"); !shot.isEmpty()) {
            app::theme::apply(*qApp);
            window()->resize(1280, 800);
            QTest::qWait(300);
            QVERIFY(window()->grab().save(shot));
        }
        QTest::keyClick(view(), Qt::Key_Left, Qt::AltModifier);
        QVERIFY(view()->placeOf("person-1").x() > place.x() + 40.5);
        QCOMPARE(m_app->document.undoStack().count(), steps + 1);
        QTest::keyClick(view(), Qt::Key_0);
        QVERIFY(lengthOf(view()->placeOf("person-1") - other) < 0.01);
        // As far in as it goes, what is chosen by key is brought into view.
        for (int i = 0; i < 20; ++i) QTest::keyClick(view(), Qt::Key_Plus);
        QVERIFY(!child<QPushButton>(window(), "planZoomIn")->isEnabled());
        for (const char* id : {"camera-1", "light-1", "person-1"}) {
            for (int i = 0; i < 30 && !isChosen(id); ++i) QTest::keyClick(view(), Qt::Key_Space);
            QVERIFY(isChosen(id));
            QVERIFY(view()->rect().contains(view()->placeOf(id).toPoint()));
        }
        QTest::mouseClick(child<QPushButton>(window(), "planWhole"), Qt::LeftButton);
        QVERIFY(view()->zoom().isWhole());
    }
    void nothingLeavesTheRoom() {
        drag(view()->placeOf("camera-1"), {0, 2000});
        QCOMPARE(object("camera-1").zMetres, m_app->document.rig().plan->depthMetres);
    }
    void theHandleTurnsTheAim() {
        click(view()->placeOf("light-1"));
        const auto handle = view()->handleOf("light-1");
        QVERIFY(handle.has_value());
        const double before = object("light-1").aimXMetres;
        drag(*handle, {60, 0});
        QVERIFY(object("light-1").aimXMetres > before + 0.3);
        QVERIFY(object("light-1").xMetres < 1.0);
        click(view()->placeOf("person-1"));
        drag(*view()->handleOf("person-1"), {-60, 0});
        QVERIFY(object("person-1").facingDegrees < 0.0);
    }
    void escapeGivesADragUp() {
        const auto before = object("light-1");
        QTest::mousePress(view(), Qt::LeftButton, {}, view()->placeOf("light-1").toPoint());
        const QPointF at = view()->placeOf("light-1") + QPointF(80, 0);
        QMouseEvent move(
            QEvent::MouseMove, at, view()->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(view(), &move);
        QTest::keyClick(view(), Qt::Key_Escape);
        QTest::mouseRelease(view(), Qt::LeftButton, {}, at.toPoint());
        QVERIFY(object("light-1") == before);
    }
    void arrowsMoveAndARowOfThemIsOneStep() {
        click(view()->placeOf("person-2"));
        view()->setFocus();
        const auto before = object("person-2");
        const int steps = m_app->document.undoStack().count();
        for (int i = 0; i < 3; ++i) QTest::keyClick(view(), Qt::Key_Right);
        QTest::keyClick(view(), Qt::Key_Down, Qt::ControlModifier);
        QTest::keyClick(view(), Qt::Key_PageUp);
        QVERIFY(std::abs(object("person-2").xMetres - before.xMetres - 0.15) < 1e-9);
        QVERIFY(std::abs(object("person-2").zMetres - before.zMetres - 0.01) < 1e-9);
        QVERIFY(std::abs(object("person-2").heightMetres - before.heightMetres - 0.05) < 1e-9);
        QCOMPARE(m_app->document.undoStack().count(), steps + 1);
    }
    void spaceGoesThroughTheObjectsAndDeleteRemoves() {
        view()->setFocus();
        QTest::keyClick(view(), Qt::Key_Space);
        QCOMPARE(child<QLineEdit>(window(), "objectNameEdit")->text(), QString("restorer"));
        QTest::keyClick(view(), Qt::Key_Space);
        QCOMPARE(child<QLineEdit>(window(), "objectNameEdit")->text(), QString("apprentice"));
        QTest::keyClick(view(), Qt::Key_Space, Qt::ShiftModifier);
        QTest::keyClick(view(), Qt::Key_Delete);
        QVERIFY(rig::findObject(*m_app->document.rig().plan, "person-1") == nullptr);
        support::trigger(window(), "undoAction");
        QVERIFY(rig::findObject(*m_app->document.rig().plan, "person-1") != nullptr);
    }
    void oneSideIsAlwaysChosen() {
        auto* above = child<QPushButton>(window(), "fromAboveButton");
        auto* side = child<QPushButton>(window(), "fromSideButton");
        QTest::mouseClick(above, Qt::LeftButton);
        QVERIFY(above->isChecked() && !side->isChecked());
        QTest::mouseClick(side, Qt::LeftButton);
        QTest::mouseClick(side, Qt::LeftButton);
        QVERIFY(side->isChecked() && !above->isChecked());
    }
    void sideViewMovesDepthAndHeight() {
        QTest::mouseClick(child<QPushButton>(window(), "fromSideButton"), Qt::LeftButton);
        const auto before = object("light-2");
        drag(view()->placeOf("light-2"), {0, 40});
        QVERIFY(object("light-2").heightMetres < before.heightMetres - 0.1);
        QCOMPARE(object("light-2").xMetres, before.xMetres);
    }
    void exactNumbersAreTypedAndRefusedWithReason() {
        click(view()->placeOf("camera-2"));
        QTest::mouseClick(child<QPushButton>(window(), "numbersTab"), Qt::LeftButton);
        auto* height = child<QLineEdit>(window(), "heightMetresEdit");
        height->setFocus();
        height->selectAll();
        QTest::keyClicks(height, "1,52");
        QTest::keyClick(height, Qt::Key_Return);
        QCOMPARE(object("camera-2").heightMetres, 1.52);
        auto* label = child<QLabel>(window(), "refusalLabel");
        QVERIFY(!label->isVisible());
        for (const auto& [typed, words] : std::vector<std::pair<QString, QString>>{
                 {"0", "0 m was given; allowed is 0.05 to 12 m"},
                 {"99999", "99999 m was given"},
                 {"3.5", "the ceiling is at 2.7 m"},
                 {"high", "\"high\" is no number"}}) {
            height->setFocus();
            height->selectAll();
            QTest::keyClicks(height, typed);
            QTest::keyClick(height, Qt::Key_Return);
            QVERIFY2(label->isVisible() && label->text().contains(words),
                     qPrintable(label->text()));
            QCOMPARE(object("camera-2").heightMetres, 1.52);
        }
        auto* x = child<QLineEdit>(window(), "xMetresEdit");
        x->setFocus();
        x->selectAll();
        QTest::keyClicks(x, "7");
        QTest::keyClick(x, Qt::Key_Return);
        QVERIFY2(label->text().contains("the room is 5.2 m wide"), qPrintable(label->text()));
    }
    void addingPutsARealThingOnThePlan() {
        auto* menu = child<QMenu>(window(), "addMenu");
        for (const char* kind : {"person",
                                 "light",
                                 "window",
                                 "door",
                                 "table",
                                 "riser",
                                 "backdrop",
                                 "prop",
                                 "flag",
                                 "bounce",
                                 "chart"}) {
            const std::size_t before = m_app->document.rig().plan->objects.size();
            child<QAction>(menu, (std::string(kind) + "AddAction").c_str())->trigger();
            QCOMPARE(m_app->document.rig().plan->objects.size(), before + 1);
            QCOMPARE(std::string(rig::kindName(m_app->document.rig().plan->objects.back().kind)),
                     std::string(kind));
        }
        child<QAction>(menu, "cameraAddAction")->trigger();
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
        QVERIFY(
            rig::findPlanCamera(*m_app->document.rig().plan, m_app->document.rig().cameras[4].id));
    }
    void duplicatingAndMirroring() {
        click(view()->placeOf("light-1"));
        support::trigger(window(), "duplicateAction");
        QCOMPARE(m_app->document.rig().plan->objects.back().name, std::string("key copy"));
        click(view()->placeOf("camera-2"));
        click(view()->placeOf("camera-3"), Qt::ShiftModifier);
        support::trigger(window(), "mirrorAction");
        QVERIFY(std::abs(object("camera-2").xMetres + object("camera-3").xMetres - 5.2) < 1e-9);
        QCOMPARE(object("camera-3").zMetres, object("camera-2").zMetres);
        QVERIFY(std::abs(object("camera-2").aimXMetres + object("camera-3").aimXMetres - 5.2) <
                1e-9);
    }
    void notesLeadToTheirObject() {
        auto* notes = child<FactList>(window(), "notesList");
        QVERIFY(notes->model()->rowCount() > 3);
        for (int row = 0; row < notes->model()->rowCount(); ++row) {
            const QModelIndex index = notes->model()->index(row, 0);
            if (!index.data(FactListModel::TitleRole).toString().startsWith("apprentice")) continue;
            notes->scrollTo(index);
            QTest::mouseClick(
                notes->viewport(), Qt::LeftButton, {}, notes->visualRect(index).center());
            QCOMPARE(child<QLineEdit>(window(), "objectNameEdit")->text(), QString("apprentice"));
            return;
        }
        QFAIL("no note about the apprentice");
    }
    void picturesFollowAndEnlarge() {
        auto* picture = child<PredictedPicture>(window(), "predicted-camera-1");
        QTRY_VERIFY_WITH_TIMEOUT(!picture->picture().isNull(), 20000);
        auto* strip = child<PictureStrip>(window(), "pictureStrip");
        QTRY_VERIFY_WITH_TIMEOUT(strip->pictures().isIdle() && picture->picture().width() == 320,
                                 30000);
        const QImage before = picture->picture();
        drag(view()->placeOf("light-1"), {150, 60});
        QTRY_VERIFY_WITH_TIMEOUT(strip->pictures().isIdle() && picture->picture().width() == 320,
                                 30000);
        QVERIFY(picture->picture() != before);
        picture->setFocus();
        QTest::keyClick(picture, Qt::Key_Return);
        auto* dialog = window()->findChild<QDialog*>("largePictureDialog");
        QVERIFY(dialog != nullptr && dialog->isVisible());
        auto* large = child<PredictedPicture>(dialog, "largePicture");
        QTRY_VERIFY_WITH_TIMEOUT(large->picture().width() == 960, 60000);
        QTest::keyClick(dialog, Qt::Key_Escape);
        QTRY_VERIFY(window()->findChild<QDialog*>("largePictureDialog") == nullptr);
    }
    void aRigWithoutPlanStartsFromALayout() {
        m_app->prompter.answer = Answer::No;
        support::trigger(window(), "newAction");
        m_app->window->showScreen("set");
        auto* label = child<QLabel>(window(), "setEmptyLabel");
        QVERIFY(label->isVisible());
        QTest::mouseClick(child<QPushButton>(window(), "startLayout2Button"), Qt::LeftButton);
        QVERIFY(!label->isVisible());
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{3});
        QVERIFY(m_app->document.rig().plan.has_value());
        support::trigger(window(), "undoAction");
        QVERIFY(label->isVisible());
    }
    void ownLayoutsAreKeptAsFiles() {
        Q_EMIT child<QMenu>(window(), "layoutMenu")->aboutToShow();
        child<QAction>(window(), "saveLayoutAction")->trigger();
        auto* dialog = window()->findChild<QDialog*>("layoutNameDialog");
        QVERIFY(dialog != nullptr);
        auto* name = child<QLineEdit>(dialog, "layoutNameEdit");
        name->selectAll();
        QTest::keyClicks(name, "granary duo");
        QTest::keyClick(name, Qt::Key_Return);
        QVERIFY(QFile::exists(m_app->folder.filePath("layouts/granary duo.riglayout")));
        auto* menu = child<QMenu>(window(), "layoutMenu");
        Q_EMIT menu->aboutToShow();
        QVERIFY(menu->findChild<QAction*>("ownLayout-granary duo") != nullptr);
    }
    void roomDialogChangesTheRoomAndRefuses() {
        QTest::mouseClick(child<QPushButton>(window(), "roomButton"), Qt::LeftButton);
        auto* dialog = window()->findChild<QDialog*>("roomDialog");
        QVERIFY(dialog != nullptr);
        auto* width = child<QLineEdit>(dialog, "widthMetresEdit");
        const auto type = [&](const QString& text) {
            width->setFocus();
            width->selectAll();
            QTest::keyClicks(width, text);
            QTest::keyClick(width, Qt::Key_Return);
        };
        type("6.4");
        QCOMPARE(m_app->document.rig().plan->widthMetres, 6.4);
        type("2");
        auto* label = child<QLabel>(dialog, "roomRefusalLabel");
        QVERIFY2(label->isVisible() &&
                     label->text().contains("from the left wall; the room is 2 m wide"),
                 qPrintable(label->text()));
        QCOMPARE(m_app->document.rig().plan->widthMetres, 6.4);
        type("1e9");
        QVERIFY(label->text().contains("allowed is 1 to 60 m"));
        child<QCheckBox>(dialog, "feetCheck")->click();
        QVERIFY(child<QLabel>(window(), "setSummary")->text().contains("ft"));
    }
    void lensesAreReadFromAList() {
        const auto lenses = lensesOf("24 f/2.8, 24-70mm f/2.8, 85 T1.5");
        QVERIFY(lenses.has_value());
        QCOMPARE(lenses->size(), std::size_t{3});
        QCOMPARE((*lenses)[1].longFocalMm, 70.0);
        QCOMPARE(lensText(*lenses), QString("24 f/2.8, 24-70 f/2.8, 85 f/1.5"));
        QVERIFY(!lensesOf("0 f/2.8") && !lensesOf("50") && !lensesOf("70-24 f/4") &&
                !lensesOf("x"));
    }
    void standingUpRaisesTheEyes() {
        click(view()->placeOf("person-1"));
        const double before = object("person-1").heightMetres;
        QTest::mouseClick(child<QPushButton>(window(), "numbersTab"), Qt::LeftButton);
        child<QCheckBox>(window(), "standingCheck")->click();
        QVERIFY(std::abs(object("person-1").heightMetres - before - 0.40) < 1e-9);
        child<QCheckBox>(window(), "standingCheck")->click();
        QVERIFY(std::abs(object("person-1").heightMetres - before) < 1e-9);
    }
    void tooManyObjectsAreRefusedInWords() {
        rig::Rig next = m_app->document.rig();
        while (next.plan->objects.size() < rig::kMostPlanObjects) {
            rig::PlanObject copy = next.plan->objects[2];
            copy.id = rig::freshObjectId(*next.plan, copy.kind);
            next.plan->objects.push_back(copy);
        }
        m_app->document.change("many", next);
        child<QAction>(child<QMenu>(window(), "addMenu"), "flagAddAction")->trigger();
        QCOMPARE(m_app->document.rig().plan->objects.size(), rig::kMostPlanObjects);
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors[0].contains("up to 200 are allowed"));
    }
    void framingPutsTheOwnedLensOn() {
        rig::Rig next = m_app->document.rig();
        rig::applyLens(next.cameras[1], {"24 mm f/2.8", 24.0, 2.8, 22.0});
        m_app->document.change("lens", next);
        click(view()->placeOf("camera-2"));
        QVERIFY(factValue("Lens for a medium close shot").startsWith("24 mm"));
        QTest::mouseClick(child<QPushButton>(window(), "numbersTab"), Qt::LeftButton);
        QTest::mouseClick(child<QPushButton>(window(), "frameShotButton"), Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras[1].lens.focalLengthMm, 50.0);
    }
    void everyControlHasAName() {
        for (QWidget* widget : child<QWidget>(window(), "setScreen")->findChildren<QWidget*>()) {
            if (widget->focusPolicy() == Qt::NoFocus || !widget->isVisible()) continue;
            if (widget->objectName().startsWith("qt_") ||
                widget->parent()->inherits("QAbstractItemView"))
                continue;
            QVERIFY2(!widget->objectName().isEmpty(), widget->metaObject()->className());
            QVERIFY2(!widget->accessibleName().isEmpty(), qPrintable(widget->objectName()));
        }
    }
    void longNamesKeepTheLayout() {
        rig::Rig next = m_app->document.rig();
        for (rig::PlanObject& each : next.plan->objects) each.name = std::string(60, 'W');
        for (rig::Camera& camera : next.cameras) camera.role = std::string(60, 'W');
        m_app->document.change("long", next);
        QVERIFY(m_app->window->minimumSizeHint().width() <= 1280);
    }
};

RIG_TEST(TestSetScreen);
#include "test_set_screen.moc"
