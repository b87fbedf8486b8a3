// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/sound_track.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/spoken_sound.h"
#include "support/test_list.h"
#include "timing/sound_offset.h"
#include "timing/whitened_track.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr double kTrackRate = 16000.0;

struct Heard {
    double seconds = 60.0;
    double noiseDecibels = 10.0;
    double reverb = 0.3;
    double directShare = 0.5;
    double ppm = 0.0;
    double startSeconds = 0.0;  ///< of the room's clock
    bool isInverted = false;
};

/// A source in a room: what it records of `speech`.
sound::SoundTrack trackOf(const support::Samples& speech,
                          const Heard& heard,
                          std::mt19937_64& random) {
    std::uniform_real_distribution<double> uniform(0.0, 1.0);
    auto sound =
        support::recorded(speech, heard.startSeconds, heard.seconds, heard.ppm, kTrackRate);
    sound = support::convolved(
        sound, support::roomResponse(random, heard.reverb, heard.directShare, kTrackRate));
    support::colour(
        sound, 60.0 + 200.0 * uniform(random), 2500.0 + 4000.0 * uniform(random), kTrackRate);
    support::addNoise(sound, heard.noiseDecibels, random);
    const auto gain = static_cast<float>(std::pow(10.0, -2.0 * uniform(random)));
    for (float& value : sound) value *= heard.isInverted ? -gain : gain;
    return {0.0, kTrackRate, std::move(sound)};
}

struct SoundCase {
    sound::SoundTrack reference, other;
    double offset = 0.0, ppm = 0.0;  ///< truth: at the reference's time 0
};

/// One pair: speech longer than both, two rooms' places, two clocks.
SoundCase pairOf(std::uint64_t seed, double noiseDecibels, double seconds, double mostOffset) {
    std::mt19937_64 random(seed);
    std::uniform_real_distribution<double> uniform(0.0, 1.0);
    const double shift = mostOffset * (2.0 * uniform(random) - 1.0);
    const double length = seconds + 2.0 * std::abs(shift) + 2.0;
    const auto speech = support::spokenSound(seed * 7 + 1, length, kTrackRate);
    Heard first, second;
    first.seconds = second.seconds = seconds;
    // Long offsets: what both hear is the end of one and the beginning of the other.
    if (std::abs(shift) > 0.6 * seconds) first.seconds = second.seconds = seconds + std::abs(shift);
    first.startSeconds = std::max(0.0, shift);
    second.startSeconds = std::max(0.0, -shift);
    first.noiseDecibels = noiseDecibels + 10.0 * uniform(random);
    second.noiseDecibels = noiseDecibels;
    first.reverb = 0.1 + 0.7 * uniform(random);
    second.reverb = 0.1 + 0.7 * uniform(random);
    first.directShare = 0.3 + 0.6 * uniform(random);
    second.directShare = 0.15 + 0.6 * uniform(random);
    second.ppm = 200.0 * uniform(random) - 100.0;
    second.isInverted = uniform(random) < 0.3;
    SoundCase made;
    made.reference = trackOf(speech, first, random);
    made.other = trackOf(speech, second, random);
    // An event at room time T stands at T - first.start in the reference and at
    // (T - second.start) (1 + ppm) in the other.
    made.ppm = second.ppm;
    made.offset = (first.startSeconds - second.startSeconds) * (1.0 + 1e-6 * second.ppm);
    return made;
}

}  // namespace

