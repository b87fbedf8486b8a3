// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "chart/chart_definition.h"
#include "chart/chart_file.h"
#include "chart/chart_values.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "support/text_file.h"
#include "words/english.h"

using namespace rigmatch;
using chart::ReferenceChart;

namespace {

/// Values of the classic chart's last row (sources 11.9) as CGATS text.
const char* const kGreyRow =
    "CGATS.17\n"
    "ORIGINATOR \"bench\"\n"
    "NUMBER_OF_FIELDS 5\n"
    "BEGIN_DATA_FORMAT\n"
    "SAMPLE_ID SAMPLE_NAME LAB_L LAB_A LAB_B\n"
    "END_DATA_FORMAT\n"
    "NUMBER_OF_SETS 3\n"
    "BEGIN_DATA\n"
    "1 white 96.539 -0.425 1.186\n"
    "2 grey 50.867 -0.153 -0.270\n"
    "3 black 20.461 -0.079 -0.973\n"
    "END_DATA\n";

}  // namespace

class TestChartFile : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    std::string write(const char* name, const QByteArray& text) {
        return support::writeText(m_folder, name, text);
    }
    /// "name" with cells A1 … of `columns` letters by `rows` numbers, or the other way about.
    static QByteArray cells(int letters, int numbers) {
        QByteArray text = "SAMPLE_NAME,L,a,b\n";
        for (int l = 0; l < letters; ++l) {
            for (int n = 1; n <= numbers; ++n)
                text += QByteArray(1, char('A' + l)) + QByteArray::number(n) + "," +
                        QByteArray::number(20 + 3 * l + n) + ",0,0\n";
        }
        return text;
    }

