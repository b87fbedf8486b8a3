// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>
#include <map>
#include <random>

#include "chart/chart_finder.h"
#include "measure/clip_scan.h"
#include "measure/measure_media.h"
#include "measure/patch_average.h"
#include "measure/range_check.h"
#include "media/clip_writer.h"
#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

/// A frame of a nominal BT.709 camera; the chart stands `shift` px to the right, or is not there.
image::CodedFrame frameAt(double seconds, std::optional<double> shift, double gain = 1.0) {
    image::Frame linear = image::blankFrame(960, 540);
    for (auto& channel : linear.channels) std::fill(channel.begin(), channel.end(), 0.12F);
    if (shift) {
        sim::ChartCard card;
        card.light = {gain, gain, gain};
        const double x = 300.0 + *shift;
        sim::paintChart(
            linear, {image::Point{x, 170}, {x + 300, 172}, {x + 298, 368}, {x - 2, 366}}, card);
    }
    rig::Camera camera;
    camera.settings = sim::nominalSettings();
    rig::SimulatedBody body;
    body.curve = colour::curveOf(colour::CurveKind::Bt709);
    body.vignetteStops = 0.0;
    camera.simulated = body;
    image::CodedFrame frame = image::codedFromSignal(
        sim::CameraModel(camera).develop(linear, static_cast<std::uint64_t>(seconds * 1000.0) + 1),
        {},
        8,
        1);
    frame.seconds = seconds;
    return frame;
}

/// The same where things rest or nothing is seen: four frames of unlike noise in turn, each drawn
/// once.
image::CodedFrame restingAt(double seconds, std::optional<double> shift) {
    static std::map<std::pair<int, double>, image::CodedFrame> drawn;
    const int turn = static_cast<int>(std::lround(seconds * 100.0)) / 4 % 4;
    auto& kept = drawn[{turn, shift.value_or(-1e9)}];
    if (kept.width == 0) kept = frameAt(1.0 + turn, shift);
    image::CodedFrame frame = kept;
    frame.seconds = seconds;
    return frame;
}

/// The chart of one frame, as it is read.
rig::Reading readingAt(const image::CodedFrame& frame) {
    rig::Reading reading;
    const auto found = chart::findChart(frame);
    reading.hasChart = found.has_value();
    if (found)
        reading.patches = measure::averagePatches({{0.0, *chart::readPatches(frame, found->pose)}});
    return reading;
}

}  // namespace

