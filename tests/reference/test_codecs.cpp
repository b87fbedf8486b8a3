// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "match/differences.h"
#include "measure/measure_media.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Quality;

namespace {

const QString kClip = QStringLiteral(RIGMATCH_SOURCE_DIR "/demo/clock-bench/A.mov");

}  // namespace

/// The same clip through other codecs, written by ffmpeg: the camera has not changed, so that every
/// difference must come out as none, within the figures of the design and within what is stated.
class TestCodecs : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    rig::Reading m_original;

private Q_SLOTS:
    void initTestCase() {
        const auto measured = measure::measureMedia(kClip.toStdString());
        QVERIFY(measured && measured->reading.hasChart);
        m_original = measured->reading;
    }
    void theNumbersStay_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QStringList>("coding");
        const auto row = [](const char* name, const QStringList& coding) {
            QTest::newRow(name) << QString::fromLatin1(name) << coding;
        };
        row("h264-8bit.mp4",
            {"-c:v", "libx264", "-preset", "veryfast", "-crf", "23", "-pix_fmt", "yuv420p"});
        row("h264-intra-10bit.mkv",
            {"-c:v",
             "libx264",
             "-preset",
             "veryfast",
             "-g",
             "1",
             "-crf",
             "18",
             "-pix_fmt",
             "yuv422p10le"});
        row("hevc-10bit.mkv",
            {"-c:v",
             "libx265",
             "-preset",
             "ultrafast",
             "-x265-params",
             "log-level=none",
             "-crf",
             "24",
             "-pix_fmt",
             "yuv420p10le"});
        row("prores.mov", {"-c:v", "prores", "-pix_fmt", "yuv422p10le"});
        row("dnxhr.mxf", {"-c:v", "dnxhd", "-profile:v", "dnxhr_hq", "-pix_fmt", "yuv422p"});
        row("mpeg2.mpg.mkv", {"-c:v", "mpeg2video", "-b:v", "30M", "-pix_fmt", "yuv420p"});
    }
    void theNumbersStay() {
        QFETCH(QString, name);
        QFETCH(QStringList, coding);
        const QString file = m_folder.filePath(name);
        QVERIFY(support::runFfmpeg(
            QStringList{"-ss", "1", "-t", "1.4", "-i", kClip, "-an", "-colorspace", "bt709"} +
            coding + QStringList{file}));
        const auto measured = measure::measureMedia(file.toStdString());
        QVERIFY2(measured && measured->reading.hasChart,
                 measured ? words::inEnglish(measured->reading.reason).c_str()
                          : words::inEnglish(measured.error()).c_str());
        const auto d = match::compare(
            {&measured->reading, {}, {}}, {&m_original, {}, {}}, match::Judging::Recorded);
        qInfo(
            "exposure %+.4f stop, white balance %+.2f mired, tint %+.5f Duv, saturation %.4f, "
            "mean colour difference %.2f",
            *d.of(Quality::Exposure).value,
            *d.of(Quality::WhiteBalance).value,
            *d.of(Quality::Tint).value,
            *d.of(Quality::Saturation).value,
            *d.of(Quality::DeltaE).value);
        QVERIFY(std::abs(*d.of(Quality::Exposure).value) <= 0.02);
        QVERIFY(std::abs(*d.of(Quality::WhiteBalance).value) <= 1.5);
        QVERIFY(std::abs(*d.of(Quality::Tint).value) <= 0.0005);
        QVERIFY(std::abs(*d.of(Quality::Saturation).value - 1.0) <= 0.02);
        QVERIFY(*d.of(Quality::DeltaE).value <= 1.0);
    }
    /// Motion JPEG in AVI says no matrix and is taken as BT.601, though these pictures are BT.709:
    /// the trap is told, greys stay, colours are off, and the other reading sets them right.
    void aMissingMatrixIsToldAndReadTheOtherWay() {
        const QString file = m_folder.filePath("mjpeg.avi");
        QVERIFY(support::runFfmpeg({"-t",
                                    "2.4",
                                    "-i",
                                    kClip,
                                    "-an",
                                    "-c:v",
                                    "mjpeg",
                                    "-q:v",
                                    "3",
                                    "-pix_fmt",
                                    "yuvj422p",
                                    file}));
        const auto compared = [&](const measure::MeasureOptions& options) {
            const auto measured = measure::measureMedia(file.toStdString(), options);
            if (!measured || !measured->reading.hasChart) qFatal("no chart");
            return std::pair{
                match::compare(
                    {&measured->reading, {}, {}}, {&m_original, {}, {}}, match::Judging::Recorded),
                measured->reading};
        };
        const auto [asTagged, told] = compared({});
        QVERIFY(std::any_of(told.warnings.begin(), told.warnings.end(), [](const auto& warning) {
            return warning.code == "MatrixTagUnusual" || warning.code == "MatrixTagMissing";
        }));
        measure::MeasureOptions other;
        other.matrix = image::Matrix::Bt709;
        const auto [right, reading] = compared(other);
        QVERIFY(std::abs(*asTagged.of(Quality::Exposure).value) <= 0.02);
        QVERIFY(*asTagged.of(Quality::DeltaE).value > 2.0);
        QVERIFY2(*right.of(Quality::DeltaE).value < 1.0,
                 qPrintable(QString::number(*right.of(Quality::DeltaE).value)));
    }
};

RIG_TEST(TestCodecs);
#include "test_codecs.moc"
