// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "measure/measure_media.h"
#include "measure/measurer.h"
#include "media/media_reader.h"
#include "media/read_ahead.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

const QString kPicture = "testsrc=size=320x180:rate=25:duration=2";
/// A sine of 997 Hz; ffmpeg's source gives it at an eighth of full scale (-18.06 dBFS).
const QString kSine = "sine=frequency=997:sample_rate=48000:duration=2";

bool writeClip(const QString& file, const QString& soundFilter, const QStringList& codec) {
    return support::writeSoundClip(
        file, kPicture, {"-f", "lavfi", "-i", kSine}, soundFilter, codec);
}

}  // namespace

class TestSoundLevels : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// A sine reads its peak by AES17-2015, 3.12.3, whatever the sample format of the codec.
    void aSineReadsItsPeak_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QStringList>("codec");
        QTest::newRow("16 bit") << "a.mov" << QStringList{"-c:a", "pcm_s16le"};
        QTest::newRow("24 bit") << "a.mov" << QStringList{"-c:a", "pcm_s24le"};
        QTest::newRow("float") << "a.mkv" << QStringList{"-c:a", "pcm_f32le"};
        QTest::newRow("lossy") << "a.mp4" << QStringList{"-c:a", "aac", "-b:a", "192k"};
    }
    void aSineReadsItsPeak() {
        QFETCH(QString, name);
        QFETCH(QStringList, codec);
        const QTemporaryDir folder;
        const QString file = folder.filePath(name);
        QVERIFY(writeClip(file, "pan=stereo|c0=c0|c1=0.5*c0", codec));
        const auto measured = measure::measureMedia(file.toStdString(), {}, {});
        QVERIFY(measured.has_value());
        const auto& sound = measured->reading.sound;
        QVERIFY(sound.has_value());
        QCOMPARE(sound->sampleRate, 48000.0);
        QCOMPARE(sound->channels.size(), std::size_t{2});
        const double tolerance = name.endsWith("mp4") ? 0.3 : 0.02;
        QVERIFY(std::abs(sound->channels[0].meanDbfs + 18.06) < tolerance);
        QVERIFY(std::abs(sound->channels[1].meanDbfs + 24.08) < tolerance);
        QVERIFY(std::abs(sound->channels[0].peakDbfs + 18.06) < 3.0 * tolerance);
        QCOMPARE(sound->channels[0].clippedShare, 0.0);
    }
    void overdrivenSoundIsTold() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("loud.mov");
        QVERIFY(writeClip(file, "volume=20dB", {"-c:a", "pcm_s16le"}));
        const auto measured = measure::measureMedia(file.toStdString(), {}, {});
        QVERIFY(measured.has_value());
        const auto& warnings = measured->reading.warnings;
        QVERIFY(std::any_of(warnings.begin(), warnings.end(), [](const base::Warning& warning) {
            return warning.code == "SoundClipped" &&
                   words::inEnglish(warning.text).find("channel 1") != std::string::npos;
        }));
        QVERIFY(measured->reading.sound->channels[0].clippedShare > 0.1);
    }
    /// A recorder's file has no picture: heard where that is enough, refused for a camera.
    void soundAloneIsHeardWhereItIsEnough_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("WAV") << "recorder.wav";
        QTest::newRow("FLAC") << "recorder.flac";
        QTest::newRow("MP4 without picture") << "recorder.m4a";
    }
    void soundAloneIsHeardWhereItIsEnough() {
        QFETCH(QString, name);
        const QTemporaryDir folder;
        const QString file = folder.filePath(name);
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", kSine, file}));
        measure::MeasureOptions options;
        const auto refused = measure::measureMedia(file.toStdString(), options, {});
        QVERIFY(!refused);
        QCOMPARE(refused.error().code, base::ErrorCode::NoPicture);
        options.isSoundEnough = true;
        const auto heard = measure::measureMedia(file.toStdString(), options, {});
        QVERIFY(heard.has_value());
        QVERIFY(!heard->reading.hasPicture && heard->reading.faces.empty());
        QVERIFY(heard->reading.warnings.empty());
        QVERIFY(std::abs(heard->reading.durationSeconds - 2.0) < 0.05);
        QVERIFY(heard->reading.sound.has_value());
        // ffmpeg's sine has an amplitude of 1/8: a mean of −18.06 dBFS.
        QVERIFY(std::abs(heard->reading.sound->channels[0].meanDbfs + 18.06) < 0.3);
    }
    void neitherPictureNorSoundIsRefused() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("words.srt");
        QFile words(file);
        QVERIFY(words.open(QIODevice::WriteOnly));
        words.write("1\n00:00:01,000 --> 00:00:02,000\nTick.\n");
        words.close();
        measure::MeasureOptions options;
        options.isSoundEnough = true;
        const auto refused = measure::measureMedia(file.toStdString(), options, {});
        QVERIFY(!refused);
        QVERIFY(words::inEnglish(refused.error().what).find("words.srt") != std::string::npos);
    }
    void clipsWithoutSoundSayNothing() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("mute.mov");
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", kPicture, "-c:v", "libx264", file}));
        const auto measured = measure::measureMedia(file.toStdString(), {}, {});
        QVERIFY(measured.has_value());
        QVERIFY(!measured->reading.sound.has_value());
    }
    /// Every sample comes once, in order and on the frames' clock, beside the decoder's own thread.
    void blocksFollowTheFramesWithoutGaps() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("a.mov");
        QVERIFY(writeClip(file, "anull", {"-c:a", "pcm_s16le"}));
        media::ReaderOptions options;
        options.hasSound = true;
        auto reader = media::MediaReader::open(file.toStdString(), options);
        QVERIFY(reader.has_value());
        media::ReadAhead frames(*reader, 3);
        double next = 0.0;
        std::size_t samples = 0;
        for (bool isOver = false; !isOver;) {
            const auto frame = frames.next();
            QVERIFY(frame.has_value());
            isOver = !frame->has_value();
            for (const media::SoundBlock& block : frames.takeSound()) {
                QVERIFY(std::abs(block.seconds - next) < 1e-3);
                next = block.seconds +
                       static_cast<double>(block.channels[0].size()) / block.sampleRate;
                samples += block.channels[0].size();
            }
        }
        QCOMPARE(samples, std::size_t{96000});
    }
    /// What watched a clip stands in its reading, with its version.
    void everyMeasurerSignsTheReading() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("a.mov");
        QVERIFY(writeClip(file, "anull", {"-c:a", "pcm_s16le"}));
        measure::MeasureOptions everything;
        everything.isFramingWanted = everything.isTimingWanted = true;
        const auto measured = measure::measureMedia(file.toStdString(), everything, {});
        QVERIFY(measured.has_value());
        QCOMPARE(measured->reading.measuredBy.size(), measure::measurerKinds().size());
        for (const measure::MeasurerKind& kind : measure::measurerKinds()) {
            QVERIFY(kind.version >= 1);
            QVERIFY(std::any_of(measured->reading.measuredBy.begin(),
                                measured->reading.measuredBy.end(),
                                [&](const rig::MeasurerStamp& stamp) {
                                    return stamp.name == kind.name && stamp.version == kind.version;
                                }));
        }
    }
};

RIG_TEST(TestSoundLevels);
#include "test_sound_levels.moc"
