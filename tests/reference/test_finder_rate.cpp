// SPDX-License-Identifier: GPL-3.0-or-later
// The finder on random synthetic frames: how often, how exactly, and never where there is no chart.
#include <QtConcurrent>

#include "chart/chart_finder.h"
#include "sim/random_frames.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

constexpr double kFoundShare = 0.97;
constexpr double kMedianPx = 1.0;

/// Largest corner error, px; negative where the chart was not found or another place was taken for
/// it.
double cornerError(int seed) {
    const sim::RandomFrame frame = sim::randomFrame(static_cast<std::uint64_t>(seed));
    const auto found = chart::findChart(frame.frame);
    if (!found) return -1.0;
    double error = 0.0;
    for (std::size_t i = 0; i < 4; ++i)
        error = std::max(error, image::distancePx(found->pose.corners[i], frame.corners[i]));
    return error < 0.05 * frame.share * frame.frame.width ? error : -1.0;
}

bool isFalseFind(int seed) {
    sim::RandomFrameOptions options;
    options.hasChart = false;
    return chart::findChart(sim::randomFrame(static_cast<std::uint64_t>(seed), options).frame)
        .has_value();
}

}  // namespace

class TestFinderRate : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void chartsAreFoundToThePixel() {
        const int charts = support::isFullSample() ? 200 : 8;
        std::vector<int> seeds(static_cast<std::size_t>(charts));
        std::iota(seeds.begin(), seeds.end(), 0);
        const auto errors = QtConcurrent::blockingMapped<QVector<double>>(seeds, cornerError);
        std::vector<double> found;
        for (double error : errors) {
            if (error >= 0.0) found.push_back(error);
        }
        std::sort(found.begin(), found.end());
        qInfo("found %d of %d, corner error median %.2f px, 95th %.2f px",
              static_cast<int>(found.size()),
              charts,
              found[found.size() / 2],
              found[found.size() * 95 / 100]);
        QVERIFY(static_cast<double>(found.size()) >= kFoundShare * charts);
        QVERIFY(found[found.size() / 2] <= kMedianPx);
    }
    void clutterIsNeverTakenForAChart() {
        std::vector<int> seeds(support::isFullSample() ? 1000U : 16U);
        std::iota(seeds.begin(), seeds.end(), 5000);
        const auto finds = QtConcurrent::blockingMapped<QVector<bool>>(seeds, isFalseFind);
        QCOMPARE(finds.count(true), 0);
    }
};

RIG_TEST(TestFinderRate);
#include "test_finder_rate.moc"
