// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "measure/measure_media.h"
#include "measure/trap_checks.h"
#include "media/media_reader.h"
#include "sim/random_frames.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

template <class Check>
void takeAll(Check& check, const QString& file) {
    auto reader = media::MediaReader::open(file.toStdString());
    if (!reader) return;
    for (auto frame = reader->next(); frame && *frame; frame = reader->next()) check.take(**frame);
}

/// A small bitmap of one letter-like glyph: strokes with holes, 9 x 13.
void glyph(image::Frame& frame, int left, int top, int scale) {
    static constexpr std::array<const char*, 7> kRows{
        "11111", "10001", "10001", "11111", "10001", "10001", "10001"};
    for (int row = 0; row < 7 * scale; ++row) {
        for (int column = 0; column < 5 * scale; ++column) {
            if (kRows[std::size_t(row / scale)][column / scale] != '1') continue;
            const auto at = static_cast<std::size_t>((top + row) * frame.width + left + column);
            for (auto& channel : frame.channels) channel[at] = 0.98F;
        }
    }
}

}  // namespace

class TestTrapChecks : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    QString at(const char* name) const { return m_folder.filePath(QString::fromLatin1(name)); }

    /// ffmpeg, the independent converter: a smooth picture, its range changed or not.
    bool write(const char* name, const QStringList& filters) {
        return support::runFfmpeg(
            QStringList{"-f",
                        "lavfi",
                        "-i",
                        "gradients=size=640x360:c0=0x202020:c1=0xd8d8d8:nb_colors=2:duration=0.2:"
                        "rate=25:x0=0:y0=0:x1=640:y1=300:speed=0.00001"} +
            QStringList{
                "-vf", (QStringList{"format=yuv420p", "noise=alls=6:allf=t"} + filters).join(",")} +
            QStringList{"-c:v", "ffv1", at(name)});
    }

private Q_SLOTS:
    void rangeConversionsLeaveACombThatIsSeen() {
        QVERIFY(write("plain.mkv", {}));
        QVERIFY(write("stretched.mkv", {"scale=in_range=limited:out_range=full"}));
        QVERIFY(write("squeezed.mkv", {"setrange=full", "scale=in_range=full:out_range=limited"}));
        measure::CodeComb plain, stretched, squeezed;
        takeAll(plain, at("plain.mkv"));
        takeAll(stretched, at("stretched.mkv"));
        takeAll(squeezed, at("squeezed.mkv"));
        QVERIFY(!plain.warning().has_value());
        QVERIFY(stretched.warning().has_value());
        QCOMPARE(stretched.warning()->code, std::string("CodesStretched"));
        QVERIFY(squeezed.warning().has_value());
        QCOMPARE(squeezed.warning()->code, std::string("CodesSqueezed"));
    }
    void chartFramesHaveNoComb() {
        for (std::uint64_t seed = 1; seed <= 8; ++seed) {
            measure::CodeComb comb;
            comb.take(sim::randomFrame(seed, {}).frame);
            QVERIFY2(!comb.warning().has_value(), qPrintable(QString::number(seed)));
        }
    }
    void lettersAlongTheEdgeAreSeen_data() {
        QTest::addColumn<int>("letters");
        QTest::addColumn<bool>("isStill");
        QTest::addColumn<bool>("isSeen");
        QTest::newRow("eight letters that stay") << 8 << true << true;
        QTest::newRow("eight letters that wander") << 8 << false << false;
        QTest::newRow("three letters") << 3 << true << false;
        QTest::newRow("none") << 0 << true << false;
    }
    void lettersAlongTheEdgeAreSeen() {
        QFETCH(int, letters);
        QFETCH(bool, isStill);
        QFETCH(bool, isSeen);
        sim::RandomFrameOptions options;
        options.width = 1280;
        options.height = 720;
        measure::OverlayCheck check;
        for (int i = 0; i < 3; ++i) {
            image::Frame frame = image::signalFrame(sim::randomFrame(40, options).frame);
            for (int k = 0; k < letters; ++k)
                glyph(frame, 60 + 22 * k + (isStill ? 0 : 9 * i), 24, 3);
            check.take(image::codedFromSignal(frame, {}, 8, 1));
        }
        QCOMPARE(check.warning().has_value(), isSeen);
        if (isSeen) {
            QVERIFY(check.glyphs() >= 5);
            QCOMPARE(check.warning()->code, std::string("DisplaysBurnedIn"));
        }
    }
    void scenesWithoutDisplaysAreQuiet() {
        for (std::uint64_t seed = 1; seed <= 10; ++seed) {
            sim::RandomFrameOptions options;
            options.hasChart = seed % 2 == 0;
            options.width = 1280;
            options.height = 720;
            measure::OverlayCheck check;
            const auto frame = sim::randomFrame(seed, options).frame;
            check.take(frame);
            check.take(frame);
            QVERIFY2(!check.warning().has_value(), qPrintable(QString::number(seed)));
        }
    }
    /// A high-definition file that says BT.601 is told, and another matrix can be asked for.
    void theMatrixCanBeReadTheOtherWay() {
        QVERIFY(support::writeStillClip(at("chart.mov"), 3, 12, {}));
        QVERIFY(support::runFfmpeg({"-i",
                                    at("chart.mov"),
                                    "-c:v",
                                    "ffv1",
                                    "-colorspace",
                                    "smpte170m",
                                    "-color_range",
                                    "tv",
                                    at("mistagged.mkv")}));
        const auto told = measure::measureMedia(at("mistagged.mkv").toStdString());
        QVERIFY(told && told->reading.hasChart);
        const auto& warnings = told->reading.warnings;
        QVERIFY(std::any_of(warnings.begin(), warnings.end(), [](const base::Warning& w) {
            return w.code == "MatrixTagUnusual";
        }));
        measure::MeasureOptions options;
        options.matrix = image::Matrix::Bt709;
        const auto other = measure::measureMedia(at("mistagged.mkv").toStdString(), options);
        QVERIFY(other && other->reading.hasChart);
        QCOMPARE(other->reading.matrix, std::string("bt709"));
        QVERIFY(std::none_of(other->reading.warnings.begin(),
                             other->reading.warnings.end(),
                             [](const base::Warning& w) { return w.code.starts_with("Matrix"); }));
        const auto original = measure::measureMedia(at("chart.mov").toStdString());
        const auto& red = [](const rig::Reading& r) { return r.patches[14].signal[0]; };
        QVERIFY(std::abs(red(other->reading) - red(original->reading)) < 0.01);
        QVERIFY(std::abs(red(told->reading) - red(original->reading)) > 0.02);
        // Greys do not change with the matrix.
        QVERIFY(std::abs(told->reading.patches[21].signal[1] -
                         original->reading.patches[21].signal[1]) < 0.006);
    }
};

RIG_TEST(TestTrapChecks);
#include "test_trap_checks.moc"
