// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <numbers>
#include <random>

#include "measure/flicker_check.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using measure::FlickerCheck;

namespace {

struct Lamp {
    double rippleHz = 120.0;
    double modulation = 0.3;
    double readoutSeconds = 0.012;
};

/// A clip under a rippling lamp, integrated row by row over the shutter time as a rolling shutter
/// does (closed form), with noise and a slow change of the scene.
std::optional<measure::Flicker> flickerOf(
    double fps, double shutter, const Lamp& lamp, double seconds, std::string* words = nullptr) {
    FlickerCheck check(fps);
    std::mt19937 generator(11);
    std::normal_distribution<double> grain(0.0, 0.0005);
    const int count = static_cast<int>(seconds * fps);
    for (int i = 0; i < count; ++i) {
        image::Frame signal = image::blankFrame(96, 96);
        for (int y = 0; y < signal.height; ++y) {
            const double t = i / fps + lamp.readoutSeconds * y / signal.height;
            const double w = 2.0 * std::numbers::pi * lamp.rippleHz;
            const double swing =
                lamp.modulation * (std::sin(w * (t + shutter)) - std::sin(w * t)) / (w * shutter);
            const double slow = 1.0 + 0.03 * std::sin(2.0 * std::numbers::pi * 0.2 * t);
            for (int x = 0; x < signal.width; ++x) {
                for (auto& channel : signal.channels)
                    channel[static_cast<std::size_t>(y * signal.width + x)] =
                        static_cast<float>(0.4 * slow * (1.0 + swing) + grain(generator));
            }
        }
        check.take(image::codedFromSignal(signal, {}, 10, 0));
    }
    if (words != nullptr && check.warning())
        *words = rigmatch::words::inEnglish(check.warning()->text) + " " +
                 rigmatch::words::inEnglish(check.warning()->hint);
    return check.flicker();
}

}  // namespace

