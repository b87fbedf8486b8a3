// SPDX-License-Identifier: GPL-3.0-or-later
#include <signal.h>

#include <QLineEdit>
#include <QProcess>
#include <QPushButton>

#include "rig/rig_json.h"
#include "support/app_fixture.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::AppFixture;
using support::child;

class TestRecovery : public QObject {
    Q_OBJECT

    /// The demo under another name, its journal written.
    static void change(AppFixture& app, const char* name) {
        app.openDemo();
        rig::Rig next = app.document.rig();
        next.name = name;
        app.document.change("rename", next);
        const auto journal = app.document.journal().pathFor({});
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal), 2000);
    }

private Q_SLOTS:
    void saveOpenAndReopenKeepEverything() {
        AppFixture first;
        first.openDemo();
        const QString path = first.folder.filePath("set.rigmatch");
        first.chooser.saveTo = path;
        support::trigger(first.window.get(), "saveAction");
        QTRY_COMPARE(first.document.path(), path);
        QVERIFY(QFile::exists(path));
        QVERIFY(!first.document.isModified());
        AppFixture second;
        second.chooser.rig = path;
        support::trigger(second.window.get(), "openAction");
        QVERIFY(second.document.rig() == first.document.rig());
        QCOMPARE(second.window->files().recentFiles().value(0), path);
    }
    void undoneToTheSavedStateIsNotModified() {
        AppFixture app;
        app.openDemo();
        app.chooser.saveTo = app.folder.filePath("set.rigmatch");
        support::trigger(app.window.get(), "saveAction");
        QTRY_COMPARE(app.document.path(), app.chooser.saveTo);
        rig::Rig next = app.document.rig();
        next.name = "Other";
        app.document.change("rename", next);
        QVERIFY(app.document.isModified());
        support::trigger(app.window.get(), "undoAction");
        QVERIFY(!app.document.isModified());
    }
    void unwritableFolderIsSaidAndTheRigStaysOpen() {
        AppFixture app;
        app.openDemo();
        app.chooser.savesFirst = {"/proc/nowhere/set.rigmatch"};
        support::trigger(app.window.get(), "saveAsAction");
        QTRY_COMPARE(app.prompter.errors.size(), 1);
        QVERIFY(app.prompter.errors[0].contains("/proc/nowhere/set.rigmatch"));
        QCOMPARE(app.document.rig().cameras.size(), std::size_t{4});
        // Once that is read the dialog is there again: here it is left.
        QVERIFY(app.chooser.savesFirst.isEmpty());
        QVERIFY(app.document.path().isEmpty());
        app.chooser.savesFirst = {"/proc/nowhere/set.rigmatch"};
        app.chooser.saveTo = app.folder.filePath("elsewhere.rigmatch");
        support::trigger(app.window.get(), "saveAsAction");
        QTRY_COMPARE(app.document.path(), app.chooser.saveTo);
        QCOMPARE(app.prompter.errors.size(), 2);
        QVERIFY(!app.document.isModified());
    }
    void truncatedRigIsRefusedAndTheOpenOneStays() {
        AppFixture app;
        app.openDemo();
        QFile bad(app.folder.filePath("bad.rigmatch"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("{\"format\": \"rigmatch\", \"version\": 1, \"cameras\": [");
        bad.close();
        app.window->files().openPath(bad.fileName());
        QCOMPARE(app.prompter.errors.size(), 1);
        QVERIFY(app.prompter.errors[0].contains("bad.rigmatch"));
        QCOMPARE(app.document.rig().cameras.size(), std::size_t{4});
    }
    void newerRigOpensReadOnly() {
        AppFixture app;
        QFile file(app.folder.filePath("new.rigmatch"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(
            "{\"format\": \"rigmatch\", \"version\": 9, \"name\": \"From tomorrow\", "
            "\"holograms\": 3}");
        file.close();
        app.window->files().openPath(file.fileName());
        QVERIFY(app.document.isReadOnly());
        QCOMPARE(app.prompter.texts.size(), 1);
        QVERIFY(!app.document.save().has_value());
        app.chooser.saveTo = app.folder.filePath("copy.rigmatch");
        support::trigger(app.window.get(), "saveAction");
        QTRY_COMPARE(app.document.path(), app.chooser.saveTo);
        QFile copy(app.chooser.saveTo);
        QVERIFY(copy.open(QIODevice::ReadOnly));
        const QByteArray text = copy.readAll();
        QVERIFY(text.contains("holograms"));
        QVERIFY2(text.contains("\"version\": 9"), "never rewritten as an older one");
        QVERIFY(app.document.isReadOnly());
    }
    void changesAreAskedForBeforeTheyAreLost() {
        AppFixture app;
        app.openDemo();
        rig::Rig next = app.document.rig();
        next.name = "Other";
        app.document.change("rename", next);
        app.prompter.answer = app::Answer::Cancel;
        support::trigger(app.window.get(), "newAction");
        QCOMPARE(app.prompter.questions.size(), 1);
        QCOMPARE(app.document.rig().name, std::string("Other"));
        app.prompter.answer = app::Answer::No;
        support::trigger(app.window.get(), "newAction");
        QVERIFY(app.document.rig().cameras.empty());
    }
    void changesReachTheJournalWithinASecond() {
        AppFixture app;
        app.openDemo();
        rig::Rig next = app.document.rig();
        next.name = "Not yet saved";
        app.document.change("rename", next);
        const std::filesystem::path journal = app.document.journal().pathFor({});
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal), 1000);
        app.document.close();
        QVERIFY(!std::filesystem::exists(journal));
    }
    /// What was measured is not written again with every edit: the demo's takes are half a
    /// megabyte, an edit is less than a camera.
    void anEditAddsALineToTheJournal() {
        AppFixture app;
        app.openDemo();
        const std::filesystem::path journal = app.document.journal().pathFor({});
        const auto edit = [&](double iso) {
            rig::Rig next = app.document.rig();
            next.cameras[1].settings.isoValue = iso;
            app.document.change("ISO", next);
        };
        edit(500.0);
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal), 1000);
        const auto before = std::filesystem::file_size(journal);
        edit(640.0);
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::file_size(journal) > before, 1000);
        const auto grown = std::filesystem::file_size(journal) - before;
        QVERIFY2(grown < 20000 && grown * 10 < before, std::to_string(grown).c_str());
        const auto found = app.document.journal().findAll();
        QCOMPARE(found.size(), std::size_t{1});
        QVERIFY(found[0].rig == app.document.rig());
        app.document.undoStack().undo();
        const double undone = app.document.rig().cameras[1].settings.isoValue;
        QTRY_VERIFY_WITH_TIMEOUT(
            app.document.journal().findAll()[0].rig.cameras[1].settings.isoValue == undone, 1000);
    }
    /// A second process of this program opens the rig, changes it and is killed; the next one gives
    /// the change back.
    void killedProgramIsRecovered() {
        AppFixture app;
        app.openDemo();
        const QString path = app.folder.filePath("set.rigmatch");
        QVERIFY(app.document.saveAs(path).has_value());
        QProcess program;
        program.start(QCoreApplication::applicationFilePath(), {"--victim", path});
        QVERIFY(program.waitForStarted());
        const std::filesystem::path journal = app.document.journal().pathFor(path.toStdString());
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal), 20000);
        QVERIFY2(!app.document.journal().find(path.toStdString()) ||
                     program.state() == QProcess::NotRunning,
                 "a running program keeps its journal");
        ::kill(static_cast<pid_t>(program.processId()), SIGKILL);
        QVERIFY(program.waitForFinished());
        AppFixture next;
        next.window->files().openPath(path);
        QCOMPARE(next.prompter.questions.size(), 1);
        QVERIFY(next.prompter.questions[0].contains("Recover"));
        QCOMPARE(next.document.rig().name, std::string("Changed before the kill"));
        QVERIFY(next.document.isModified());
        QCOMPARE(next.document.rig().cameras.size(), std::size_t{4});
    }
    void cancelledOpenDialogKeepsWorkAndJournal() {
        AppFixture app;
        change(app, "Worth keeping");
        app.prompter.answer = app::Answer::No;
        app.chooser.rig.clear();
        support::trigger(app.window.get(), "openAction");
        QCOMPARE(app.document.rig().name, std::string("Worth keeping"));
        QVERIFY(app.document.isModified());
        QVERIFY(std::filesystem::exists(app.document.journal().pathFor({})));
    }
    /// "Do not save", and then the chosen file cannot be opened: nothing is lost until something
    /// else has really been opened.
    void corruptFileChosenKeepsWorkAndJournal() {
        AppFixture app;
        change(app, "Worth keeping");
        QFile bad(app.folder.filePath("bad.rigmatch"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("{");
        bad.close();
        app.prompter.answer = app::Answer::No;
        app.chooser.rig = bad.fileName();
        support::trigger(app.window.get(), "openAction");
        QCOMPARE(app.prompter.errors.size(), 1);
        QCOMPARE(app.document.rig().name, std::string("Worth keeping"));
        QVERIFY(app.document.isModified());
        QVERIFY(std::filesystem::exists(app.document.journal().pathFor({})));
    }
    void openedRigReplacesTheJournalOfTheOneGivenUp() {
        AppFixture app;
        change(app, "Given up");
        const QString path = app.folder.filePath("other.rigmatch");
        QVERIFY(rig::saveRig(rig::Rig{}, path.toStdString()).has_value());
        app.prompter.answer = app::Answer::No;
        app.chooser.rig = path;
        support::trigger(app.window.get(), "openAction");
        QCOMPARE(app.document.path(), path);
        QVERIFY(!std::filesystem::exists(app.document.journal().pathFor({})));
    }
    void failedSaveBeforeOpeningKeepsEverything() {
        AppFixture app;
        change(app, "Worth keeping");
        const QString path = app.folder.filePath("other.rigmatch");
        QVERIFY(rig::saveRig(rig::Rig{}, path.toStdString()).has_value());
        app.prompter.answer = app::Answer::Yes;
        app.chooser.savesFirst = {"/proc/nowhere/set.rigmatch"};
        app.chooser.rig = path;
        support::trigger(app.window.get(), "openAction");
        QTRY_COMPARE(app.prompter.errors.size(), 1);
        QCOMPARE(app.document.rig().name, std::string("Worth keeping"));
        QVERIFY(std::filesystem::exists(app.document.journal().pathFor({})));
        // Saved elsewhere at the second try, what was asked for follows.
        app.chooser.savesFirst = {"/proc/nowhere/set.rigmatch"};
        app.chooser.saveTo = app.folder.filePath("kept.rigmatch");
        support::trigger(app.window.get(), "openAction");
        QTRY_COMPARE(app.document.path(), path);
        QVERIFY(QFileInfo::exists(app.chooser.saveTo));
    }
    void openingTheSameFileAgainDropsTheChangesOnce() {
        AppFixture app;
        app.openDemo();
        const QString path = app.folder.filePath("set.rigmatch");
        QVERIFY(app.document.saveAs(path).has_value());
        rig::Rig next = app.document.rig();
        next.name = "Other";
        app.document.change("rename", next);
        app.prompter.answer = app::Answer::No;
        app.window->files().openPath(path);
        QCOMPARE(app.prompter.questions.size(), 1);
        QCOMPARE(app.document.rig().name, std::string("Clock bench"));
    }
    /// The file is written beside the interface: what changes in the meantime stays unsaved, and
    /// its journal goes with the new file.
    void changesDuringASaveStayUnsaved() {
        AppFixture app;
        change(app, "As saved");
        app.chooser.saveTo = app.folder.filePath("set.rigmatch");
        support::trigger(app.window.get(), "saveAction");
        rig::Rig next = app.document.rig();
        next.name = "Changed meanwhile";
        app.document.change("rename", next);
        QTRY_COMPARE(app.document.path(), app.chooser.saveTo);
        QVERIFY(app.document.isModified());
        const auto file = app.chooser.saveTo.toStdString();
        QCOMPARE(rig::loadRig(file)->rig.name, std::string("As saved"));
        QTRY_VERIFY(std::filesystem::exists(app.document.journal().pathFor(file)));
        QVERIFY(!std::filesystem::exists(app.document.journal().pathFor({})));
        support::trigger(app.window.get(), "saveAction");
        QTRY_VERIFY(!app.document.isModified());
        QCOMPARE(rig::loadRig(file)->rig.name, std::string("Changed meanwhile"));
    }
    void closingTheWindowEndsTheJournal() {
        AppFixture app;
        change(app, "Given up");
        app.prompter.answer = app::Answer::No;
        app.window->close();
        QVERIFY(!std::filesystem::exists(app.document.journal().pathFor({})));
    }
    /// What several sessions left behind, saved rigs and unsaved ones, is offered at the start;
    /// "Later" leaves it where it is.
    void everythingLeftBehindIsOfferedAtTheStart() {
        AppFixture app;
        const QString path = app.folder.filePath("set.rigmatch");
        rig::Rig saved;
        saved.name = "Saved";
        QVERIFY(rig::saveRig(saved, path.toStdString()).has_value());
        saved.name = "Changed since";
        QVERIFY(app.document.journal().write(saved, path.toStdString()).has_value());
        QTest::qWait(20);
        saved.name = "Never saved";
        const std::filesystem::path left =
            app.folder.filePath("journals/unsaved-1.journal").toStdString();
        QVERIFY(app.document.journal().write(saved, {}).has_value());
        std::filesystem::rename(app.document.journal().pathFor({}), left);
        app.prompter.answer = app::Answer::Cancel;
        app.window->files().offerRecoveries();
        QCOMPARE(app.prompter.questions.size(), 2);
        QVERIFY(app.prompter.questions[0].contains("unsaved"));
        QVERIFY(app.prompter.questions[1].contains("set.rigmatch"));
        QCOMPARE(app.document.journal().findAll().size(), std::size_t{2});
        app.prompter.answer = app::Answer::Yes;
        app.window->files().offerRecoveries();
        QCOMPARE(app.document.rig().name, std::string("Never saved"));
        QVERIFY(app.document.isModified());
        QVERIFY(!std::filesystem::exists(left));
        QVERIFY(std::filesystem::exists(app.document.journal().pathFor({})));
        AppFixture next;
        next.prompter.answer = app::Answer::No;
        const rig::Journal journal(app.folder.filePath("journals").toStdString());
        QVERIFY(journal.find(path.toStdString()).has_value());
        journal.discard(*journal.find(path.toStdString()));
        QVERIFY(!journal.find(path.toStdString()).has_value());
    }
    void refusedRecoveryOpensTheSavedFile() {
        AppFixture app;
        app.openDemo();
        const QString path = app.folder.filePath("set.rigmatch");
        QVERIFY(app.document.saveAs(path).has_value());
        rig::Rig changed = app.document.rig();
        changed.name = "Lost";
        QVERIFY(app.document.journal().write(changed, path.toStdString()).has_value());
        AppFixture next;
        next.prompter.answer = app::Answer::No;
        next.window->files().openPath(path);
        QCOMPARE(next.document.rig().name, std::string("Clock bench"));
        QVERIFY(!std::filesystem::exists(next.document.journal().pathFor(path.toStdString())));
    }
};

namespace {

/// The process that will be killed: opens the rig as the program does, types a new name, and waits.
int runVictim(const QString& path) {
    AppFixture app;
    app.window->files().openPath(path);
    if (!app.show("cameras")) return 1;
    auto* edit = child<QLineEdit>(app.window.get(), "rigNameEdit");
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, "Changed before the kill");
    QTest::keyClick(edit, Qt::Key_Return);
    return QApplication::exec();
}

const support::HelperEntry kVictim{
    "--victim", [](const QStringList& arguments) { return runVictim(arguments.value(0)); }};

}  // namespace

RIG_TEST(TestRecovery);
#include "test_recovery.moc"
