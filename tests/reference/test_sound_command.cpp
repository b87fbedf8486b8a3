// SPDX-License-Identifier: GPL-3.0-or-later
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>

#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/spoken_sound.h"
#include "support/test_list.h"
#include "support/wav_file.h"

using namespace rigmatch;
using support::Samples;

namespace {

constexpr int kRate = 48000;

/// A tone of `peakDbfs` for `seconds`, appended.
void tone(Samples& out, double peakDbfs, double seconds, double hertz = 1000.0) {
    const double height = std::pow(10.0, peakDbfs / 20.0);
    const auto count = static_cast<std::size_t>(seconds * kRate);
    for (std::size_t i = 0; i < count; ++i)
        out.push_back(
            static_cast<float>(height * std::sin(2.0 * std::numbers::pi * hertz *
                                                 static_cast<double>(out.size()) / kRate)));
}

nlohmann::json soundOf(const QString& file) {
    const auto ran = support::run({"sound", file, "--json"});
    return ran.document()["results"][0];
}

bool hasFinding(const nlohmann::json& result, const std::string& code) {
    for (const auto& finding : result["findings"])
        if (finding["code"] == code) return true;
    return false;
}

Samples noise(double rms, double seconds, std::uint64_t seed) {
    std::mt19937_64 random(seed);
    std::normal_distribution<float> normal(0.0F, static_cast<float>(rms));
    Samples made(static_cast<std::size_t>(seconds * kRate));
    for (float& value : made) value = normal(random);
    return made;
}

Samples added(Samples first, const Samples& second) {
    for (std::size_t i = 0; i < std::min(first.size(), second.size()); ++i) first[i] += second[i];
    return first;
}

}  // namespace

