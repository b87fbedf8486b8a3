// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <random>

#include "chart/point_grid.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using Eigen::Vector2d;
using rigmatch::chart::PointGrid;

class TestPointGrid : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Every point within the radius is visited, whatever cell it lies in, also at the borders and
    /// beyond them.
    void noPointNearIsMissed() {
        std::mt19937 random(3);
        std::uniform_real_distribution<double> place(-20.0, 320.0);
        PointGrid grid(24.0, 300.0, 200.0);
        std::vector<Vector2d> points;
        for (int i = 0; i < 500; ++i) {
            points.emplace_back(place(random), place(random));
            grid.add(points.back());
        }
        for (int query = 0; query < 50; ++query) {
            const Vector2d centre(place(random), place(random));
            const double radius = 5.0 + query;
            std::vector<std::size_t> seen;
            grid.near(centre, radius, [&](std::size_t index) {
                seen.push_back(index);
                return false;
            });
            for (std::size_t i = 0; i < points.size(); ++i) {
                const auto count = std::count(seen.begin(), seen.end(), i);
                QVERIFY(count <= 1);
                if ((points[i] - centre).norm() <= radius) QCOMPARE(count, 1);
            }
        }
    }
    void aVisitorEndsTheSearch() {
        PointGrid grid(10.0, 100.0, 100.0);
        for (int i = 0; i < 4; ++i) grid.add({50.0 + i, 50.0});
        int visits = 0;
        grid.near({50.0, 50.0}, 9.0, [&](std::size_t index) {
            ++visits;
            return index == 1;
        });
        QCOMPARE(visits, 2);
    }
    void anEmptyGridHasNothingNear() {
        const PointGrid grid(10.0, 0.0, 0.0);
        grid.near({5.0, 5.0}, 100.0, [](std::size_t) {
            QTest::qFail("visited", __FILE__, __LINE__);
            return false;
        });
    }
};

RIG_TEST(TestPointGrid);
#include "test_point_grid.moc"
