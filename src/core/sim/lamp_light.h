// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// A lamp made ready: its points, and its beam as a table over the cosine to its axis.
class PreparedLamp {
public:
    static constexpr int kPoints = 64;

    explicit PreparedLamp(const Lamp& lamp);

    [[nodiscard]] const Vec& point(int index) const {
        return m_points[static_cast<std::size_t>(index) % m_points.size()];
    }
    [[nodiscard]] const Vec& middle() const { return m_lamp.position; }
    [[nodiscard]] const Vec& colour() const { return m_lamp.lightAtOneMetre; }
    [[nodiscard]] double reach() const { return m_reach; }

    /// Share of the axis' intensity that leaves toward a direction of length 1.
    [[nodiscard]] double beamToward(const Vec& direction) const {
        if (m_lamp.isAllRound) return 1.0;
        const double cosine = m_lamp.axis.dot(direction);
        if (cosine <= 0.0) return 0.0;
        const double place = cosine * (kTable - 1);
        const auto index = static_cast<std::size_t>(place);
        if (index + 1 >= kTable) return m_table[kTable - 1];
        const double share = place - static_cast<double>(index);
        return m_table[index] * (1.0 - share) + m_table[index + 1] * share;
    }

private:
    static constexpr std::size_t kTable = 512;
    Lamp m_lamp;
    double m_reach = 0.0;  ///< radius of all its points
    std::vector<Vec> m_points;
    std::array<double, kTable> m_table{};
};

}  // namespace rigmatch::sim
