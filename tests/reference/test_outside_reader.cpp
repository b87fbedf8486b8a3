// SPDX-License-Identifier: GPL-3.0-or-later
// Our patch readings against an independent chart reader, scanin of the Debian package argyll, on
// the same picture of a chart drawn without the product (support/own_chart.h); and our colour
// temperatures against its specplot.
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTemporaryDir>

#include "colour/white_point.h"
#include "measure/measure_media.h"
#include "support/own_chart.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::OwnCamera;

namespace {

// Whole codes of the reader's own output (0 to 255) and another share of the patch.
constexpr double kAgreement = 0.0025;

/// The geometry of the drawn chart for scanin: steps of 100, patches of 86, their middle read.
const char* const kLayout =
    "\nBOXES 25\n"
    "  F _ _ 0 0  600 0  600 400  0 400\n"
    "  D ALL ALL _ _ 600 400  0 0  0 0\n"
    "  Y 1 6 A D  86.0 86.0   7.0  7.0  100.0  100.0\n\n"
    "BOX_SHRINK 15.0\n\nREF_ROTATION 0.0\n\n"
    "XLIST 2\n  7.0 1.0 1.0\n  593.0 1.0 1.0\n\n"
    "YLIST 2\n  7.0 1.0 1.0\n  393.0 1.0 1.0\n\n"
    "EXPECTED XYZ 1\n  A1 11.8 10.2 4.9\n\n";

bool run(const QString& program, const QStringList& arguments, const QString& folder) {
    QProcess process;
    process.setWorkingDirectory(folder);
    process.start(program, arguments);
    return process.waitForFinished(60000) && process.exitCode() == 0;
}

/// The picture as a TIFF of 16 bit, written by ffmpeg from raw samples.
bool writeTiff(const OwnCamera& camera, unsigned seed, const QString& folder) {
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0.0, camera.readNoise);
    const auto picture = support::ownPicture(camera);
    QFile raw(folder + "/picture.raw");
    if (!raw.open(QIODevice::WriteOnly)) return false;
    for (std::size_t i = 0; i < picture[0].size(); ++i) {
        for (std::size_t c = 0; c < 3; ++c) {
            const double code = std::clamp(65535.0 * (picture[c][i] + noise(random)), 0.0, 65535.0);
            const auto whole = static_cast<quint16>(std::lround(code));
            raw.write(reinterpret_cast<const char*>(&whole), 2);
        }
    }
    raw.close();
    const QString size = QString("%1x%2").arg(support::own::kWidth).arg(support::own::kHeight);
    return run("ffmpeg",
               {"-v",
                "error",
                "-y",
                "-f",
                "rawvideo",
                "-pix_fmt",
                "rgb48le",
                "-s",
                size,
                "-i",
                "picture.raw",
                "picture.tif"},
               folder);
}

/// Rows of a values file by name: R, G, B of 0 to 255.
QMap<QString, QList<double>> valuesOf(const QString& path) {
    QMap<QString, QList<double>> values;
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) return values;
    bool isData = false;
    while (!file.atEnd()) {
        const QString line = QString::fromUtf8(file.readLine()).simplified();
        if (line == "END_DATA") isData = false;
        const QStringList words = line.split(' ');
        if (isData && words.size() == 4)
            values[words[0]] = {words[1].toDouble(), words[2].toDouble(), words[3].toDouble()};
        if (line == "BEGIN_DATA") isData = true;
    }
    return values;
}

}  // namespace

class TestOutsideReader : public QObject {
    Q_OBJECT

