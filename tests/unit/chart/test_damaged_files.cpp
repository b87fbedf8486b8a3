// SPDX-License-Identifier: GPL-3.0-or-later
// Files that a user hands over beside footage: charts, measured values, curves, viewing LUTs. Cut,
// turned over or full of nonsense, they are refused in words or read; nothing else happens.
#include <sys/stat.h>

#include <QDir>
#include <QTemporaryDir>
#include <cmath>
#include <random>

#include "chart/chart_file.h"
#include "chart/chart_values.h"
#include "colour/curve_file.h"
#include "colour/viewing_lut.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "support/text_file.h"

using namespace rigmatch;

namespace {

const char* const kValues =
    "CGATS.17\nNUMBER_OF_FIELDS 4\nBEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\n"
    "END_DATA_FORMAT\nNUMBER_OF_SETS 2\nBEGIN_DATA\nwhite 96.5 -0.4 1.2\nblack 20.4 0.1 -0.9\n"
    "END_DATA\n";
const char* const kTable = "name,L,a,b\nwhite,95,0,0\ngrey,50,0,0\nblack,20,0,0\n";
const char* const kCurve =
    "TITLE \"curve\"\nLUT_1D_SIZE 4\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n0 0 0\n0.2 0.2 0.2\n"
    "0.6 0.6 0.6\n1 1 1\n";
const char* const kLook = "LUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n";

/// What a wrong hand puts in the place of a number or a word.
const QList<QByteArray>& nonsense() {
    static const QList<QByteArray> kNonsense{"nan",
                                             "inf",
                                             "-1e308",
                                             "1e999",
                                             "",
                                             "99999999999999999999",
                                             "-5",
                                             "0",
                                             "%n%s",
                                             "\"",
                                             "{[",
                                             QByteArray("a\0b", 3),
                                             "\xff\xfe\xfa"};
    return kNonsense;
}

}  // namespace

class TestDamagedFiles : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    int m_read = 0;
    int m_refused = 0;

    void addKinds() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QByteArray>("sound");
        QTest::newRow("values, CGATS") << "damaged.cgats" << QByteArray(kValues);
        QTest::newRow("values, CSV") << "damaged.csv" << QByteArray(kTable);
        QTest::newRow("curve") << "damaged.cube" << QByteArray(kCurve);
        QTest::newRow("look") << "damaged-look.cube" << QByteArray(kLook);
        for (const char* chart : {"strip-12.json", "grey-card.json", "printed-card.json"}) {
            QFile file(QDir(RIGMATCH_SOURCE_DIR "/data/charts").filePath(chart));
            QVERIFY(file.open(QIODevice::ReadOnly));
            QTest::newRow(chart) << "damaged.json" << file.readAll();
        }
    }

    template <class Result>
    void told(const Result& result, const QByteArray& text) {
        if (result) {
            ++m_read;
            return;
        }
        ++m_refused;
        QVERIFY2(!result.error().what.empty() && !result.error().detail.empty() &&
                     !result.error().hint.empty(),
                 text.constData());
    }
    void open(const QString& name, const QByteArray& text) {
        const std::string path = support::writeText(m_folder, name.toLatin1(), text);
        if (!name.endsWith("cube")) {
            const auto chart = chart::readChartFile(path);
            told(chart, text);
            if (!chart) return;
            // What was taken can be worked with.
            QCOMPARE(chart->patches.size(), chart->columns * chart->rows);
            for (const chart::ReferencePatch& patch : chart->patches)
                QVERIFY2(patch.linear.allFinite(), text.constData());
            return;
        }
        const auto curve = colour::curveFromFile(path);
        told(curve, text);
        if (curve) QVERIFY2(std::isfinite(curve->decode(0.5)), text.constData());
        told(colour::ViewingLut::read(path), text);
    }

