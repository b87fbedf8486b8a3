// SPDX-License-Identifier: GPL-3.0-or-later
#include <QProcess>
#include <QTemporaryDir>

#include "jobs/sync_job.h"
#include "rig/rig_store.h"
#include "support/cli_run.h"
#include "support/qt_test.h"
#include "support/spoken_sound.h"
#include "support/sync_clips.h"
#include "support/test_list.h"
#include "support/wav_file.h"
#include "words/sync_text.h"

using namespace rigmatch;
using support::kSyncRate;
using support::kWall;
using support::Samples;
using support::syncOf;
using support::tells;
using support::valueOf;
using support::writeClip;

class TestSyncCommand : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void initTestCase() {
        m_speech = m_folder.filePath("speech.wav");
        QVERIFY(support::writeWav(m_speech, {support::spokenSound(3, 11.0, kSyncRate)}, kSyncRate));
        m_first = m_folder.filePath("a.mp4");
        QVERIFY(writeClip(m_first, m_speech, "adelay=2000,highpass=f=200", "25", {"-c:a", "aac"}));
    }
    /// A take for timing keeps in the rig what the command tells, with what its sound holds and its
    /// frames hide; and what was laid on what stands there by the file's name.
    void aTakeForTimingKeepsItsOffsets() {
        const QString second = m_folder.filePath("late.mov"),
                      file = m_folder.filePath("t.rigmatch");
        QVERIFY(writeClip(second, m_speech, "adelay=2750", "25", {"-c:a", "pcm_s16le"}));
        const auto taken = support::run({"take",
                                         file,
                                         "--camera",
                                         "A=" + m_first,
                                         "--camera",
                                         "B=" + second,
                                         "--purpose",
                                         "timing"});
        QCOMPARE(taken.code, 0);
        const auto loaded = rig::loadRig(file.toStdString());
        QVERIFY(loaded.has_value());
        const auto& reading = loaded->rig.takes[0].shots[1].reading;
        QVERIFY(reading && reading->sync && reading->sync->sound);
        QVERIFY(std::abs(reading->sync->sound->offsetSeconds - 0.750) < 0.001);
        QCOMPARE(QString::fromStdString(reading->sync->against), m_first);
        QVERIFY(reading->heard && reading->heard->channels[0].speechDbfs);
        QVERIFY(reading->frames && reading->frames->rateText == "25/1");
        QVERIFY(!reading->framing);
        // Neither carries timecode.
        QVERIFY(reading->sync->timecode.empty() && !reading->sync->timecodeSeconds);
        const auto back = jobs::keptSync(loaded->rig, loaded->rig.takes[0]);
        QVERIFY(back && back->results.size() == 1 && !back->results[0].timecode);
        rig::Rig told = loaded->rig;
        told.takes[0].shots[1].reading->sync->timecode = "10:00:00:00";
        told.takes[0].shots[1].reading->sync->timecodeSeconds = 0.76;
        const auto kept = jobs::keptSync(told, told.takes[0]);
        QVERIFY(kept && kept->results[0].timecode->text == "10:00:00:00");
        const auto lines = words::syncLines(kept->results[0]);
        QVERIFY(std::any_of(lines.begin(), lines.end(), [](const std::string& line) {
            return line.find("by timecode +760 ms") != std::string::npos;
        }));
    }
    /// Timecode that ffmpeg wrote: told where it agrees, and what it is worth where it does not.
    void timecodeIsHeldAgainstTheSound_data() {
        QTest::addColumn<QString>("mine");
        QTest::addColumn<QString>("theirs");
        QTest::addColumn<double>("milliseconds");
        QTest::addColumn<QString>("finding");
        // The second starts 0.76 s (19 frames of 25) before the first, as its sound says.
        QTest::newRow("agrees") << "10:00:00:00"
                                << "09:59:59:06" << 760.0 << "";
        QTest::newRow("twelve frames ahead") << "10:00:00:00"
                                             << "09:59:59:18" << 280.0 << "TimecodeOff";
        QTest::newRow("over midnight") << "00:00:00:00"
                                       << "23:59:59:06" << 760.0 << "";
        QTest::newRow("counts what it recorded") << "10:00:00:00"
                                                 << "00:12:00:00" << 35280e3 << "TimecodeApart";
    }
    void timecodeIsHeldAgainstTheSound() {
        QFETCH(QString, mine);
        QFETCH(QString, theirs);
        QFETCH(double, milliseconds);
        QFETCH(QString, finding);
        const QString one = m_folder.filePath("tc1.mov"), two = m_folder.filePath("tc2.mov");
        QVERIFY(writeClip(
            one, m_speech, "adelay=2000", "25", {"-c:a", "pcm_s16le", "-timecode", mine}));
        QVERIFY(writeClip(
            two, m_speech, "adelay=2760", "25", {"-c:a", "pcm_s16le", "-timecode", theirs}));
        const auto document = syncOf({one, two});
        QCOMPARE(QString::fromStdString(document["referenceTimecode"].get<std::string>()), mine);
        const auto& result = document["results"][0];
        QCOMPARE(QString::fromStdString(result["timecode"].get<std::string>()), theirs);
        QVERIFY(std::abs(result["timecodeOffsetMs"].get<double>() - milliseconds) < 0.5);
        QVERIFY(std::abs(valueOf(result, "offsetMs") - 760.0) < 1.0);
        QStringList told;
        std::string text;
        for (const auto& warning : result["findings"]) {
            const auto code = QString::fromStdString(warning["code"].get<std::string>());
            if (!code.startsWith("Timecode")) continue;
            told << code;
            text = warning["text"].get<std::string>();
        }
        QCOMPARE(told.join(','), finding);
        if (finding == "TimecodeOff") {
            QVERIFY2(text.find("12.0 frames (480 ms) ahead of") != std::string::npos, text.c_str());
        }
        // Without timecode nothing is said of it.
        if (!finding.isEmpty()) return;
        const auto without = syncOf({m_first, two})["results"][0];
        QVERIFY(without["timecodeOffsetMs"].is_null());
    }
    /// Delays that ffmpeg put in, through other rates, codecs, filters, noise and polarity.
    void delaysAreRead_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("filter");
        QTest::addColumn<double>("milliseconds");
        QTest::newRow("44.1 kHz") << "b.wav"
                                  << "aresample=44100,adelay=734.5,lowpass=f=4000" << -1265.5;
        QTest::newRow("quiet, turned, echo")
            << "c.mov"
            << "adelay=3123,volume=-0.02,aecho=0.8:0.5:12|37:0.4|0.3" << 1123.0;
        QTest::newRow("AAC") << "d.mp4"
                             << "adelay=2500.25" << 500.25;
        QTest::newRow("telephone") << "e.wav"
                                   << "aresample=8000,adelay=1000" << -1000.0;
        QTest::newRow("six channels")
            << "f.wav"
            << "adelay=1500,pan=5.1|c0=0*c0|c1=0*c0|c2=0.3*c0|c3=0*c0|c4=0*c0|c5=0*c0" << -500.0;
    }
    void delaysAreRead() {
        QFETCH(QString, name);
        QFETCH(QString, filter);
        QFETCH(double, milliseconds);
        const QString file = m_folder.filePath(name);
        if (name.endsWith("wav"))
            QVERIFY(
                support::runFfmpeg({"-i", m_speech, "-af", filter + ",apad=whole_dur=16", file}));
        else
            QVERIFY(writeClip(file, m_speech, filter, "30", {}));
        const auto result = syncOf({m_first, file})["results"][0];
        QCOMPARE(result["method"].get<std::string>(), std::string("sound"));
        const double error = valueOf(result, "offsetMs") - milliseconds;
        QVERIFY2(std::abs(error) < 0.3, qPrintable(QString::number(error)));
        QCOMPARE(result["polarityTurned"].get<bool>(), name == "c.mov");
    }
    /// A recorder whose clock runs fast: offset at the stated moment, drift, and a finding.
    void driftIsRead() {
        const auto speech = support::spokenSound(41, 70.0, kSyncRate);
        const QString slow = m_folder.filePath("first.wav"), fast = m_folder.filePath("fast.wav");
        QVERIFY(support::writeWav(
            slow, {support::recorded(speech, 0.0, 60.0, 0.0, kSyncRate)}, kSyncRate));
        QVERIFY(support::writeWav(
            fast, {support::recorded(speech, 3.5, 60.0, 42.0, kSyncRate)}, kSyncRate));
        const auto result = syncOf({slow, fast, "--minutes", "90"})["results"][0];
        QVERIFY(std::abs(valueOf(result, "driftPpm") - 42.0) < 1.0);
        // 42 ppm of 5400 s: 227 ms, 5.7 frames at 25.
        const std::string text = result["findings"][0]["text"];
        QVERIFY2(text.find("In the 90 minutes that are planned: 22") != std::string::npos &&
                     text.find(" or 5.") != std::string::npos,
                 text.c_str());
        const double at = result["atSeconds"];
        const double truth = (at - 3.5) * (1.0 + 42e-6) - at;
        QVERIFY(std::abs(valueOf(result, "offsetMs") - 1000.0 * truth) < 0.1);
        QCOMPARE(result["findings"][0]["code"].get<std::string>(), std::string("ClockDrift"));
    }
    void nothingInCommonIsRefused() {
        const QString other = m_folder.filePath("other.wav");
        QVERIFY(support::writeWav(other, {support::spokenSound(77, 16.0, kSyncRate)}, kSyncRate));
        const QString silent = m_folder.filePath("silent.wav");
        QVERIFY(support::writeWav(silent, {Samples(5 * kSyncRate, 0.0F)}, kSyncRate));
        const QString hiss = m_folder.filePath("hiss.wav");
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", "anoisesrc=d=12:a=0.1", hiss}));
        const auto document = syncOf({m_first, other, silent, hiss});
        for (const auto& result : document["results"]) {
            QVERIFY(result["offsetMs"].is_null());
            QVERIFY(!result["reason"].get<std::string>().empty());
        }
    }
    /// Three seconds taken out of the middle: one part is laid, the other is told.
    void aCutIsTold() {
        const QString whole = m_folder.filePath("whole.wav"), cut = m_folder.filePath("cut.wav");
        Samples speech = support::spokenSound(51, 40.0, kSyncRate);
        QVERIFY(support::writeWav(whole, {speech}, kSyncRate));
        speech.erase(speech.begin() + 18 * kSyncRate, speech.begin() + 21 * kSyncRate);
        QVERIFY(support::writeWav(cut, {speech}, kSyncRate));
        const auto result = syncOf({whole, cut})["results"][0];
        QVERIFY(result["offsetMs"].is_object());
        const double offset = valueOf(result, "offsetMs");
        QVERIFY(std::min(std::abs(offset), std::abs(offset + 3000.0)) < 0.1);
        bool isTold = false;
        for (const auto& finding : result["findings"])
            isTold = isTold || finding["code"] == "OffsetJumps";
        QVERIFY(isTold);
    }
    /// Ticking alone fits at every tick.
    void repeatingSoundIsNoOffset() {
        Samples ticks(20 * kSyncRate, 0.0F);
        for (std::size_t t = 0; t < 40; ++t)
            for (std::size_t i = 0; i < 200; ++i)
                ticks[t * kSyncRate / 2 + 1000 + i] = 0.3F *
                                                      std::sin(0.6F * static_cast<float>(i)) *
                                                      std::exp(-0.02F * static_cast<float>(i));
        const QString one = m_folder.filePath("tick.wav"), two = m_folder.filePath("tock.wav");
        QVERIFY(support::writeWav(one, {ticks}, kSyncRate));
        ticks.erase(ticks.begin(), ticks.begin() + 5 * kSyncRate);
        QVERIFY(support::writeWav(two, {ticks}, kSyncRate));
        const auto result = syncOf({one, two})["results"][0];
        QVERIFY(result["offsetMs"].is_null());
    }
    /// Two clips in which nothing moves share their codec's key frames and nothing else.
    void stillPicturesTellNoOffset() {
        const auto still = [&](const QString& name, const QString& rate) {
            const QString file = m_folder.filePath(name);
            const bool isDone =
                support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    kWall + rate + ",trim=duration=14,scale=320:180",
                                    "-pix_fmt",
                                    "yuv420p",
                                    file});
            return isDone ? file : QString();
        };
        const QString one = still("wall25.mp4", "25"), two = still("wall30.mp4", "30");
        QVERIFY(!one.isEmpty() && !two.isEmpty());
        const auto result = syncOf({one, two})["results"][0];
        QVERIFY(result["offsetMs"].is_null());
        const auto reason = result["reason"].get<std::string>();
        QVERIFY2(reason.find("Nothing moves in one of them") != std::string::npos, reason.c_str());
    }
    /// Without sound the pictures decide: hands that close, written at other rates and moments.
    void picturesDecideWithoutSound() {
        const auto moving = [&](const QString& name, double start, const QString& rate) {
            // A bright card that is swung irregularly; time starts elsewhere in each file.
            const QString file = m_folder.filePath(name);
            const QString t = QString("(t+%1)").arg(start);
            // Drawn at twice the size: the card moves by halves of a pixel.
            const QString x =
                "2*(160+60*sin(1.7*" + t + ")+50*sin(4.1*" + t + "*(1+0.1*sin(0.3*" + t + "))))";
            const bool isDone = support::runFfmpeg(
                {"-f",
                 "lavfi",
                 "-i",
                 kWall + rate +
                     ",trim=duration=14[back];color=c=0x969696:size=120x160:rate=" + rate +
                     ",drawgrid=w=24:h=20:t=3:color=white[card];[back][card]overlay=shortest=1:"
                     "format=yuv444:y=100:x='" +
                     x + "-60',scale=320:180:flags=area",
                 "-pix_fmt",
                 "yuv420p",
                 file});
            return isDone ? file : QString();
        };
        const QString one = moving("one.mp4", 0.0, "25"), two = moving("two.mp4", 1.9, "30");
        QVERIFY(!one.isEmpty() && !two.isEmpty());
        const auto result = syncOf({one, two})["results"][0];
        QCOMPARE(result["method"].get<std::string>(), std::string("picture"));
        QVERIFY(std::abs(valueOf(result, "offsetMs") + 1900.0) < 20.0);
    }
    /// A chain that halves the rate; a recorder that drops stamps.
    void framesAreJudged() {
        const QString file = m_folder.filePath("halved.mp4");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc2=size=320x180:rate=25:duration=4,fps=50",
                                    "-pix_fmt",
                                    "yuv420p",
                                    file}));
        const auto frames = syncOf({file, m_speech})["referenceFrames"];
        QCOMPARE(frames["rate"].get<std::string>(), std::string("50/1"));
        QVERIFY(std::abs(frames["uniqueRate"].get<double>() - 25.0) < 0.5);
        QCOMPARE(frames["pattern"].get<std::string>(), std::string("every second frame"));
        const QString gaps = m_folder.filePath("gaps.mkv");
        QVERIFY(
            support::runFfmpeg({"-f",
                                "lavfi",
                                "-i",
                                "testsrc2=size=320x180:rate=25:duration=4,select='not(eq(n,40))'",
                                "-fps_mode",
                                "vfr",
                                "-pix_fmt",
                                "yuv420p",
                                gaps}));
        const auto missing = syncOf({gaps, m_speech})["referenceFrames"];
        QCOMPARE(missing["intervals"].size(), std::size_t{2});
        QCOMPARE(missing["intervals"][1]["frames"].get<int>(), 1);
        QVERIFY(std::abs(missing["intervals"][1]["seconds"].get<double>() - 0.08) < 1e-4);
        QCOMPARE(missing["missing"].size(), std::size_t{1});
        QVERIFY(std::abs(missing["missing"][0].get<double>() - 41.0 / 25.0) < 0.01);
        QVERIFY(!missing["isVariable"].get<bool>());
    }
    /// Stamps 40 and 50 ms apart by turns, written by ffmpeg: which steps there are, and how many.
    void aVaryingRateIsTold() {
        const QString file = m_folder.filePath("varies.mkv");
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc2=size=320x180:rate=25:duration=4,settb=1/1000,"
                                    "setpts=45*N+5*mod(N\\,2)",
                                    "-fps_mode",
                                    "passthrough",
                                    "-pix_fmt",
                                    "yuv420p",
                                    file}));
        const auto document = syncOf({file, m_speech});
        const auto& frames = document["referenceFrames"];
        QVERIFY(frames["isVariable"].get<bool>());
        const auto& bars = frames["intervals"];
        QCOMPARE(bars.size(), std::size_t{2});
        QVERIFY(std::abs(bars[0]["seconds"].get<double>() - 0.04) < 5e-4);
        QVERIFY(std::abs(bars[1]["seconds"].get<double>() - 0.05) < 5e-4);
        QCOMPARE(bars[0]["frames"].get<int>() + bars[1]["frames"].get<int>(), 99);
        QVERIFY(std::abs(bars[0]["frames"].get<int>() - bars[1]["frames"].get<int>()) <= 1);
        const auto& findings = document["referenceFindings"];
        const auto varies = std::find_if(findings.begin(), findings.end(), [](const auto& one) {
            return one["code"] == "VariableRate";
        });
        QVERIFY(varies != findings.end());
        const auto text = (*varies)["text"].template get<std::string>();
        QVERIFY2(text.find(" × 50.0 ms") != std::string::npos, text.c_str());
    }
    /// Feeds that one device began at once: how late, and what to enter so that all meet.
    void feedsTellTheirDelay() {
        const auto feed = [&](const QString& name, const QString& sound, double late) {
            const QString file = m_folder.filePath(name);
            const QString t = QString("(t-%1)").arg(late);
            const QString x =
                "2*(160+60*sin(1.7*" + t + ")+50*sin(4.1*" + t + "*(1+0.1*sin(0.3*" + t + "))))";
            const bool isDone = support::runFfmpeg(
                {"-f",
                 "lavfi",
                 "-i",
                 kWall +
                     "50,trim=duration=14[back];color=c=0x969696:size=120x160:rate=50,"
                     "drawgrid=w=24:h=20:t=3:color=white[card];[back][card]overlay=shortest=1:"
                     "format=yuv444:y=100:x='" +
                     x + "-60',scale=320:180:flags=area",
                 "-i",
                 m_speech,
                 "-filter_complex",
                 "[1:a]" + sound + ",apad=whole_dur=14[a]",
                 "-map",
                 "0:v",
                 "-map",
                 "[a]",
                 "-t",
                 "14",
                 "-c:v",
                 "libx264",
                 "-preset",
                 "ultrafast",
                 "-pix_fmt",
                 "yuv420p",
                 "-c:a",
                 "pcm_s16le",
                 file});
            return isDone ? file : QString();
        };
        const QString wired = feed("wired.mov", "adelay=1000", 0.0),
                      wireless = feed("wireless.mov", "adelay=1020", 0.12);
        QVERIFY(!wired.isEmpty() && !wireless.isEmpty());
        const auto run = support::run({"sync", wired, wireless, "--feeds", "--json"});
        const auto feeds = run.document()["feeds"];
        QCOMPARE(feeds.size(), std::size_t{2});
        QVERIFY(std::abs(valueOf(feeds[1], "pictureMs") - 120.0) < 12.0);
        QVERIFY(std::abs(valueOf(feeds[1], "soundMs") - 20.0) < 0.5);
        QVERIFY(std::abs(feeds[0]["pictureDelayMs"].get<double>() - 120.0) < 12.0);
        QVERIFY(std::abs(feeds[0]["soundDelayMs"].get<double>() - 120.0) < 12.0);
        QVERIFY(std::abs(feeds[1]["soundDelayMs"].get<double>() - 100.0) < 12.0);
        QCOMPARE(feeds[1]["pictureDelayMs"].get<double>(), 0.0);
        QVERIFY(!feeds[1]["isWandering"].get<bool>());
        const auto said = support::run({"sync", wired, wireless, "--feeds"});
        QVERIFY2(said.out.find("delay to enter: picture 1") != std::string::npos, said.out.c_str());
        QVERIFY(!support::run({"sync", wired, wireless, "--json"}).document().contains("feeds"));
    }
    void badInputIsSaid() {
        const auto gone = support::run({"sync", m_folder.filePath("gone.mov"), m_speech});
        QCOMPARE(gone.code, 1);
        QVERIFY(gone.err.find("gone.mov") != std::string::npos);
        const auto half =
            support::run({"sync", m_speech, m_folder.filePath("gone.mov"), m_first, "--json"});
        QCOMPARE(half.code, 1);
        QVERIFY(half.document()["results"][0].contains("error"));
        QVERIFY(half.document()["results"][1]["offsetMs"].is_object());
        QCOMPARE(support::run({"sync", m_speech}).code, 2);
    }

private:
    QTemporaryDir m_folder;
    QString m_speech, m_first;
};

RIG_TEST(TestSyncCommand);
#include "test_sync_command.moc"
