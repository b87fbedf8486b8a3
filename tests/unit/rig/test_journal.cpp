// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QDir>
#include <QTemporaryDir>
#include <csignal>
#include <fstream>
#include <nlohmann/json.hpp>

#include "base/atomic_file.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"
#include "support/full_rig.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

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
    /// A list of rigs as a day makes them, each from the one before: every part that changes is one
    /// that the journal tells in its own way.
    static std::vector<rig::Rig> aDayOf(rig::Rig rig) {
        rig::Shot second = std::as_const(rig.takes[0].shots).front();
        second.cameraId = std::as_const(rig).cameras[2].id;
        second.reading->durationSeconds = 5.0;
        rig.takes[0].shots.push_back(second);
        std::vector<rig::Rig> states{rig};
        const auto change = [&](auto edit) {
            edit(rig);
            states.push_back(rig);
        };
        change([](rig::Rig& r) { r.name = "Second day"; });
        change([](rig::Rig& r) { r.cameras[1].settings.isoValue = 3200.0; });
        change([](rig::Rig& r) { r.cameras.move(0, 2); });
        change([](rig::Rig& r) { r.takes[0].shots[1].rangeOverride = "limited"; });
        change([](rig::Rig& r) { r.takes[0].shots[0].skinMarks.push_back({1, 2, 30, 40, 0.5}); });
        change([](rig::Rig& r) { r.takes[0].doneAtTripods.emplace_back("headroom/a//0"); });
        change([](rig::Rig& r) {
            rig::Take take = std::as_const(r.takes)[0];
            take.id = rig::freshTakeId(r);
            take.number = 99;
            r.takes.push_back(take);
        });
        change([](rig::Rig& r) { r.takes.back().shots[0].reading->durationSeconds = 77.0; });
        change([](rig::Rig& r) {
            r.takes.back().shots.erase(std::as_const(r.takes).back().shots.begin());
        });
        change([](rig::Rig& r) { r.takes.erase(std::as_const(r.takes).begin()); });
        change([](rig::Rig& r) { r.sources.push_back({"source-9", {}, "mixer", {}}); });
        change([](rig::Rig& r) { r.cameras.erase(std::as_const(r.cameras).begin()); });
        change([](rig::Rig& r) { r.sources.clear(); });
        return states;
    }
    /// Every step of a day is found again, and the journal only ever grows behind what it held.
    void eachStepIsAddedBehindTheOneBefore() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.path().toStdString());
        const auto states = aDayOf(fullRig(folder.path().toStdString()));
        QVERIFY(journal.write(states[0], {}).has_value());
        for (std::size_t i = 1; i < states.size(); ++i) {
            const std::string before = *base::readWhole(journal.pathFor({}));
            QVERIFY(journal.append(states[i - 1], states[i], {}).has_value());
            const std::string after = *base::readWhole(journal.pathFor({}));
            QVERIFY2(after.starts_with(before) && after.size() > before.size(),
                     ("step " + std::to_string(i)).c_str());
            const auto found = journal.findAll();
            QCOMPARE(found.size(), std::size_t{1});
            QVERIFY2(found[0].rig == states[i], ("step " + std::to_string(i)).c_str());
        }
        const auto size = std::filesystem::file_size(journal.pathFor({}));
        QVERIFY(journal.append(states.back(), states.back(), {}).has_value());
        QCOMPARE(std::filesystem::file_size(journal.pathFor({})), size);
    }
    /// Cut off at any byte, as by a kill or an empty battery, it holds one of the states that were
    /// written, the last whole one.
    void cutOffAnywhereGivesTheLastWholeStep() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.path().toStdString());
        const auto states = aDayOf(fullRig(folder.path().toStdString()));
        QVERIFY(journal.write(states[0], {}).has_value());
        std::vector<std::size_t> ends;
        for (std::size_t i = 1; i < states.size(); ++i) {
            ends.push_back(base::readWhole(journal.pathFor({}))->size());
            QVERIFY(journal.append(states[i - 1], states[i], {}).has_value());
        }
        const std::string whole = *base::readWhole(journal.pathFor({}));
        ends.push_back(whole.size());
        std::size_t step = 97;
        for (std::size_t cut = ends[0]; cut <= whole.size(); cut += step) {
            QVERIFY(base::writeAtomically(journal.pathFor({}), whole.substr(0, cut)).has_value());
            const auto held = static_cast<std::size_t>(
                std::upper_bound(ends.begin(), ends.end(), cut) - ends.begin() - 1);
            const auto found = journal.findAll();
            QCOMPARE(found.size(), std::size_t{1});
            QVERIFY2(found[0].rig == states[held], std::to_string(cut).c_str());
            step = step * 31 % 421 + 1;
        }
    }
    /// A line that names what is not there ends the journal; what stands before it counts.
    void linesOfNoSenseEndIt() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.path().toStdString());
        const auto states = aDayOf(fullRig(folder.path().toStdString()));
        for (const char* line : {R"({"cameras": [0, 77]})",
                                 R"({"takes": [{"of": 5, "take": {}, "shots": [0]}]})",
                                 R"({"takes": [{"of": 0, "take": {"id": "x"}, "shots": [99]}]})",
                                 R"({"takes": [{"shots": []}]})",
                                 R"({"cameras": [-1]})",
                                 R"({"head": 7})",
                                 "[]",
                                 "no JSON"}) {
            QVERIFY(journal.write(states[0], {}).has_value());
            QVERIFY(journal.append(states[0], states[1], {}).has_value());
            const auto path = journal.pathFor({});
            QVERIFY(base::appendDurably(path, std::string(line) + "\n").has_value());
            QVERIFY(journal.append(states[1], states[2], {}).has_value());
            const auto found = journal.findAll();
            QCOMPARE(found.size(), std::size_t{1});
            QVERIFY2(found[0].rig == states[1], line);
        }
    }
    /// What another process wrote there, or nobody did, is begun anew; and so is a journal that has
    /// outgrown its rig many times.
    void itBeginsAnewWhereItCannotGoOn() {
        const QTemporaryDir folder;
        const rig::Journal journal(folder.path().toStdString());
        const auto states = aDayOf(fullRig(folder.path().toStdString()));
        const auto path = journal.pathFor({});
        QVERIFY(journal.append(states[0], states[1], {}).has_value());
        QVERIFY(journal.findAll()[0].rig == states[1]);
        const std::string own = *base::readWhole(path);
        const std::string others =
            "rigmatch-journal 1 1 " + own.substr(own.rfind(' ', own.find('\n')) + 1);
        QVERIFY(base::writeAtomically(path, others).has_value());
        QVERIFY(journal.append(states[1], states[2], {}).has_value());
        QVERIFY(journal.findAll()[0].rig == states[2]);
        rig::Rig large = states[2];
        std::uintmax_t largest = 0;
        bool hasBegunAnew = false;
        for (int i = 0; i < 12 && !hasBegunAnew; ++i) {
            rig::Rig next = large;
            next.name = std::string(2U << 20U, static_cast<char>('a' + i));
            QVERIFY(journal.append(large, next, {}).has_value());
            large = next;
            const auto size = std::filesystem::file_size(path);
            hasBegunAnew = size < largest;
            largest = std::max(largest, size);
        }
        QVERIFY2(hasBegunAnew, "the changes grow without end");
        QVERIFY(journal.findAll()[0].rig == large);
    }
    /// No room for the whole line: the journal stays as it was, and can go on.
    void halfALineIsTakenBack() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("lines").toStdString();
        QVERIFY(base::writeAtomically(file, "first\n").has_value());
        const auto old = std::signal(SIGXFSZ, SIG_IGN);
        rlimit before{};
        ::getrlimit(RLIMIT_FSIZE, &before);
        rlimit small = before;
        small.rlim_cur = 9;
        ::setrlimit(RLIMIT_FSIZE, &small);
        const auto written = base::appendDurably(file, "second\n");
        ::setrlimit(RLIMIT_FSIZE, &before);
        std::signal(SIGXFSZ, old);
        QVERIFY(!written.has_value());
        QCOMPARE(written.error().code, base::ErrorCode::WriteFailed);
        QCOMPARE(*base::readWhole(file), std::string("first\n"));
        QVERIFY(base::appendDurably(file, "third\n").has_value());
        QCOMPARE(*base::readWhole(file), std::string("first\nthird\n"));
        QVERIFY(!base::appendDurably(folder.filePath("none").toStdString(), "x").has_value());
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
            QVERIFY2(loaded.has_value(), loaded ? "" : words::inEnglish(loaded.error()).c_str());
            QCOMPARE(loaded->rig.cameras.size(), std::size_t{4});
        }
    }
};

RIG_TEST(TestJournal);
#include "test_journal.moc"
