// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/darkest_place.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/luma.h"

namespace rigmatch::framing {
namespace {

constexpr int kDarkCell = 8;          // px
constexpr int kFewestCells = 200;     // of a picture
constexpr double kDarkShare = 0.005;  // of its cells
constexpr double kBarLevel = 0.02;    // of signal, over which nothing in a bar lies
constexpr double kDarkFloor = 0.002;  // of signal: what codecs do to shadows (own choice)

/// Mean luma of each cell.
struct DarkCells {
    int columns = 0, rows = 0;
    std::vector<double> levels;
    [[nodiscard]] double at(int column, int row) const {
        return levels[static_cast<std::size_t>(row) * static_cast<std::size_t>(columns) +
                      static_cast<std::size_t>(column)];
    }
    [[nodiscard]] bool isBarRow(int row) const {
        for (int x = 0; x < columns; ++x)
            if (at(x, row) > kBarLevel) return false;
        return true;
    }
    [[nodiscard]] bool isBarColumn(int column) const {
        for (int y = 0; y < rows; ++y)
            if (at(column, y) > kBarLevel) return false;
        return true;
    }
};

DarkCells cellsOf(const image::CodedFrame& frame) {
    const image::Frame small = image::shrunkSignal(frame, kDarkCell);
    DarkCells cells{small.width, small.height, {}};
    for (int y = 0; y < small.height; ++y) {
        for (int x = 0; x < small.width; ++x)
            cells.levels.push_back(static_cast<double>(
                base::lumaOf(std::array{small.at(0, x, y), small.at(1, x, y), small.at(2, x, y)})));
    }
    return cells;
}

}  // namespace

std::optional<rig::Doubted> darkestPlace(const image::CodedFrame& frame) {
    const DarkCells cells = cellsOf(frame);
    int top = 0, bottom = cells.rows, left = 0, right = cells.columns;
    while (top < bottom && cells.isBarRow(top)) ++top;
    while (bottom > top && cells.isBarRow(bottom - 1)) --bottom;
    while (left < right && cells.isBarColumn(left)) ++left;
    while (right > left && cells.isBarColumn(right - 1)) --right;
    std::vector<double> levels;
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x)
            if (std::isfinite(cells.at(x, y))) levels.push_back(cells.at(x, y));
    if (static_cast<int>(levels.size()) < kFewestCells) return std::nullopt;
    std::sort(levels.begin(), levels.end());
    const auto count = std::max<std::size_t>(
        4, static_cast<std::size_t>(kDarkShare * static_cast<double>(levels.size())));
    double sum = 0.0, squares = 0.0;
    for (std::size_t k = 0; k < count; ++k) {
        sum += levels[k];
        squares += levels[k] * levels[k];
    }
    const double n = static_cast<double>(count), mean = sum / n;
    const double spread = std::sqrt(std::max(0.0, squares / n - mean * mean));
    return rig::Doubted{mean, std::hypot(spread / std::sqrt(n), kDarkFloor)};
}

}  // namespace rigmatch::framing
