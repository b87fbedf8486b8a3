// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "optics/lens.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/ray_scene.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;
using sim::Vec;

namespace {

constexpr double kFocal = 0.05, kNumber = 2.0, kSensor = 0.036;  // m, and the f-number
constexpr int kWidth = 800, kHeight = 60;

sim::Box wall(double left, double right, double depth, double glow) {
    sim::Box box;
    box.low = Vec(left, -20.0, -depth - 0.02);
    box.high = Vec(right, 20.0, -depth);
    box.material.albedo = Vec::Zero();
    box.material.glow = Vec::Constant(glow);
    return box;
}

/// A 50 mm lens at f/2 on a 36 mm sensor that looks along −z from the origin.
sim::View viewFocusedAt(double metres) {
    sim::View view;
    view.position = Vec::Zero();
    view.aim = Vec(0.0, 0.0, -1.0);
    view.width = kWidth;
    view.height = kHeight;
    view.horizontalViewDegrees =
        360.0 / M_PI * std::atan(0.5 * kSensor * (metres - kFocal) / (kFocal * metres));
    view.glass.apertureMetres = kFocal / kNumber;
    view.glass.focusMetres = metres;
    return view;
}

std::vector<double> middleRow(const sim::Scene& scene, const sim::View& view) {
    const auto picture = sim::render(scene, view, {});
    std::vector<double> row;
    for (int x = 0; x < view.width; ++x)
        row.push_back(static_cast<double>(picture->at(1, x, view.height / 2)));
    return row;
}

/// Where a rising row passes a level, px.
double crossing(const std::vector<double>& row, double level, std::size_t from = 0) {
    for (std::size_t x = from + 1; x < row.size(); ++x) {
        if (row[x - 1] < level && row[x] >= level)
            return static_cast<double>(x) - 1.0 + (level - row[x - 1]) / (row[x] - row[x - 1]);
    }
    return -1.0;
}

}  // namespace