class TestClipScan : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void carriedInHeldAndCarriedOutGivesTheHeldSpan() {
        measure::ClipScan scan(10.0, chart::classicChart());
        for (int i = 0; i < 60; ++i) {
            const double seconds = 0.1 * i;
            std::optional<double> shift;
            if (i >= 10 && i < 20) shift = 200.0 - 20.0 * (i - 10);
            if (i >= 20 && i < 45) shift = 0.0;
            if (i >= 45 && i < 52) shift = 30.0 * (i - 44);
            scan.take(restingAt(seconds, shift));
        }
        const auto span = scan.finish();
        QVERIFY(span.has_value());
        QVERIFY(!scan.isAlwaysMoving());
        QVERIFY(span->startSeconds >= 2.0 && span->startSeconds <= 2.5);
        QVERIFY(span->endSeconds >= 3.9 && span->endSeconds < 4.5);
        QVERIFY(span->frames.size() >= 8);
        QVERIFY(std::abs(span->chart.pose.corners[0].x - 300.0) < 0.6);
    }
    void theLongerOfTwoRestsIsTaken() {
        measure::ClipScan scan(10.0, chart::classicChart());
        for (int i = 0; i < 70; ++i) scan.take(restingAt(0.1 * i, i < 20 ? -120.0 : 60.0));
        const auto span = scan.finish();
        QVERIFY(span && std::abs(span->chart.pose.corners[0].x - 360.0) < 0.6);
    }
    void chartThatNeverRestsIsSaid() {
        measure::ClipScan scan(10.0, chart::classicChart());
        for (int i = 0; i < 30; ++i) scan.take(frameAt(0.1 * i, 8.0 * i));
        const auto span = scan.finish();
        QVERIFY(span.has_value());
        QVERIFY(scan.isAlwaysMoving());
        QCOMPARE(span->frames.size(), std::size_t{1});
    }
    void clipWithoutChartGivesNothing() {
        measure::ClipScan scan(10.0, chart::classicChart());
        for (int i = 0; i < 12; ++i) scan.take(restingAt(0.1 * i, std::nullopt));
        QVERIFY(!scan.finish());
        QVERIFY(!scan.hasSeenChart());
    }
    void fingerOverAPatchIsLeftOutOfItsMean() {
        std::vector<measure::SpanFrame> frames;
        const auto found = chart::findChart(frameAt(0.0, 0.0));
        QVERIFY(found.has_value());
        for (int i = 0; i < 12; ++i) {
            auto samples = chart::readPatches(frameAt(0.1 * i, 0.0), found->pose);
            QVERIFY(samples.has_value());
            if (i == 5) (*samples)[21].signal = {0.7, 0.5, 0.4};
            frames.push_back({0.1 * i, *samples});
        }
        const auto patches = measure::averagePatches(frames);
        QVERIFY(std::abs(patches[21].signal[1] - 0.423) < 0.004);
        QVERIFY(patches[21].standardError[1] < 0.002);
        QVERIFY(measure::averagePatches({}).empty());
    }
    /// sources 11.15, case 8: noise of a few codes; 400-pixel patches and ten frames repeat better
    /// than 0.01 stop.
    void repeatedSpansAgreeWithinAHundredthOfAStop() {
        const auto found = chart::findChart(frameAt(0.0, 0.0));
        const auto meanOf = [&](double offset) {
            std::vector<measure::SpanFrame> frames;
            for (int i = 0; i < 10; ++i)
                frames.push_back(
                    {0.0, *chart::readPatches(frameAt(offset + 0.1 * i, 0.0), found->pose)});
            return measure::averagePatches(frames)[21].signal[1];
        };
        const auto curve = colour::curveOf(colour::CurveKind::Bt709);
        QVERIFY(std::abs(std::log2(curve.decode(meanOf(0.0)) / curve.decode(meanOf(50.0)))) < 0.01);
    }
    /// A chart in the hand, 1.3 px from frame to frame for 1.6 s: every frame tells, each read at
    /// its own place, and no look of half a second is lost.
    void aChartHeldByHandIsReadInEveryFrame() {
        measure::ClipScan scan(25.0, chart::classicChart());
        std::mt19937 random(3);
        std::normal_distribution<double> jitter(0.0, 0.9);
        double shift = 0.0;
        for (int i = 0; i < 60; ++i) {
            const bool isSeen = i >= 10 && i < 52;
            shift += 0.9 + jitter(random);
            scan.take(isSeen ? frameAt(0.04 * i, shift) : restingAt(0.04 * i, std::nullopt));
        }
        QVERIFY(!scan.isAlwaysMoving());
        const auto span = scan.finish();
        QVERIFY(span && span->isHeld);
        // The first look that sees it comes up to half a second after it is held up.
        QVERIFY2(span->frames.size() >= 25, qPrintable(QString::number(span->frames.size())));
        QVERIFY(span->endSeconds - span->startSeconds > 0.9);
        QCOMPARE(span->frames.size(), span->places.size());
        const auto still = chart::findChart(frameAt(0.0, 20.0));
        const auto expected =
            measure::averagePatches({{0.0, *chart::readPatches(frameAt(0.0, 20.0), still->pose)}});
        const auto held = measure::averagePatches(span->frames);
        for (std::size_t i = 0; i < held.size(); ++i)
            QVERIFY(std::abs(held[i].signal[1] - expected[i].signal[1]) < 0.004);
    }
    /// The same through a lossy file and the whole of measuring: it says how many frames it read,
    /// what a held chart does not tell stays unknown, and every patch comes out as at rest.
    void aChartHeldByHandComesThroughALossyFile() {
        const QTemporaryDir folder;
        const std::string file = folder.filePath("held.mov").toStdString();
        media::ClipOptions options;
        options.width = 960;
        options.height = 540;
        auto writer = media::ClipWriter::create(file, options);
        QVERIFY(writer.has_value());
        std::mt19937 random(8);
        std::normal_distribution<double> jitter(0.0, 0.6);
        double shift = 0.0;
        for (int i = 0; i < 70; ++i) {
            shift += 0.7 + jitter(random);
            QVERIFY(writer->append(image::signalFrame(frameAt(0.04 * i, shift))).has_value());
        }
        QVERIFY(writer->finish().has_value());
        const auto measured = measure::measureMedia(file, {}, {});
        QVERIFY(measured.has_value());
        const rig::Reading& reading = measured->reading;
        QVERIFY(reading.hasChart);
        QVERIFY2(reading.framesUsed >= 25, qPrintable(QString::number(reading.framesUsed)));
        const auto told = std::find_if(
            reading.warnings.begin(), reading.warnings.end(), [](const base::Warning& warning) {
                return warning.code == "ChartHeld";
            });
        QVERIFY(told != reading.warnings.end());
        QVERIFY(words::inEnglish(told->text).find(std::to_string(reading.framesUsed) + " frames") !=
                std::string::npos);
        QVERIFY2(!reading.noise && !reading.drift, "both need a chart at rest");
        const rig::Reading rest = readingAt(frameAt(0.0, 20.0));
        for (std::size_t i = 0; i < rest.patches.size(); ++i) {
            for (std::size_t c = 0; c < 3; ++c)
                QVERIFY2(std::abs(reading.patches[i].signal[c] - rest.patches[i].signal[c]) < 0.006,
                         rest.patches[i].name.c_str());
        }
    }
    /// A chart that rests after being held is read at rest.
    void restOutweighsTheHand() {
        measure::ClipScan scan(25.0, chart::classicChart());
        image::CodedFrame resting = frameAt(0.0, 84.0);
        for (int i = 0; i < 130; ++i) {
            // Held for 1.6 s, at rest for 2.4 s more; the resting frame is drawn once.
            image::CodedFrame frame = i < 30   ? restingAt(0.04 * i, std::nullopt)
                                      : i < 70 ? frameAt(0.04 * i, 1.2 * i)
                                               : resting;
            frame.seconds = 0.04 * i;
            scan.take(frame);
        }
        const auto span = scan.finish();
        QVERIFY(span && !span->isHeld);
        QVERIFY(span->startSeconds > 2.0);
    }
    void soundRangesRaiseNoFlag() {
        measure::RangeCheck check;
        check.take(frameAt(0.0, 0.0));
        QVERIFY(!check.warning(image::Range::Limited, readingAt(frameAt(0.0, 0.0))));
    }
    void limitedCodesTakenAsFullAreNoticedOnlyWithAChart() {
        image::CodedFrame frame = frameAt(0.0, 0.0, 0.95);
        frame.tags.range = image::Range::Full;
        measure::RangeCheck check;
        check.take(frame);
        const auto warning = check.warning(image::Range::Full, readingAt(frame));
        QVERIFY(warning.has_value());
        QCOMPARE(warning->code, std::string("RangeTagContradicted"));
        QVERIFY(!check.warning(image::Range::Full, rig::Reading{}));
    }
};

RIG_TEST(TestClipScan);
#include "test_clip_scan.moc"
