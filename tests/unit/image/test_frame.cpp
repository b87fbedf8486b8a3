// SPDX-License-Identifier: GPL-3.0-or-later
#include <QtTest>

#include "image/frame.h"
#include "image/geometry.h"
#include "image/halved.h"
#include "image/robust.h"

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
    /// Handbook 5.3: 10 bit limited black 64, white 940; misread ranges give -7.3 / 109.1 and 6.3
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
    void halvingIsShrinkingByTwo() {
        Frame signal = blankFrame(37, 22);
        for (std::size_t c = 0; c < 3; ++c) {
            for (std::size_t k = 0; k < signal.channels[c].size(); ++k)
                signal.channels[c][k] = static_cast<float>((k * 37 + c * 11) % 101) / 100.0F;
        }
        SignalTags rgb;
        rgb.matrix = Matrix::None;
        rgb.range = Range::Full;
        const CodedFrame coded = codedFromSignal(signal, rgb, 16, 0);
        const Frame half = halved(shrunkSignal(coded, 2));
        const Frame quarter = shrunkSignal(coded, 4);
        QCOMPARE(half.width, quarter.width);
        QCOMPARE(half.height, quarter.height);
        for (std::size_t k = 0; k < half.channels[1].size(); ++k)
            QVERIFY(std::abs(half.channels[1][k] - quarter.channels[1][k]) < 1e-5F);
        QCOMPARE(halved(blankFrame(1, 1)).width, 1);
    }
};

QTEST_APPLESS_MAIN(TestFrame)
#include "test_frame.moc"
