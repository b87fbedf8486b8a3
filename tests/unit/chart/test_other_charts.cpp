// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <random>

#include "chart/chart_file.h"
#include "chart/chart_finder.h"
#include "chart/patch_reader.h"
#include "support/chart_frame.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using support::chartFrame;
using support::turnedField;

namespace {

/// A chart that nobody sells: 5 x 4 patches of random colours over a row of greys.
chart::ReferenceChart inventedChart() {
    chart::ReferenceChart chart;
    chart.id = "invented.json";
    chart.name = "invented chart";
    chart.columns = 5;
    chart.rows = 5;
    chart.patchShare = 0.8;
    std::mt19937 generator(7);
    std::uniform_real_distribution<double> colour(0.03, 0.8);
    for (int i = 0; i < 20; ++i)
        chart.patches.push_back({"colour " + std::to_string(i + 1),
                                 {colour(generator), colour(generator), colour(generator)},
                                 false});
    for (const double light : {0.9, 0.5, 0.18, 0.08, 0.03})
        chart.patches.push_back({"grey", {light, light, light}, true});
    return chart;
}

std::array<image::Point, 4> fieldOf(const chart::ReferenceChart& chart, double step, double turn) {
    const double share = chart.patchShare;
    return turnedField((static_cast<double>(chart.columns) - 1.0 + share) * step,
                       (static_cast<double>(chart.rows) - 1.0 + share) * step,
                       turn);
}

}  // namespace

class TestOtherCharts : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void searchableChartsAreFoundAndRead_data() {
        QTest::addColumn<QString>("id");
        QTest::addColumn<double>("turn");
        for (const char* id : {"strip-12", "strip-24", "printed-card", "invented"}) {
            for (const double turn : {0.0, 17.0, 90.0, 180.0, 251.0})
                QTest::addRow("%s, %g", id, turn) << QString::fromLatin1(id) << turn;
        }
    }
    void searchableChartsAreFoundAndRead() {
        QFETCH(QString, id);
        QFETCH(double, turn);
        const chart::ReferenceChart chart =
            id == "invented" ? inventedChart() : *chart::chartOf(id.toStdString());
        const auto corners = fieldOf(chart, 52.0, turn);
        const image::CodedFrame frame = chartFrame(corners, 1.0, 10, chart);
        const auto found = chart::findChart(frame, {}, chart);
        QVERIFY2(found.has_value(), found ? "" : words::inEnglish(found.error()).c_str());
        for (std::size_t i = 0; i < 4; ++i)
            QVERIFY(image::distancePx(found->pose.corners[i], corners[i]) < 1.2);
        const auto patches = chart::readPatches(frame, found->pose, chart);
        QVERIFY(patches.has_value());
        const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
        for (std::size_t i = 0; i < chart.patches.size(); ++i) {
            const double expected = curve.encode(std::max(0.0, chart.patches[i].linear.y()));
            QVERIFY2(std::abs((*patches)[i].signal[1] - expected) < 0.03,
                     chart.patches[i].name.c_str());
        }
    }
    /// A reference is never taken for another one.
    void oneReferenceIsNotTakenForAnother() {
        const auto card = *chart::chartOf("printed-card");
        const auto strip = *chart::chartOf("strip-24");
        QVERIFY(!chart::findChart(chartFrame(fieldOf(card, 52.0, 0.0), 1.0, 10, card)).has_value());
        QVERIFY(!chart::findChart(chartFrame(fieldOf(chart::classicChart(), 52.0, 0.0)), {}, card)
                     .has_value());
        QVERIFY(!chart::findChart(chartFrame(fieldOf(chart::classicChart(), 52.0, 0.0)), {}, strip)
                     .has_value());
    }
    void cardsOfFewPatchesAreMarkedByHand() {
        for (const char* id : {"grey-card", "white-grey-black", "grey-area"}) {
            const auto chart = *chart::chartOf(id);
            const auto corners = fieldOf(chart, 120.0, 6.0);
            const image::CodedFrame frame = chartFrame(corners, 1.0, 10, chart);
            const auto found = chart::findChart(frame, {}, chart);
            QVERIFY(!found.has_value());
            QVERIFY(words::inEnglish(found.error().detail).find("marked by hand") !=
                    std::string::npos);
            const chart::ChartPose pose{corners, chart.patchShare, chart.columns, chart.rows};
            const auto patches = chart::readPatches(frame, pose, chart);
            QVERIFY(patches.has_value());
            QCOMPARE(patches->size(), chart.patches.size());
            const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
            for (std::size_t i = 0; i < patches->size(); ++i)
                QVERIFY(std::abs((*patches)[i].signal[1] -
                                 curve.encode(chart.patches[i].linear.y())) < 0.01);
        }
    }
    void cornersOutsideNameThePatch() {
        const auto chart = *chart::chartOf("white-grey-black");
        const chart::ChartPose pose{
            {image::Point{1100, 300}, {1500, 300}, {1500, 420}, {1100, 420}},
            chart.patchShare,
            chart.columns,
            chart.rows};
        const auto read =
            chart::readPatches(chartFrame(fieldOf(chart, 60.0, 0.0), 1.0, 10, chart), pose, chart);
        QVERIFY(!read.has_value());
        QVERIFY(words::inEnglish(read.error().detail).find("\"grey\"") != std::string::npos);
    }
};

RIG_TEST(TestOtherCharts);
#include "test_other_charts.moc"
