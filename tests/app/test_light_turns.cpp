// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QLabel>
#include <QPushButton>

#include "app/screens/match/on_set_view.h"
#include "support/app_fixture.h"
#include "support/brighter_set.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::AppFixture;
using support::brighterSince;
using support::child;

class TestLightTurns : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

    QWidget* panel() const { return child<QWidget>(m_app->window.get(), "lightTurns"); }
    QCheckBox* box() const {
        // Rows that were taken away go with the next turn of the loop.
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        return child<QCheckBox>(m_app->window.get(), "lightTurn0");
    }
    double dimmed() const {
        double least = 100.0;
        for (const rig::PlanObject& object : m_app->document.rig().plan->objects) {
            if (object.kind == rig::PlanKind::Light && object.isOn && !object.isInPicture)
                least = std::min(least, object.dimPercent);
        }
        return least;
    }

private Q_SLOTS:
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        QVERIFY(m_app->show("match"));
    }
    void cleanup() { m_app.reset(); }

    void nothingIsShownWithoutACommonDifference() { QVERIFY(!panel()->isVisible()); }
    void oneTickDimsThePlannedLampAndUndoes() {
        m_app->document.change("two takes", brighterSince(0.5));
        QVERIFY(panel()->isVisible());
        const double before = dimmed();
        QVERIFY2(box()->text().contains("dimmer"), qPrintable(box()->text()));
        QVERIFY(!box()->isChecked());
        box()->setFocus();
        QTest::keyClick(box(), Qt::Key_Space);
        QVERIFY(dimmed() < before - 20.0);
        QVERIFY(box()->isChecked());
        QVERIFY(child<QLabel>(panel(), "lightTurnsTitle")->text().contains("shoot again"));
        m_app->document.undoStack().undo();
        QCOMPARE(dimmed(), before);
        QVERIFY(!box()->isChecked());
        m_app->document.undoStack().redo();
        QVERIFY(box()->isChecked());
        QTest::mouseClick(box(), Qt::LeftButton, {}, QPoint(8, box()->height() / 2));
        QCOMPARE(dimmed(), before);
    }
    /// Against another target nobody asks for the turn any more: it can still be taken back.
    void aTurnThatIsNoLongerAskedForCanBeTakenBack() {
        m_app->document.change("two takes", brighterSince(0.5));
        const double before = dimmed();
        QTest::mouseClick(box(), Qt::LeftButton, {}, QPoint(8, box()->height() / 2));
        QVERIFY(dimmed() < before - 20.0);
        rig::Rig toReference = m_app->document.rig();
        toReference.target.clear();
        m_app->document.change("to the reference", toReference);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(panel()->isVisible());
        QVERIFY(panel()->findChild<QCheckBox*>("lightTurn0") == nullptr);
        QVERIFY(!child<QLabel>(panel(), "lightTurnsTitle")->text().contains("shoot again"));
        auto* former = child<QCheckBox>(panel(), "formerLightTurn0");
        QVERIFY(former->isChecked() && former->text().contains("dimmer"));
        former->setFocus();
        QTest::keyClick(former, Qt::Key_Space);
        QCOMPARE(dimmed(), before);
        QVERIFY(!panel()->isVisible());
        m_app->document.undoStack().undo();
        QVERIFY(dimmed() < before - 20.0);
        QVERIFY(panel()->isVisible());
    }
    /// On set the light comes first, and space ticks it.
    void onSetTheLightComesFirst() {
        m_app->document.change("two takes", brighterSince(0.5));
        const double before = dimmed();
        child<QPushButton>(m_app->window.get(), "onSetButton")->click();
        auto* view = child<app::OnSetView>(m_app->window.get(), "onSetView");
        QCOMPARE(view->current(), 0);
        QVERIFY2(view->accessibleName().startsWith("Light"), qPrintable(view->accessibleName()));
        QVERIFY(!view->isDone(0));
        QTest::keyClick(view, Qt::Key_Space);
        QVERIFY(dimmed() < before - 20.0);
        QVERIFY(view->isDone(0));
        QCOMPARE(view->current(), 1);
        QVERIFY(view->accessibleName().startsWith("Camera"));
        QVERIFY(view->print(m_app->folder.filePath("turns.pdf")));
        QTest::keyClick(view, Qt::Key_Left);
        QTest::keyClick(view, Qt::Key_Space);
        QCOMPARE(dimmed(), before);
        view->close();
    }
    void aLittleIsLeftToTheCameras() {
        m_app->document.change("two takes", brighterSince(0.03));
        QVERIFY(!panel()->isVisible());
    }
};

RIG_TEST(TestLightTurns);
#include "test_light_turns.moc"
