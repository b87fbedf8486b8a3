// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <vector>

namespace rigmatch::chart {

/// Points of a picture in square cells, numbered as they were added, for what lies near a place.
class PointGrid {
public:
    /// Cells of `cell` px over a picture of that size; points outside count to its border cells.
    PointGrid(double cell, double width, double height)
        : m_cell(cell),
          m_columns(std::max(1, static_cast<int>(width / cell) + 1)),
          m_rows(std::max(1, static_cast<int>(height / cell) + 1)),
          m_first(static_cast<std::size_t>(m_columns) * static_cast<std::size_t>(m_rows), -1),
          m_last(m_first) {}

    void add(const Eigen::Vector2d& point) {
        const std::size_t cell = index(columnOf(point.x()), rowOf(point.y()));
        const int number = static_cast<int>(m_next.size());
        m_next.push_back(-1);
        if (m_first[cell] < 0)
            m_first[cell] = number;
        else
            m_next[static_cast<std::size_t>(m_last[cell])] = number;
        m_last[cell] = number;
    }

    /// Calls `visit(number)` for the points of all cells within `radius` px, cell by cell from the
    /// upper left, until it returns true.
    template <class Visit>
    void near(const Eigen::Vector2d& centre, double radius, Visit visit) const {
        const int right = columnOf(centre.x() + radius);
        const int bottom = rowOf(centre.y() + radius);
        for (int row = rowOf(centre.y() - radius); row <= bottom; ++row) {
            for (int column = columnOf(centre.x() - radius); column <= right; ++column) {
                for (int number = m_first[index(column, row)]; number >= 0;
                     number = m_next[static_cast<std::size_t>(number)]) {
                    if (visit(static_cast<std::size_t>(number))) return;
                }
            }
        }
    }

private:
    [[nodiscard]] int columnOf(double x) const {
        return std::clamp(static_cast<int>(std::floor(x / m_cell)), 0, m_columns - 1);
    }
    [[nodiscard]] int rowOf(double y) const {
        return std::clamp(static_cast<int>(std::floor(y / m_cell)), 0, m_rows - 1);
    }
    [[nodiscard]] std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(m_columns) +
               static_cast<std::size_t>(column);
    }

    double m_cell;
    int m_columns;
    int m_rows;
    std::vector<int> m_first, m_last;  ///< by cell; -1: none
    std::vector<int> m_next;           ///< by point: the next of its cell
};

}  // namespace rigmatch::chart