    /// What specplot (argyll) writes of one spectrum until it shows its plot.
    static QString plotted(const QString& file) {
        QProcess process;
        process.setProcessChannelMode(QProcess::MergedChannels);
        process.start("xvfb-run", {"-a", "stdbuf", "-oL", "specplot", file});
        QString text;
        while (!text.contains("VCT") && process.waitForReadyRead(8000))
            text += QString::fromUtf8(process.readAll());
        process.terminate();
        if (!process.waitForFinished(3000)) process.kill();
        process.waitForFinished(3000);
        return text;
    }

private Q_SLOTS:
    /// Correlated colour temperatures of argyll's sample spectra, from the chromaticities it
    /// states.
    void colourTemperaturesAgreeWithAnotherProgram() {
        for (const char* program : {"specplot", "xvfb-run", "stdbuf"}) {
            if (QStandardPaths::findExecutable(program).isEmpty())
                QSKIP("specplot and xvfb-run are not both installed.");
        }
        const QDir folder("/usr/share/color/argyll/ref");
        static const QRegularExpression kNumbers(
            R"(x,y = ([\d.]+) ([\d.]+)[\s\S]*?CCT = ([\d.]+))");
        int compared = 0;
        const QStringList names = folder.entryList({"*.sp"}, QDir::Files);
        for (qsizetype i = 0; i < names.size() && compared < 8; i += 2) {
            const auto numbers = kNumbers.match(plotted(folder.filePath(names[i])));
            if (!numbers.hasMatch()) continue;
            const double kelvin = numbers.captured(3).toDouble();
            const auto white = colour::whitePointOf(colour::Chromaticity{
                numbers.captured(1).toDouble(), numbers.captured(2).toDouble()});
            // Far off the locus neither program's temperature means anything.
            if (!white || std::abs(white->duv.value()) > 0.02) continue;
            QVERIFY2(std::abs(white->mired.value() - 1e6 / kelvin) < 0.5,
                     qPrintable(QString("%1: %2 K, theirs %3 K")
                                    .arg(i)
                                    .arg(1e6 / white->mired.value())
                                    .arg(kelvin)));
            ++compared;
        }
        qInfo("%d spectra compared", compared);
        QVERIFY(compared >= 3);
    }
    void patchesReadAsAnotherReaderReadsThem_data() {
        QTest::addColumn<int>("curve");
        QTest::addColumn<double>("noise");
        QTest::newRow("BT.709") << int(OwnCamera::Curve::Bt709) << 0.002;
        QTest::newRow("a log") << int(OwnCamera::Curve::LogA) << 0.004;
        QTest::newRow("a look, noisy") << int(OwnCamera::Curve::Look) << 0.01;
    }
    void patchesReadAsAnotherReaderReadsThem() {
        if (QStandardPaths::findExecutable("scanin").isEmpty())
            QSKIP("The package argyll is not installed.");
        QFETCH(int, curve);
        QFETCH(double, noise);
        QTemporaryDir folder;
        OwnCamera camera;
        camera.curve = static_cast<OwnCamera::Curve>(curve);
        camera.readNoise = noise;
        QVERIFY(writeTiff(camera, 5, folder.path()));
        QFile layout(folder.filePath("own.cht"));
        QVERIFY(layout.open(QIODevice::WriteOnly));
        layout.write(kLayout);
        layout.close();
        // The field of steps, half a gap beyond the patches on every side; scanin counts a pixel's
        // place at its corner.
        constexpr int kLeft = support::own::kMargin;
        constexpr int kRight = kLeft + 6 * support::own::kPatchPx;
        constexpr int kBottom = kLeft + 4 * support::own::kPatchPx;
        const QString marks =
            QString("%1,%1,%2,%1,%2,%3,%1,%3").arg(kLeft).arg(kRight).arg(kBottom);
        QVERIFY(run("scanin", {"-o", "-p", "-F", marks, "picture.tif", "own.cht"}, folder.path()));
        const auto theirs = valuesOf(folder.filePath("picture.val"));
        QCOMPARE(theirs.size(), 24);
        measure::MeasureOptions options;
        options.corners = rig::PictureQuad{};
        const chart::ChartPose pose = support::ownPose();
        for (std::size_t i = 0; i < 4; ++i)
            (*options.corners)[i] = {pose.corners[i].x, pose.corners[i].y};
        const auto ours =
            measure::measureMedia(folder.filePath("picture.tif").toStdString(), options);
        QVERIFY2(ours.has_value(), ours ? "" : words::inEnglish(ours.error()).c_str());
        double worst = 0.0;
        for (std::size_t i = 0; i < 24; ++i) {
            const QString name = QString(QChar('A' + int(i / 6))) + QString::number(i % 6 + 1);
            QVERIFY(theirs.contains(name));
            for (std::size_t c = 0; c < 3; ++c) {
                const double other = theirs[name][static_cast<qsizetype>(c)] / 255.0;
                worst = std::max(worst, std::abs(ours->reading.patches[i].signal[c] - other));
            }
        }
        qInfo("largest difference %.3f %% of signal", 100.0 * worst);
        QVERIFY2(worst < kAgreement, qPrintable(QString::number(worst)));
    }
};

RIG_TEST(TestOutsideReader);
#include "test_outside_reader.moc"