class TestSimLens : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// sources 3.5: the blur disc of a background, here that of optics/, as the edge it makes. Of
    /// an edge blurred by a disc of radius r, 10 to 90 % lie within 2 · 0.687 r (the area of a
    /// circle's segment).
    void backgroundsBlurByThePublishedFormula_data() {
        QTest::addColumn<double>("focus");
        QTest::addColumn<double>("background");
        QTest::newRow("2 m, 5 m") << 2.0 << 5.0;
        QTest::newRow("1.5 m, 3 m") << 1.5 << 3.0;
        QTest::newRow("3 m, 12 m") << 3.0 << 12.0;
    }
    void backgroundsBlurByThePublishedFormula() {
        QFETCH(double, focus);
        QFETCH(double, background);
        sim::Scene scene;
        scene.boxes = {wall(-20.0, 0.0, background, 0.0), wall(0.0, 20.0, background, 1.0)};
        const auto row = middleRow(scene, viewFocusedAt(focus));
        const optics::LensState lens{1e3 * kFocal, kNumber, 1e3 * focus, {36.0, 20.25}};
        const auto share = optics::backgroundBlurShare(lens, 1e3 * background);
        QVERIFY(share);
        const double diameter = *share * kWidth;
        const double edge = crossing(row, 0.9) - crossing(row, 0.1);
        QVERIFY2(std::abs(edge - 0.687 * diameter) < 0.3 + 0.1 * diameter,
                 qPrintable(QStringLiteral("%1 for %2").arg(edge).arg(0.687 * diameter)));
        QVERIFY(std::abs(crossing(row, 0.5) - 0.5 * (kWidth - 1)) < 0.3);
    }
    /// What is in focus keeps its edge before a background that is not, and the background's light
    /// does not run over it.
    void whatIsInFocusStaysSharp() {
        sim::Scene scene;
        scene.boxes = {wall(-40.0, 40.0, 10.0, 0.1), wall(0.1, 0.6, 2.0, 1.0)};
        const auto row = middleRow(scene, viewFocusedAt(2.0));
        const double edge = crossing(row, 0.1 + 0.9 * 0.9) - crossing(row, 0.1 + 0.9 * 0.1);
        QVERIFY2(edge < 1.6, qPrintable(QString::number(edge)));
        QVERIFY(std::abs(row[390] - 0.1) < 0.005);
    }
    /// The edge of a near thing out of focus is half transparent where it is, and all it hides is
    /// never seen as a hole.
    void nearThingsBlurOverWhatIsBehind() {
        sim::Scene scene;
        scene.boxes = {wall(-40.0, 40.0, 8.0, 0.2), wall(0.0, 6.0, 1.0, 1.0)};
        const auto row = middleRow(scene, viewFocusedAt(8.0));
        QVERIFY2(std::abs(row[399] + row[400] - 1.2) < 0.06,
                 qPrintable(QStringLiteral("%1 %2 %3 %4")
                                .arg(row[380])
                                .arg(row[399])
                                .arg(row[400])
                                .arg(row[420])));
        const double radius =
            0.5 * (kFocal / kNumber) * viewFocusedAt(8.0).focalPx() * (1.0 / 1.0 - 1.0 / 8.0);
        const double edge = crossing(row, 0.92) - crossing(row, 0.28);
        QVERIFY2(std::abs(edge - 2.0 * 0.687 * radius) < 0.3 + 0.1 * radius,
                 qPrintable(QString::number(edge)));
        for (std::size_t x = 1; x < 790; ++x) QVERIFY(row[x] > 0.195 && row[x] < 1.005);
    }
    /// A bent picture: the corner stands farther out or in by the share that was asked for, and
    /// rays go where points are said to be.
    void distortionMovesWhatIsFarFromTheMiddle() {
        for (const double bend : {-0.05, 0.03}) {
            sim::View view = viewFocusedAt(2.0);
            view.height = 450;
            view.glass.apertureMetres = 0.0;
            const Vec place(0.55, 0.31, -2.0);
            const image::Point straight = view.project(place);
            view.glass.distortion = bend;
            const image::Point bent = view.project(place);
            const double x = 0.5 * (kWidth - 1), y = 0.5 * 449.0;
            const double before = std::hypot(straight.x - x, straight.y - y);
            const double after = std::hypot(bent.x - x, bent.y - y);
            const double corner = 0.5 * std::hypot(kWidth, 450);
            const double expected = before * (1.0 + bend * before * before / (corner * corner));
            QVERIFY(std::abs(after - expected) < 1e-6);
            sim::Scene scene;
            sim::Ellipsoid ball;
            ball.centre = place;
            ball.radii = Vec::Constant(0.02);
            ball.material.albedo = Vec::Zero();
            ball.material.glow = Vec::Constant(5.0);
            scene.groups.push_back({{ball}, false});
            const auto picture = sim::render(scene, view, {});
            double sum = 0.0, across = 0.0, down = 0.0;
            for (int row = 0; row < view.height; ++row) {
                for (int column = 0; column < view.width; ++column) {
                    const double light = std::max(0.0, double(picture->at(1, column, row)) - 0.1);
                    sum += light;
                    across += light * column;
                    down += light * row;
                }
            }
            QVERIFY(std::abs(across / sum - bent.x) < 0.5 && std::abs(down / sum - bent.y) < 0.5);
        }
    }
    /// sources 3.2: a plain lens focused nearer sees less; one that is corrected does not change.
    void focusingNearerNarrowsTheView() {
        rig::Rig rig = sim::clockBenchRig();
        const auto angle = [&](double focus, double breathing) {
            rig.cameras[1].simulated->focusMetres = focus;
            rig.cameras[1].simulated->breathing = breathing;
            return sim::placedRig(rig).cameras[1].simulated->horizontalViewDegrees;
        };
        const double planned = angle(0.0, 1.0);
        const rig::Camera& camera = rig.cameras[1];
        const double focal = camera.lens.focalLengthMm;
        const double seen = optics::frameExtentMm(23.5, focal, 800.0);
        const double expected = 360.0 / M_PI * std::atan(0.5 * seen / 800.0);
        QVERIFY2(std::abs(angle(0.8, 1.0) - expected) < 0.02,
                 qPrintable(QStringLiteral("%1 for %2").arg(angle(0.8, 1.0)).arg(expected)));
        QVERIFY(std::abs(angle(0.8, 0.0) - planned) < 1e-9);
        QVERIFY(angle(0.8, 0.5) > angle(0.8, 1.0) && angle(0.8, 0.5) < planned);
    }
};

RIG_TEST(TestSimLens);
#include "test_sim_lens.moc"