private Q_SLOTS:
    void everyBuiltInReferenceCanBeRead() {
        std::vector<std::string> ids;
        for (const ReferenceChart& one : chart::builtinCharts()) {
            ids.push_back(one.id);
            QCOMPARE(one.patches.size(), one.columns * one.rows);
            QVERIFY(one.greyPatch().has_value());
            QVERIFY(!one.source.empty());
        }
        const std::vector<std::string> expected{"classic-24",
                                                "strip-24",
                                                "strip-12",
                                                "white-grey-black",
                                                "grey-card",
                                                "printed-card",
                                                "grey-area",
                                                "white-area"};
        QCOMPARE(ids, expected);
        QVERIFY(chart::chartOf("strip-24")->isSearchable());
        QVERIFY(chart::chartOf("printed-card")->isSearchable());
        QVERIFY(!chart::chartOf("grey-card")->isSearchable());
        QVERIFY(chart::chartOf("grey-area")->trust == base::ValueTrust::Found);
        QVERIFY(chart::chartOf("printed-card")->trust == base::ValueTrust::Printed);
    }
    /// The strips hold the classic chart's nominal values (sources 11.9).
    void stripsHaveTheClassicValues() {
        const auto strip = chart::chartOf("strip-12");
        QVERIFY(strip.has_value());
        for (std::size_t i = 0; i < 12; ++i) {
            const ReferenceChart& classic = chart::classicChart();
            QVERIFY((strip->patches[i].linear - classic.patches[12 + i].linear).norm() < 1e-9);
            QCOMPARE(strip->patches[i].isNeutral, classic.patches[12 + i].isNeutral);
        }
    }
    /// No patch of the printed card may lie outside what a printer's RGB can be asked for.
    void theCardsColoursLieInTheGamut() {
        const auto card = chart::chartOf("printed-card");
        for (const chart::ReferencePatch& patch : card->patches) {
            QVERIFY2(patch.linear.minCoeff() >= 0.0 && patch.linear.maxCoeff() <= 1.0,
                     patch.name.c_str());
        }
        QCOMPARE(card->greyPatch().value(), std::size_t{21});
        QVERIFY(card->edgePatches().size() == 3);
    }
    void cgatsTextIsRead() {
        const auto read = chart::readChartFile(write("grey.txt", kGreyRow));
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        QCOMPARE(read->columns, std::size_t{3});
        QCOMPARE(read->rows, std::size_t{1});
        QCOMPARE(read->patches[1].name, std::string("grey"));
        QVERIFY(read->trust == base::ValueTrust::Measured);
        const auto& classic = chart::nominalLinear();
        QVERIFY((read->patches[0].linear - classic[18]).norm() < 1e-9);
        QVERIFY((read->patches[2].linear - classic[23]).norm() < 1e-9);
    }
    void separatedColumnsAreRead_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("comma") << QByteArray(
            "name,L,a,b\nwhite,95,0,0\ngrey,50,1,1\nblue,30,20,-50\n");
        QTest::newRow("semicolon, decimal comma")
            << QByteArray("name;L*;a*;b*\nwhite;95,0;0;0\ngrey;50,0;1,0;1,0\nblue;30;20;-50\n");
        QTest::newRow("tab, byte-order mark, other columns") << QByteArray(
            "\xEF\xBB\xBF"
            "id\tnote\tLAB_L\tLAB_A\tLAB_"
            "B\nwhite\tx\t95\t0\t0\ngrey\ty\t50\t1\t1\nblue\tz\t30\t20\t-50\n");
        QTest::newRow("quoted, carriage returns") << QByteArray(
            "\"name\",\"L\",\"a\",\"b\"\r\nwhite,95,0,0\r\n\"grey\",50,1,1\r\nblue,30,20,-50\r\n");
    }
    void separatedColumnsAreRead() {
        QFETCH(QByteArray, text);
        const auto read = chart::readPatchValues(write("values.csv", text));
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        QCOMPARE(read->patches.size(), std::size_t{3});
        QCOMPARE(read->patches[1].name, std::string("grey"));
        QVERIFY((read->patches[1].linear - chart::linearOfLab({50, 1, 1})).norm() < 1e-9);
        QVERIFY(read->patches[1].isNeutral);
        QVERIFY(!read->patches[2].isNeutral);
        QVERIFY(read->white.empty());
    }
    /// XYZ of a D50 white (ISO 13655: 96.42, 100, 82.49) is white, of 1 or of 100.
    void xyzMayBeOfOneOrOfAHundred() {
        for (const char* text : {"name,X,Y,Z\nwhite,96.42,100,82.49\ngrey,17.36,18,14.85\n",
                                 "name,X,Y,Z\nwhite,0.9642,1,0.8249\ngrey,0.1736,0.18,0.1485\n"}) {
            const auto read = chart::readPatchValues(write("xyz.csv", text));
            QVERIFY(read.has_value());
            QVERIFY((read->patches[0].linear - colour::Vector3(1, 1, 1)).norm() < 0.002);
            QVERIFY((read->patches[1].linear - colour::Vector3(0.18, 0.18, 0.18)).norm() < 0.001);
            QVERIFY(read->white.find("taken for D50") != std::string::npos);
        }
    }
    /// XYZ of a D65 white (ISO 11664-2: 95.047, 100, 108.883): by the file's word, or because its
    /// greys are neutral under no other white; and which it was is said.
    void xyzUnderAnotherWhiteIsBroughtOver() {
        const std::string rows =
            "white,85.5,90,98\ngrey,17.11,18,19.6\nred,21.0,12.0,5.0\nblue,8.0,6.1,31.0\n";
        const auto guessed = chart::readPatchValues(
            write("d65.csv", QByteArray::fromStdString("name,X,Y,Z\n" + rows)));
        QVERIFY(guessed.has_value());
        QVERIFY(guessed->patches[0].isNeutral && guessed->patches[1].isNeutral);
        QVERIFY((guessed->patches[1].linear - colour::Vector3(0.18, 0.18, 0.18)).norm() < 0.002);
        QVERIFY(guessed->white.find("D65") != std::string::npos);
        QVERIFY(guessed->white.find("2 patches are neutral") != std::string::npos);
        // One patch that is red under every white: only the word can tell.
        const std::string cgats =
            "CGATS.17\nDESCRIPTOR \"own chart (D65)\"\nNUMBER_OF_FIELDS 4\nBEGIN_DATA_FORMAT\n"
            "SAMPLE_ID XYZ_X XYZ_Y XYZ_Z\nEND_DATA_FORMAT\nNUMBER_OF_SETS 1\nBEGIN_DATA\n"
            "A1 41.24 21.26 1.93\nEND_DATA\n";
        const auto stated =
            chart::readPatchValues(write("d65.txt", QByteArray::fromStdString(cgats)));
        QVERIFY2(stated.has_value(), stated ? "" : words::inEnglish(stated.error()).c_str());
        // XYZ of BT.709's red under D65 is red alone.
        QVERIFY((stated->patches[0].linear - colour::Vector3(1, 0, 0)).norm() < 0.01);
        QVERIFY(stated->white.find("as the file says") != std::string::npos);
    }
    void namesOfCellsLayTheChartOut() {
        // Six letters by four numbers: letters run across.
        const auto across = chart::readChartFile(write("a.csv", cells(6, 4)));
        QVERIFY(across.has_value());
        QCOMPARE(across->columns, std::size_t{6});
        QCOMPARE(across->rows, std::size_t{4});
        QCOMPARE(across->patches[1].name, std::string("B1"));
        QCOMPARE(across->patches[6].name, std::string("A2"));
        // Four letters by six numbers: numbers run across.
        const auto down = chart::readChartFile(write("b.csv", cells(4, 6)));
        QCOMPARE(down->columns, std::size_t{6});
        QCOMPARE(down->patches[1].name, std::string("A2"));
        QCOMPARE(down->patches[6].name, std::string("B1"));
    }
    void aDescriptionMayNameItsValues() {
        write("values.txt", kGreyRow);
        const auto read = chart::readChartFile(
            write("own.json",
                  R"({"rigmatchChart": 1, "name": "My greys", "columns": 3, "rows": 1,
                      "trust": "measured", "values": "values.txt", "later": [1, 2]})"));
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        QCOMPARE(read->name, std::string("My greys"));
        QCOMPARE(read->patches[2].name, std::string("black"));
    }
    void badFilesAreRefusedInWords_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QString>("said");
        QTest::newRow("empty") << QByteArray() << "neither L, a, b nor X, Y, Z";
        QTest::newRow("bytes") << QByteArray("\0\1\2\3\xff\xfe", 6) << "neither L, a, b";
        QTest::newRow("no colour columns") << QByteArray("name,R,G,B\nx,1,2,3\n") << "R, G, B";
        QTest::newRow("no number")
            << QByteArray("name,L,a,b\nx,fifty,0,0\n") << "\"fifty\" in line 2";
        QTest::newRow("no surface")
            << QByteArray("name,L,a,b\nx,500,0,0\n") << "no colour of a surface";
        QTest::newRow("infinite") << QByteArray("name,L,a,b\nx,inf,0,0\n") << "is no number";
        QTest::newRow("head alone") << QByteArray("name,L,a,b\n") << "holds no values";
        QTest::newRow("no grey") << QByteArray("name,L,a,b\nx,50,60,0\n")
                                 << "None of the patches is neutral";
        QTest::newRow("other JSON") << QByteArray("{\"a\": 1}") << "no chart description";
        QTest::newRow("broken JSON") << QByteArray("{\"a\": ") << "no JSON object";
        QTest::newRow("later") << QByteArray("{\"rigmatchChart\": 9}") << "later program";
        QTest::newRow("too many columns")
            << QByteArray("{\"rigmatchChart\": 1, \"columns\": 400}") << "allowed are 1 to 16";
        QTest::newRow("count")
            << QByteArray(
                   R"({"rigmatchChart": 1, "columns": 2, "rows": 1, "patches": [{"name": "g", "linear": [0.18, 0.18, 0.18]}]})")
            << "2 are needed";
        QTest::newRow("word") << QByteArray(R"({"rigmatchChart": 1, "trust": "blind"})")
                              << "measured, nominal";
        QTest::newRow("values gone")
            << QByteArray(R"({"rigmatchChart": 1, "values": "../../nowhere.csv"})")
            << "nowhere.csv";
        QTest::newRow("CGATS without values")
            << QByteArray("CGATS.17\nBEGIN_DATA\nEND_DATA\n") << "";
    }
    void badFilesAreRefusedInWords() {
        QFETCH(QByteArray, text);
        QFETCH(QString, said);
        const auto read = chart::readChartFile(write("bad.txt", text));
        QVERIFY(!read.has_value());
        const QString full = QString::fromStdString(words::inEnglish(read.error()));
        QVERIFY2(full.contains(said), qPrintable(full));
        QVERIFY(!read.error().hint.empty());
    }
    void missingAndHugeFilesAreRefused() {
        QVERIFY(chart::readChartFile("/nowhere/chart.csv").error().code ==
                base::ErrorCode::NotFound);
        const auto huge = chart::readChartFile(write("huge.csv", QByteArray(2 << 20, 'x')));
        QVERIFY(huge.error().code == base::ErrorCode::TooLarge);
    }
};

RIG_TEST(TestChartFile);
#include "test_chart_file.moc"
