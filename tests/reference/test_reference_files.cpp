// SPDX-License-Identifier: GPL-3.0-or-later
// Reference files of charts that nobody here wrote: those of the Debian package argyll-ref. Each is
// read, or refused for a reason that its own content gives.
#include <QDirIterator>
#include <QFile>
#include <QRegularExpression>

#include "chart/chart_file.h"
#include "chart/chart_values.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr const char* kFolder = "/usr/share/color/argyll/ref";

/// What the file says of itself: number of sets, column names, rows.
struct Content {
    int sets = 0;
    QStringList columns;
    QList<QStringList> rows;

    [[nodiscard]] bool has(const QString& column) const { return columns.contains(column); }
    [[nodiscard]] double at(int row, const QString& column) const {
        return rows[row][columns.indexOf(column)].toDouble();
    }
};

Content contentOf(const QString& path) {
    QFile file(path);
    Content content;
    if (!file.open(QIODevice::ReadOnly)) return content;
    static const QRegularExpression kSpace("\\s+");
    QString part;
    while (!file.atEnd()) {
        const QString line = QString::fromUtf8(file.readLine()).trimmed();
        const QStringList words = line.split(kSpace, Qt::SkipEmptyParts);
        if (line.startsWith("NUMBER_OF_SETS")) content.sets = words.value(1).toInt();
        if (line.startsWith("END_")) part.clear();
        if (part == "BEGIN_DATA_FORMAT") content.columns += words;
        if (part == "BEGIN_DATA" && !words.isEmpty()) content.rows.append(words);
        if (line == "BEGIN_DATA_FORMAT" || line == "BEGIN_DATA") part = line;
    }
    return content;
}

}  // namespace

class TestReferenceFiles : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everyFileIsReadOrRefusedForItsContent() {
        if (!QDir(kFolder).exists()) QSKIP("The package argyll-ref is not installed.");
        int read = 0;
        int all = 0;
        QDirIterator files(kFolder, {"*.cie"}, QDir::Files);
        while (files.hasNext()) {
            const QString path = files.next();
            const Content content = contentOf(path);
            ++all;
            const auto values = chart::readPatchValues(path.toStdString());
            if (content.sets > static_cast<int>(chart::kMostPatches)) {
                QVERIFY(!values);
                QVERIFY(words::inEnglish(values.error().detail).find("at most 96") !=
                        std::string::npos);
                continue;
            }
            QVERIFY2(values.has_value(), values ? "" : words::inEnglish(values.error()).c_str());
            QCOMPARE(static_cast<int>(values->patches.size()), content.rows.size());
            const auto made = chart::readChartFile(path.toStdString());
            QVERIFY2(made.has_value(), made ? "" : words::inEnglish(made.error()).c_str());
            QVERIFY(made->greyPatch().has_value());
            ++read;
            compareRows(content, *values);
            if (QTest::currentTestFailed()) return;
        }
        qInfo("%d of %d files read", read, all);
        QVERIFY(read >= 4);
    }

private:
    /// Light of a patch follows its Y, or its L* by CIE 15's formula; greys come out grey.
    static void compareRows(const Content& content, const chart::PatchValues& values) {
        for (int row = 0; row < content.rows.size(); ++row) {
            const chart::ReferencePatch& patch = values.patches[static_cast<std::size_t>(row)];
            const double luminance = patch.linear.dot(colour::Vector3(0.2126, 0.7152, 0.0722));
            double expected = 0.0;
            if (content.has("LAB_L")) {
                const double f = (content.at(row, "LAB_L") + 16.0) / 116.0;
                expected = f > 6.0 / 29.0 ? f * f * f : (f - 4.0 / 29.0) * 108.0 / 841.0;
            } else {
                expected = 0.01 * content.at(row, "XYZ_Y");
            }
            // Adaptation moves the luminance of saturated colours by a few per cent.
            QVERIFY2(std::abs(luminance - expected) < 0.12 * expected + 0.01,
                     qPrintable(QString("row %1: %2, %3").arg(row).arg(luminance).arg(expected)));
            if (!patch.isNeutral) continue;
            QVERIFY(patch.linear.maxCoeff() - patch.linear.minCoeff() <
                    0.12 * patch.linear.maxCoeff() + 0.004);
        }
    }
};

RIG_TEST(TestReferenceFiles);
#include "test_reference_files.moc"
