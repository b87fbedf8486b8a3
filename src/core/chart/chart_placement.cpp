// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_placement.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "colour/transfer.h"

namespace rigmatch::chart {
namespace {

constexpr int kMargin = 5;         // lattice steps around the seen nodes that a chart may extend
constexpr double kHopeless = 0.5;  // green ranks below this are no chart, whatever red and blue do
constexpr double kNodesNeeded = 0.6;  // share of the lattice that must lie within the chart

constexpr std::size_t kChannels = 5;              // R, G, B, R - G, B - G of the patches
using Values = std::array<double, kMostPatches>;  // only the first `count` are used
using Columns = std::array<Values, kChannels>;

void setColour(Columns& columns, std::size_t at, double red, double green, double blue) {
    const std::array<double, kChannels> values{red, green, blue, red - green, blue - green};
    for (std::size_t i = 0; i < kChannels; ++i) columns[i][at] = values[i];
}

/// The chart as a camera would code it: only ranks matter, so any display curve will do.
struct Likeness {
    explicit Likeness(const ReferenceChart& chart)
        : columns(static_cast<int>(chart.columns)),
          rows(static_cast<int>(chart.rows)),
          count(chart.patches.size()),
          fewestSeen(count >= 24 ? count / 2 : std::max<std::size_t>(count * 3 / 4, 9)) {
        const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Srgb);
        for (std::size_t patch = 0; patch < count; ++patch) {
            const colour::Vector3& linear = chart.patches[patch].linear;
            setColour(expected,
                      patch,
                      curve.encode(linear.x()),
                      curve.encode(linear.y()),
                      curve.encode(linear.z()));
        }
    }

    int columns;
    int rows;
    std::size_t count;
    std::size_t fewestSeen;
    Columns expected;
};

/// Ranks of the first `count` values, by insertion: two dozen values need no more. Ties keep their
/// order, which costs a constant patch its agreement, as it should.
Values ranksOf(const Values& values, std::size_t count) {
    std::array<std::size_t, kMostPatches> order;
    for (std::size_t i = 0; i < count; ++i) {
        std::size_t place = i;
        for (; place > 0 && values[order[place - 1]] > values[i]; --place)
            order[place] = order[place - 1];
        order[place] = i;
    }
    Values ranks;
    for (std::size_t i = 0; i < count; ++i) ranks[order[i]] = static_cast<double>(i);
    return ranks;
}

/// Spearman's rank correlation by the sum of squared rank differences.
double rankAgreement(const Values& a, const Values& b, std::size_t count) {
    const auto first = ranksOf(a, count);
    const auto second = ranksOf(b, count);
    double squares = 0.0;
    for (std::size_t i = 0; i < count; ++i)
        squares += (first[i] - second[i]) * (first[i] - second[i]);
    const double n = static_cast<double>(count);
    return 1.0 - 6.0 * squares / (n * (n * n - 1.0));
}

struct Site {
    bool isInside = false;
    std::array<double, 3> rgb{};
};

/// Colours at all lattice sites that a placement could use, sampled once.
class SiteMap {
public:
    SiteMap(const StretchedPicture& picture, const PatchLattice& lattice)
        : m_firstColumn(lattice.firstColumn - kMargin),
          m_firstRow(lattice.firstRow - kMargin),
          m_columns(lattice.lastColumn - lattice.firstColumn + 1 + 2 * kMargin),
          m_rows(lattice.lastRow - lattice.firstRow + 1 + 2 * kMargin) {
        m_sites.resize(static_cast<std::size_t>(m_columns) * static_cast<std::size_t>(m_rows));
        for (int row = 0; row < m_rows; ++row) {
            for (int column = 0; column < m_columns; ++column) {
                const image::Point p = lattice.toPicture.apply(
                    {double(m_firstColumn + column), double(m_firstRow + row)});
                m_sites[index(column, row)] = sample(picture, p);
            }
        }
    }

    [[nodiscard]] const Site* at(int column, int row) const {
        const int c = column - m_firstColumn;
        const int r = row - m_firstRow;
        if (c < 0 || r < 0 || c >= m_columns || r >= m_rows) return nullptr;
        return &m_sites[index(c, r)];
    }

private:
    [[nodiscard]] std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(m_columns) +
               static_cast<std::size_t>(column);
    }

    static Site sample(const StretchedPicture& picture, image::Point p) {
        Site site;
        if (!(p.x >= 1.0 && p.y >= 1.0 && p.x < picture[0].cols - 2.0 &&
              p.y < picture[0].rows - 2.0))
            return site;
        const int x = static_cast<int>(std::lround(p.x));
        const int y = static_cast<int>(std::lround(p.y));
        for (std::size_t c = 0; c < 3; ++c) {
            for (int dy = -1; dy <= 1; ++dy) {
                const auto* row = picture[c].ptr<std::uint8_t>(y + dy);
                site.rgb[c] += (row[x - 1] + row[x] + row[x + 1]) / 9.0;
            }
        }
        site.isInside = true;
        return site;
    }

    int m_firstColumn, m_firstRow, m_columns, m_rows;
    std::vector<Site> m_sites;
};

