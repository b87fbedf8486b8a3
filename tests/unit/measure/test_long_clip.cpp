// SPDX-License-Identifier: GPL-3.0-or-later
// Recordings of many minutes with the chart somewhere in them.
#include <QFile>
#include <QTemporaryDir>

#include "measure/long_clip.h"
#include "measure/measure_media.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

sim::RandomFrameOptions largeChart() {
    sim::RandomFrameOptions options;
    options.width = 640;
    options.height = 360;
    options.smallestShare = 0.4;
    options.largestShare = 0.5;
    options.largestTiltDegrees = 10.0;
    return options;
}

constexpr double kShownFrom = 197.0;  // s, between the looks at the ends
constexpr double kShownFor = 6.0;
constexpr double kLength = 280.0;

const base::Warning* findWarning(const rig::Reading& reading, const std::string& code) {
    const auto found = std::find_if(reading.warnings.begin(),
                                    reading.warnings.end(),
                                    [&](const base::Warning& w) { return w.code == code; });
    return found == reading.warnings.end() ? nullptr : &*found;
}

}  // namespace

class TestLongClip : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    std::string at(const QString& name) const { return m_folder.filePath(name).toStdString(); }

    /// Some minutes of a moving pattern at 5 frames a second, the chart in them for six seconds.
    bool record(const QString& name, int framesPerKey) {
        const QString shown =
            QStringLiteral("between(t,%1,%2)").arg(kShownFrom).arg(kShownFrom + kShownFor);
        return support::runFfmpeg({"-f",
                                   "lavfi",
                                   "-i",
                                   QStringLiteral("testsrc2=s=640x360:r=5:d=%1").arg(kLength),
                                   "-i",
                                   m_folder.filePath("chart.png"),
                                   "-filter_complex",
                                   "[0:v][1:v]overlay=enable='" + shown + "',format=yuv420p",
                                   "-c:v",
                                   "libx264",
                                   "-preset",
                                   "ultrafast",
                                   "-crf",
                                   "18",
                                   "-g",
                                   QString::number(framesPerKey),
                                   "-keyint_min",
                                   QString::number(framesPerKey),
                                   "-sc_threshold",
                                   "0",
                                   m_folder.filePath(name)});
    }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(
            support::writeStillClip(m_folder.filePath("chart.mov"), 11, 3, largeChart(), nullptr));
        QVERIFY(support::runFfmpeg({"-i",
                                    m_folder.filePath("chart.mov"),
                                    "-frames:v",
                                    "1",
                                    m_folder.filePath("chart.png")}));
        QVERIFY(record("long.mp4", 10));
        QVERIFY(record("sparse.mp4", 100));
    }
    /// A chart shown for five seconds falls on a look wherever it is, and the ends are looked at
    /// before the middle.
    void nothingShownForFiveSecondsIsMissed_data() {
        QTest::addColumn<double>("length");
        for (const double length : {180.5, 300.0, 1000.0, 3600.0, 7243.7})
            QTest::addRow("%.1f s", length) << length;
    }
    void nothingShownForFiveSecondsIsMissed() {
        QFETCH(double, length);
        std::vector<double> moments = measure::searchMoments(length);
        QVERIFY(moments.front() < 1.0);
        // From common practice: charts are shown at the head, else at the tail.
        const auto firstInTheMiddle = std::find_if(moments.begin(), moments.end(), [&](double t) {
            return t > 130.0 && t < length - 70.0;
        });
        for (auto late = firstInTheMiddle; late != moments.end(); ++late)
            QVERIFY(*late >= 119.9 && *late <= length - 59.9);
        QVERIFY(double(moments.size()) < 90.0 + (length - 180.0) / 3.9 + 1.0);
        std::sort(moments.begin(), moments.end());
        QVERIFY(std::adjacent_find(moments.begin(), moments.end()) == moments.end());
        for (std::size_t i = 1; i < moments.size(); ++i)
            QVERIFY2(moments[i] - moments[i - 1] <= 5.0,
                     qPrintable(QString::number(moments[i - 1])));
        QVERIFY(moments.front() >= 0.0 && moments.back() < length && length - moments.back() < 5.0);
    }
    void aChartDeepInALongClipIsMeasured_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("a key frame every two seconds") << "long.mp4";
        QTest::newRow("a key frame every twenty seconds") << "sparse.mp4";
    }
    void aChartDeepInALongClipIsMeasured() {
        QFETCH(QString, name);
        const auto measured = measure::measureMedia(at(name));
        QVERIFY2(measured.has_value(), measured ? "" : words::inEnglish(measured.error()).c_str());
        const rig::Reading& reading = measured->reading;
        QVERIFY2(reading.hasChart, words::inEnglish(reading.reason).c_str());
        QVERIFY(reading.spanStartSeconds >= kShownFrom - 0.3);
        QVERIFY(reading.spanEndSeconds <= kShownFrom + kShownFor + 0.3);
        QVERIFY(reading.spanEndSeconds - reading.spanStartSeconds > 3.0);
        QVERIFY(std::abs(reading.durationSeconds - kLength) < 1.0);
        // What was not watched is said, and neither called broken nor uneven.
        const base::Warning* part = findWarning(reading, "PartLookedAt");
        QVERIFY(part != nullptr);
        QVERIFY2(words::inEnglish(part->text).find("Of 4:40, ") == 0,
                 words::inEnglish(part->text).c_str());
        QVERIFY(findWarning(reading, "ClipTruncated") == nullptr);
        QVERIFY(findWarning(reading, "VariableFrameRate") == nullptr);
    }
    /// From end to end the same numbers come out, with nothing left to tell.
    void allOfItIsWatchedWhereAskedFor() {
        measure::MeasureOptions options;
        options.isEndToEnd = true;
        const auto whole = measure::measureMedia(at("long.mp4"), options);
        const auto part = measure::measureMedia(at("long.mp4"));
        QVERIFY(whole && part && whole->reading.hasChart && part->reading.hasChart);
        QVERIFY(findWarning(whole->reading, "PartLookedAt") == nullptr);
        for (std::size_t i = 0; i < 24; ++i) {
            for (std::size_t c = 0; c < 3; ++c)
                QVERIFY(std::abs(whole->reading.patches[i].signal[c] -
                                 part->reading.patches[i].signal[c]) < 0.002);
        }
        // Timing is a matter of the whole recording, whether asked for in words or not.
        measure::MeasureOptions timing;
        timing.isTimingWanted = true;
        timing.isChartWanted = false;
        const auto timed = measure::measureMedia(at("long.mp4"), timing);
        QVERIFY(timed.has_value());
        QVERIFY(findWarning(timed->reading, "PartLookedAt") == nullptr);
    }
    void aLongClipWithoutAChartSaysWhereItLooked() {
        QVERIFY(support::runFfmpeg({"-f",
                                    "lavfi",
                                    "-i",
                                    "testsrc2=s=320x180:r=2:d=200",
                                    "-pix_fmt",
                                    "yuv420p",
                                    "-g",
                                    "4",
                                    m_folder.filePath("none.mp4")}));
        const auto measured = measure::measureMedia(at("none.mp4"));
        QVERIFY(measured.has_value());
        QVERIFY(!measured->reading.hasChart);
        const base::Warning* part = findWarning(measured->reading, "PartLookedAt");
        QVERIFY(part != nullptr);
        QVERIFY2(words::inEnglish(part->text).find("0:00 to 0:40 was watched: its beginning") !=
                     std::string::npos,
                 words::inEnglish(part->text).c_str());
        QVERIFY2(words::inEnglish(part->text).find("show no chart") != std::string::npos,
                 words::inEnglish(part->text).c_str());
    }
    /// Corners set by hand in a long clip: what is around them is watched.
    void cornersInALongClipAreReadWhereTheyWereSet() {
        const auto found = measure::measureMedia(at("long.mp4"));
        QVERIFY(found && found->reading.hasChart);
        measure::MeasureOptions options;
        options.corners = found->reading.corners;
        options.atSeconds = kShownFrom + 2.0;
        const auto marked = measure::measureMedia(at("long.mp4"), options);
        QVERIFY(marked && marked->reading.hasChart);
        QVERIFY(findWarning(marked->reading, "PartLookedAt") != nullptr);
        for (std::size_t c = 0; c < 3; ++c)
            QVERIFY(std::abs(marked->reading.patches[21].signal[c] -
                             found->reading.patches[21].signal[c]) < 0.003);
    }
    /// A long clip that was cut off in copying is measured as far as it goes.
    void aLongClipThatIsCutOffIsMeasured() {
        QVERIFY(support::runFfmpeg(
            {"-i", m_folder.filePath("long.mp4"), "-c", "copy", m_folder.filePath("whole.mkv")}));
        QFile whole(m_folder.filePath("whole.mkv")), cut(m_folder.filePath("cut.mkv"));
        QVERIFY(whole.open(QIODevice::ReadOnly) && cut.open(QIODevice::WriteOnly));
        cut.write(whole.read(whole.size() * 8 / 10));
        cut.close();
        const auto measured = measure::measureMedia(at("cut.mkv"));
        QVERIFY2(measured.has_value(), measured ? "" : words::inEnglish(measured.error()).c_str());
        QVERIFY2(measured->reading.hasChart, words::inEnglish(measured->reading.reason).c_str());
    }
    void theSearchCanBeCancelled() {
        int reports = 0;
        std::shared_ptr<base::Progress> progress;
        progress = std::make_shared<base::Progress>([&](double, const base::Text&) {
            if (++reports == 5) progress->cancel();
        });
        const auto measured = measure::measureMedia(at("long.mp4"), {}, *progress);
        QVERIFY(!measured.has_value());
        QCOMPARE(measured.error().code, base::ErrorCode::Cancelled);
        QVERIFY(reports < 12);
    }
};

RIG_TEST(TestLongClip);
#include "test_long_clip.moc"
