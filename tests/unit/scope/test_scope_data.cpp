// SPDX-License-Identifier: GPL-3.0-or-later
#include <numeric>

#include "image/frame.h"
#include "scope/scope_data.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

/// Left half one colour, right half another.
image::CodedFrame halves(std::array<float, 3> left, std::array<float, 3> right, int bitDepth = 8) {
    image::Frame signal = image::blankFrame(200, 300);
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            for (std::size_t c = 0; c < 3; ++c)
                signal.channels[c][static_cast<std::size_t>(y * signal.width + x)] =
                    x < 100 ? left[c] : right[c];
        }
    }
    return image::codedFromSignal(signal, {}, bitDepth, 0);
}

constexpr std::array<float, 3> kGrey{0.4F, 0.4F, 0.4F};
constexpr std::array<float, 3> kSkin{0.6F, 0.45F, 0.35F};

/// Level that holds all pixels of a column; -1 where they are spread.
int onlyLevel(const scope::Waveform& waveform, int plane, int column, std::uint32_t pixels) {
    for (int level = 0; level < waveform.scale.count; ++level) {
        if (waveform.at(plane, level, column) == pixels) return level;
    }
    return -1;
}

/// A picture of many levels and colours, large enough that several threads count it, with halved
/// chroma.
image::CodedFrame manyColours(int bitDepth) {
    image::Frame signal = image::blankFrame(1301, 902);
    std::uint32_t state = 7;
    for (auto& channel : signal.channels) {
        for (float& value : channel) {
            state = state * 1664525U + 1013904223U;
            value = static_cast<float>(state >> 8) / 16777216.0F;
        }
    }
    return image::codedFromSignal(signal, {}, bitDepth, 1);
}

template <class Sample>
int codeAt(const image::Plane& plane, int x, int y) {
    return reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y)[x];
}
int codeAt(const image::CodedFrame& frame, std::size_t plane, int x, int y) {
    return frame.samples == image::SampleKind::Unsigned8
               ? codeAt<std::uint8_t>(frame.planes[plane], x, y)
               : codeAt<std::uint16_t>(frame.planes[plane], x, y);
}

// Odd places and sizes: nothing falls on a boundary of groups, strips or chroma samples.
constexpr image::PixelRect kOddRegion{3, 5, 1201, 881};

}  // namespace

