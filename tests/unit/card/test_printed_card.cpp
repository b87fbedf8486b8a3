// SPDX-License-Identifier: GPL-3.0-or-later
#include <QProcess>
#include <QTemporaryDir>

#include "card/printed_card.h"
#include "chart/chart_file.h"
#include "measure/measure_media.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

/// The PDF is drawn by an independent program (poppler's pdftoppm) and measured like any still.
class TestPrintedCard : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    QString drawn(card::Paper paper, int dotsPerInch) {
        const QString pdf = m_folder.filePath("card.pdf");
        if (!card::writeCard(pdf.toStdString(), paper)) return {};
        QProcess process;
        process.start("pdftoppm",
                      {"-r",
                       QString::number(dotsPerInch),
                       "-png",
                       "-singlefile",
                       pdf,
                       m_folder.filePath("card")});
        if (!process.waitForFinished(60000) || process.exitCode() != 0) return {};
        return m_folder.filePath("card.png");
    }

private Q_SLOTS:
    void theCardIsFoundWhereItWasDrawn_data() {
        QTest::addColumn<bool>("isA4");
        QTest::newRow("A4") << true;
        QTest::newRow("Letter") << false;
    }
    void theCardIsFoundWhereItWasDrawn() {
        QFETCH(bool, isA4);
        constexpr int kDotsPerInch = 120;
        const card::Paper paper = isA4 ? card::Paper::A4 : card::Paper::Letter;
        const QString picture = drawn(paper, kDotsPerInch);
        QVERIFY(!picture.isEmpty());
        measure::MeasureOptions options;
        options.chart = *chart::chartOf("printed-card");
        const auto measured = measure::measureMedia(picture.toStdString(), options);
        QVERIFY(measured && measured->reading.hasChart);
        const rig::Reading& reading = measured->reading;
        QCOMPARE(reading.layout, std::string("printed-card"));
        QVERIFY(reading.trust == base::ValueTrust::Printed);
        const card::FieldOnPage field = card::fieldOnPage(paper);
        const double pxPerMm = kDotsPerInch / 25.4;
        QVERIFY(std::abs(reading.corners[0].x + 0.5 - field.left * pxPerMm) < 1.0);
        QVERIFY(std::abs(reading.corners[2].y + 0.5 - (field.top + field.height) * pxPerMm) < 1.0);
        QVERIFY(field.left > 15.0 && field.top + field.height < field.pageHeight - 30.0);
        // sRGB codes of 8 bit: half a code of rounding at either end.
        const colour::TransferCurve srgb = colour::curveOf(colour::CurveKind::Srgb);
        for (const rig::PatchReading& patch : reading.patches) {
            for (std::size_t c = 0; c < 3; ++c)
                QVERIFY2(std::abs(patch.signal[c] - srgb.encode(patch.nominalLinear[c])) < 0.004,
                         patch.name.c_str());
        }
    }
    void unwritableFoldersAreSaid() {
        const auto written = card::writeCard("/nowhere/card.pdf", card::Paper::A4);
        QVERIFY(!written.has_value());
        QVERIFY(written.error().code == base::ErrorCode::WriteFailed);
    }
};

RIG_TEST(TestPrintedCard);
#include "test_printed_card.moc"
