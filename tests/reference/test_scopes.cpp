// SPDX-License-Identifier: GPL-3.0-or-later
// Scopes against an independent implementation: the ffmpeg command's filters waveform, vectorscope,
// histogram and signalstats, on the same raw frames.
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>

#include "scope/scope_data.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

constexpr int kScopeWidth = 322;  // no multiple of anything that the counting works in
constexpr int kScopeHeight = 600;

/// Planes of a raw file as a frame.
image::CodedFrame frameOf(const QByteArray& bytes, int bitDepth, int chromaShift) {
    image::CodedFrame frame;
    frame.width = kScopeWidth;
    frame.height = kScopeHeight;
    frame.bitDepth = bitDepth;
    frame.samples = bitDepth > 8 ? image::SampleKind::Unsigned16 : image::SampleKind::Unsigned8;
    frame.chromaShiftX = frame.chromaShiftY = chromaShift;
    const std::ptrdiff_t sample = bitDepth > 8 ? 2 : 1;
    const auto* data = reinterpret_cast<const std::byte*>(bytes.constData());
    for (std::size_t plane = 0; plane < 3; ++plane) {
        const int width = plane == 0 ? kScopeWidth : kScopeWidth >> chromaShift;
        const int height = plane == 0 ? kScopeHeight : kScopeHeight >> chromaShift;
        frame.planes[plane] = {data, sample * width, width, height};
        data += sample * width * height;
    }
    return frame;
}

/// A noisy picture in all colours, as raw frames of that layout.
QStringList source(const QString& format) {
    return {"-f",
            "lavfi",
            "-i",
            QStringLiteral("testsrc2=s=%1x%2,noise=alls=20:all_seed=7")
                .arg(kScopeWidth)
                .arg(kScopeHeight),
            "-frames:v",
            "1",
            "-pix_fmt",
            format};
}

}  // namespace

class TestScopes : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    QByteArray raw(const QStringList& arguments) {
        const QString path = m_folder.filePath("out.raw");
        if (!support::runFfmpeg(arguments + QStringList{"-f", "rawvideo", path})) return {};
        QFile file(path);
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }
    /// What a filter makes of the raw frame, in that layout.
    QByteArray filtered(const QByteArray& frame,
                        const QString& format,
                        const QString& filter,
                        const QString& outFormat) {
        const QString path = m_folder.filePath("in.raw");
        QFile file(path);
        if (!file.open(QIODevice::WriteOnly)) return {};
        file.write(frame);
        file.close();
        return raw({"-f",
                    "rawvideo",
                    "-s",
                    QStringLiteral("%1x%2").arg(kScopeWidth).arg(kScopeHeight),
                    "-pix_fmt",
                    format,
                    "-i",
                    path,
                    "-vf",
                    filter,
                    "-pix_fmt",
                    outFormat});
    }

