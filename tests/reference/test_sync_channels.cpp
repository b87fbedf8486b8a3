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

using namespace rigmatch;
using support::kSyncRate;
using support::Samples;
using support::syncOf;
using support::tells;
using support::valueOf;

class TestSyncChannels : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Two lapels on two channels; the camera has the plugs changed over. Each hears the other
    /// voice a little.
    void changedPlugsAreTold() {
        const Samples one = support::spokenSound(61, 24.0, kSyncRate),
                      two = support::spokenSound(62, 24.0, kSyncRate);
        const auto lapel = [&](const Samples& near, const Samples& far, double start, int seed) {
            Samples mixed(near.size());
            std::uint32_t state = static_cast<std::uint32_t>(seed);
            for (std::size_t i = 0; i < near.size(); ++i) {
                state = state * 1664525U + 1013904223U;
                const float hiss = static_cast<float>(state >> 8U) / 16777216.0F - 0.5F;
                mixed[i] = near[i] + 0.15F * (i >= 140 ? far[i - 140] : 0.0F) + 0.002F * hiss;
            }
            return support::recorded(mixed, start, 20.0, 0.0, kSyncRate);
        };
        const QString recorder = m_folder.filePath("two.wav"), right = m_folder.filePath("r.wav"),
                      turned = m_folder.filePath("turned.wav");
        QVERIFY(support::writeWav(
            recorder, {lapel(one, two, 0.0, 1), lapel(two, one, 0.0, 2)}, kSyncRate));
        QVERIFY(support::writeWav(
            right, {lapel(one, two, 1.5, 3), lapel(two, one, 1.5, 4)}, kSyncRate));
        QVERIFY(support::writeWav(
            turned, {lapel(two, one, 0.8, 5), lapel(one, two, 0.8, 6)}, kSyncRate));
        const auto document = syncOf({recorder, right, turned});
        QVERIFY(!tells(document["results"][0], "ChannelsSwapped"));
        QVERIFY(std::abs(valueOf(document["results"][0], "offsetMs") + 1500.0) < 1.0);
        QVERIFY(tells(document["results"][1], "ChannelsSwapped"));
        QVERIFY(std::abs(valueOf(document["results"][1], "offsetMs") + 800.0) < 1.0);
        // They are the same lapels, too.
        QVERIFY(tells(document["results"][0], "SameMicrophone"));
    }
    /// A "backup" that is the main through another converter and codec; and one of its own, 40 cm
    /// beside, in the same room.
    void aCopyIsNoBackup() {
        const Samples dry = support::spokenSound(71, 26.0, kSyncRate);
        // Reflections of a room: other ones at another place.
        const auto placed = [&](int seed, double direct) {
            Samples heard(dry.size(), 0.0F);
            std::uint32_t state = static_cast<std::uint32_t>(seed);
            const auto random = [&] {
                state = state * 1664525U + 1013904223U;
                return static_cast<double>(state >> 8U) / 16777216.0;
            };
            const auto add = [&](double milliseconds, double gain) {
                const auto late = static_cast<std::size_t>(milliseconds * kSyncRate / 1000.0);
                for (std::size_t i = late; i < dry.size(); ++i)
                    heard[i] += static_cast<float>(gain) * dry[i - late];
            };
            add(2.0 + random(), direct);
            for (int i = 0; i < 40; ++i) {
                const double late = 4.0 + 160.0 * random();
                add(late, 0.35 * (random() - 0.5) * std::exp(-late / 70.0));
            }
            return support::recorded(heard, 0.5, 22.0, 0.0, kSyncRate);
        };
        const QString main = m_folder.filePath("main.wav"),
                      other = m_folder.filePath("other40.wav"),
                      copy = m_folder.filePath("copy.m4a");
        const Samples lapel = placed(1, 0.6);
        QVERIFY(support::writeWav(main, {lapel}, kSyncRate));
        QVERIFY(support::writeWav(other, {placed(2, 0.6)}, kSyncRate));
        QVERIFY(support::runFfmpeg({"-i",
                                    main,
                                    "-af",
                                    "volume=0.4,adelay=210,highpass=f=80",
                                    "-ar",
                                    "44100",
                                    "-c:a",
                                    "aac",
                                    "-b:a",
                                    "160k",
                                    copy}));
        const auto document = syncOf({main, other, copy});
        QVERIFY(document["results"][0]["offsetMs"].is_object());
        QVERIFY(!tells(document["results"][0], "SameMicrophone"));
        QVERIFY(tells(document["results"][1], "SameMicrophone"));
    }

private:
    QTemporaryDir m_folder;
};

RIG_TEST(TestSyncChannels);
#include "test_sync_channels.moc"
