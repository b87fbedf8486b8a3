// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>

#include "measure/measure_media.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

sim::RandomFrameOptions smallFrames() {
    sim::RandomFrameOptions options;
    options.width = 960;
    options.height = 540;
    options.smallestShare = 0.25;
    options.largestShare = 0.4;
    options.largestTiltDegrees = 20.0;
    return options;
}

bool hasWarning(const rig::Reading& reading, const std::string& code) {
    return std::any_of(reading.warnings.begin(),
                       reading.warnings.end(),
                       [&](const base::Warning& w) { return w.code == code; });
}

}  // namespace

class TestMeasureMedia : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    std::array<image::Point, 4> m_corners{};
    std::string at(const char* name) const {
        return m_folder.filePath(QString::fromUtf8(name)).toStdString();
    }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(support::writeStillClip(
            m_folder.filePath("still.mov"), 11, 75, smallFrames(), &m_corners));
    }

    void steadyChartIsFoundOverTheWholeClip() {
        const auto measured = measure::measureMedia(at("still.mov"));
        QVERIFY2(measured.has_value(), measured ? "" : words::inEnglish(measured.error()).c_str());
        const rig::Reading& reading = measured->reading;
        QVERIFY2(reading.hasChart, words::inEnglish(reading.reason).c_str());
        QVERIFY(reading.framesUsed >= 12);
        QVERIFY(reading.spanEndSeconds - reading.spanStartSeconds > 2.0);
        QCOMPARE(reading.patches.size(), std::size_t{24});
        for (std::size_t i = 0; i < 4; ++i) {
            QVERIFY(std::hypot(reading.corners[i].x - m_corners[i].x,
                               reading.corners[i].y - m_corners[i].y) < 1.5);
        }
        QVERIFY(reading.patches[21].standardError[1] > 0.0 &&
                reading.patches[21].standardError[1] < 0.005);
    }
    void repeatedMeasuringGivesTheSameNumbers() {
        const auto first = measure::measureMedia(at("still.mov"));
        measure::MeasureOptions oneThread;
        oneThread.threads = 1;
        const auto second = measure::measureMedia(at("still.mov"), oneThread);
        QVERIFY(first && second);
        QVERIFY(first->reading.patches == second->reading.patches);
    }
    /// A corner dragged far off the patches is told, and nothing is turned by such a reading.
    void cornersBesideThePatchesAreDoubted() {
        measure::MeasureOptions options;
        options.corners = rig::PictureQuad{};
        for (std::size_t i = 0; i < 4; ++i)
            (*options.corners)[i] = {m_corners[i].x, m_corners[i].y};
        const std::string file = m_folder.filePath("still.mov").toStdString();
        const auto sound = measure::measureMedia(file, options);
        QVERIFY(sound && !sound->reading.areColoursDoubtful);
        QVERIFY(sound->reading.confidence > 0.9);
        const double width = m_corners[1].x - m_corners[0].x;
        (*options.corners)[1].x -= 0.45 * width;
        (*options.corners)[1].y += 0.1 * width;
        const auto off = measure::measureMedia(file, options);
        QVERIFY(off && off->reading.hasChart);
        QVERIFY2(off->reading.areColoursDoubtful,
                 qPrintable(QString::number(off->reading.confidence)));
        QVERIFY(std::any_of(off->reading.warnings.begin(),
                            off->reading.warnings.end(),
                            [](const auto& w) { return w.code == "ChartColoursDoNotFit"; }));
    }
    void cornersByHandAreTakenAsTheyAre() {
        measure::MeasureOptions options;
        options.corners = rig::PictureQuad{};
        for (std::size_t i = 0; i < 4; ++i)
            (*options.corners)[i] = {m_corners[i].x + 2.0, m_corners[i].y};
        const auto measured = measure::measureMedia(at("still.mov"), options);
        QVERIFY(measured && measured->reading.hasChart && measured->reading.areCornersManual);
        QCOMPARE(measured->reading.corners[0].x, m_corners[0].x + 2.0);
        const auto found = measure::measureMedia(at("still.mov"));
        QVERIFY(std::abs(measured->reading.patches[21].signal[1] -
                         found->reading.patches[21].signal[1]) < 0.01);
    }
    void senselessCornersSayWhy() {
        measure::MeasureOptions options;
        options.corners = rig::PictureQuad{{{10, 10}, {20, 20}, {20, 10}, {10, 20}}};
        const auto measured = measure::measureMedia(at("still.mov"), options);
        QVERIFY(measured && !measured->reading.hasChart);
        QCOMPARE(words::inEnglish(measured->reading.reason),
                 std::string("The four corners make no four-sided field."));
    }
    void oneFrameCanBeMeasured() {
        measure::MeasureOptions options;
        options.atSeconds = 1.0;
        const auto measured = measure::measureMedia(at("still.mov"), options);
        QVERIFY(measured && measured->reading.hasChart);
        QCOMPARE(measured->reading.framesUsed, 1);
        options.atSeconds = 100.0;
        const auto beyond = measure::measureMedia(at("still.mov"), options);
        QVERIFY(beyond.has_value());
    }
    void clipWithoutChartGivesAReason() {
        sim::RandomFrameOptions options = smallFrames();
        options.hasChart = false;
        QVERIFY(support::writeStillClip(m_folder.filePath("none.mov"), 12, 30, options));
        const auto measured = measure::measureMedia(at("none.mov"));
        QVERIFY(measured.has_value());
        QVERIFY(!measured->reading.hasChart);
        QVERIFY(!measured->reading.reason.empty() && !measured->reading.hint.empty());
    }
    void fullCodesFlaggedLimitedAreNoticedAndCanBeReadRight() {
        // sources 11.15, case 4: full-range data flagged limited must raise the range flag. The
        // codes are copied, the flag is changed.
        media::ClipOptions clip;
        clip.width = 960;
        clip.height = 540;
        clip.isFullRange = true;
        clip.quality = 10;
        auto writer = media::ClipWriter::create(at("full.mov"), clip);
        QVERIFY(writer.has_value());
        image::Frame signal = image::signalFrame(sim::randomFrame(11, smallFrames()).frame);
        for (auto& channel : signal.channels) {
            for (std::size_t i = 0; i < 20000; ++i) channel[i] = 0.0F;
        }
        for (int i = 0; i < 30; ++i) QVERIFY(writer->append(signal).has_value());
        QVERIFY(writer->finish().has_value());
        QVERIFY(support::runFfmpeg({"-i",
                                    m_folder.filePath("full.mov"),
                                    "-c",
                                    "copy",
                                    "-bsf:v",
                                    "h264_metadata=video_full_range_flag=0",
                                    m_folder.filePath("wrong.mkv")}));
        const auto wrong = measure::measureMedia(at("wrong.mkv"));
        QVERIFY(wrong.has_value());
        QCOMPARE(wrong->reading.range, std::string("limited"));
        QVERIFY(hasWarning(wrong->reading, "RangeTagContradicted"));
        measure::MeasureOptions options;
        options.range = image::Range::Full;
        const auto right = measure::measureMedia(at("wrong.mkv"), options);
        QVERIFY(right && right->reading.range == "full" &&
                !hasWarning(right->reading, "RangeTagContradicted"));
    }
    void clipCutOffInTheMiddleIsMeasuredAsFarAsItGoes() {
        QVERIFY(support::runFfmpeg(
            {"-i", m_folder.filePath("still.mov"), "-c", "copy", m_folder.filePath("whole.mkv")}));
        QFile whole(m_folder.filePath("whole.mkv"));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        QFile cut(m_folder.filePath("cut.mkv"));
        QVERIFY(cut.open(QIODevice::WriteOnly));
        cut.write(whole.read(whole.size() * 6 / 10));
        cut.close();
        const auto measured = measure::measureMedia(at("cut.mkv"));
        QVERIFY2(measured.has_value(), measured ? "" : words::inEnglish(measured.error()).c_str());
        QVERIFY(measured->reading.hasChart);
        QVERIFY(hasWarning(measured->reading, "ClipTruncated"));
    }
    void cancellingStopsWithoutAResult() {
        const base::Progress progress;
        progress.cancel();
        const auto measured = measure::measureMedia(at("still.mov"), {}, progress);
        QVERIFY(!measured.has_value());
        QCOMPARE(measured.error().code, base::ErrorCode::Cancelled);
    }
    void stillIsMeasured() {
        QVERIFY(support::runFfmpeg({"-i",
                                    m_folder.filePath("still.mov"),
                                    "-frames:v",
                                    "1",
                                    m_folder.filePath("still.png")}));
        const auto measured = measure::measureMedia(at("still.png"));
        QVERIFY(measured && measured->reading.isStill && measured->reading.hasChart);
    }
};

RIG_TEST(TestMeasureMedia);
#include "test_measure_media.moc"
