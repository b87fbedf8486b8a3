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
#include "support/app_fixture.h"
#include "support/media_files.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::child;
using support::kDemo;
using support::shotOf;

/// What is marked by hand on the screen Test take: cards, charts of one's own, skin.
class TestTakeMarks : public support::TakeScreenTest {
    Q_OBJECT
private Q_SLOTS:
    void init() { QVERIFY(openTestTake()); }
    void cleanup() { m_app.reset(); }

    /// A grey card is marked by hand: every camera loses its reading until its corners are set.
    void aGreyCardIsMarkedByHand() {
        keepOneClip();
        auto* box = child<QComboBox>(m_app->window.get(), "chartBox");
        support::chooseByKeys(box, "Grey card");
        QTRY_COMPARE(m_app->document.rig().chart, std::string("grey-card"));
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(!shotOf(*m_app, "camera-1")->reading->hasChart);
        QVERIFY(child<QLabel>(m_app->window.get(), "chartNote")
                    ->text()
                    .contains("put the four corners on it"));
        QVERIFY(child<QLabel>(m_app->window.get(), "factsLabel")->text().contains("by hand"));
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        QTRY_VERIFY(view->corners().has_value());
        // They wait to be put somewhere, and the picture says so.
        QVERIFY(view->accessibleDescription().startsWith("Drag 1 to 4"));
        const std::size_t faces = shotOf(*m_app, "camera-1")->reading->faces.size();
        view->setFocus();
        QTest::keyClick(view, Qt::Key_1);
        QTest::keyClick(view, Qt::Key_Right);
        QVERIFY(m_app->waitForJobs());
        QTRY_VERIFY(shotOf(*m_app, "camera-1")->reading->hasChart);
        const rig::Reading& reading = *shotOf(*m_app, "camera-1")->reading;
        QCOMPARE(reading.layout, std::string("grey-card"));
        QCOMPARE(reading.patches.size(), std::size_t{1});
        QCOMPARE(reading.faces.size(), faces);
        QVERIFY(!view->accessibleDescription().startsWith("Drag"));
        // One step back for the corners, one for the choice: the charts that the keys passed on the
        // way were no choice. All is as it was.
        for (int step = 0; step < 2; ++step) support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(m_app->document.rig().chart, std::string("classic-24"));
        QVERIFY(shotOf(*m_app, "camera-1")->reading->hasChart);
        QCOMPARE(box->currentText(), QString("24-patch chart"));
    }
    void anOwnChartIsOpenedOrRefusedInWords() {
        keepOneClip();
        QFile file(m_app->folder.filePath("mine.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("name,L,a,b\nwhite,95,0,0\ngrey,50,0,0\nblack,20,0,0\n");
        file.close();
        m_app->chooser.chart = file.fileName();
        auto* button = child<QPushButton>(m_app->window.get(), "ownChartButton");
        QTest::mouseClick(button, Qt::LeftButton);
        QCOMPARE(m_app->document.rig().chart, file.fileName().toStdString());
        QCOMPARE(child<QComboBox>(m_app->window.get(), "chartBox")->currentText(),
                 QString("Own: mine"));
        QVERIFY(m_app->waitForJobs());
        QFile bad(m_app->folder.filePath("bad.csv"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("name,R,G,B\nx,1,2,3\n");
        bad.close();
        m_app->chooser.chart = bad.fileName();
        QTest::mouseClick(button, Qt::LeftButton);
        QCOMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors[0].contains("R, G, B"));
        QCOMPARE(m_app->document.rig().chart, file.fileName().toStdString());
    }
    void theCardIsSavedToBePrinted() {
        m_app->chooser.pdf = m_app->folder.filePath("card.pdf");
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "printCardButton"),
                          Qt::LeftButton);
        QVERIFY(QFileInfo(m_app->chooser.pdf).size() > 5000);
        QCOMPARE(m_app->prompter.texts.size(), 1);
        QVERIFY(m_app->prompter.texts[0].contains("not for absolute colour"));
        m_app->chooser.pdf = "/nowhere/card.pdf";
        QTest::mouseClick(child<QPushButton>(m_app->window.get(), "printCardButton"),
                          Qt::LeftButton);
        QCOMPARE(m_app->prompter.errors.size(), 1);
    }
    void skinIsMarkedByMouse() {
        QVERIFY(m_app->waitForJobs());
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        auto* mark = child<QPushButton>(m_app->window.get(), "markSkinButton");
        QTRY_VERIFY(view->corners().has_value());
        const std::size_t before = shotOf(*m_app, "camera-1")->reading->faces.size();
        QTest::mouseClick(mark, Qt::LeftButton);
        const auto drag = [&](rig::PicturePoint from, rig::PicturePoint to) {
            QTest::mousePress(view, Qt::LeftButton, {}, view->toWidget(from).toPoint());
            QTest::mouseMove(view, view->toWidget(to).toPoint());
            QTest::mouseRelease(view, Qt::LeftButton, {}, view->toWidget(to).toPoint());
        };
        drag({620, 320}, {660, 345});
        QCOMPARE(shotOf(*m_app, "camera-1")->skinMarks.size(), std::size_t{1});
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(shotOf(*m_app, "camera-1")->reading->faces.size(), before + 1);
        const double left = shotOf(*m_app, "camera-1")->skinMarks[0].left;
        drag({640, 332}, {700, 332});
        QVERIFY(m_app->waitForJobs());
        QVERIFY(std::abs(shotOf(*m_app, "camera-1")->skinMarks[0].left - left - 60.0) < 4.0);
        view->setFocus();
        QTest::keyClick(view, Qt::Key_Delete);
        QVERIFY(m_app->waitForJobs());
        QVERIFY(shotOf(*m_app, "camera-1")->skinMarks.empty());
        QTRY_COMPARE(shotOf(*m_app, "camera-1")->reading->faces.size(), before);
        QVERIFY(!shotOf(*m_app, "camera-1")->manualCorners.has_value());
    }
    void skinIsMarkedByKeys() {
        QVERIFY(m_app->waitForJobs());
        auto* view = child<app::FrameView>(m_app->window.get(), "frameView");
        QTRY_VERIFY(view->corners().has_value());
        auto* mark = child<QPushButton>(m_app->window.get(), "markSkinButton");
        mark->setFocus();
        QTest::keyClick(mark, Qt::Key_Space);
        QVERIFY(view->hasFocus());
        QTest::keyClick(view, Qt::Key_Return);
        QCOMPARE(shotOf(*m_app, "camera-1")->skinMarks.size(), std::size_t{1});
        const rig::SkinMark first = shotOf(*m_app, "camera-1")->skinMarks[0];
        QTest::keyClick(view, Qt::Key_Left, Qt::ShiftModifier);
        QTest::keyClick(view, Qt::Key_Minus);
        const rig::SkinMark& then = shotOf(*m_app, "camera-1")->skinMarks[0];
        QVERIFY(then.width < first.width);
        QVERIFY(std::abs(then.left + 0.5 * then.width - first.left - 0.5 * first.width + 10.0) <
                0.1);
        QVERIFY(view->accessibleDescription().contains("Mark 1"));
        QVERIFY(m_app->waitForJobs());
    }
};

RIG_TEST(TestTakeMarks);
#include "test_take_marks.moc"