class TestSoundCommand : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// EBU Tech 3341, table 1, the cases made of stereo tones (levels from memory).
    void loudnessOfTheTestTones_data() {
        using Parts = std::vector<std::pair<double, double>>;
        QTest::addColumn<Parts>("parts");
        QTest::addColumn<double>("lufs");
        QTest::newRow("1") << Parts{{-23, 20}} << -23.0;
        QTest::newRow("2") << Parts{{-33, 20}} << -33.0;
        QTest::newRow("3") << Parts{{-36, 10}, {-23, 60}, {-36, 10}} << -23.0;
        QTest::newRow("4") << Parts{{-72, 10}, {-36, 10}, {-23, 60}, {-36, 10}, {-72, 10}} << -23.0;
        QTest::newRow("5") << Parts{{-26, 20}, {-20, 20.1}, {-26, 20}} << -23.0;
    }
    void loudnessOfTheTestTones() {
        using Parts = std::vector<std::pair<double, double>>;
        QFETCH(Parts, parts);
        QFETCH(double, lufs);
        const QTemporaryDir folder;
        Samples samples;
        for (const auto& [level, seconds] : parts) tone(samples, level, seconds);
        const QString file = folder.filePath("tones.wav");
        QVERIFY(support::writeWav(file, {samples, samples}, kRate));
        const auto result = soundOf(file);
        QVERIFY(std::abs(result["loudnessLufs"].get<double>() - lufs) <= 0.1);
    }
    /// EBU Tech 3342, table 1, cases 1 to 4 (from memory): within 1 LU.
    void rangeOfTheTestTones_data() {
        using Levels = std::vector<double>;
        QTest::addColumn<Levels>("levels");
        QTest::addColumn<double>("range");
        QTest::newRow("1") << Levels{-20, -30} << 10.0;
        QTest::newRow("2") << Levels{-20, -15} << 5.0;
        QTest::newRow("3") << Levels{-40, -20} << 20.0;
        QTest::newRow("4") << Levels{-50, -35, -20, -35, -50} << 15.0;
    }
    void rangeOfTheTestTones() {
        using Levels = std::vector<double>;
        QFETCH(Levels, levels);
        QFETCH(double, range);
        const QTemporaryDir folder;
        Samples samples;
        for (const double level : levels) tone(samples, level, 20.0);
        const QString file = folder.filePath("tones.wav");
        QVERIFY(support::writeWav(file, {samples, samples}, kRate));
        QVERIFY(std::abs(soundOf(file)["loudnessRangeLu"].get<double>() - range) <= 1.0);
    }
    /// EBU Tech 3341, table 1, cases 15 to 19 (from memory): +0.2, -0.4 dB.
    void truePeakOfTheTestTones_data() {
        QTest::addColumn<double>("share");
        QTest::addColumn<double>("degrees");
        QTest::addColumn<double>("height");
        QTest::addColumn<double>("dbtp");
        QTest::newRow("15") << 4.0 << 0.0 << 0.5 << -6.0;
        QTest::newRow("16") << 4.0 << 45.0 << 0.5 << -6.0;
        QTest::newRow("17") << 6.0 << 60.0 << 0.5 << -6.0;
        QTest::newRow("18") << 8.0 << 67.5 << 0.5 << -6.0;
        QTest::newRow("19") << 4.0 << 45.0 << 1.41 << 3.0;
    }
    void truePeakOfTheTestTones() {
        QFETCH(double, share);
        QFETCH(double, degrees);
        QFETCH(double, height);
        QFETCH(double, dbtp);
        const QTemporaryDir folder;
        Samples samples(kRate);
        for (std::size_t i = 0; i < samples.size(); ++i) {
            const double turn =
                2.0 * std::numbers::pi * (static_cast<double>(i) / share + degrees / 360.0);
            const double fade = std::min({1.0,
                                          static_cast<double>(i) / 2400.0,
                                          static_cast<double>(samples.size() - i) / 2400.0});
            samples[i] = static_cast<float>(fade * height * std::sin(turn));
        }
        const QString file = folder.filePath("peak.wav");
        QVERIFY(support::writeWav(file, {samples}, kRate));
        const double read = soundOf(file)["channels"][0]["truePeakDbtp"];
        QVERIFY2(read <= dbtp + 0.2 && read >= dbtp - 0.4, qPrintable(QString::number(read)));
    }
    /// The same file through ffmpeg's own meters.
    void levelsAgreeWithFfmpeg() {
        const QTemporaryDir folder;
        const QString file = folder.filePath("speech.wav");
        const Samples speech = added(support::spokenSound(5, 20.0, kRate), noise(0.001, 20.0, 6));
        QVERIFY(support::writeWav(file, {speech}, kRate));
        QProcess ffmpeg;
        ffmpeg.setProcessChannelMode(QProcess::MergedChannels);
        ffmpeg.start("ffmpeg",
                     {"-hide_banner",
                      "-i",
                      file,
                      "-af",
                      "astats=measure_perchannel=none,ebur128=framelog=verbose",
                      "-f",
                      "null",
                      "-"});
        QVERIFY(ffmpeg.waitForFinished(60000));
        const QString text = ffmpeg.readAll();
        const auto number = [&](const QString& pattern) {
            auto all = QRegularExpression(pattern).globalMatch(text);
            double last = qQNaN();
            while (all.hasNext()) last = all.next().captured(1).toDouble();
            return last;
        };
        const auto channel = soundOf(file)["channels"][0];
        QVERIFY(std::abs(channel["loudnessLufs"].get<double>() - number("I:\\s+(-[0-9.]+) LUFS")) <
                0.15);
        QVERIFY(std::abs(channel["peakDbfs"].get<double>() - number("Peak level dB: (-[0-9.]+)")) <
                0.02);
    }
    /// Speech of a known level, in noise of a known level, with hum, gaps and clipping put in.
    void faultsAreFound() {
        const QTemporaryDir folder;
        const double noiseRms = std::pow(10.0, -58.0 / 20.0);
        Samples speech = support::spokenSound(11, 30.0, kRate);
        Samples track = added(speech, noise(noiseRms, 30.0, 12));
        for (std::size_t i = 0; i < track.size(); ++i) {
            const double t = static_cast<double>(i) / kRate;
            // 100 Hz at -50 dBFS as RMS: full scale is a sine of -3.01.
            track[i] += static_cast<float>(std::sqrt(2.0) * std::pow(10.0, -50.0 / 20.0) *
                                           std::sin(2.0 * std::numbers::pi * 100.0 * t));
        }
        for (const double at : {7.013, 19.5}) {
            const auto first = static_cast<std::size_t>(at * kRate);
            std::fill_n(track.begin() + static_cast<std::ptrdiff_t>(first), kRate / 40, 0.0F);
        }
        const Samples clean = added(speech, noise(noiseRms, 30.0, 13));
        const QString file = folder.filePath("two.wav");
        QVERIFY(support::writeWav(file, {track, clean}, kRate));
        const auto result = soundOf(file);
        const auto& first = result["channels"][0];
        QCOMPARE(first["humHz"].get<double>(), 50.0);
        QVERIFY(std::abs(first["humDbfs"].get<double>() + 50.0) < 0.5);
        QCOMPARE(first["gaps"].size(), std::size_t{2});
        QVERIFY(std::abs(first["gaps"][0]["startSeconds"].get<double>() - 7.013) < 0.001);
        QVERIFY(std::abs(first["gaps"][0]["lengthSeconds"].get<double>() - 0.025) < 0.001);
        const auto& second = result["channels"][1];
        QVERIFY(second["humDbfs"].is_null());
        QVERIFY(second["gaps"].empty());
        QVERIFY(std::abs(second["noiseDbfs"].get<double>() + 58.0) < 0.5);
        QCOMPARE(second["clippedRuns"].get<int>(), 0);
        QVERIFY(hasFinding(result, "SoundHum"));
        QVERIFY(hasFinding(result, "SoundGap"));
        QVERIFY(!hasFinding(result, "DualMono"));
    }
    void channelsAreComparedWithEachOther() {
        const QTemporaryDir folder;
        const Samples speech = added(support::spokenSound(21, 12.0, kRate), noise(0.001, 12.0, 22));
        Samples turned = speech, loud = speech;
        for (float& value : turned) value = -value;
        for (float& value : loud) value = std::clamp(6.0F * value, -1.0F, 1.0F);
        const Samples silent(speech.size(), 0.0F);
        const QString file = folder.filePath("four.wav");
        QVERIFY(support::writeWav(file, {speech, speech, turned, silent}, kRate));
        const auto result = soundOf(file);
        QVERIFY(hasFinding(result, "DualMono"));
        QVERIFY(hasFinding(result, "PolarityTurned"));
        QVERIFY(hasFinding(result, "ChannelDead"));
        QCOMPARE(result["channels"][3]["verdict"].get<std::string>(), std::string("dead"));
        const QString over = folder.filePath("over.wav");
        QVERIFY(support::writeWav(over, {loud}, kRate));
        const auto hot = soundOf(over);
        QVERIFY(hot["channels"][0]["clippedRuns"].get<int>() > 3);
        QCOMPARE(hot["channels"][0]["verdict"].get<std::string>(), std::string("clipped"));
    }
    /// A call's band, a room that rings for over a second, and wind under 40 Hz; beside them the
    /// same speech as it was.
    void pathsAndRoomsAreTold() {
        const QTemporaryDir folder;
        std::mt19937_64 random(61);
        const Samples speech = support::spokenSound(62, 30.0, kRate);
        const Samples plain = added(speech, noise(0.0005, 30.0, 63));
        const Samples room =
            added(support::convolved(speech, support::roomResponse(random, 1.4, 0.03, kRate)),
                  noise(0.0005, 30.0, 64));
        Samples windy = plain;
        double slow = 0.0, slower = 0.0;
        const Samples gusts = noise(1.0, 30.0, 65);
        for (std::size_t i = 0; i < windy.size(); ++i) {
            slow += 0.004 * (static_cast<double>(gusts[i]) - slow);
            slower += 0.004 * (slow - slower);
            windy[i] += static_cast<float>(0.8 * slower);
        }
        const QString wide = folder.filePath("wide.wav"), call = folder.filePath("call.wav");
        QVERIFY(support::writeWav(wide, {plain, room, windy}, kRate));
        QVERIFY(support::runFfmpeg(
            {"-i", wide, "-af", "pan=mono|c0=c0,aresample=8000,aresample=48000", call}));
        const auto result = soundOf(wide);
        const auto narrow = soundOf(call);
        QVERIFY(hasFinding(narrow, "SoundNarrow"));
        QVERIFY(narrow["channels"][0]["bandwidthHz"].get<double>() < 4500.0);
        QVERIFY(!hasFinding(result, "SoundNarrow"));
        QVERIFY(result["channels"][0]["rumbleDbfs"].is_null());
        QVERIFY(result["channels"][2]["rumbleDbfs"].is_number());
        // Holes that reach the noise tell no room at all.
        QVERIFY(result["channels"][0]["decaySeconds"].is_null());
        QVERIFY(result["channels"][0]["verdict"].get<std::string>() != "room");
        QCOMPARE(result["channels"][1]["verdict"].get<std::string>(), std::string("room"));
    }
    /// Speech in rooms of known decay, heard from far: the estimate rises with the room, and stays
    /// small where the microphone is close.
    void theRoomsDecayIsEstimated() {
        const QTemporaryDir folder;
        std::mt19937_64 random(71);
        const Samples speech = support::spokenSound(72, 30.0, kRate);
        std::vector<Samples> channels;
        const std::vector<double> decays{0.5, 0.8, 1.2, 2.0};
        for (const double decay : decays)
            channels.push_back(
                added(support::convolved(speech, support::roomResponse(random, decay, 0.03, kRate)),
                      noise(0.0005, 30.0, 73)));
        channels.push_back(
            added(support::convolved(speech, support::roomResponse(random, 0.8, 0.95, kRate)),
                  noise(0.0005, 30.0, 74)));
        const QString file = folder.filePath("rooms.wav");
        QVERIFY(support::writeWav(file, channels, kRate));
        const auto result = soundOf(file);
        double before = 0.0;
        for (std::size_t i = 0; i < decays.size(); ++i) {
            const auto& told = result["channels"][i]["decaySeconds"];
            QVERIFY(told.is_number());
            const double ratio = told.get<double>() / decays[i];
            if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                qInfo("%.1f s: %.2f", decays[i], told.get<double>());
            QVERIFY2(ratio > 0.6 && ratio < 1.5, qPrintable(QString::number(ratio)));
            QVERIFY(told.get<double>() > before);
            before = told.get<double>();
        }
        QVERIFY(result["channels"][4]["decaySeconds"].get<double>() < 0.6);
    }
    /// An automatic level lifts the noise in pauses by 12 dB a second.
    void levelRidingIsTold() {
        const QTemporaryDir folder;
        const Samples speech = support::spokenSound(31, 40.0, kRate);
        Samples riding = noise(0.0008, 40.0, 32), steady = riding;
        double lift = 0.0, level = 0.0;
        for (std::size_t i = 0; i < speech.size(); ++i) {
            level += (std::abs(static_cast<double>(speech[i])) - level) / 2000.0;
            lift = level > 0.004 ? 0.0 : std::min(20.0, lift + 12.0 / kRate);
            const auto gain = static_cast<float>(std::pow(10.0, lift / 20.0));
            riding[i] = gain * (riding[i] + speech[i]);
            steady[i] += speech[i];
        }
        const QString file = folder.filePath("two.wav");
        QVERIFY(support::writeWav(file, {riding, steady}, kRate));
        const auto result = soundOf(file);
        QVERIFY(result["channels"][0]["levelRisePerSecond"].is_number());
        QVERIFY(result["channels"][1]["levelRisePerSecond"].is_null());
        QVERIFY(hasFinding(result, "LevelRiding"));
    }
    void badInputIsSaid() {
        const QTemporaryDir folder;
        const QString text = folder.filePath("notes.txt"), gone = folder.filePath("gone.wav");
        QFile file(text);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("no sound");
        file.close();
        const QString mute = folder.filePath("mute.mp4");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc=size=320x180:rate=25:duration=1",
                                    "-pix_fmt",
                                    "yuv420p",
                                    mute}));
        const QString still = folder.filePath("silent.wav");
        QVERIFY(support::writeWav(still, {Samples(kRate, 0.0F)}, kRate));
        const auto ran = support::run({"sound", text, gone, mute, still, "--json"});
        QCOMPARE(ran.code, 1);
        const auto results = ran.document()["results"];
        for (int i = 0; i < 3; ++i) QVERIFY(results[i].contains("error"));
        QCOMPARE(results[3]["channels"][0]["verdict"].get<std::string>(), std::string("dead"));
        QVERIFY(results[3]["channels"][0]["speechDbfs"].is_null());
        QVERIFY(results[3]["loudnessLufs"].is_null());
    }
};

RIG_TEST(TestSoundCommand);
#include "test_sound_command.moc"
