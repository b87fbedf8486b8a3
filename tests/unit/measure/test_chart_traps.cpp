// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "match/neutral_fit.h"
#include "measure/measure_media.h"
#include "support/chart_frame.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::chartFrame;
using support::turnedField;

namespace {

const base::Warning* warningOf(const rig::Reading& reading, const std::string& code) {
    for (const base::Warning& warning : reading.warnings) {
        if (warning.code == code) return &warning;
    }
    return nullptr;
}

}  // namespace

/// What is wrong with the chart or the file is told, each in words with a remedy.
class TestChartTraps : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;

    rig::Reading readingOf(const image::CodedFrame& frame) {
        const QString file = m_folder.filePath("clip.mov");
        if (!support::writePicture(file, frame, 40)) return {};
        const auto measured = measure::measureMedia(file.toStdString());
        return measured ? measured->reading : rig::Reading{};
    }

private Q_SLOTS:
    void aSoundChartIsQuiet() {
        const rig::Reading reading = readingOf(chartFrame(turnedField(480, 316, 4.0)));
        QVERIFY(reading.hasChart);
        for (const char* code : {"SeveralCharts",
                                 "Mirrored",
                                 "PatchesCrushed",
                                 "PatchesShine",
                                 "ChartTurnedAway",
                                 "PatchesClipped"})
            QVERIFY2(warningOf(reading, code) == nullptr, code);
        QVERIFY(rig::chartTilt(reading)->degrees < 3.0);
    }
    void aMirroredPictureIsTold() {
        auto corners = turnedField(480, 316, 0.0);
        std::swap(corners[0], corners[1]);
        std::swap(corners[2], corners[3]);
        const rig::Reading reading = readingOf(chartFrame(corners));
        QVERIFY(reading.hasChart);
        QVERIFY(warningOf(reading, "Mirrored") != nullptr);
    }
    void aSecondChartIsTold() {
        image::Frame two = image::signalFrame(chartFrame(turnedField(400, 264, 0.0)));
        auto small = turnedField(230, 152, 0.0);
        for (auto& corner : small) corner = {corner.x + 420.0, corner.y + 220.0};
        const image::Frame other = image::signalFrame(chartFrame(small));
        for (int y = 460; y < 700; ++y) {
            for (int x = 900; x < 1260; ++x) {
                const auto at = static_cast<std::size_t>(y * two.width + x);
                for (std::size_t c = 0; c < 3; ++c) two.channels[c][at] = other.channels[c][at];
            }
        }
        const rig::Reading reading = readingOf(image::codedFromSignal(two, {}, 10, 1));
        QVERIFY(reading.hasChart);
        const base::Warning* warning = warningOf(reading, "SeveralCharts");
        QVERIFY(warning != nullptr);
        QVERIFY(words::inEnglish(warning->text).find("(2)") != std::string::npos);
        QVERIFY(std::abs(reading.corners[0].x - turnedField(400, 264, 0.0)[0].x) < 2.0);
    }
    /// The tilt of a field seen from far away is the arc cosine of its shortening.
    void aChartTurnedAwayIsTold_data() {
        QTest::addColumn<double>("degrees");
        QTest::addColumn<bool>("isTold");
        QTest::newRow("20 degrees") << 20.0 << false;
        QTest::newRow("50 degrees") << 50.0 << true;
    }
    void aChartTurnedAwayIsTold() {
        QFETCH(double, degrees);
        QFETCH(bool, isTold);
        const double shortened = std::cos(degrees * 3.14159265358979 / 180.0);
        const rig::Reading reading =
            readingOf(chartFrame(turnedField(560.0 * shortened, 368.0, 0.0)));
        QVERIFY(reading.hasChart);
        // The field's own shape: its pitch across over its pitch down is the cosine.
        const double pitch = (560.0 / 5.86) / (368.0 / 3.86);
        const double expected = std::acos(std::min(1.0, shortened * pitch)) * 57.29577951308232;
        QVERIFY2(std::abs(rig::chartTilt(reading)->degrees - expected) < 2.0,
                 qPrintable(QString::number(rig::chartTilt(reading)->degrees)));
        QCOMPARE(warningOf(reading, "ChartTurnedAway") != nullptr, isTold);
    }
    /// A lamp's reflection on a third of neutral 5: the patch is told and left out of the fit.
    void aReflectionIsTold() {
        const auto corners = turnedField(560, 368, 0.0);
        image::Frame frame = image::signalFrame(chartFrame(corners));
        const chart::ChartPose pose{corners, 0.86};
        const auto quad = pose.patchQuad(21, 0.55);
        for (int y = int(quad[0].y); y <= int(quad[2].y); ++y) {
            for (int x = int(quad[0].x); x < int(quad[0].x + 0.3 * (quad[1].x - quad[0].x)); ++x) {
                for (auto& channel : frame.channels)
                    channel[static_cast<std::size_t>(y * frame.width + x)] = 0.9F;
            }
        }
        const rig::Reading reading = readingOf(image::codedFromSignal(frame, {}, 10, 1));
        QVERIFY(reading.hasChart);
        QVERIFY(rig::isGlared(reading.patches[21]));
        const base::Warning* warning = warningOf(reading, "PatchesShine");
        QVERIFY(warning != nullptr);
        QVERIFY2(words::inEnglish(warning->text).find("neutral 5") != std::string::npos,
                 words::inEnglish(warning->text).c_str());
        const auto fit = match::fitNeutrals(reading);
        QVERIFY(fit.has_value());
        QCOMPARE(fit->patchesUsed, 5);
    }
    void crushedBlacksAreTold() {
        image::Frame frame = image::signalFrame(chartFrame(turnedField(560, 368, 0.0)));
        // A camera that cuts the lowest 20 % off.
        for (auto& channel : frame.channels) {
            for (float& value : channel) value = std::max(0.0F, (value - 0.2F) / 0.8F);
        }
        const rig::Reading reading = readingOf(image::codedFromSignal(frame, {}, 10, 1));
        QVERIFY(reading.hasChart);
        QVERIFY(rig::isCrushed(reading.patches[23]));
        const base::Warning* warning = warningOf(reading, "PatchesCrushed");
        QVERIFY(warning != nullptr);
        QVERIFY(words::inEnglish(warning->text).find("black") != std::string::npos);
        QVERIFY(match::fitNeutrals(reading).has_value());
    }
    /// ffmpeg marks the frames as two fields, as an interlaced camera does.
    void anInterlacedClipIsTold() {
        const QString plain = m_folder.filePath("plain.mov");
        const QString fields = m_folder.filePath("fields.mkv");
        QVERIFY(support::writePicture(plain, chartFrame(turnedField(480, 316, 0.0)), 30));
        QVERIFY(support::runFfmpeg({"-i",
                                    plain,
                                    "-vf",
                                    "setfield=tff",
                                    "-c:v",
                                    "libx264",
                                    "-flags",
                                    "+ilme+ildct",
                                    "-pix_fmt",
                                    "yuv420p",
                                    fields}));
        const auto measured = measure::measureMedia(fields.toStdString());
        QVERIFY(measured && measured->reading.hasChart);
        QVERIFY(warningOf(measured->reading, "Interlaced") != nullptr);
    }
};

RIG_TEST(TestChartTraps);
#include "test_chart_traps.moc"
