// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "colour/curve_file.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "support/text_file.h"
#include "words/english.h"

using namespace rigmatch;

class TestCurveFile : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    std::string write(const char* name, const QByteArray& text) {
        return support::writeText(m_folder, name, text);
    }
    /// A 1D table of `size` entries over 0..1.
    static QByteArray cube(int size, const std::function<double(double)>& curve) {
        QByteArray text = "LUT_1D_SIZE " + QByteArray::number(size) + "\n";
        for (int i = 0; i < size; ++i) {
            const QByteArray value = QByteArray::number(curve(i / (size - 1.0)), 'g', 9);
            text += value + " " + value + " " + value + "\n";
        }
        return text;
    }

private Q_SLOTS:
    /// A table made from a published curve gives that curve back, both ways.
    void aTableIsItsCurve_data() {
        QTest::addColumn<int>("kind");
        QTest::newRow("BT.709") << int(colour::CurveKind::Bt709);
        QTest::newRow("log") << int(colour::CurveKind::Log);
        QTest::newRow("HLG") << int(colour::CurveKind::Hlg);
    }
    void aTableIsItsCurve() {
        QFETCH(int, kind);
        const colour::TransferCurve truth = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const auto read = colour::curveFromFile(
            write("lin.cube", cube(1024, [&](double signal) { return truth.decode(signal); })));
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        QCOMPARE(colour::curveName(*read), std::string("lin.cube"));
        for (double signal = 0.12; signal <= 0.99; signal += 0.01) {
            QVERIFY(std::abs(read->decode(signal) / truth.decode(signal) - 1.0) < 0.01);
            QVERIFY(std::abs(read->encode(read->decode(signal)) - signal) < 1e-9);
        }
    }
    /// A Common LUT Format file (Academy S-2014-006): a 1D table of 16 entries.
    void commonLutFormatIsRead() {
        QByteArray values;
        for (int i = 0; i < 16; ++i) {
            const QByteArray value = QByteArray::number(std::pow(i / 15.0, 2.4), 'g', 9);
            values += value + "\n";
        }
        const auto read = colour::curveFromFile(
            write("lin.clf",
                  "<?xml version=\"1.0\"?>\n<ProcessList id=\"a\" compCLFversion=\"3\">\n<LUT1D "
                  "inBitDepth=\"32f\" outBitDepth=\"32f\">\n<Array dim=\"16 1\">\n" +
                      values + "</Array>\n</LUT1D>\n</ProcessList>\n"));
        QVERIFY2(read.has_value(), read ? "" : words::inEnglish(read.error()).c_str());
        QVERIFY(std::abs(read->decode(10.0 / 15.0) - std::pow(10.0 / 15.0, 2.4)) < 1e-3);
    }
    void whatIsNoLinearisationIsRefused() {
        const auto dark = colour::curveFromFile(
            write("dark.cube", cube(16, [](double signal) { return 0.1 * signal; })));
        QVERIFY(!dark.has_value());
        QVERIFY(words::inEnglish(dark.error().detail).find("never meets 0.18") !=
                std::string::npos);
        const auto falling = colour::curveFromFile(
            write("falling.cube", cube(16, [](double signal) { return 1.0 - signal; })));
        QVERIFY(!falling.has_value());
        QVERIFY(!colour::curveFromFile("/nowhere/x.cube").has_value());
        QVERIFY(!colour::curveFromFile(write("text.cube", "hello")).has_value());
    }
    void pointsThatDoNotRiseAreRefused() {
        QVERIFY(!colour::tableCurve({"t", {0.0, 0.1, 0.2}, {0.0, 0.1, 0.2}}).has_value());
        const auto falling = colour::tableCurve({"t", {0.0, 0.1, 0.2, 0.3}, {0.0, 0.1, 0.05, 0.2}});
        QVERIFY(!falling.has_value());
        QVERIFY(words::inEnglish(falling.error().detail).find("point 3") != std::string::npos);
        QVERIFY(!colour::tableCurve({"t", {0.0, 0.1, 0.2, 0.3}, {0.0, 0.1, 0.2}}).has_value());
    }
};

RIG_TEST(TestCurveFile);
#include "test_curve_file.moc"
