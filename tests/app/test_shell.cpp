// SPDX-License-Identifier: GPL-3.0-or-later
#include <QAbstractButton>
#include <QLineEdit>
#include <QProcess>
#include <QProcessEnvironment>
#include <QTableView>
#include <QToolButton>

#include "app/shell/text_size.h"
#include "support/app_drop.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

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
    /// Files are taken in wherever they are dropped; the screen of the takes shows where they go.
    void filesAreWelcomeOnEveryScreen() {
        QVERIFY(m_app->show("match"));
        QFile odd(m_app->folder.filePath("A.mov"));
        QVERIFY(odd.open(QIODevice::WriteOnly));
        odd.write("no clip");
        odd.close();
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(odd.fileName())});
        support::dropOn(m_app->window.get(), {600, 300}, data);
        QVERIFY(m_app->window->screen("testTake")->isVisible());
        QTRY_VERIFY(m_app->window->findChild<QWidget*>("arrivalsDialog") != nullptr ||
                    !m_app->jobs.running().isEmpty() || !m_app->prompter.errors.isEmpty());
        QVERIFY(m_app->waitForJobs());
    }
    /// Larger letters for a set at arm's length: chosen by menu, kept, used at the next start.
    void textSizeIsChosenAndKept() {
        QVERIFY(m_app->show("match"));
        QCOMPARE(app::chosenTextSize(m_app->settings), 100);
        support::trigger(m_app->window.get(), "textSize130Action");
        QCOMPARE(app::chosenTextSize(m_app->settings), 130);
        QVERIFY(m_app->prompter.texts.last().contains("next time"));
        const QByteArray before = qgetenv("QT_SCALE_FACTOR");
        qunsetenv("QT_SCALE_FACTOR");
        app::applyTextSize(m_app->settings);
        QCOMPARE(qgetenv("QT_SCALE_FACTOR"), QByteArray("1.3"));
        qputenv("QT_SCALE_FACTOR", "2");
        app::applyTextSize(m_app->settings);
        QCOMPARE(qgetenv("QT_SCALE_FACTOR"), QByteArray("2"));
        if (before.isEmpty())
            qunsetenv("QT_SCALE_FACTOR");
        else
            qputenv("QT_SCALE_FACTOR", before);
        m_app->settings.setValue("view/textSize", "no number");
        QCOMPARE(app::chosenTextSize(m_app->settings), 100);
    }
    void onlyWorkingScreensStandInTheRail() {
        QCOMPARE(app::screenEntries().size(), 7);
        QVERIFY(m_app->window->screen("log") == nullptr);
    }
    /// Work that ends by an exception is told; the program goes on.
    void brokenWorkIsToldInWords() {
        m_app->jobs.start<int>(
            "Measuring camera A",
            m_app->window.get(),
            [](const base::Progress&) -> int { throw std::runtime_error("index out of range"); },
            [](int) { QFAIL("there is no result"); });
        QVERIFY(m_app->waitForJobs());
        QTRY_COMPARE(m_app->prompter.errors.size(), 1);
        QVERIFY(m_app->prompter.errors[0].contains("Measuring camera A"));
        QVERIFY(m_app->prompter.errors[0].contains("index out of range"));
        QVERIFY(m_app->show("cameras"));
    }
    /// Words need no display, and a rig that cannot be drawn says why.
    void wordsNeedNoDisplay() {
        QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
        for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"})
            bare.remove(name);
        const auto run = [&](const QStringList& arguments, bool isOffscreen) {
            QProcess program;
            QProcessEnvironment environment = bare;
            if (isOffscreen) environment.insert("QT_QPA_PLATFORM", "offscreen");
            program.setProcessEnvironment(environment);
            program.setProcessChannelMode(QProcess::MergedChannels);
            program.start(RIGMATCH_BINARY_DIR "/src/app/rigmatch", arguments);
            program.waitForFinished(20000);
            return std::pair(program.exitStatus() == QProcess::NormalExit ? program.exitCode() : -1,
                             QString::fromUtf8(program.readAll()));
        };
        const auto [helpCode, help] = run({"--help"}, false);
        QCOMPARE(helpCode, 0);
        for (const char* page : {"quilt", "pictures", "scopes", "tone", "numbers"})
            QVERIFY2(help.contains(page), page);
        for (const char* screen :
             {"set", "cameras", "testTake", "match", "compare", "framing", "sync"})
            QVERIFY2(help.contains(screen), screen);
        QCOMPARE(run({"--version"}, false).first, 0);
        const QString picture = m_app->folder.filePath("shot.png");
        // A window needs one, and says so; a picture of it does not.
        const auto [noWindow, why] = run({}, false);
        QCOMPARE(noWindow, 1);
        QVERIFY2(why.contains("DISPLAY") && why.contains("--render"), qPrintable(why));
        const QString start = m_app->folder.filePath("start.png");
        QCOMPARE(run({"--render", start}, false).first, 0);
        QVERIFY(QFile::exists(start));
        const auto [code, words] = run({"--render", picture, "/gone.rigmatch"}, true);
        QCOMPARE(code, 1);
        QVERIFY2(words.contains("/gone.rigmatch"), qPrintable(words));
        QVERIFY(!QFile::exists(picture));
    }
    void everyFocusableControlIsNamed_data() {
        QTest::addColumn<QString>("screen");
        for (const char* screen :
             {"set", "cameras", "testTake", "match", "compare", "framing", "sync"})
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
        for (const char* screen :
             {"set", "cameras", "testTake", "match", "compare", "framing", "sync"}) {
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

RIG_TEST(TestShell);
#include "test_shell.moc"
