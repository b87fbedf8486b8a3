// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/wait.h>
#include <unistd.h>

#include <QDir>
#include <QTemporaryDir>
#include <QtTest>
#include <fstream>
#include <nlohmann/json.hpp>

#include "base/atomic_file.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"
#include "support/full_rig.h"
#include "support/test_list.h"

using namespace rigmatch;
using support::fullRig;

class TestJournal : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void journalGivesBackWhatWasNotSaved() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        QVERIFY(journal.write(rig, file).has_value());
        QVERIFY2(!journal.find(file), "the same as the file: nothing to recover");
        rig.name = "Changed after the save";
        QVERIFY(journal.write(rig, file).has_value());
        const auto recovery = journal.find(file);
        QVERIFY(recovery.has_value());
        QVERIFY(recovery->rig == rig);
        journal.remove(file);
        QVERIFY(!journal.find(file));
        QVERIFY(journal.write(rig, {}).has_value());
        QCOMPARE(journal.findAll().size(), std::size_t{1});
        QVERIFY(journal.findAll()[0].document.empty());
    }
    /// Rigs with a file and without one, changed one after the other: all are found again, the last
    /// first, until they are given up.
    void everyJournalIsFoundAtTheStart() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        std::vector<std::filesystem::path> files;
        for (const char* name : {"first.rigmatch", "second.rigmatch"}) {
            files.emplace_back(folder.filePath(name).toStdString());
            rig.name = name;
            QVERIFY(rig::saveRig(rig, files.back()).has_value());
            rig.name += " changed";
            QVERIFY(journal.write(rig, files.back()).has_value());
            QTest::qWait(20);
        }
        QVERIFY(journal.write(rig, {}).has_value());
        const auto all = journal.findAll();
        QCOMPARE(all.size(), std::size_t{3});
        QVERIFY(all[0].document.empty() && !all[0].savedAt);
        QCOMPARE(all[1].document, files[1]);
        QVERIFY(all[1].savedAt && *all[1].savedAt <= all[1].changedAt);
        QCOMPARE(all[2].rig.name, std::string("first.rigmatch changed"));
        journal.discard(all[1]);
        QCOMPARE(journal.findAll().size(), std::size_t{2});
        journal.remove(files[0]);
        QCOMPARE(journal.findAll().size(), std::size_t{1});
    }
    /// A writer that has ended but was not yet cleared away by its parent (state Z) is gone; so is
    /// one whose number another process has got since.
    void endedProcessesDoNotHoldTheirJournals() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.filePath("journals").toStdString());
        rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        rig.name = "Changed";
        const pid_t child = ::fork();
        if (child == 0) {
            (void)journal.write(rig, file);
            ::_exit(0);
        }
        QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(journal.pathFor(file)), 5000);
        siginfo_t ended;
        QCOMPARE(::waitid(P_PID, static_cast<id_t>(child), &ended, WEXITED | WNOWAIT), 0);
        QVERIFY2(journal.find(file), "a process in state Z counts as gone");
        ::waitpid(child, nullptr, 0);
        // This test's parent runs under another name; a running process of this name would be one
        // that started later: the number is that of a living child, the time is not.
        const pid_t other = ::fork();
        if (other == 0) {
            ::pause();
            ::_exit(0);
        }
        const std::string text =
            "rigmatch-journal " + std::to_string(other) + " 1\n" + rig::jsonText(rig);
        QVERIFY(base::writeAtomically(journal.pathFor(file), text).has_value());
        const bool isFound = journal.find(file).has_value();
        const std::string held =
            "rigmatch-journal " + std::to_string(other) + "\n" + rig::jsonText(rig);
        QVERIFY(base::writeAtomically(journal.pathFor(file), held).has_value());
        const bool isHeld = !journal.find(file).has_value();
        ::kill(other, SIGKILL);
        ::waitpid(other, nullptr, 0);
        QVERIFY2(isFound, "started at another time");
        QVERIFY2(isHeld, "a living process of this name keeps its journal");
    }
    void damagedJournalIsNotOffered() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Journal journal(folder.path().toStdString());
        QVERIFY(base::writeAtomically(journal.pathFor(file), "rigmatch-journal 1\n{ \"format\": ")
                    .has_value());
        QVERIFY(!journal.find(file));
    }
    /// A process that saves over and over is killed at a dozen moments; what was saved before is
    /// always whole.
    void killAtAnyMomentOfASaveLosesNothing() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("set.rigmatch").toStdString();
        const rig::Rig rig = fullRig(folder.path().toStdString());
        QVERIFY(rig::saveRig(rig, file).has_value());
        for (int round = 0; round < 12; ++round) {
            const pid_t writer = ::fork();
            if (writer == 0) {
                rig::Rig mine = rig;
                for (int i = 0;; ++i) {
                    mine.name = std::to_string(i);
                    if (!rig::saveRig(mine, file)) ::_exit(1);
                }
            }
            ::usleep(static_cast<useconds_t>(3000 + 2711 * round));
            ::kill(writer, SIGKILL);
            int status = 0;
            ::waitpid(writer, &status, 0);
            QVERIFY(WIFSIGNALED(status));
            const auto loaded = rig::loadRig(file);
            QVERIFY2(loaded.has_value(), loaded ? "" : base::fullText(loaded.error()).c_str());
            QCOMPARE(loaded->rig.cameras.size(), std::size_t{4});
        }
    }
};

RIG_TEST(TestJournal);
#include "test_journal.moc"
