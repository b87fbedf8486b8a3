// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractItemView>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTableView>
#include <QToolButton>

#include "app/models/camera_sheet_model.h"
#include "app/widgets/fact_list.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using namespace rigmatch::app;
using support::AppFixture;
using support::child;

class TestCamerasScreen : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QWidget* window() const { return m_app->window.get(); }
    QTableView* sheet() const { return child<QTableView>(window(), "cameraSheet"); }
    QModelIndex cell(const char* key, int column) const {
        const int row = CameraSheetModel::rowOf(QString::fromUtf8(key));
        if (row < 0) qFatal("no row %s", key);
        return sheet()->model()->index(row, column);
    }
    const rig::Camera& camera(std::size_t index) const {
        return m_app->document.rig().cameras[index];
    }
    base::Verdict levelOf(const QModelIndex& index) const {
        return static_cast<base::Verdict>(index.data(CameraSheetModel::LevelRole).toInt());
    }
    /// Opens the cell's list with F2 and chooses an entry with the arrow keys.
    void choose(const QModelIndex& index, const QString& text) const {
        sheet()->setCurrentIndex(index);
        sheet()->setFocus();
        QTest::keyClick(sheet(), Qt::Key_F2);
        QTRY_VERIFY(sheet()->findChild<QComboBox*>("sheetBox") != nullptr);
        auto* box = child<QComboBox>(sheet(), "sheetBox");
        QTRY_VERIFY(box->view()->isVisible());
        const int target = box->findText(text);
        QVERIFY2(target >= 0, qPrintable(text));
        while (box->view()->currentIndex().row() < target)
            QTest::keyClick(box->view(), Qt::Key_Down);
        while (box->view()->currentIndex().row() > target) QTest::keyClick(box->view(), Qt::Key_Up);
        QTest::keyClick(box->view(), Qt::Key_Return);
        QTRY_VERIFY(sheet()->findChild<QComboBox*>("sheetBox") == nullptr);
    }
    void type(const QModelIndex& index, const QString& text) const {
        sheet()->setCurrentIndex(index);
        sheet()->setFocus();
        QTest::keyClick(sheet(), Qt::Key_F2);
        auto* edit = child<QLineEdit>(sheet(), "sheetEdit");
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
        QTRY_VERIFY(sheet()->findChild<QLineEdit*>("sheetEdit") == nullptr);
    }
    void menuAction(const char* button, const QString& action) const {
        QMenu* menu = child<QToolButton>(window(), button)->menu();
        Q_EMIT menu->aboutToShow();
        auto* found = menu->findChild<QAction*>(action);
        if (found == nullptr) qFatal("no action %s", qPrintable(action));
        found->trigger();
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("cameras"));
    }
    void cleanup() { m_app.reset(); }

    void addingAndRemovingIsUndoable() {
        QTest::mouseClick(child<QPushButton>(window(), "addCameraButton"), Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
        QCOMPARE(camera(4).letter, std::string("E"));
        menuAction("cameraMenuButton", "removeCameraAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        support::trigger(window(), "undoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
        support::trigger(window(), "undoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        support::trigger(window(), "redoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
    }
    /// A letter is on the tape and in the names of files: it stays, and its own goes with a camera.
    void aRemovedCameraLeavesTheOthersTheirLetters() {
        sheet()->setCurrentIndex(cell("iso", 0));
        m_app->prompter.answer = Answer::No;
        menuAction("cameraMenuButton", "removeCameraAction");
        QCOMPARE(m_app->prompter.questions, QStringList("Remove camera A?"));
        QVERIFY(m_app->prompter.askedText.contains("With it go its clip"));
        QVERIFY(m_app->prompter.askedText.contains("its place in the plan"));
        QVERIFY(m_app->prompter.askedText.contains("camera B will be"));
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        m_app->prompter.answer = Answer::Yes;
        menuAction("cameraMenuButton", "removeCameraAction");
        QCOMPARE(camera(0).letter, std::string("B"));
        QCOMPARE(camera(2).letter, std::string("D"));
        QCOMPARE(m_app->document.rig().referenceId, camera(0).id);
        QTest::mouseClick(child<QPushButton>(window(), "addCameraButton"), Qt::LeftButton);
        QCOMPARE(camera(3).letter, std::string("A"));
    }
    void noMoreThanSixteenCameras() {
        auto* add = child<QPushButton>(window(), "addCameraButton");
        for (int i = 0; i < 14; ++i) QTest::mouseClick(add, Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), rig::kMostCameras);
        QVERIFY(!add->isEnabled());
    }
    void reorderingKeepsLettersAndTheReference() {
        sheet()->setCurrentIndex(cell("iso", 0));
        menuAction("cameraMenuButton", "moveRightAction");
        QCOMPARE(camera(1).role, std::string("wide front"));
        QCOMPARE(camera(1).letter, std::string("A"));
        QCOMPARE(camera(0).letter, std::string("B"));
        QCOMPARE(m_app->document.rig().referenceId, camera(1).id);
        sheet()->setCurrentIndex(cell("iso", 2));
        menuAction("cameraMenuButton", "makeReferenceAction");
        QCOMPARE(m_app->document.rig().referenceId, camera(2).id);
    }
    void columnsAreCamerasAndArrowsGoThroughThem() {
        QCOMPARE(sheet()->model()->columnCount(), 4);
        sheet()->setCurrentIndex(cell("iso", 0));
        sheet()->setFocus();
        QTest::keyClick(sheet(), Qt::Key_Right);
        QVERIFY(child<QLabel>(window(), "reasonsTitle")->text().startsWith("B restorer close"));
    }
    void valuesComeFromTheCamerasOwnControls() {
        choose(cell("iso", 0), "ISO 800");
        QCOMPARE(camera(0).settings.isoValue, 800.0);
        choose(cell("lens", 0), "zoom 16–50 mm f/3.5–5.6");
        QCOMPARE(camera(0).settings.fNumber, camera(0).sheet.fNumbers.front());
        QVERIFY2(camera(0).settings.fNumber > 4.5, "a variable aperture is smaller at 35 mm");
        type(cell("focalLength", 0), "16");
        QCOMPARE(camera(0).sheet.fNumbers.front(), 3.5);
    }
    /// A body without ND of its own wears a filter, of any strength; a wheel has its own steps.
    void ndCanBeWorn() {
        choose(cell("nd", 0), "worn: ND 3 stops");
        QCOMPARE(camera(0).settings.ndStops.value(), 3.0);
        QCOMPARE(sheet()->model()->data(cell("nd", 0)).toString(), QString("ND 3 stops"));
        m_app->document.undoStack().undo();
        QCOMPARE(camera(0).settings.ndStops.value(), 0.0);
    }
    /// What nobody read off the body is unknown, and what follows from it too.
    void aSettingCanBeUnknown() {
        choose(cell("iso", 1), "unknown");
        QVERIFY(!camera(1).settings.isoValue.isTold());
        QCOMPARE(sheet()->model()->data(cell("iso", 1)).toString(), QString("unknown"));
        QCOMPARE(sheet()->model()->data(cell("nativeIso", 1)).toString(), QString("unknown"));
        m_app->document.undoStack().undo();
        QVERIFY(camera(1).settings.isoValue.isTold());
    }
    void numbersAreTypedAndRefusedWithReason() {
        auto* label = child<QLabel>(window(), "sheetRefusalLabel");
        type(cell("cardGigabytes", 1), "256");
        QCOMPARE(camera(1).equipment.cardGigabytes, 256.0);
        QVERIFY(!label->isVisible());
        for (const auto& [key, typed, words] :
             std::vector<std::tuple<const char*, QString, QString>>{
                 {"cardGigabytes", "0", "allowed is 1 to 16000 GB"},
                 {"focalLength", "0", "allowed is 1 to 2000 mm"},
                 {"sensorWidthMm", "900", "allowed is 2 to 100 mm"},
                 {"filterStops", "-1", "allowed is 0 to 10 stops"},
                 {"powerWatts", "much", "\"much\" is no number"}}) {
            const rig::Camera before = camera(1);
            type(cell(key, 1), typed);
            QVERIFY2(label->isVisible() && label->text().contains(words),
                     qPrintable(label->text()));
            QVERIFY(camera(1) == before);
        }
    }
    void editingAllReachesEveryCameraByItsNearestValue() {
        QTest::mouseClick(child<QPushButton>(window(), "editAllButton"), Qt::LeftButton);
        choose(cell("frameRate", 0), "24 fps");
        for (std::size_t i = 0; i < 4; ++i) QCOMPARE(camera(i).settings.frameRate, 24.0);
        choose(cell("aperture", 0), "f/1.8");
        QCOMPARE(camera(3).settings.fNumber, 1.8);
        const int steps = m_app->document.undoStack().count();
        support::trigger(window(), "undoAction");
        QCOMPARE(m_app->document.undoStack().index(), steps - 1);
        QCOMPARE(camera(2).settings.fNumber, 2.8);
    }
    void settingsAreCopiedFromAnotherCamera() {
        sheet()->setCurrentIndex(cell("iso", 3));
        menuAction("copyFromButton", "copyFrom-camera-1");
        QCOMPARE(camera(3).settings.isoValue, 640.0);
        QVERIFY(!camera(3).settings.isAutoExposure);
        QCOMPARE(camera(3).body, std::string("four-thirds hybrid body"));
    }
    void differencesThatHurtAreMarkedAndEqualOnesStayQuiet() {
        QCOMPARE(levelOf(cell("autoExposure", 3)), base::Verdict::Off);
        QCOMPARE(levelOf(cell("frameRate", 1)), base::Verdict::Good);
        QVERIFY(cell("frameRate", 1).data(CameraSheetModel::IsQuietRole).toBool());
        QVERIFY(!cell("iso", 1).data(CameraSheetModel::IsQuietRole).toBool());
        choose(cell("frameRate", 1), "24 fps");
        QCOMPARE(levelOf(cell("frameRate", 1)), base::Verdict::Off);
        QVERIFY(
            cell("frameRate", 1).data(Qt::ToolTipRole).toString().contains("motion will not cut"));
        choose(cell("autoExposure", 3), "off");
        QCOMPARE(levelOf(cell("autoExposure", 3)), base::Verdict::Good);
    }
    void reasonsFollowTheChosenRow() {
        auto* reasons = child<FactList>(window(), "reasonsList");
        const int row = [] {
            const auto& rows = sheetRows();
            for (std::size_t i = 0; i < rows.size(); ++i) {
                if (rows[i].kind == SheetRow::Kind::Fact && rows[i].key == "plannedExposure") {
                    return static_cast<int>(i);
                }
            }
            return -1;
        }();
        sheet()->setCurrentIndex(sheet()->model()->index(row, 1));
        const QModelIndex first = reasons->model()->index(0, 0);
        QVERIFY(
            first.data(FactListModel::ValueRole).toString().startsWith(QString::fromUtf8("−0.34")));
        QVERIFY(first.data(FactListModel::WhyRole).toString().contains("prompter"));
    }
    void ownTemplatesAreKeptAsFilesAndPutOn() {
        sheet()->setCurrentIndex(cell("iso", 3));
        menuAction("bodyButton", "saveTemplateAction");
        auto* dialog = window()->findChild<QDialog*>("templateNameDialog");
        QVERIFY(dialog != nullptr);
        auto* name = child<QLineEdit>(dialog, "templateNameEdit");
        name->selectAll();
        QTest::keyClicks(name, "bench camera");
        QTest::keyClick(name, Qt::Key_Return);
        QVERIFY(QFile::exists(m_app->folder.filePath("templates/bench camera.rigcamera")));
        sheet()->setCurrentIndex(cell("iso", 0));
        menuAction("bodyButton", "ownBody-bench camera");
        QCOMPARE(camera(0).body, std::string("bench camera"));
        QCOMPARE(camera(0).sensorWidthMm, 17.3);
    }
    void schoolsAndDeliveryAreKeptWithTheRig() {
        QTest::mouseClick(child<QPushButton>(window(), "choicesButton"), Qt::LeftButton);
        auto* dialog = window()->findChild<QDialog*>("choicesDialog");
        QVERIFY(dialog != nullptr);
        support::chooseByKeys(child<QComboBox>(dialog, "lookSchoolBox"), "log, graded later");
        QTest::keyClick(child<QComboBox>(dialog, "lookSchoolBox"), Qt::Key_Return);
        QCOMPARE(m_app->document.rig().choices.look, std::string("log"));
        const auto choose = [&](const char* name, const QString& text) {
            auto* box = child<QComboBox>(dialog, name);
            support::chooseByKeys(box, text);
            QTest::keyClick(box, Qt::Key_Return);
        };
        choose("mainsHzBox", "60");
        QCOMPARE(m_app->document.rig().choices.mainsHz, 60.0);
        choose("deliveryFpsBox", "23.976");
        QVERIFY(std::abs(m_app->document.rig().choices.deliveryFps - 24000.0 / 1001.0) < 1e-9);
        auto* day = child<QLineEdit>(dialog, "dayMinutesEdit");
        day->setFocus();
        day->selectAll();
        QTest::keyClicks(day, "4000");
        QTest::keyClick(day, Qt::Key_Return);
        auto* label = child<QLabel>(dialog, "choicesRefusalLabel");
        QVERIFY2(label->text().contains("4000 min was given; allowed is 1 to 1440 min"),
                 qPrintable(label->text()));
        // Under its field, before the next one.
        QVERIFY(label->isVisible());
        const auto topOf = [&](const QWidget* one) { return one->mapTo(dialog, QPoint()).y(); };
        QTRY_VERIFY(topOf(label) >= topOf(day) + day->height());
        QVERIFY(topOf(label) < topOf(day) + 3 * day->height());
        if (const QString shot = qEnvironmentVariable("RIGMATCH_SHOT"); !shot.isEmpty()) {
            app::theme::apply(*qApp);
            QVERIFY(dialog->grab().save(shot));
        }
    }
    /// One question for mains, rate, voltage and units; one step of undo.
    void theRegionIsOneQuestion() {
        QTest::mouseClick(child<QPushButton>(window(), "choicesButton"), Qt::LeftButton);
        auto* dialog = window()->findChild<QDialog*>("choicesDialog");
        auto* region = child<QComboBox>(dialog, "regionBox");
        QCOMPARE(region->currentIndex(), -1);  // the demo's rig was not asked
        region->setCurrentIndex(0);
        region->setFocus();
        QTest::keyClick(region, Qt::Key_Down);
        QTest::keyClick(region, Qt::Key_Return);
        const rig::Rig& rig = m_app->document.rig();
        QCOMPARE(rig.choices.region, std::string("northAmerica"));
        QCOMPARE(rig.choices.mainsHz, 60.0);
        QVERIFY(rig.plan->isInFeet);
        QCOMPARE(rig.plan->circuits.front().volts, 120.0);
        QCOMPARE(child<QComboBox>(dialog, "deliveryFpsBox")->currentText(), QString("29.97"));
        QCOMPARE(child<QComboBox>(dialog, "mainsHzBox")->currentText(), QString("60"));
        support::trigger(window(), "undoAction");
        QCOMPARE(m_app->document.rig().choices.mainsHz, 50.0);
        QVERIFY(!m_app->document.rig().plan->isInFeet);
    }
    void settingsOfAClipAreOfferedNotForced() {
        auto* card = child<QWidget>(window(), "offerCard");
        QVERIFY(!card->isVisible());
        rig::Settings told = camera(1).settings;
        told.isoValue = 1600.0;
        m_app->selection.offer("camera-2", told);
        QVERIFY(card->isVisible());
        QVERIFY(child<QLabel>(window(), "offerLabel")
                    ->text()
                    .contains("The clip of camera B says ISO 1600"));
        QCOMPARE(camera(1).settings.isoValue, 800.0);
        QTest::mouseClick(child<QPushButton>(window(), "declineOfferButton"), Qt::LeftButton);
        QVERIFY(!card->isVisible());
        QCOMPARE(camera(1).settings.isoValue, 800.0);
        m_app->selection.offer("camera-2", told);
        QTest::mouseClick(child<QPushButton>(window(), "takeOfferButton"), Qt::LeftButton);
        QCOMPARE(camera(1).settings.isoValue, 1600.0);
        support::trigger(window(), "undoAction");
        QCOMPARE(camera(1).settings.isoValue, 800.0);
    }
    void emptyRigSaysWhatToDo() {
        m_app->prompter.answer = app::Answer::No;
        support::trigger(window(), "newAction");
        QVERIFY(m_app->document.rig().cameras.empty());
        m_app->window->showScreen("cameras");
        auto* label = child<QLabel>(window(), "camerasEmptyLabel");
        QVERIFY(label->isVisible());
        QVERIFY(label->text().contains("Add the camera"));
        QTest::mouseClick(child<QPushButton>(window(), "addCameraButton"), Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{1});
        QVERIFY(!label->isVisible());
    }
    void longNamesKeepTheLayout() {
        type(cell("role", 0), QString(60, 'W'));
        QCOMPARE(camera(0).role.size(), std::size_t{60});
        QVERIFY(m_app->window->minimumSizeHint().width() <= 1280);
    }
};

RIG_TEST(TestCamerasScreen);
#include "test_cameras_screen.moc"