class TestFlickerCheck : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Beats of sources 4.3; the size is the lamp's modulation times what the shutter leaves.
    void theMainsBeatIsFound_data() {
        QTest::addColumn<double>("fps");
        QTest::addColumn<double>("shutter");
        QTest::addColumn<double>("ripple");
        QTest::addColumn<double>("mains");
        QTest::addColumn<double>("beat");
        QTest::newRow("25 fps, 1/50, 60 Hz mains") << 25.0 << 0.02 << 120.0 << 60.0 << 5.0;
        QTest::newRow("24 fps, 1/48, 50 Hz mains") << 24.0 << 1.0 / 48.0 << 100.0 << 50.0 << 4.0;
        QTest::newRow("30 fps, 1/60, 50 Hz mains") << 30.0 << 1.0 / 60.0 << 100.0 << 50.0 << 10.0;
        QTest::newRow("50 fps, 1/100, 60 Hz mains") << 50.0 << 0.01 << 120.0 << 60.0 << 20.0;
    }
    void theMainsBeatIsFound() {
        QFETCH(double, fps);
        QFETCH(double, shutter);
        QFETCH(double, ripple);
        QFETCH(double, mains);
        QFETCH(double, beat);
        const Lamp lamp{ripple, 0.3, 0.012};
        const auto found = flickerOf(fps, shutter, lamp, 4.0);
        QVERIFY(found.has_value());
        QCOMPARE(found->mainsHz, mains);
        QVERIFY(std::abs(found->beatHz - beat) < 0.01);
        const double x = std::numbers::pi * ripple * shutter;
        // Signal is taken as it is coded; the scene here is coded linearly.
        const double expected = 200.0 * lamp.modulation * std::abs(std::sin(x) / x);
        QVERIFY2(std::abs(found->peakToPeakPercent - expected) < 0.15 * expected,
                 qPrintable(QString::number(found->peakToPeakPercent)));
    }
    /// A rolling shutter of 12 ms sees 1.44 turns of a 120 Hz ripple (ripple x readout, sources
    /// 5.8); one that reads all rows at once sees none.
    void bandsAreCountedFromTheReadout() {
        std::string words;
        const auto rolling = flickerOf(25.0, 0.02, {120.0, 0.3, 0.012}, 4.0, &words);
        QVERIFY(rolling.has_value());
        QVERIFY2(std::abs(rolling->bandsPerPicture - 1.44) < 0.05,
                 qPrintable(QString::number(rolling->bandsPerPicture)));
        QVERIFY(std::abs(rolling->readoutSeconds - 0.012) < 0.0005);
        QVERIFY2(words.find("1.4 from top to bottom") != std::string::npos, words.c_str());
        const auto global = flickerOf(25.0, 0.02, {120.0, 0.3, 0.0}, 4.0, &words);
        QVERIFY(global.has_value());
        QVERIFY(global->bandsPerPicture < 0.1);
        QVERIFY(words.find("beats as one") != std::string::npos);
    }
    /// A dimmer of its own rate: 243 Hz at 25 fps shows 7 Hz, and no mains shutter cures it.
    void aDimmedLampsOwnRateIsFound() {
        std::string words;
        const auto found = flickerOf(25.0, 1.0 / 100.0, {243.0, 0.3, 0.012}, 6.0, &words);
        QVERIFY(found.has_value());
        QCOMPARE(found->mainsHz, 0.0);
        QVERIFY2(std::abs(found->beatHz - 7.0) < 0.15, qPrintable(QString::number(found->beatHz)));
        const double x = std::numbers::pi * 243.0 / 100.0;
        const double expected = 200.0 * 0.3 * std::abs(std::sin(x) / x);
        QVERIFY2(std::abs(found->peakToPeakPercent - expected) < 0.2 * expected,
                 qPrintable(QString::number(found->peakToPeakPercent)));
        QVERIFY2(words.find("no beat of the mains") != std::string::npos, words.c_str());
        QVERIFY(words.find("dimming frequency") != std::string::npos);
    }
    /// Something that swings in a third of the picture moves; a lamp would light all of it.
    void movementInAPartOfThePictureIsNoLamp() {
        FlickerCheck check(25.0);
        for (int i = 0; i < 150; ++i) {
            image::Frame signal = image::blankFrame(96, 96);
            for (auto& channel : signal.channels) {
                std::fill(channel.begin(), channel.end(), 0.4F);
                for (std::size_t at = 0; at < channel.size() / 3; ++at)
                    channel[at] = 0.4F + 0.05F * std::sin(0.9F * static_cast<float>(i));
            }
            check.take(image::codedFromSignal(signal, {}, 10, 0));
        }
        QVERIFY(!check.flicker());
    }
    /// A picture that wanders slowly, as from a hand, swings at all slow frequencies.
    void aWanderingPictureIsNoLamp() {
        FlickerCheck check(25.0);
        std::mt19937 generator(4);
        std::normal_distribution<double> step(0.0, 0.004);
        double level = 0.4;
        for (int i = 0; i < 500; ++i) {
            level = 0.4 + 0.98 * (level - 0.4) + step(generator);
            image::Frame signal = image::blankFrame(96, 96);
            for (auto& channel : signal.channels)
                std::fill(channel.begin(), channel.end(), static_cast<float>(level));
            check.take(image::codedFromSignal(signal, {}, 10, 0));
        }
        QVERIFY(!check.flicker());
    }
    void safeShuttersAndSteadyLampsAreQuiet() {
        QVERIFY(!flickerOf(25.0, 1.0 / 60.0, {120.0, 0.3, 0.012}, 4.0).has_value());
        QVERIFY(!flickerOf(24.0, 1.0 / 50.0, {100.0, 0.3, 0.012}, 4.0).has_value());
        QVERIFY(!flickerOf(25.0, 1.0 / 50.0, {120.0, 0.0, 0.012}, 4.0).has_value());
        // Twenty-five frames on 50 Hz mains see every ripple alike.
        QVERIFY(!flickerOf(25.0, 1.0 / 500.0, {100.0, 0.3, 0.012}, 4.0).has_value());
    }
    void shortClipsAreNotJudged() {
        QVERIFY(!flickerOf(25.0, 0.02, {120.0, 0.3, 0.012}, 1.5).has_value());
    }
    void theCureIsNamed() {
        std::string words;
        (void)flickerOf(25.0, 0.02, {120.0, 0.3, 0.012}, 4.0, &words);
        QVERIFY2(QString::fromStdString(words).contains("Set the shutter to 1/60 s"),
                 words.c_str());
        QVERIFY(QString::fromStdString(words).contains("60 Hz mains"));
    }
    void unevenFramesAreTold() {
        measure::TimingCheck even, uneven;
        double t = 0.0;
        for (int i = 0; i < 100; ++i) {
            even.take(i * 0.04);
            uneven.take(t);
            t += i % 10 == 0 ? 0.09 : 0.033;
        }
        QVERIFY(!even.warning());
        QVERIFY(uneven.warning());
        QVERIFY(QString::fromStdString(rigmatch::words::inEnglish(uneven.warning()->text))
                    .contains("33.0 to 90.0 ms"));
    }
};

RIG_TEST(TestFlickerCheck);
#include "test_flicker_check.moc"
