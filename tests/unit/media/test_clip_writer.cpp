// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "media/clip_writer.h"
#include "media/media_reader.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

image::Frame flatFrame(int width, int height, float red, float green, float blue) {
    image::Frame frame = image::blankFrame(width, height);
    std::fill(frame.channels[0].begin(), frame.channels[0].end(), red);
    std::fill(frame.channels[1].begin(), frame.channels[1].end(), green);
    std::fill(frame.channels[2].begin(), frame.channels[2].end(), blue);
    return frame;
}

}  // namespace

class TestClipWriter : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void whatIsWrittenIsReadBack_data() {
        QTest::addColumn<int>("codec");
        QTest::addColumn<int>("bitDepth");
        QTest::addColumn<bool>("isFullRange");
        QTest::newRow("H.264 8 bit") << int(media::ClipCodec::H264) << 8 << false;
        QTest::newRow("HEVC 10 bit") << int(media::ClipCodec::Hevc) << 10 << false;
        QTest::newRow("H.264 8 bit full range") << int(media::ClipCodec::H264) << 8 << true;
    }
    void whatIsWrittenIsReadBack() {
        QFETCH(int, codec);
        QFETCH(int, bitDepth);
        QFETCH(bool, isFullRange);
        const QTemporaryDir folder;
        const std::string file = folder.filePath("a.mov").toStdString();
        media::ClipOptions options;
        options.codec = static_cast<media::ClipCodec>(codec);
        options.bitDepth = bitDepth;
        options.isFullRange = isFullRange;
        options.width = 128;
        options.height = 72;
        auto writer = media::ClipWriter::create(file, options);
        QVERIFY(writer.has_value());
        for (int i = 0; i < 12; ++i)
            QVERIFY(writer->append(flatFrame(128, 72, 0.6F, 0.41F, 0.3F)).has_value());
        QVERIFY(writer->finish().has_value());
        auto reader = media::MediaReader::open(file);
        QVERIFY(reader.has_value());
        QCOMPARE(reader->info().bitDepth, bitDepth);
        QCOMPARE(reader->info().tags.range,
                 isFullRange ? image::Range::Full : image::Range::Limited);
        QVERIFY(reader->info().tags.isRangeTagged && reader->info().tags.isMatrixTagged);
        QCOMPARE(reader->info().frameRate, 25.0);
        int count = 0;
        while (true) {
            const auto frame = reader->next();
            QVERIFY(frame.has_value());
            if (!*frame) break;
            const image::Frame signal = image::signalFrame(**frame);
            QVERIFY(std::abs(signal.at(0, 60, 30) - 0.6F) < 0.006F);
            QVERIFY(std::abs(signal.at(2, 60, 30) - 0.3F) < 0.006F);
            ++count;
        }
        QCOMPARE(count, 12);
    }
    void senselessOptionsAreRefusedByName() {
        media::ClipOptions options;
        options.width = 101;
        const auto writer = media::ClipWriter::create("/tmp/never.mov", options);
        QVERIFY(!writer.has_value());
        QCOMPARE(words::inEnglish(writer.error().what),
                 std::string("Cannot write a clip with this width"));
        options.width = 128;
        options.bitDepth = 9;
        QCOMPARE(words::inEnglish(options.validate().error().detail),
                 std::string("9 was given; 8 or 10 is allowed."));
    }
    void missingFolderIsSaid() {
        const auto writer = media::ClipWriter::create("/no/such/folder/a.mov", {});
        QVERIFY(!writer.has_value());
        QCOMPARE(writer.error().code, base::ErrorCode::WriteFailed);
    }
};

RIG_TEST(TestClipWriter);
#include "test_clip_writer.moc"