class TestScopeData : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aFlatColumnStandsAtItsSignal_data() {
        QTest::addColumn<int>("bitDepth");
        QTest::newRow("8 bit") << 8;
        QTest::newRow("10 bit") << 10;
        QTest::newRow("12 bit, shown in 10") << 12;
    }
    void aFlatColumnStandsAtItsSignal() {
        QFETCH(int, bitDepth);
        const auto waveform =
            scope::waveformOf(halves(kGrey, kSkin, bitDepth), scope::WaveformKind::Luma);
        QVERIFY(waveform.has_value());
        const int level = onlyLevel(*waveform, 0, 10, 300);
        QVERIFY(level >= 0);
        QVERIFY(std::abs(waveform->scale.signalOf(level) - 0.4) <= waveform->scale.stepSignal);
    }

    /// Narrow scopes gather columns; nothing is lost and nothing moves to another side.
    void columnsAreGathered() {
        const auto waveform =
            scope::waveformOf(halves(kGrey, kSkin), scope::WaveformKind::Parade, {{}, 8});
        QVERIFY(waveform.has_value());
        QCOMPARE(waveform->columns, 8);
        for (int plane = 0; plane < 3; ++plane) {
            const auto c = static_cast<std::size_t>(plane);
            const int left = onlyLevel(*waveform, plane, 3, 25 * 300);
            const int right = onlyLevel(*waveform, plane, 4, 25 * 300);
            QVERIFY(std::abs(waveform->scale.signalOf(left) - double(kGrey[c])) < 0.005);
            QVERIFY(std::abs(waveform->scale.signalOf(right) - double(kSkin[c])) < 0.005);
        }
    }

    void aRegionSeesNothingElse() {
        const auto scope =
            scope::vectorscopeOf(halves(kGrey, kSkin), {image::PixelRect{10, 10, 50, 40}, 0});
        QVERIFY(scope.has_value());
        QCOMPARE(scope->at(128, 128), 50U * 40U);
        const auto histogram =
            scope::histogramOf(halves(kGrey, kSkin), {image::PixelRect{150, 0, 20, 20}, 0});
        QVERIFY(histogram.has_value());
        QCOMPARE(histogram->pixels, 400LL);
        const auto level = static_cast<std::size_t>(std::lround(histogram->scale.levelOf(0.6)));
        QVERIFY(histogram->red[level - 1] + histogram->red[level] + histogram->red[level + 1] ==
                400U);
    }

    /// More pixels in one cell than a byte or a 16-bit word can count.
    void largeCountsDoNotRunOver() {
        image::Frame signal = image::blankFrame(400, 400);
        const auto frame = image::codedFromSignal(signal, {}, 8, 0);
        QCOMPARE(scope::vectorscopeOf(frame)->at(128, 128), 160000U);
        const auto waveform = scope::waveformOf(frame, scope::WaveformKind::Luma, {{}, 1});
        QCOMPARE(waveform->at(0, 16, 0), 160000U);
    }

    void scopesCountAsOnePixelAfterTheOther_data() {
        QTest::addColumn<int>("bitDepth");
        QTest::addColumn<int>("columns");
        QTest::newRow("8 bit, every column") << 8 << 0;
        QTest::newRow("8 bit, 100 columns") << 8 << 100;
        QTest::newRow("10 bit, 333 columns") << 10 << 333;
    }
    /// Groups of columns, strips of rows and threads lose no pixel and count none twice.
    void scopesCountAsOnePixelAfterTheOther() {
        QFETCH(int, bitDepth);
        QFETCH(int, columns);
        const image::CodedFrame frame = manyColours(bitDepth);
        const scope::ScopeOptions options{kOddRegion, columns};
        const auto waveform = scope::waveformOf(frame, scope::WaveformKind::Luma, options);
        QVERIFY(waveform.has_value());
        std::vector<std::uint32_t> expected(waveform->counts.size());
        for (int y = 0; y < kOddRegion.height; ++y) {
            for (int x = 0; x < kOddRegion.width; ++x) {
                const int level = codeAt(frame, 0, kOddRegion.x + x, kOddRegion.y + y);
                const int column = x * waveform->columns / kOddRegion.width;
                ++expected[static_cast<std::size_t>(level * waveform->columns + column)];
            }
        }
        QVERIFY(waveform->counts == expected);

        const auto vectorscope = scope::vectorscopeOf(frame, options);
        QVERIFY(vectorscope.has_value());
        std::vector<std::uint32_t> cells(vectorscope->counts.size());
        const int shift = bitDepth > 8 ? bitDepth - 9 : 0;
        for (int y = kOddRegion.y / 2; y <= (kOddRegion.y + kOddRegion.height - 1) / 2; ++y) {
            for (int x = kOddRegion.x / 2; x <= (kOddRegion.x + kOddRegion.width - 1) / 2; ++x) {
                const int cb = codeAt(frame, 1, x, y) >> shift;
                const int cr = codeAt(frame, 2, x, y) >> shift;
                ++cells[static_cast<std::size_t>(cr * vectorscope->size + cb)];
            }
        }
        QVERIFY(vectorscope->counts == cells);
    }

    /// Each level of the parade and of the histogram against the signal itself; a value on the
    /// border of two levels may fall to either side.
    void paradeAndHistogramCountTheSignal() {
        const image::CodedFrame frame = manyColours(8);
        const image::Frame signal = image::signalFrame(frame, kOddRegion);
        const auto parade =
            scope::waveformOf(frame, scope::WaveformKind::Parade, {kOddRegion, 100});
        const auto histogram = scope::histogramOf(frame, {kOddRegion, 0});
        QVERIFY(parade.has_value() && histogram.has_value());
        QCOMPARE(histogram->pixels, static_cast<long long>(signal.channels[0].size()));
        for (int plane = 0; plane < 3; ++plane) {
            const auto& values = signal.channels[static_cast<std::size_t>(plane)];
            std::vector<long long> below(static_cast<std::size_t>(parade->scale.count) + 1);
            for (const float value : values) {
                const double level = parade->scale.levelOf(double(value)) + 0.5;
                ++below[static_cast<std::size_t>(
                    std::clamp(level, 0.0, double(parade->scale.count - 1)))];
            }
            const auto& counts = plane == 0   ? histogram->red
                                 : plane == 1 ? histogram->green
                                              : histogram->blue;
            long long mine = 0;
            long long theirs = 0;
            long long gathered = 0;
            for (int level = 0; level < parade->scale.count; ++level) {
                for (int column = 0; column < parade->columns; ++column)
                    gathered += parade->at(plane, level, column);
                mine += counts[static_cast<std::size_t>(level)];
                theirs += below[static_cast<std::size_t>(level)];
                QCOMPARE(gathered, mine);
                QVERIFY2(std::abs(mine - theirs) <= 20,
                         qPrintable(QString("%1: %2 against %3").arg(level).arg(mine).arg(theirs)));
            }
        }
    }

    /// R'G'B' and Y'CbCr of the same picture fall into the same cells.
    void rgbFramesGiveTheSameVectorscope() {
        image::Frame signal = image::blankFrame(64, 64);
        for (std::size_t c = 0; c < 3; ++c)
            std::fill(signal.channels[c].begin(), signal.channels[c].end(), kSkin[c]);
        image::SignalTags rgb;
        rgb.matrix = image::Matrix::None;
        rgb.range = image::Range::Full;
        const auto first = scope::vectorscopeOf(image::codedFromSignal(signal, rgb, 10, 0));
        const auto second = scope::vectorscopeOf(image::codedFromSignal(signal, {}, 8, 0));
        const auto cellOf = [](const scope::Vectorscope& scope) {
            const auto at = std::max_element(scope.counts.begin(), scope.counts.end());
            const auto index = static_cast<int>(at - scope.counts.begin());
            return std::pair(index % scope.size, index / scope.size);
        };
        QVERIFY(std::abs(cellOf(*first).first - cellOf(*second).first) <= 1);
        QVERIFY(std::abs(cellOf(*first).second - cellOf(*second).second) <= 1);
    }

    /// Angles of the primaries in BT.709 Cb/Cr (calculated from sources 11.1).
    void huesStandWhereTheTablesSay() {
        const auto angle = [](double r, double g, double b) {
            const double y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
            return scope::hueDegrees((b - y) / 1.8556, (r - y) / 1.5748);
        };
        QVERIFY(std::abs(angle(1, 0, 0) - 102.9) < 0.1);
        QVERIFY(std::abs(angle(1, 1, 0) - 174.8) < 0.1);
        QVERIFY(std::abs(angle(0, 1, 0) - 229.7) < 0.1);
        QVERIFY(std::abs(angle(0, 0, 1) - 354.8) < 0.1);
    }

    void impossibleRegionsAreRefusedInWords() {
        const auto frame = halves(kGrey, kSkin);
        const auto outside = scope::waveformOf(
            frame, scope::WaveformKind::Luma, {image::PixelRect{150, 0, 60, 9}, 0});
        QVERIFY(!outside.has_value());
        QCOMPARE(QString::fromStdString(words::inEnglish(outside.error())),
                 QString("No scope of that region. It is 60 × 9 px at 150, 0; the picture is "
                         "200 × 300 px. Draw the region inside the picture."));
        QVERIFY(!scope::histogramOf(frame, {image::PixelRect{0, 0, 0, 5}, 0}).has_value());
        QVERIFY(!scope::vectorscopeOf(frame, {image::PixelRect{-1, 0, 5, 5}, 0}).has_value());
        QVERIFY(!scope::waveformOf(frame, scope::WaveformKind::Luma, {{}, 201}).has_value());
    }
};

RIG_TEST(TestScopeData);
#include "test_scope_data.moc"
