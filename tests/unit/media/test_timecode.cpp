// SPDX-License-Identifier: GPL-3.0-or-later
// Values by SMPTE ST 12-1, from memory: an hour of drop-frame holds 107,892 numbers.
#include <QFile>
#include <QTemporaryDir>

#include "media/media_reader.h"
#include "media/sound_reader.h"
#include "media/timecode.h"
#include "media/timecode_watch.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {
constexpr double kNtsc = 30000.0 / 1001.0;
}

class TestTimecode : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

private Q_SLOTS:
    void framesAreCounted_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("rate");
        QTest::addColumn<double>("frames");
        QTest::newRow("25") << "01:00:00:00" << 25.0 << 90000.0;
        QTest::newRow("last of a day") << "23:59:59:24" << 25.0 << 2159999.0;
        QTest::newRow("30, none dropped") << "01:00:00:00" << kNtsc << 108000.0;
        QTest::newRow("drop-frame, an hour") << "01:00:00;00" << kNtsc << 107892.0;
        QTest::newRow("drop-frame, before a minute") << "00:00:59;29" << kNtsc << 1799.0;
        QTest::newRow("drop-frame, after a minute") << "00:01:00;02" << kNtsc << 1800.0;
        QTest::newRow("drop-frame, ten minutes") << "00:10:00;00" << kNtsc << 17982.0;
        QTest::newRow("drop-frame, with a point") << "00:10:00.00" << kNtsc << 17982.0;
        QTest::newRow("drop-frame of 60") << "00:01:00;04" << 2.0 * kNtsc << 3600.0;
        QTest::newRow("24 of film") << "00:00:10:12" << 24000.0 / 1001.0 << 252.0;
    }
    void framesAreCounted() {
        QFETCH(QString, text);
        QFETCH(double, rate);
        QFETCH(double, frames);
        const auto timecode = media::timecodeOf(text.toStdString(), rate);
        QVERIFY(timecode.has_value());
        QVERIFY(std::abs(timecode->seconds * rate - frames) < 1e-6);
    }
    void whatIsNoTimecodeIsNone_data() {
        QTest::addColumn<QString>("text");
        for (const char* text : {"",
                                 "10:00:00",
                                 "10:00:00:25",
                                 "24:00:00:00",
                                 "10:60:00:00",
                                 "10:00:60:00",
                                 "-1:00:00:00",
                                 "10-00-00-00",
                                 "aa:00:00:00",
                                 "10:00:00:000"})
            QTest::newRow(*text == 0 ? "empty" : text) << QString::fromUtf8(text);
    }
    void whatIsNoTimecodeIsNone() {
        QFETCH(QString, text);
        QVERIFY(!media::timecodeOf(text.toStdString(), 25.0));
        QVERIFY(!media::timecodeOf("10:00:00:00", 0.0));
        QVERIFY(!media::timecodeOf("10:00:00:00", std::numeric_limits<double>::quiet_NaN()));
    }
    /// As the ffmpeg command writes it: in a track of its own (MOV), beside the picture (MXF), and
    /// as samples since midnight (WAV).
    void filesTellTheirs_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("MOV") << "tc.mov";
        QTest::newRow("MP4") << "tc.mp4";
        QTest::newRow("MXF") << "tc.mxf";
    }
    void filesTellTheirs() {
        QFETCH(QString, name);
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=s=320x180:r=30000/1001:d=1",
                                    "-pix_fmt",
                                    "yuv420p",
                                    "-c:v",
                                    name.endsWith("mxf") ? "mpeg2video" : "libx264",
                                    "-timecode",
                                    "10:02:03;04",
                                    m_folder.filePath(name)}));
        const auto reader = media::MediaReader::open(m_folder.filePath(name).toStdString());
        QVERIFY(reader.has_value());
        const auto& timecode = reader->info().timecode;
        QVERIFY(timecode.has_value());
        // Minutes 602 of which 60 are tenths: 2 x 542 numbers are left out.
        const double frames = (602.0 * 60.0 + 3.0) * 30.0 + 4.0 - 2.0 * 542.0;
        QVERIFY2(std::abs(timecode->seconds * kNtsc - frames) < 1e-3, timecode->text.c_str());
    }
    void recordersCountSamples() {
        const QString file = m_folder.filePath("tc.wav");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "sine=r=48000:d=1",
                                    "-write_bext",
                                    "1",
                                    "-metadata",
                                    "time_reference=" + QString::number(48000LL * 3723 + 12000),
                                    file}));
        const auto reader = media::SoundReader::open(file.toStdString());
        QVERIFY(reader && reader->timecode());
        QVERIFY(std::abs(reader->timecode()->seconds - 3723.25) < 1e-9);
        QCOMPARE(reader->timecode()->text, std::string("01:02:03.250"));
        QVERIFY(!media::timecodeOfSamples("none", 48000.0));
        QVERIFY(!media::timecodeOfSamples("48000", 0.0));
        QVERIFY(!media::timecodeOfSamples("99999999999999999999", 48000.0));
    }
    /// Two recordings of two seconds one after the other in one file: numbers of the second's
    /// groups of pictures go on an hour later. One that goes on as it should has no jump.
    void aJumpWithinAFileIsTold() {
        const auto part = [&](const QString& name, const QString& start) {
            return support::runFfmpeg({"-f",
                                       "lavfi",
                                       "-i",
                                       "testsrc=s=320x180:r=25:d=2",
                                       "-pix_fmt",
                                       "yuv420p",
                                       "-c:v",
                                       "mpeg2video",
                                       "-bf",
                                       "2",
                                       "-gop_timecode",
                                       start,
                                       m_folder.filePath(name)});
        };
        QVERIFY(part("first.m2v", "10:00:00:00") && part("later.m2v", "11:00:00:00") &&
                part("next.m2v", "10:00:02:00"));
        const auto jumpsOf = [&](const QString& second) {
            QFile both(m_folder.filePath("both.m2v"));
            if (!both.open(QIODevice::WriteOnly)) return std::vector<media::TimecodeJump>(9);
            for (const QString& name : {QString("first.m2v"), second}) {
                QFile one(m_folder.filePath(name));
                if (one.open(QIODevice::ReadOnly)) both.write(one.readAll());
            }
            both.close();
            auto reader = media::MediaReader::open(both.fileName().toStdString());
            if (!reader) return std::vector<media::TimecodeJump>(9);
            for (auto frame = reader->next(); frame && *frame;) frame = reader->next();
            return reader->timecodeJumps();
        };
        const auto jumps = jumpsOf("later.m2v");
        QCOMPARE(jumps.size(), std::size_t{1});
        QVERIFY(std::abs(jumps[0].atSeconds - 2.0) < 0.15);
        QVERIFY(std::abs(jumps[0].bySeconds - 3598.0) < 0.15);
        QCOMPARE(jumps[0].after, std::string("11:00:00:00"));
        QVERIFY(jumpsOf("next.m2v").empty());
    }
    /// A track of timecode holds a number for every part of the file that runs through.
    void aTracksSamplesAreFollowed() {
        media::FfmpegPtr<AVFormatContext> container(avformat_alloc_context());
        AVStream* stream = avformat_new_stream(container.get(), nullptr);
        stream->codecpar->codec_type = AVMEDIA_TYPE_DATA;
        stream->codecpar->codec_tag = MKTAG('t', 'm', 'c', 'd');
        stream->avg_frame_rate = {25, 1};
        stream->time_base = {1, 25};
        media::TimecodeWatch watch;
        const auto take = [&](std::int64_t stamp, std::uint32_t count) {
            media::FfmpegPtr<AVPacket> packet(av_packet_alloc());
            av_new_packet(packet.get(), 4);
            packet->pts = stamp;
            for (unsigned i = 0; i < 4; ++i)
                packet->data[i] = static_cast<std::uint8_t>(count >> (24U - 8U * i));
            watch.takePacket(*stream, *packet, 0.0);
        };
        take(0, 90000);
        take(250, 90250);  // ten seconds on, as it should
        QVERIFY(watch.jumps().empty());
        take(500, 90525);  // one second too far
        QCOMPARE(watch.jumps().size(), std::size_t{1});
        QCOMPARE(watch.jumps()[0].atSeconds, 20.0);
        QVERIFY(std::abs(watch.jumps()[0].bySeconds - 1.0) < 1e-9);
        QCOMPARE(watch.jumps()[0].after, std::string("01:00:21:00"));
        // Elsewhere in the file it may stand anywhere; other streams tell nothing.
        watch.forget();
        take(0, 5);
        stream->codecpar->codec_tag = 0;
        take(25, 90000);
        QCOMPARE(watch.jumps().size(), std::size_t{1});
    }
};

RIG_TEST(TestTimecode);
#include "test_timecode.moc"