private Q_SLOTS:
    void init() { m_read = m_refused = 0; }

    void soundFilesAreRead_data() { addKinds(); }
    void soundFilesAreRead() {
        QFETCH(QString, name);
        QFETCH(QByteArray, sound);
        open(name, sound);
        QVERIFY(m_read >= 1);
    }
    void halfFilesAreRefusedOrRead_data() { addKinds(); }
    void halfFilesAreRefusedOrRead() {
        QFETCH(QString, name);
        QFETCH(QByteArray, sound);
        for (qsizetype length = 0; length < sound.size(); length += 1 + sound.size() / 60) {
            open(name, sound.left(length));
            if (QTest::currentTestFailed()) return;
        }
        QVERIFY(m_refused > 3);
    }
    void nonsenseIsRefusedOrRead_data() { addKinds(); }
    /// Every word of the file in turn.
    void nonsenseIsRefusedOrRead() {
        QFETCH(QString, name);
        QFETCH(QByteArray, sound);
        const QRegularExpression word(R"([A-Za-z0-9_.+-]+)");
        const QString text = QString::fromUtf8(sound);
        int turn = 0;
        for (auto words = word.globalMatch(text); words.hasNext();) {
            const auto found = words.next();
            if (++turn % (1 + int(text.size()) / 1500) != 0) continue;
            const QByteArray before = text.left(found.capturedStart()).toUtf8();
            const QByteArray after = text.mid(found.capturedEnd()).toUtf8();
            for (int i = 0; i < 3; ++i) {
                open(name, before + nonsense()[(turn + 5 * i) % nonsense().size()] + after);
                if (QTest::currentTestFailed()) return;
            }
        }
        QVERIFY(m_refused > 3);
    }
    void flippedBytesAreRefusedOrRead_data() { addKinds(); }
    void flippedBytesAreRefusedOrRead() {
        QFETCH(QString, name);
        QFETCH(QByteArray, sound);
        std::mt19937 random(5);
        for (int round = 0; round < 60; ++round) {
            QByteArray text = sound;
            for (int flip = 0; flip < 3; ++flip)
                text[static_cast<qsizetype>(random() % static_cast<unsigned>(text.size()))] =
                    static_cast<char>(random() % 256);
            open(name, text);
            if (QTest::currentTestFailed()) return;
        }
    }
    void foldersPipesAndHugeFilesAreRefused() {
        const std::string pipe = m_folder.filePath("pipe.cube").toStdString();
        QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
        for (const std::string& path :
             {m_folder.path().toStdString(), pipe, std::string("/dev/zero")}) {
            QVERIFY(!chart::readChartFile(path).has_value());
            QVERIFY(!colour::curveFromFile(path).has_value());
            QVERIFY(!colour::ViewingLut::read(path).has_value());
        }
        const QByteArray zeros(2'000'000, '\0');
        open("zeros.csv", zeros);
        open("zeros.json", zeros);
        open("zeros.cube", zeros);
        QCOMPARE(m_read, 0);
    }
    /// A table that counts its columns and never names them (found by tools/fuzz).
    void columnsWithoutNamesAreRefused() {
        const QString file = m_folder.filePath("unnamed.txt");
        QFile out(file);
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write(
            "CGATS.17\nNUMBER_OF_FIELDS 4\nNUMBER_OF_SETS 2\nBEGIN_DATA\nA1 80 84 70\n"
            "A2 19 20 16\nEND_DATA\n");
        out.close();
        const auto values = chart::readPatchValues(file.toStdString());
        QVERIFY(!values.has_value());
        QVERIFY(!values.error().detail.empty() && !values.error().hint.empty());
    }
    /// Tables that say they hold more than they have room for are refused before anybody makes room
    /// (found by tools/fuzz: eight gigabytes for a file of eighty bytes); sound ones are read.
    void overstatedTablesAreRefused_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<bool>("isSound");
        const QByteArray corners = "0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n";
        const auto list = [](const QByteArray& dimensions) {
            return QByteArray(
                       "<?xml version=\"1.0\"?>\n<ProcessList compCLFversion=\"3.0\" id=\"a\">"
                       "<LUT1D inBitDepth=\"32f\" outBitDepth=\"32f\"><Array dim=\"") +
                   dimensions + "\">0 1</Array></LUT1D></ProcessList>";
        };
        QTest::newRow("cube") << "sound.cube"
                              << "LUT_3D_SIZE 2\n" + corners << true;
        QTest::newRow("large cube") << "large.cube"
                                    << "LUT_3D_SIZE 2810\n" + corners << false;
        QTest::newRow("small letters") << "small.CUBE"
                                       << "lut_3d_size 900\n" + corners << false;
        QTest::newRow("long curve")
            << "long.cube" << QByteArray("LUT_1D_SIZE 4e8\n0 0 0\n") << false;
        QTest::newRow("under another name") << "other.clf"
                                            << "LUT_3D_SIZE 2810\n" + corners << false;
        QTest::newRow("in a comment") << "comment.cube"
                                      << "# LUT_3D_SIZE 2810\nLUT_3D_SIZE 2\n" + corners << true;
        QTest::newRow("list") << "sound.clf" << list("2 1") << true;
        QTest::newRow("large list") << "large.clf" << list("400000000 1") << false;
        QTest::newRow("in three") << "large.spi3d"
                                  << QByteArray("SPILUT 1.0\n3 3\n2000 2000 2000\n0 0 0 0 0 0\n")
                                  << false;
        QTest::newRow("in one") << "large.spi1d"
                                << QByteArray(
                                       "Version 1\nFrom 0 1\nLength 90000000\nComponents 1\n"
                                       "{\n0\n1\n}\n")
                                << false;
    }
    void overstatedTablesAreRefused() {
        QFETCH(QString, name);
        QFETCH(QByteArray, text);
        QFETCH(bool, isSound);
        QFile out(m_folder.filePath(name));
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write(text);
        out.close();
        const auto lut = colour::ViewingLut::read(out.fileName().toStdString());
        QCOMPARE(lut.has_value(), isSound);
        if (!isSound)
            QVERIFY(words::inEnglish(lut.error()).find("has room for") != std::string::npos);
    }
    /// Counts beyond any chart are no reason to wait or to fall.
    void absurdCountsAreRefused() {
        for (const char* sets : {"1e300", "-7", "99999999999", "nan"}) {
            const QString file = m_folder.filePath("absurd.txt");
            QFile out(file);
            QVERIFY(out.open(QIODevice::WriteOnly));
            out.write(
                "CGATS.17\nNUMBER_OF_FIELDS 4\nBEGIN_DATA_FORMAT\nSAMPLE_ID LAB_L LAB_A LAB_B\n"
                "END_DATA_FORMAT\nNUMBER_OF_SETS " +
                QByteArray(sets) + "\nBEGIN_DATA\nA1 80 0 0\nEND_DATA\n");
            out.close();
            const auto values = chart::readPatchValues(file.toStdString());
            QVERIFY2(!values.has_value(), sets);
        }
    }
};

RIG_TEST(TestDamagedFiles);
#include "test_damaged_files.moc"