/// Lattice coordinates of chart patch (column, row) under a roll of quarter turns and an offset.
struct Layout {
    int roll = 0;
    int column0 = 0;
    int row0 = 0;
    bool isMirrored = false;  ///< columns run the other way
    int columns = 0;          ///< of the chart

    [[nodiscard]] std::pair<int, int> at(int column, int row) const {
        if (isMirrored) column = columns - 1 - column;
        switch (roll) {
            case 1:
                return {column0 - row, row0 + column};
            case 2:
                return {column0 - column, row0 - row};
            case 3:
                return {column0 + row, row0 - column};
            default:
                return {column0 + column, row0 + row};
        }
    }

    [[nodiscard]] Eigen::Matrix3d matrix() const {
        static constexpr std::array<std::array<double, 4>, 4> kTurns{
            {{1, 0, 0, 1}, {0, -1, 1, 0}, {-1, 0, 0, -1}, {0, 1, -1, 0}}};
        const auto& t = kTurns[static_cast<std::size_t>(roll)];
        Eigen::Matrix3d matrix;
        matrix << t[0], t[1], column0, t[2], t[3], row0, 0, 0, 1;
        if (isMirrored) {
            Eigen::Matrix3d mirror;
            mirror << -1, 0, double(columns) - 1.0, 0, 1, 0, 0, 0, 1;
            return matrix * mirror;
        }
        return matrix;
    }
};

std::size_t nodesWithin(const PatchLattice& lattice, const Layout& layout, const Likeness& chart) {
    const auto first = layout.at(0, 0);
    const auto last = layout.at(chart.columns - 1, chart.rows - 1);
    const auto [left, right] = std::minmax(first.first, last.first);
    const auto [top, bottom] = std::minmax(first.second, last.second);
    std::size_t count = 0;
    for (const LatticeNode& node : lattice.nodes) {
        if (node.column >= left && node.column <= right && node.row >= top && node.row <= bottom)
            ++count;
    }
    return count;
}

double agreement(const SiteMap& sites,
                 const Layout& layout,
                 const Likeness& chart,
                 bool& isInside) {
    Columns measured;
    Columns expected;
    isInside = true;
    std::size_t seen = 0;
    for (std::size_t patch = 0; patch < chart.count; ++patch) {
        const auto [column, row] =
            layout.at(int(patch) % chart.columns, int(patch) / chart.columns);
        const Site* site = sites.at(column, row);
        if (site == nullptr || !site->isInside) {
            isInside = false;
            continue;
        }
        setColour(measured, seen, site->rgb[0], site->rgb[1], site->rgb[2]);
        for (std::size_t i = 0; i < kChannels; ++i) expected[i][seen] = chart.expected[i][patch];
        ++seen;
    }
    if (seen < chart.fewestSeen) return -1.0;
    const double green = rankAgreement(measured[1], expected[1], seen);
    if (green < kHopeless) return green;
    const double brightness = (rankAgreement(measured[0], expected[0], seen) + green +
                               rankAgreement(measured[2], expected[2], seen)) /
                              3.0;
    const double colour = 0.5 * (rankAgreement(measured[3], expected[3], seen) +
                                 rankAgreement(measured[4], expected[4], seen));
    return std::min(brightness, 0.5 * (brightness + colour));
}

constexpr double kAgrees = 0.6;  // an unmirrored chart is at least that; nothing else is

/// The best placement one way round.
std::optional<Placement> bestOneWay(const SiteMap& sites,
                                    const PatchLattice& lattice,
                                    const Likeness& chart,
                                    bool isMirrored) {
    const auto needed =
        static_cast<std::size_t>(std::ceil(kNodesNeeded * static_cast<double>(std::min<std::size_t>(
                                                              lattice.nodes.size(), chart.count))));
    std::optional<Placement> best;
    for (int roll = 0; roll < 4; ++roll) {
        for (int row0 = lattice.firstRow - kMargin; row0 <= lattice.lastRow + kMargin; ++row0) {
            for (int column0 = lattice.firstColumn - kMargin;
                 column0 <= lattice.lastColumn + kMargin;
                 ++column0) {
                const Layout layout{roll, column0, row0, isMirrored, chart.columns};
                if (nodesWithin(lattice, layout, chart) < needed) continue;
                bool isInside = true;
                const double score = agreement(sites, layout, chart, isInside);
                if (best && score <= best->score) continue;
                best = Placement{
                    lattice.toPicture.after(image::Homography(layout.matrix())), score, isInside};
            }
        }
    }
    return best;
}

}  // namespace

std::optional<Placement> bestPlacement(const StretchedPicture& colour,
                                       const PatchLattice& lattice,
                                       const ReferenceChart& chart) {
    const SiteMap sites(colour, lattice);
    const Likeness likeness(chart);
    const auto upright = bestOneWay(sites, lattice, likeness, false);
    if (upright && upright->score > kAgrees) return upright;
    const auto mirrored = bestOneWay(sites, lattice, likeness, true);
    return mirrored && (!upright || mirrored->score > upright->score) ? mirrored : upright;
}

}  // namespace rigmatch::chart
