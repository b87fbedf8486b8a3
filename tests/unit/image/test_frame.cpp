// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "image/frame.h"
#include "image/geometry.h"
#include "image/robust.h"
#include "image/shrunk_part.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch::image;

namespace {

Frame ramp(int width, int height) {
    Frame frame = blankFrame(width, height);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const auto at = static_cast<std::size_t>(y * width + x);
            frame.channels[0][at] = 0.2F + 0.5F * static_cast<float>(x) / static_cast<float>(width);
            frame.channels[1][at] =
                0.3F + 0.4F * static_cast<float>(y) / static_cast<float>(height);
            frame.channels[2][at] = 0.25F;
        }
    }
    return frame;
}

}  // namespace

class TestFrame : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void codingIsUndone_data() {
        QTest::addColumn<int>("bitDepth");
        QTest::addColumn<int>("range");
        QTest::addColumn<int>("matrix");
        for (int depth : {8, 10, 12}) {
            for (Range range : {Range::Limited, Range::Full}) {
                for (Matrix matrix : {Matrix::None, Matrix::Bt601, Matrix::Bt709, Matrix::Bt2020}) {
                    QTest::addRow("%d bit, range %d, matrix %d", depth, int(range), int(matrix))
                        << depth << int(range) << int(matrix);
                }
            }
        }
    }
    void codingIsUndone() {
        QFETCH(int, bitDepth);
        QFETCH(int, range);
        QFETCH(int, matrix);
        SignalTags tags;
        tags.range = static_cast<Range>(range);
        tags.matrix = static_cast<Matrix>(matrix);
        const Frame signal = ramp(40, 24);
        const Frame back = signalFrame(codedFromSignal(signal, tags, bitDepth));
        const float codeStep = static_cast<float>(1.0 / (219.0 * std::exp2(bitDepth - 8)));
        for (std::size_t c = 0; c < 3; ++c) {
            for (std::size_t i = 0; i < signal.channels[c].size(); ++i) {
                QVERIFY(std::abs(back.channels[c][i] - signal.channels[c][i]) < 1.7F * codeStep);
            }
        }
    }
    /// sources 5.3: 10 bit limited black 64, white 940; misread ranges give -7.3 / 109.1 and 6.3
    /// / 91.9 percent.
    void misreadRangesGiveThePublishedPercents() {
        Frame blackAndWhite = blankFrame(4, 2);
        for (auto& channel : blackAndWhite.channels) channel = {0, 0, 1, 1, 0, 0, 1, 1};
        SignalTags tags;
        tags.range = Range::Full;
        CodedFrame full = codedFromSignal(blackAndWhite, tags, 8);
        full.tags.range = Range::Limited;
        const Frame fullAsLimited = signalFrame(full);
        QVERIFY(std::abs(fullAsLimited.at(1, 0, 0) + 0.073F) < 0.0006F);
        QVERIFY(std::abs(fullAsLimited.at(1, 3, 0) - 1.091F) < 0.0006F);
        tags.range = Range::Limited;
        CodedFrame limited = codedFromSignal(blackAndWhite, tags, 10);
        limited.tags.range = Range::Full;
        const Frame limitedAsFull = signalFrame(limited);
        QVERIFY(std::abs(limitedAsFull.at(1, 0, 0) - 0.063F) < 0.0006F);
        QVERIFY(std::abs(limitedAsFull.at(1, 3, 0) - 0.919F) < 0.0006F);
    }
    void halvedChromaKeepsFlatColours() {
        Frame flat = blankFrame(10, 6);
        for (std::size_t c = 0; c < 3; ++c)
            std::fill(flat.channels[c].begin(),
                      flat.channels[c].end(),
                      0.2F + 0.2F * static_cast<float>(c));
        const CodedFrame coded = codedFromSignal(flat, {}, 10, 1);
        QCOMPARE(coded.planes[1].width, 5);
        const Frame back = signalFrame(coded, {3, 1, 4, 4});
        QCOMPARE(back.width, 4);
        for (int c = 0; c < 3; ++c)
            QVERIFY(std::abs(back.at(c, 2, 2) - (0.2F + 0.2F * static_cast<float>(c))) < 0.002F);
    }
    void shrinkingAveragesBlocks() {
        const Frame signal = ramp(64, 32);
        const Frame small = shrunkSignal(codedFromSignal(signal, {}, 12, 1), 4);
        QCOMPARE(small.width, 16);
        QCOMPARE(small.height, 8);
        double mean = 0.0;
        for (int y = 8; y < 12; ++y) {
            for (int x = 20; x < 24; ++x) mean += double(signal.at(0, x, y)) / 16.0;
        }
        QVERIFY(std::abs(double(small.at(0, 5, 2)) - mean) < 0.002);
    }
    /// Odd factors over halved chroma: colour must stay with its brightness to the right border.
    void oddFactorsKeepColourInItsPlace_data() {
        QTest::addColumn<int>("step");
        for (const int step : {3, 5, 6, 7, 9}) QTest::addRow("by %d", step) << step;
    }
    void oddFactorsKeepColourInItsPlace() {
        QFETCH(int, step);
        const Frame signal = ramp(360, 180);
        const Frame small = shrunkSignal(codedFromSignal(signal, {}, 12, 1), step);
        for (const int x : {0, small.width / 2, small.width - 1}) {
            for (const int y : {0, small.height - 1}) {
                double mean = 0.0;
                for (int dy = 0; dy < step; ++dy) {
                    for (int dx = 0; dx < step; ++dx)
                        mean += double(signal.at(0, x * step + dx, y * step + dy)) / (step * step);
                }
                // The red ramp rises by 0.5 over 360 px; half a chroma sample is 0.0014.
                QVERIFY2(std::abs(double(small.at(0, x, y)) - mean) < 0.003,
                         qPrintable(QString("%1, %2: %3 for %4")
                                        .arg(x)
                                        .arg(y)
                                        .arg(double(small.at(0, x, y)))
                                        .arg(mean)));
            }
        }
    }
    /// Odd first columns and odd widths over shared chroma samples.
    void partsAreThoseOfTheWholeSignal() {
        const CodedFrame coded = codedFromSignal(ramp(41, 23), {}, 10, 1);
        const Frame whole = signalFrame(coded);
        for (const int left : {0, 1, 4, 7}) {
            for (const int width : {1, 2, 5, 8}) {
                const Frame part = signalFrame(coded, {left, 3, width, 6});
                for (int y = 0; y < part.height; ++y) {
                    for (int x = 0; x < part.width; ++x) {
                        for (int c = 0; c < 3; ++c)
                            QCOMPARE(part.at(c, x, y), whole.at(c, left + x, 3 + y));
                    }
                }
            }
        }
    }
    void singlePixelsAreThoseOfTheSignal_data() {
        QTest::addColumn<int>("bitDepth");
        QTest::addColumn<int>("chromaShift");
        QTest::addColumn<bool>("isRgb");
        QTest::newRow("8 bit, 4:2:0") << 8 << 1 << false;
        QTest::newRow("10 bit, 4:4:4") << 10 << 0 << false;
        QTest::newRow("12 bit, R'G'B'") << 12 << 0 << true;
    }
    void singlePixelsAreThoseOfTheSignal() {
        QFETCH(int, bitDepth);
        QFETCH(int, chromaShift);
        QFETCH(bool, isRgb);
        SignalTags tags;
        if (isRgb) tags.matrix = Matrix::None;
        const CodedFrame coded = codedFromSignal(ramp(24, 14), tags, bitDepth, chromaShift);
        const Frame signal = signalFrame(coded);
        const SignalSampler sampler(coded);
        for (int y = 0; y < signal.height; ++y) {
            for (int x = 0; x < signal.width; ++x) {
                const auto rgb = sampler.at(x, y);
                for (int c = 0; c < 3; ++c)
                    QVERIFY(std::abs(rgb[static_cast<std::size_t>(c)] - signal.at(c, x, y)) <
                            1e-5F);
            }
        }
        const LumaCodes codes = lumaCodes(coded);
        // BT.709 and BT.2100: black 16, white 235 of 8 bit.
        QCOMPARE(codes.black, 16.0 * std::exp2(bitDepth - 8));
        QVERIFY(std::abs(codes.perSignal - 219.0 * std::exp2(bitDepth - 8)) < 0.01);
    }
    void regionsAreClippedToTheFrame() {
        const Frame part = signalFrame(codedFromSignal(ramp(20, 10), {}, 8), {15, 8, 100, 100});
        QCOMPARE(part.width, 5);
        QCOMPARE(part.height, 2);
    }
    void homographyFitsFourPairsExactly() {
        const std::array<Point, 4> from{Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        const std::array<Point, 4> to{Point{10, 20}, {110, 30}, {120, 90}, {5, 80}};
        const auto map = Homography::fit(from, to);
        QVERIFY(map.has_value());
        for (std::size_t i = 0; i < 4; ++i) QVERIFY(distancePx(map->apply(from[i]), to[i]) < 1e-9);
        QVERIFY(distancePx(map->inverse().apply(map->apply({0.3, 0.8})), {0.3, 0.8}) < 1e-9);
        QVERIFY(map->isSane(1, 1));
    }
    /// The closed form gives what least squares gives; corners that make no quad give nothing sane.
    void theUnitSquareIsMappedInClosedForm() {
        const std::array<Point, 4> square{Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        for (const auto& quad : {std::array<Point, 4>{Point{10, 20}, {110, 30}, {120, 90}, {5, 80}},
                                 {Point{300, 20}, {40, 10}, {60, 170}, {280, 120}},
                                 {Point{0, 0}, {1, 0}, {1, 1}, {0, 1}}}) {
            const auto closed = Homography::ofUnitSquare(quad);
            const auto fitted = Homography::fit(square, quad);
            QVERIFY(closed.has_value() && fitted.has_value());
            for (const Point p : {Point{0, 0}, {1, 1}, {0.3, 0.8}, {0.9, 0.1}})
                QVERIFY(distancePx(closed->apply(p), fitted->apply(p)) < 1e-8);
            QVERIFY(closed->isSane(1, 1));
        }
        for (const auto& none : {std::array<Point, 4>{Point{0, 0}, {1, 1}, {2, 2}, {3, 3}},
                                 {Point{0, 0}, {100, 100}, {100, 0}, {0, 100}},
                                 {Point{5, 5}, {5, 5}, {5, 5}, {5, 5}},
                                 {Point{std::nan(""), 5}, {9, 5}, {9, std::nan("")}, {5, 9}}}) {
            const auto map = Homography::ofUnitSquare(none);
            QVERIFY(!map || !map->isSane(1, 1));
        }
    }
    void pointsOnALineHaveNoHomography() {
        const std::array<Point, 4> from{Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        const std::array<Point, 4> line{Point{0, 0}, {1, 1}, {2, 2}, {3, 3}};
        const auto map = Homography::fit(from, line);
        QVERIFY(!map || !map->isSane(1, 1));
    }
    void crossedQuadIsNotSane() {
        const std::array<Point, 4> from{Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        const std::array<Point, 4> crossed{Point{0, 0}, {100, 100}, {100, 0}, {0, 100}};
        const auto map = Homography::fit(from, crossed);
        QVERIFY(!map || !map->isSane(1, 1));
    }
    void robustStatisticsIgnoreOneWildValue() {
        QCOMPARE(median({3.0, 1.0, 2.0}), 2.0);
        QCOMPARE(median({4.0, 1.0, 2.0, 3.0}), 2.5);
        QCOMPARE(median({}), 0.0);
        QVERIFY(robustSigma({1.0, 1.1, 0.9, 1.0, 1.05, 50.0}) < 0.2);
        QVERIFY(std::abs(rankCorrelation({1, 2, 3, 4}, {10, 100, 1000, 10000}) - 1.0) < 1e-12);
        QVERIFY(std::abs(rankCorrelation({1, 2, 3, 4}, {4, 3, 2, 1}) + 1.0) < 1e-12);
        QCOMPARE(rankCorrelation({1, 1, 1}, {1, 2, 3}), 0.0);
    }
    /// Rows taken by themselves are those of the whole shrunken picture, whatever the samples.
    void rowsAreThoseOfTheWholeShrunkenPicture_data() {
        QTest::addColumn<int>("bitDepth");
        QTest::addColumn<int>("chromaShift");
        QTest::addColumn<int>("step");
        QTest::newRow("8 bit, 4:2:0, halved") << 8 << 1 << 2;
        QTest::newRow("10 bit, 4:2:0, by three") << 10 << 1 << 3;
        QTest::newRow("8 bit, 4:4:4, full size") << 8 << 0 << 1;
        QTest::newRow("16 bit, 4:2:0, by four") << 16 << 1 << 4;
    }
    void rowsAreThoseOfTheWholeShrunkenPicture() {
        QFETCH(int, bitDepth);
        QFETCH(int, chromaShift);
        QFETCH(int, step);
        Frame signal = blankFrame(37, 22);
        for (std::size_t c = 0; c < 3; ++c) {
            for (std::size_t k = 0; k < signal.channels[c].size(); ++k)
                signal.channels[c][k] = static_cast<float>((k * 37 + c * 11) % 101) / 100.0F;
        }
        const CodedFrame coded = codedFromSignal(signal, {}, bitDepth, chromaShift);
        const Frame whole = shrunkSignal(coded, step);
        QCOMPARE(whole.width, shrunkSize(37, step));
        QCOMPARE(whole.height, shrunkSize(22, step));
        for (const int first : {0, 2, whole.height - 1}) {
            const int count = std::min(3, whole.height - first);
            const Frame rows = shrunkRows(coded, step, first, count);
            // A part of it holds the same pixels, however far it was asked to reach.
            const Frame part = shrunkPart(coded, {2, first, whole.width, count}, step);
            QCOMPARE(part.width, whole.width - 2);
            QCOMPARE(part.height, count);
            for (int y = 0; y < count; ++y) QCOMPARE(part.at(1, 0, y), whole.at(1, 2, first + y));
            for (int y = 0; y < count; ++y) {
                for (int x = 0; x < whole.width; ++x)
                    QCOMPARE(rows.at(1, x, y), whole.at(1, x, first + y));
            }
        }
        QCOMPARE(shrunkSize(1, 4), 1);
    }
    /// A box of the shrunken picture is the mean of its pixels.
    void aShrunkenPixelIsTheMeanOfItsBox() {
        Frame signal = blankFrame(8, 4);
        for (std::size_t k = 0; k < signal.channels[0].size(); ++k) {
            for (auto& channel : signal.channels) channel[k] = 0.02F * static_cast<float>(k);
        }
        SignalTags rgb;
        rgb.matrix = Matrix::None;
        rgb.range = Range::Full;
        const Frame half = shrunkSignal(codedFromSignal(signal, rgb, 16, 0), 2);
        // Pixels 2, 3, 10 and 11 of the first two rows.
        QVERIFY(std::abs(half.at(1, 1, 0) - 0.02F * 6.5F) < 1e-4F);
    }
};

RIG_TEST(TestFrame);
#include "test_frame.moc"
