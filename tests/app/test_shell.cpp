// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractButton>
#include <QLineEdit>
#include <QTableView>
#include <QToolButton>

#include "support/app_fixture.h"

using namespace rigmatch;
using support::AppFixture;
using support::child;

class TestShell : public QObject {
    Q_OBJECT
    std::unique_ptr<AppFixture> m_app;

private Q_SLOTS:
    void initTestCase() { app::theme::apply(*qApp); }
    void init() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
    }
    void cleanup() { m_app.reset(); }

    void railAndKeysSwitchScreens() {
        QVERIFY(m_app->show("cameras"));
        QTest::mouseClick(child<QToolButton>(m_app->window.get(), "matchRailButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->window->screen("match")->isVisible());
        QTest::keyClick(m_app->window.get(), Qt::Key_3, Qt::ControlModifier);
        QVERIFY(m_app->window->screen("testTake")->isVisible());
        QVERIFY(!m_app->window->screen("match")->isVisible());
    }
    void onlyWorkingScreensStandInTheRail() {
        QCOMPARE(app::screenEntries().size(), 5);
        QVERIFY(m_app->window->screen("framing") == nullptr);
    }
    void everyFocusableControlIsNamed_data() {
        QTest::addColumn<QString>("screen");
        for (const char* screen : {"set", "cameras", "testTake", "match", "compare"})
            QTest::newRow(screen) << QString::fromUtf8(screen);
    }
    void everyFocusableControlIsNamed() {
        QFETCH(QString, screen);
        QVERIFY(m_app->show(screen));
        int seen = 0;
        for (QWidget* widget : m_app->window->findChildren<QWidget*>()) {
            const bool isPart = widget->objectName().startsWith("qt_") ||
                                widget->inherits("QHeaderView") || widget->inherits("QScrollBar") ||
                                widget->inherits("QMenuBar") || widget->inherits("QMenu") ||
                                widget->inherits("QTableCornerButton");
            if (widget->focusPolicy() == Qt::NoFocus || !widget->isVisible() || isPart) continue;
            ++seen;
            QVERIFY2(!widget->objectName().isEmpty(), widget->metaObject()->className());
            QVERIFY2(!widget->accessibleName().isEmpty(), qPrintable(widget->objectName()));
        }
        QVERIFY(seen > 5);
    }
    void tabReachesEveryControlOfTheScreen() {
        QVERIFY(m_app->show("match"));
        QSet<QWidget*> reached;
        QWidget* start = m_app->window->focusWidget();
        QWidget* at = start;
        do {
            QTest::keyClick(at, Qt::Key_Tab);
            at = m_app->window->focusWidget();
            reached.insert(at);
        } while (at != start && reached.size() < 60);
        for (const char* name : {"judgeBox",
                                 "tickAllButton",
                                 "nextTakeButton",
                                 "matchBoard",
                                 "turnList",
                                 "referenceBox",
                                 "matchRailButton"}) {
            auto* widget = child<QWidget>(m_app->window.get(), name);
            QVERIFY2(!widget->isEnabled() || reached.contains(widget), name);
        }
    }
    void surroundIsNeutralGrey() {
        QVERIFY(m_app->show("cameras"));
        const QImage picture = m_app->window->grab().toImage();
        for (const QPoint& at : {QPoint(60, 500), QPoint(700, 455), QPoint(160, 70)}) {
            const QColor colour = picture.pixelColor(at);
            QVERIFY2(colour.red() == colour.green() && colour.green() == colour.blue(),
                     qPrintable(colour.name()));
        }
    }
    void figuresAreTabular() {
        const QFontMetricsF metrics(app::theme::font(13));
        QVERIFY(QFontInfo(app::theme::font(13)).family().contains("Rig Match Sans"));
        for (const QChar digit : QStringLiteral("0123456789"))
            QCOMPARE(metrics.horizontalAdvance(digit), metrics.horizontalAdvance(QChar('0')));
    }
    void layoutHoldsAtTheSmallestSize() {
        m_app->window->resize(1280, 800);
        for (const char* screen : {"set", "cameras", "testTake", "match", "compare"}) {
            QVERIFY(m_app->show(screen));
            QVERIFY2(m_app->window->minimumSizeHint().width() <= 1280 &&
                         m_app->window->minimumSizeHint().height() <= 800,
                     screen);
        }
    }
    void windowStateIsRemembered() {
        QVERIFY(m_app->show("match"));
        m_app->window->close();
        QCOMPARE(m_app->settings.value("window/screen").toString(), QString("match"));
        QVERIFY(!m_app->settings.value("window/geometry").toByteArray().isEmpty());
    }
    void rigIsRenamedInTheTopBar() {
        QVERIFY(m_app->show("cameras"));
        auto* edit = child<QLineEdit>(m_app->window.get(), "rigNameEdit");
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, "Winter bench");
        QTest::keyClick(edit, Qt::Key_Return);
        QCOMPARE(m_app->document.rig().name, std::string("Winter bench"));
        support::trigger(m_app->window.get(), "undoAction");
        QCOMPARE(m_app->document.rig().name, std::string("Clock bench"));
    }
    void cancelledWorkStopsAndChangesNothing() {
        QVERIFY(m_app->show("testTake"));
        rig::Rig rig = m_app->document.rig();
        for (rig::Camera& camera : rig.cameras)
            camera.settings.width = camera.settings.height = 320;
        m_app->document.start(rig);
        QTest::mouseClick(child<QAbstractButton>(m_app->window.get(), "shootButton"),
                          Qt::LeftButton);
        QVERIFY(!m_app->jobs.running().isEmpty());
        QTest::mouseClick(child<QAbstractButton>(m_app->window.get(), "cancelButton"),
                          Qt::LeftButton);
        QVERIFY(m_app->waitForJobs());
        QCOMPARE(m_app->document.rig().takes.size(), std::size_t{1});
        QVERIFY(m_app->prompter.errors.isEmpty());
    }
    void safetyCautionsDeferToLicensedPeople() {
        support::trigger(m_app->window.get(), "safetyAction");
        QCOMPARE(m_app->prompter.texts.size(), 1);
        QVERIFY(m_app->prompter.texts[0].contains("licensed electricians"));
    }
};

QTEST_MAIN(TestShell)
#include "test_shell.moc"
