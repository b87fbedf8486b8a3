// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>

#include "support/app_fixture.h"

using namespace rigmatch;
using support::AppFixture;
using support::child;

class TestCamerasScreen : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("cameras"));
    }
    void cleanup() { m_app.reset(); }

    void addingAndRemovingIsUndoable() {
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "addCameraButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
        QCOMPARE(m_app->document.rig().cameras[4].letter, std::string("E"));
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "removeCameraButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{4});
        support::trigger(m_app->window.get(), "redoAction");
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{5});
    }
    void noMoreThanEightCameras() {
        auto* add = child<QPushButton>(m_app->window.get(), "addCameraButton");
        for (int i = 0; i < 6; ++i) QTest::mouseClick(add, Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), rig::kMostCameras);
        QVERIFY(!add->isEnabled());
    }
    void reorderingMovesLetters() {
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "moveDownButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras[1].role, std::string("wide front"));
        QCOMPARE(m_app->document.rig().cameras[1].letter, std::string("B"));
        QCOMPARE(m_app->document.rig().referenceId, m_app->document.rig().cameras[1].id);
    }
    void rowsAreChosenWithTheKeyboard() {
        auto* table = child<QTableView>(m_app->window.get(), "camerasTable");
        table->setFocus();
        QTest::keyClick(table, Qt::Key_Down);
        QCOMPARE(child<QLineEdit>(m_app->window.get(), "roleEdit")->text(),
                 QString("restorer close"));
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "makeReferenceButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->document.rig().referenceId, std::string("camera-2"));
    }
    void renamingByKeys() {
        auto* edit = child<QLineEdit>(m_app->window.get(), "roleEdit");
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, "gantry");
        QTest::keyClick(edit, Qt::Key_Return);
        QCOMPARE(m_app->document.rig().cameras[0].role, std::string("gantry"));
    }
    void settingsComeFromTheCamerasOwnValues() {
        auto* iso = child<QComboBox>(m_app->window.get(), "isoBox");
        support::chooseByKeys(iso, "ISO 800");
        QCOMPARE(m_app->document.rig().cameras[0].settings.isoValue, 800.0);
        auto* lens = child<QComboBox>(m_app->window.get(), "lensBox");
        support::chooseByKeys(lens, "kit zoom at 35 mm f/4.5");
        QCOMPARE(m_app->document.rig().cameras[0].settings.fNumber, 4.5);
        auto* aperture = child<QComboBox>(m_app->window.get(), "apertureBox");
        QCOMPARE(aperture->itemText(0), QString("f/4.5"));
        QVERIFY2(!child<QComboBox>(m_app->window.get(), "ndBox")->isEnabled(),
                 "a body without ND offers none");
    }
    void differencesThatHurtAreFlaggedInTheRow() {
        auto* table = child<QTableView>(m_app->window.get(), "camerasTable");
        const auto attention = [&](int row) {
            return table->model()->index(row, 5).data().toString();
        };
        QVERIFY(attention(0).isEmpty());
        QVERIFY(attention(3).contains("exposure on automatic"));
        table->selectRow(1);
        support::chooseByKeys(child<QComboBox>(m_app->window.get(), "frameRateBox"), "24 fps");
        QCOMPARE(attention(1), QString("frame rate differs"));
        table->selectRow(3);
        QTest::mouseClick(child<QCheckBox>(m_app->window.get(), "autoExposureBox"),
                          Qt::LeftButton,
                          {},
                          QPoint(8, 12));
        QVERIFY(!attention(3).contains("exposure on automatic"));
    }
    void emptyRigSaysWhatToDo() {
        m_app->prompter.answer = app::Answer::No;
        support::trigger(m_app->window.get(), "newAction");
        QVERIFY(m_app->document.rig().cameras.empty());
        auto* label = child<QLabel>(m_app->window.get(), "camerasEmptyLabel");
        QVERIFY(label->isVisible());
        QVERIFY(label->text().contains("Add the camera"));
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "addCameraButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->document.rig().cameras.size(), std::size_t{1});
        QVERIFY(!label->isVisible());
    }
    void longNamesKeepTheLayout() {
        rig::Rig next = m_app->document.rig();
        next.cameras[0].role = std::string(60, 'W');
        m_app->document.change("long", next);
        QVERIFY(m_app->window->minimumSizeHint().width() <= 1280);
    }
};

QTEST_MAIN(TestCamerasScreen)
#include "test_cameras_screen.moc"
