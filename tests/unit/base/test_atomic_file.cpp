// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/resource.h>

#include <sys/stat.h>

#include <QTemporaryDir>
#include <csignal>
#include <fstream>

#include "base/atomic_file.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch::base;

namespace {

/// Lets no file grow beyond `bytes` while it lives: what a full disk does to a write.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) {
        std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &m_before);
        const rlimit limit{bytes, m_before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &limit);
    }
    ~FullDisk() { setrlimit(RLIMIT_FSIZE, &m_before); }

private:
    rlimit m_before{};
};

}  // namespace

class TestAtomicFile : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void foldersDevicesAndPipesAreRefused() {
        const QTemporaryDir folder;
        const std::string pipe = folder.filePath("pipe").toStdString();
        QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
        for (const std::string& path :
             {folder.path().toStdString(), pipe, std::string("/dev/zero")}) {
            const auto text = readWhole(path);
            QVERIFY(!text.has_value());
            QCOMPARE(text.error().code, ErrorCode::Unreadable);
            QVERIFY(rigmatch::words::inEnglish(text.error().what).find(path) != std::string::npos);
            QVERIFY(!text.error().hint.empty());
        }
    }
    void writesAndReadsBack() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("a.txt").toStdString();
        QVERIFY(writeAtomically(file, "one").has_value());
        QVERIFY(writeAtomically(file, "two").has_value());
        QCOMPARE(readWhole(file).value(), std::string("two"));
    }
    void fullDiskLeavesTheOldFileAndNoRest() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("a.txt").toStdString();
        QVERIFY(writeAtomically(file, "safe").has_value());
        const std::string large(100000, 'x');
        Result<void> written;
        {
            const FullDisk full(1000);
            written = writeAtomically(file, large);
        }
        QVERIFY(!written.has_value());
        QCOMPARE(written.error().code, ErrorCode::WriteFailed);
        QVERIFY(rigmatch::words::inEnglish(written.error()).find("the earlier file is unharmed") !=
                std::string::npos);
        QCOMPARE(readWhole(file).value(), std::string("safe"));
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).size(), 1);
    }
    void missingFolderIsNamed() {
        const auto written = writeAtomically("/no/such/folder/a.rigmatch", "x");
        QVERIFY(!written.has_value());
        QCOMPARE(rigmatch::words::inEnglish(written.error().what),
                 std::string("Cannot write /no/such/folder/a.rigmatch"));
        QVERIFY(!written.error().hint.empty());
    }
    void missingFileIsNotFound() {
        const auto text = readWhole("/no/such/file");
        QVERIFY(!text.has_value());
        QCOMPARE(text.error().code, ErrorCode::NotFound);
    }
    void oversizedFileIsRefused() {
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("big").toStdString();
        QVERIFY(writeAtomically(file, std::string(5000, 'x')).has_value());
        QCOMPARE(readWhole(file, 1000).error().code, ErrorCode::TooLarge);
    }
};

RIG_TEST(TestAtomicFile);
#include "test_atomic_file.moc"
