// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>

#include "media/media_reader.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using media::MediaReader;

namespace {

// Eight bars of flat colour; their Rec. 709 signals are what every format must give back.
const QString kBars = QStringLiteral("color=c=0x804020:s=192x108:r=25:d=1,format=gbrp");
constexpr float kRed = 128.0F / 255.0F;
constexpr float kGreen = 64.0F / 255.0F;
constexpr float kBlue = 32.0F / 255.0F;

void write(const QString& path, const QByteArray& bytes) {
    QFile file(path);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(bytes);
}

}  // namespace

class TestMediaReader : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    QString at(const QString& name) const { return m_folder.filePath(name); }

private Q_SLOTS:
    /// Who may not decode yet is asked before frames are held, and can give up.
    void decodingCanBePutOff() {
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", kBars, at("asked.mkv")}));
        QVERIFY(
            support::runFfmpeg({"-f", "lavfi", "-i", kBars, "-frames:v", "1", at("asked.png")}));
        for (const auto& [name, isClip] : {std::pair{"asked.mkv", true}, {"asked.png", false}}) {
            std::vector<std::pair<long long, bool>> asked;
            media::ReaderOptions options;
            options.mayDecode = [&](long long pixels, bool clip) {
                asked.emplace_back(pixels, clip);
                return asked.size() == 1;
            };
            const std::string path = at(name).toStdString();
            auto reader = MediaReader::open(path, options);
            QVERIFY(reader.has_value());
            QCOMPARE(asked.size(), std::size_t{1});
            QCOMPARE(asked[0].first, 192LL * 108LL);
            QCOMPARE(asked[0].second, isClip);
            const auto refused = MediaReader::open(path, options);
            QVERIFY(!refused.has_value());
            QCOMPARE(refused.error().code, base::cancelledError().code);
        }
    }
    /// Primaries as the ffmpeg command tags them (code points of ITU-T H.273); tags that contradict
    /// one another are told.
    void primariesAreReadFromTheirTags_data() {
        QTest::addColumn<QString>("primaries");
        QTest::addColumn<QString>("transfer");
        QTest::addColumn<QString>("matrix");
        QTest::addColumn<QString>("read");
        QTest::addColumn<bool>("isDoubted");
        QTest::newRow("standard") << "bt709"
                                  << "bt709"
                                  << "bt709"
                                  << "bt709" << false;
        QTest::newRow("wide") << "bt2020"
                              << "arib-std-b67"
                              << "bt2020nc"
                              << "bt2020" << false;
        QTest::newRow("display") << "smpte432"
                                 << "bt709"
                                 << "bt709"
                                 << "p3-d65" << false;
        QTest::newRow("old") << "smpte170m"
                             << "smpte170m"
                             << "smpte170m"
                             << "bt601" << false;
        QTest::newRow("HLG that says BT.709") << "bt709"
                                              << "arib-std-b67"
                                              << "bt2020nc"
                                              << "bt709" << true;
        QTest::newRow("wide matrix alone") << "unknown"
                                           << "bt709"
                                           << "bt2020nc"
                                           << "unknown" << true;
    }
    void primariesAreReadFromTheirTags() {
        QFETCH(QString, primaries);
        QFETCH(QString, transfer);
        QFETCH(QString, matrix);
        QFETCH(QString, read);
        QFETCH(bool, isDoubted);
        const QString file = at("tagged.mkv");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    kBars,
                                    "-pix_fmt",
                                    "yuv420p10le",
                                    "-c:v",
                                    "libx265",
                                    "-x265-params",
                                    "log-level=none:colorprim=" + primaries +
                                        ":transfer=" + transfer + ":colormatrix=" + matrix,
                                    "-color_primaries",
                                    primaries,
                                    "-color_trc",
                                    transfer,
                                    "-colorspace",
                                    matrix,
                                    file}));
        const auto reader = MediaReader::open(file.toStdString());
        QVERIFY(reader.has_value());
        QCOMPARE(QString::fromStdString(image::nameOf(reader->info().tags.primaries)), read);
        const auto& warnings = reader->info().warnings;
        const bool isTold =
            std::any_of(warnings.begin(), warnings.end(), [](const base::Warning& warning) {
                return warning.code == "PrimariesDoubted";
            });
        QCOMPARE(isTold, isDoubted);
    }
    /// Files written by the ffmpeg command, an independent writer, give back the colour that was
    /// put in.
    void formatsGiveBackTheirColour_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<double>("tolerance");
        const QString matrix = "scale=out_color_matrix=bt709:out_range=tv,";
        const auto clip = [&](const QString& format, const QStringList& codec) {
            return QStringList{"-f", "lavfi", "-i", kBars, "-vf", matrix + "format=" + format} +
                   codec + QStringList{"-colorspace", "bt709", "-color_range", "tv"};
        };
        QTest::newRow("PNG 8 bit")
            << "a.png"
            << QStringList{"-f", "lavfi", "-i", kBars, "-frames:v", "1", "-pix_fmt", "rgb24"}
            << 0.003;
        QTest::newRow("PNG 16 bit")
            << "b.png"
            << QStringList{"-f", "lavfi", "-i", kBars, "-frames:v", "1", "-pix_fmt", "rgb48be"}
            << 0.003;
        QTest::newRow("TIFF")
            << "c.tiff"
            << QStringList{"-f", "lavfi", "-i", kBars, "-frames:v", "1", "-pix_fmt", "rgb24"}
            << 0.003;
        QTest::newRow("DPX 10 bit")
            << "d.dpx"
            << QStringList{"-f", "lavfi", "-i", kBars, "-frames:v", "1", "-pix_fmt", "gbrp10le"}
            << 0.003;
        QTest::newRow("JPEG") << "e.jpg"
                              << QStringList{"-f",
                                             "lavfi",
                                             "-i",
                                             kBars,
                                             "-frames:v",
                                             "1",
                                             "-q:v",
                                             "2",
                                             "-pix_fmt",
                                             "yuvj444p"}
                              << 0.012;
        QTest::newRow("H.264 8 bit 4:2:0 MP4")
            << "f.mp4" << clip("yuv420p", {"-c:v", "libx264", "-qp", "0"}) << 0.008;
        QTest::newRow("H.264 10 bit 4:2:2 MOV")
            << "g.mov" << clip("yuv422p10le", {"-c:v", "libx264", "-qp", "4"}) << 0.006;
        QTest::newRow("HEVC 10 bit MKV")
            << "h.mkv"
            << clip("yuv420p10le", {"-c:v", "libx265", "-x265-params", "lossless=1:log-level=none"})
            << 0.004;
        QTest::newRow("HEVC 12 bit 4:4:4 MKV")
            << "i.mkv"
            << clip("yuv444p12le", {"-c:v", "libx265", "-x265-params", "lossless=1:log-level=none"})
            << 0.004;
        QTest::newRow("ProRes 4:2:2 10 bit MOV")
            << "j.mov" << clip("yuv422p10le", {"-s", "1280x720", "-c:v", "prores_ks"}) << 0.008;
        QTest::newRow("DNxHR MXF")
            << "k.mxf"
            << clip("yuv422p", {"-s", "1280x720", "-c:v", "dnxhd", "-profile:v", "dnxhr_sq"})
            << 0.008;
        QTest::newRow("MJPEG MOV")
            << "l.mov"
            << QStringList{"-f",
                           "lavfi",
                           "-i",
                           kBars,
                           "-vf",
                           "scale=out_color_matrix=bt601:out_range=pc,format=yuvj422p",
                           "-c:v",
                           "mjpeg",
                           "-q:v",
                           "2"}
            << 0.015;
        QTest::newRow("packed UYVY in MOV")
            << "m.mov" << clip("uyvy422", {"-s", "1280x720", "-c:v", "rawvideo"}) << 0.008;
    }
    void formatsGiveBackTheirColour() {
        QFETCH(QString, name);
        QFETCH(QStringList, arguments);
        QFETCH(double, tolerance);
        QVERIFY(support::runFfmpeg(arguments + QStringList{at(name)}));
        auto reader = MediaReader::open(at(name).toStdString());
        QVERIFY2(reader.has_value(), reader ? "" : words::inEnglish(reader.error()).c_str());
        const auto frame = reader->next();
        QVERIFY(frame && *frame);
        const image::Frame signal = image::signalFrame(**frame);
        const int x = signal.width / 2;
        const int y = signal.height / 2;
        const QString got = QString("%1 %2 %3")
                                .arg(signal.at(0, x, y))
                                .arg(signal.at(1, x, y))
                                .arg(signal.at(2, x, y));
        QVERIFY2(std::abs(double(signal.at(0, x, y) - kRed)) < tolerance, qPrintable(got));
        QVERIFY2(std::abs(double(signal.at(1, x, y) - kGreen)) < tolerance, qPrintable(got));
        QVERIFY2(std::abs(double(signal.at(2, x, y) - kBlue)) < tolerance, qPrintable(got));
    }
    void exrIsReadAsLinearFloat() {
        QVERIFY(support::runFfmpeg(
            {"-f", "lavfi", "-i", kBars, "-frames:v", "1", "-pix_fmt", "gbrpf32le", at("a.exr")}));
        const auto reader = MediaReader::open(at("a.exr").toStdString());
        QVERIFY(reader.has_value());
        QCOMPARE(reader->info().tags.transfer, image::TransferTag::Linear);
        QCOMPARE(reader->info().bitDepth, 32);
    }
    void rotatedPhoneClipStandsUpright() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=320x180:r=25:d=1",
                                    "-c:v",
                                    "libx264",
                                    "-pix_fmt",
                                    "yuv420p",
                                    at("flat.mp4")}));
        QVERIFY(support::runFfmpeg({"-i",
                                    at("flat.mp4"),
                                    "-c",
                                    "copy",
                                    "-metadata:s:v:0",
                                    "rotate=90",
                                    at("turned.mp4")}));
        auto flat = MediaReader::open(at("flat.mp4").toStdString());
        auto turned = MediaReader::open(at("turned.mp4").toStdString());
        QVERIFY(flat.has_value() && turned.has_value());
        QCOMPARE(turned->info().width, 180);
        QCOMPARE(turned->info().height, 320);
        const int degrees = turned->info().rotationDegrees;
        QVERIFY(degrees == 90 || degrees == 270);
        const image::Frame a = image::signalFrame(*flat->next().value());
        const image::Frame b = image::signalFrame(*turned->next().value());
        // A quarter turn clockwise takes (x, y) to (height - 1 - y, x).
        const int x = 40;
        const int y = 30;
        const int bx = degrees == 90 ? 179 - y : y;
        const int by = degrees == 90 ? x : 319 - x;
        QVERIFY(std::abs(a.at(1, x, y) - b.at(1, bx, by)) < 0.02F);
    }
    void tagsAreReadAndMissingOnesAreSaid() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    kBars,
                                    "-pix_fmt",
                                    "yuv420p10le",
                                    "-c:v",
                                    "libx265",
                                    "-x265-params",
                                    "log-level=none",
                                    "-color_range",
                                    "pc",
                                    "-colorspace",
                                    "bt2020nc",
                                    "-color_primaries",
                                    "bt2020",
                                    "-color_trc",
                                    "arib-std-b67",
                                    at("hlg.mov")}));
        const auto tagged = MediaReader::open(at("hlg.mov").toStdString());
        QVERIFY(tagged.has_value());
        QCOMPARE(tagged->info().tags.range, image::Range::Full);
        QCOMPARE(tagged->info().tags.matrix, image::Matrix::Bt2020);
        QCOMPARE(tagged->info().tags.transfer, image::TransferTag::Hlg);
        QVERIFY(tagged->info().warnings.empty());
        QVERIFY(support::runFfmpeg({"-f",
                                    "rawvideo",
                                    "-s",
                                    "64x36",
                                    "-pix_fmt",
                                    "yuv420p",
                                    "-r",
                                    "25",
                                    "-t",
                                    "1",
                                    "-i",
                                    "/dev/zero",
                                    "-c:v",
                                    "libx264",
                                    at("bare.mkv")}));
        const auto bare = MediaReader::open(at("bare.mkv").toStdString());
        QVERIFY(bare.has_value());
        QCOMPARE(bare->info().warnings.size(), std::size_t{2});
        QCOMPARE(bare->info().warnings[0].code, std::string("RangeTagMissing"));
    }
    void metadataIsOffered() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    kBars,
                                    "-c:v",
                                    "libx264",
                                    "-movflags",
                                    "use_metadata_tags",
                                    "-metadata",
                                    "com.example.iso=1250",
                                    "-metadata",
                                    "com.example.exposuretime=1/50",
                                    "-metadata",
                                    "com.example.fnumber=2.8",
                                    "-metadata",
                                    "com.example.whitebalance=5600K",
                                    at("meta.mov")}));
        const auto reader = MediaReader::open(at("meta.mov").toStdString());
        QVERIFY(reader.has_value());
        QCOMPARE(reader->info().recorded.isoValue, std::optional(1250.0));
        QCOMPARE(reader->info().recorded.shutterSeconds, std::optional(0.02));
        QCOMPARE(reader->info().recorded.fNumber, std::optional(2.8));
        QCOMPARE(reader->info().recorded.whiteBalanceKelvin, std::optional(5600.0));
    }
    void seekingGivesTheFrameAtThatTime_data() {
        QTest::addColumn<QString>("keyFrames");
        QTest::newRow("a key frame in twenty") << "20";
        // From one place to a later one it goes on; back it begins anew.
        QTest::newRow("one key frame") << "250";
    }
    void seekingGivesTheFrameAtThatTime() {
        QFETCH(QString, keyFrames);
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=160x90:r=25:d=3",
                                    "-c:v",
                                    "libx264",
                                    "-g",
                                    keyFrames,
                                    "-bf",
                                    "2",
                                    at("seek.mp4")}));
        auto reader = MediaReader::open(at("seek.mp4").toStdString());
        QVERIFY(reader.has_value());
        for (double seconds : {1.0, 2.52, 0.4, 0.44, 0.48, 2.88, 0.0}) {
            QVERIFY(reader->seek(base::Seconds(seconds)).has_value());
            const auto frame = reader->next();
            QVERIFY(frame && *frame);
            QVERIFY2(std::abs((*frame)->seconds - seconds) < 0.021,
                     qPrintable(QString::number((*frame)->seconds)));
        }
        // Beyond the end the last frame is given, and from there back again.
        QVERIFY(reader->seek(base::Seconds(9.0)).has_value());
        QVERIFY(std::abs((*reader->next())->seconds - 2.96) < 0.021);
        QVERIFY(reader->seek(base::Seconds(0.8)).has_value());
        QVERIFY(std::abs((*reader->next())->seconds - 0.8) < 0.021);
    }
    /// A key frame alone is the frame that decoding up to it gives; from it reading goes on.
    void keyFramesAreDecodedAlone() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=160x90:r=25:d=4",
                                    "-c:v",
                                    "libx264",
                                    "-g",
                                    "25",
                                    "-bf",
                                    "2",
                                    "-sc_threshold",
                                    "0",
                                    at("keys.mp4")}));
        auto reader = MediaReader::open(at("keys.mp4").toStdString());
        auto plain = MediaReader::open(at("keys.mp4").toStdString());
        QVERIFY(reader && plain);
        for (const auto& [asked, key] : {std::pair{2.6, 2.0}, {0.5, 0.0}, {3.9, 3.0}, {3.0, 3.0}}) {
            const auto frame = reader->keyFrameAt(base::Seconds(asked));
            QVERIFY(frame && *frame);
            QVERIFY2(std::abs((*frame)->seconds - key) < 0.001,
                     qPrintable(QString::number((*frame)->seconds)));
            QVERIFY(plain->seek(base::Seconds(key)).has_value());
            const auto same = plain->next();
            QVERIFY(same && *same);
            QVERIFY(image::signalFrame(**frame).channels == image::signalFrame(**same).channels);
        }
        for (const double next : {3.0, 3.04, 3.08}) {
            const auto frame = reader->next();
            QVERIFY(frame && *frame);
            QVERIFY(std::abs((*frame)->seconds - next) < 0.001);
        }
        const auto beyond = reader->keyFrameAt(base::Seconds(99.0));
        QVERIFY(beyond && *beyond && std::abs((*beyond)->seconds - 3.0) < 0.001);
    }
    void badFilesGiveTheirReason_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<int>("code");
        QTest::newRow("empty") << "empty.mov" << QByteArray() << int(base::ErrorCode::Truncated);
        QTest::newRow("text named mov")
            << "text.mov"
            << QByteArray("Dear editor, the clip is on the other card.\n").repeated(40)
            << int(base::ErrorCode::Truncated);
        QTest::newRow("text named png")
            << "text.png" << QByteArray("not a picture at all") << int(base::ErrorCode::Truncated);
        QTest::newRow("random bytes")
            << "noise.bin" << QByteArray::fromHex("00ff13ee5a").repeated(200)
            << int(base::ErrorCode::UnsupportedFormat);
    }
    void badFilesGiveTheirReason() {
        QFETCH(QString, name);
        QFETCH(QByteArray, bytes);
        QFETCH(int, code);
        write(at(name), bytes);
        const auto reader = MediaReader::open(at(name).toStdString());
        QVERIFY(!reader.has_value());
        QVERIFY2(int(reader.error().code) == code, words::inEnglish(reader.error()).c_str());
        QVERIFY(words::inEnglish(reader.error().what).find(name.toStdString()) !=
                std::string::npos);
        QVERIFY(!reader.error().hint.empty());
    }
    void clipCutOffBeforeItsIndexIsTruncated() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=320x180:r=25:d=2",
                                    "-c:v",
                                    "libx264",
                                    at("whole.mov")}));
        QFile whole(at("whole.mov"));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        write(at("cut.mov"), whole.read(whole.size() / 2));
        const auto reader = MediaReader::open(at("cut.mov").toStdString());
        QVERIFY(!reader.has_value());
        QCOMPARE(reader.error().code, base::ErrorCode::Truncated);
    }
    void soundFileHasNoPicture() {
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", "sine=d=1", at("sound.mov")}));
        const auto reader = MediaReader::open(at("sound.mov").toStdString());
        QVERIFY(!reader.has_value());
        QCOMPARE(reader.error().code, base::ErrorCode::NoPicture);
    }
    void hugeStillIsRefusedBeforeItIsDecoded() {
        // A PNG header that claims 20000 x 20000; CRC computed for it by zlib.
        QByteArray png = QByteArray::fromHex("89504e470d0a1a0a0000000d49484452");
        QByteArray chunk("IHDR");
        const QByteArray size = QByteArray::fromHex("00004e2000004e200802000000");
        png.append(size);
        quint32 crc = 0xFFFFFFFF;
        for (const char c : chunk + size) {
            crc ^= static_cast<quint8>(c);
            for (int k = 0; k < 8; ++k)
                crc = (crc & 1U) != 0 ? 0xEDB88320U ^ (crc >> 1U) : crc >> 1U;
        }
        crc ^= 0xFFFFFFFF;
        for (int shift : {24, 16, 8, 0}) png.append(static_cast<char>(crc >> shift));
        png.append(QByteArray::fromHex("0000001049444154").append(QByteArray(20, '\x11')));
        write(at("huge.png"), png);
        const auto reader = MediaReader::open(at("huge.png").toStdString());
        QVERIFY(!reader.has_value());
        QVERIFY2(reader.error().code == base::ErrorCode::TooLarge,
                 words::inEnglish(reader.error()).c_str());
        QVERIFY(words::inEnglish(reader.error().detail).find("20000") != std::string::npos);
    }
    void missingFileAndFolderAreSaid() {
        QCOMPARE(MediaReader::open("/no/such/clip.mov").error().code, base::ErrorCode::NotFound);
        QCOMPARE(MediaReader::open(m_folder.path().toStdString()).error().code,
                 base::ErrorCode::Unreadable);
    }
    void oddSizesAreRead() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=321x181:r=25:d=1",
                                    "-c:v",
                                    "libx264",
                                    "-pix_fmt",
                                    "yuv444p",
                                    at("odd.mp4")}));
        auto reader = MediaReader::open(at("odd.mp4").toStdString());
        QVERIFY(reader.has_value());
        QCOMPARE(reader->info().width, 321);
        const image::Frame small = image::shrunkSignal(*reader->next().value(), 2);
        QCOMPARE(small.width, 160);
    }
};

RIG_TEST(TestMediaReader);
#include "test_media_reader.moc"