private Q_SLOTS:
    /// Every level of every column holds as many pixels as ffmpeg's waveform counts, up to the 255
    /// that its picture can show.
    void lumaWaveformCountsAsFfmpegDoes() {
        const QByteArray bytes = raw(source("yuv420p"));
        QCOMPARE(bytes.size(), kScopeWidth * kScopeHeight * 3 / 2);
        const QByteArray theirs =
            filtered(bytes,
                     "yuv420p",
                     "waveform=filter=lowpass:components=1:intensity=0.003922:graticule=none:"
                     "mirror=1,extractplanes=y",
                     "gray");
        QCOMPARE(theirs.size(), kScopeWidth * 256);
        const auto mine = scope::waveformOf(frameOf(bytes, 8, 1), scope::WaveformKind::Luma);
        QVERIFY(mine.has_value());
        long long total = 0;
        for (int level = 0; level < 256; ++level) {
            for (int x = 0; x < kScopeWidth; ++x) {
                const auto count = static_cast<int>(mine->at(0, level, x));
                const int shown =
                    static_cast<unsigned char>(theirs[(255 - level) * kScopeWidth + x]);
                QCOMPARE(std::min(count, 255), shown);
                total += count;
            }
        }
        QCOMPARE(total, static_cast<long long>(kScopeWidth) * kScopeHeight);
    }

    /// 10-bit codes keep their 1024 levels.
    void tenBitWaveformCountsAsFfmpegDoes() {
        const QByteArray bytes = raw(source("yuv420p10le"));
        const QByteArray theirs = filtered(
            bytes,
            "yuv420p10le",
            "waveform=filter=lowpass:components=1:intensity=0.000978:graticule=none:mirror=1,"
            "extractplanes=y",
            "gray10le");
        QCOMPARE(theirs.size(), kScopeWidth * 1024 * 2);
        const auto mine = scope::waveformOf(frameOf(bytes, 10, 1), scope::WaveformKind::Luma);
        QVERIFY(mine.has_value());
        const auto* shown = reinterpret_cast<const std::uint16_t*>(theirs.constData());
        for (int level = 0; level < 1024; ++level) {
            for (int x = 0; x < kScopeWidth; ++x) {
                QCOMPARE(static_cast<int>(mine->at(0, level, x)),
                         static_cast<int>(shown[(1023 - level) * kScopeWidth + x]));
            }
        }
    }

    /// R'G'B' frames: the parade's levels are the codes, 26 levels above its foot.
    void paradeCountsAsFfmpegDoes() {
        const QByteArray planes = raw(source("gbrp"));
        QCOMPARE(planes.size(), kScopeWidth * kScopeHeight * 3);
        // ffmpeg stores green, blue, red; ours red, green, blue.
        const qsizetype plane = kScopeWidth * kScopeHeight;
        const QByteArray ordered =
            planes.mid(2 * plane) + planes.left(plane) + planes.mid(plane, plane);
        image::CodedFrame frame = frameOf(ordered, 8, 0);
        frame.tags.matrix = image::Matrix::None;
        frame.tags.range = image::Range::Full;
        const auto mine = scope::waveformOf(frame, scope::WaveformKind::Parade);
        QVERIFY(mine.has_value());
        const QByteArray theirs =
            filtered(planes,
                     "gbrp",
                     "waveform=filter=lowpass:components=7:display=overlay:intensity=0.003922:"
                     "graticule=none:mirror=1",
                     "gbrp");
        QCOMPARE(theirs.size(), 3 * kScopeWidth * 256);
        const std::array<int, 3> theirPlane{2, 0, 1};
        for (int c = 0; c < 3; ++c) {
            for (int level = 0; level < 256; ++level) {
                for (int x = 0; x < kScopeWidth; ++x) {
                    const qsizetype at =
                        (theirPlane[static_cast<std::size_t>(c)] * 256 + 255 - level) *
                            kScopeWidth +
                        x;
                    QCOMPARE(std::min<int>(static_cast<int>(mine->at(c, level + 26, x)), 255),
                             static_cast<int>(static_cast<unsigned char>(theirs[at])));
                }
            }
        }
    }

    /// Cb to the right, Cr upward: the same cells hold the same counts.
    void vectorscopeCountsAsFfmpegDoes() {
        const QByteArray bytes = raw(source("yuv444p"));
        const QByteArray theirs =
            filtered(bytes,
                     "yuv444p",
                     "vectorscope=mode=gray:intensity=0.003922:graticule=none,extractplanes=y",
                     "gray");
        QCOMPARE(theirs.size(), 256 * 256);
        const auto mine = scope::vectorscopeOf(frameOf(bytes, 8, 0));
        QVERIFY(mine.has_value());
        for (int cr = 0; cr < 256; ++cr) {
            for (int cb = 0; cb < 256; ++cb) {
                QCOMPARE(
                    std::min<int>(static_cast<int>(mine->at(cb, cr)), 255),
                    static_cast<int>(static_cast<unsigned char>(theirs[(255 - cr) * 256 + cb])));
            }
        }
    }

    /// Mean, lowest and highest luma against signalstats.
    void histogramAgreesWithSignalstats() {
        const QByteArray bytes = raw(source("yuv444p"));
        QFile in(m_folder.filePath("in.raw"));
        QVERIFY(in.open(QIODevice::WriteOnly));
        in.write(bytes);
        in.close();
        QProcess process;
        process.start("ffmpeg",
                      {"-v",
                       "error",
                       "-f",
                       "rawvideo",
                       "-s",
                       QStringLiteral("%1x%2").arg(kScopeWidth).arg(kScopeHeight),
                       "-pix_fmt",
                       "yuv444p",
                       "-i",
                       in.fileName(),
                       "-vf",
                       "signalstats,metadata=print:file=-",
                       "-f",
                       "null",
                       "-"});
        QVERIFY(process.waitForFinished(30000));
        const QString text = QString::fromUtf8(process.readAllStandardOutput());
        const auto valueOf = [&](const QString& key) {
            const auto match =
                QRegularExpression("signalstats\\." + key + "=([0-9.]+)").match(text);
            return match.hasMatch() ? match.captured(1).toDouble() : -1.0;
        };
        const auto mine = scope::histogramOf(frameOf(bytes, 8, 0));
        QVERIFY(mine.has_value());
        double sum = 0.0;
        int lowest = -1;
        int highest = -1;
        for (int level = 0; level < mine->scale.count; ++level) {
            const std::uint32_t count = mine->luma[static_cast<std::size_t>(level)];
            if (count == 0) continue;
            if (lowest < 0) lowest = level;
            highest = level;
            sum += count * mine->scale.signalOf(level);
        }
        // Codes of 8 bit, limited range. The histogram's steps are 1/255, a code 1/219 of signal.
        const auto codeOf = [](double signal) { return 16.0 + 219.0 * signal; };
        QVERIFY(std::abs(codeOf(sum / static_cast<double>(mine->pixels)) - valueOf("YAVG")) < 0.1);
        QVERIFY(std::abs(codeOf(mine->scale.signalOf(lowest)) - valueOf("YMIN")) <= 1.0);
        QVERIFY(std::abs(codeOf(mine->scale.signalOf(highest)) - valueOf("YMAX")) <= 1.0);
    }
};

RIG_TEST(TestScopes);
#include "test_scopes.moc"