class TestSoundOffset : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void offsetsAreMeasured_data() {
        QTest::addColumn<double>("decibels");
        QTest::addColumn<double>("limit");
        QTest::newRow("20 dB") << 20.0 << 0.001;
        QTest::newRow("10 dB") << 10.0 << 0.001;
        QTest::newRow("0 dB") << 0.0 << 0.005;
    }
    void offsetsAreMeasured() {
        QFETCH(double, decibels);
        QFETCH(double, limit);
        const int count = support::isFullSample() ? 100 : 4;
        int within = 0, covered = 0, refused = 0, driftCovered = 0, drifts = 0;
        double worst = 0.0;
        for (int i = 0; i < count; ++i) {
            const double seconds = i % 3 == 0 ? 20.0 : i % 3 == 1 ? 60.0 : 150.0;
            const SoundCase pair =
                pairOf(1000 + static_cast<std::uint64_t>(i),
                       decibels,
                       seconds,
                       i % 4 == 3 ? (support::isFullSample() ? 600.0 : 40.0) : 8.0);
            const auto found = timing::findSoundOffset(timing::whitened(pair.reference),
                                                       timing::whitened(pair.other));
            if (!found) {
                ++refused;
                qInfo("%d refused: %s", i, words::inEnglish(found.error().detail).c_str());
                continue;
            }
            const double truth = pair.offset + 1e-6 * pair.ppm * found->atSeconds;
            const double error = found->offsetSeconds - truth;
            worst = std::max(worst, std::abs(error));
            within += std::abs(error) <= limit ? 1 : 0;
            covered += std::abs(error) <= 2.0 * found->uncertaintySeconds ? 1 : 0;
            if (found->driftPpm) {
                ++drifts;
                driftCovered +=
                    std::abs(*found->driftPpm - pair.ppm) <= 2.0 * found->driftUncertaintyPpm ? 1
                                                                                              : 0;
            }
            if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                qInfo(
                    "%d: %.0f s, error %+.3f ms ± %.3f, drift %+.2f ± %.2f, confidence %.2f, %zu "
                    "points",
                    i,
                    seconds,
                    1e3 * error,
                    1e3 * found->uncertaintySeconds,
                    found->driftPpm.value_or(0.0) - pair.ppm,
                    found->driftUncertaintyPpm,
                    found->confidence,
                    found->points.size());
        }
        qInfo("%d of %d within %.0f ms, %d covered, drift %d of %d, worst %.3f ms, %d refused",
              within,
              count,
              1e3 * limit,
              covered,
              driftCovered,
              drifts,
              1e3 * worst,
              refused);
        // One in sixty was refused at 0 dB, none lay elsewhere (figures.md).
        QVERIFY(within >= (decibels < 5.0 ? 0.95 : 0.99) * count - (decibels < 5.0 ? 1 : 0));
        QVERIFY(covered >= 0.9 * within - 1);
        QVERIFY(driftCovered >= 0.85 * drifts - 1);
    }
    /// Ten seconds and less, one microphone close and one that hears 6 to 15 % of the voice
    /// straight and the rest from the room (3 to 5 m in a living room), each room's tail another.
    void theRoomIsHeardThrough() {
        const int count = support::isFullSample() ? 100 : 6;
        int found = 0, within = 0, covered = 0;
        for (int i = 0; i < count; ++i) {
            std::mt19937_64 random(9000 + static_cast<std::uint64_t>(i));
            std::uniform_real_distribution<double> uniform(0.0, 1.0);
            const double offset = 4.0 * uniform(random) - 2.0;
            const auto speech =
                support::spokenSound(100 + 7 * static_cast<std::uint64_t>(i), 16.0, kTrackRate);
            Heard near, far;
            near.seconds = far.seconds = 6.0 + 4.0 * uniform(random);
            near.startSeconds = 2.0;
            far.startSeconds = 2.0 - offset;
            near.directShare = 0.85;
            near.reverb = far.reverb = 0.3 + 0.5 * uniform(random);
            far.directShare = 0.06 + 0.09 * uniform(random);
            near.noiseDecibels = 25.0;
            far.noiseDecibels = 20.0;
            const auto reference = timing::whitened(trackOf(speech, near, random));
            const auto other = timing::whitened(trackOf(speech, far, random));
            const auto told = timing::findSoundOffset(reference, other);
            if (!told) continue;
            ++found;
            const double error = std::abs(told->offsetSeconds - offset);
            within += error <= 0.001 ? 1 : 0;
            covered += error <= 2.0 * told->uncertaintySeconds ? 1 : 0;
        }
        qInfo("%d of %d found, %d within 1 ms, %d covered", found, count, within, covered);
        QVERIFY(found >= 0.9 * count - 1);
        QVERIFY(within >= 0.9 * found - 1);
        QVERIFY(covered >= 0.9 * found);
    }
    void nothingInCommonIsRefused() {
        const int count = support::isFullSample() ? 200 : 8;
        for (int i = 0; i < count; ++i) {
            const auto seed = 5000 + static_cast<std::uint64_t>(i);
            const SoundCase first = pairOf(seed, 10.0, 20.0 + (i % 5) * 10.0, 4.0);
            const SoundCase second = pairOf(seed + 100000, 10.0, 20.0 + (i % 7) * 10.0, 4.0);
            const auto found = timing::findSoundOffset(timing::whitened(first.reference),
                                                       timing::whitened(second.other));
            if (found)
                qInfo("%d: false offset %.3f, %zu points",
                      i,
                      found->offsetSeconds,
                      found->points.size());
            QVERIFY(!found);
        }
    }
};

RIG_TEST(TestSoundOffset);
#include "test_sound_offset.moc"
