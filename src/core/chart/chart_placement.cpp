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

constexpr std::size_t kChannels = 5;  // R, G, B, R - G, B - G of the patches
constexpr std::size_t kGreen = 1;
using Values = std::array<float, kMostPatches>;  // only the first `count` are used
using Ranks = std::array<int, kMostPatches>;
/// Patches of the chart from the least value to the greatest.
using Order = std::array<std::size_t, kMostPatches>;

template <class Colour>
float channelOf(const Colour& rgb, std::size_t channel) {
    const auto at = [&](std::size_t c) { return static_cast<float>(rgb[c]); };
    return channel < 3 ? at(channel) : at(channel == 3 ? 0 : 2) - at(kGreen);
}

/// Sorted by insertion: two dozen values need no more. Ties keep their order, which costs a
/// constant patch its agreement, as it should.
Order orderOf(const Values& values, std::size_t count) {
    Order order;
    for (std::size_t i = 0; i < count; ++i) {
        std::size_t place = i;
        for (; place > 0 && values[order[place - 1]] > values[i]; --place)
            order[place] = order[place - 1];
        order[place] = i;
    }
    return order;
}

Ranks ranksOf(const Values& values, std::size_t count) {
    const Order order = orderOf(values, count);
    Ranks ranks;
    for (std::size_t i = 0; i < count; ++i) ranks[order[i]] = static_cast<int>(i);
    return ranks;
}

struct Site {
    bool isInside = false;
    std::array<float, 3> rgb{};  ///< sums over 3 x 3 px
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
                site.rgb[c] += static_cast<float>(row[x - 1] + row[x] + row[x + 1]);
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

/// Counts the nodes of a lattice in any box of columns and rows, by sums from the upper left.
class NodeCounts {
public:
    explicit NodeCounts(const PatchLattice& lattice)
        : m_firstColumn(lattice.firstColumn),
          m_firstRow(lattice.firstRow),
          m_columns(lattice.lastColumn - lattice.firstColumn + 1),
          m_rows(lattice.lastRow - lattice.firstRow + 1),
          m_sums(static_cast<std::size_t>(m_columns + 1) * static_cast<std::size_t>(m_rows + 1)) {
        for (const LatticeNode& node : lattice.nodes)
            ++m_sums[index(node.column - m_firstColumn + 1, node.row - m_firstRow + 1)];
        for (int row = 1; row <= m_rows; ++row) {
            for (int column = 1; column <= m_columns; ++column)
                m_sums[index(column, row)] += m_sums[index(column - 1, row)] +
                                              m_sums[index(column, row - 1)] -
                                              m_sums[index(column - 1, row - 1)];
        }
    }

    /// Nodes under the chart.
    [[nodiscard]] int within(const Layout& layout, int columns, int rows) const {
        const auto first = layout.at(0, 0);
        const auto last = layout.at(columns - 1, rows - 1);
        const auto [left, right] = std::minmax(first.first, last.first);
        const auto [top, bottom] = std::minmax(first.second, last.second);
        const auto column = [&](int c) { return std::clamp(c - m_firstColumn, 0, m_columns); };
        const auto row = [&](int r) { return std::clamp(r - m_firstRow, 0, m_rows); };
        return m_sums[index(column(right + 1), row(bottom + 1))] -
               m_sums[index(column(left), row(bottom + 1))] -
               m_sums[index(column(right + 1), row(top))] + m_sums[index(column(left), row(top))];
    }

private:
    [[nodiscard]] std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(m_columns + 1) +
               static_cast<std::size_t>(column);
    }

    int m_firstColumn, m_firstRow, m_columns, m_rows;
    std::vector<int> m_sums;
};

}  // namespace

/// The chart as a camera would code it: only ranks matter, so any display curve will do.
struct ChartPlacer::Likeness {
    explicit Likeness(const ReferenceChart& chart)
        : columns(static_cast<int>(chart.columns)),
          rows(static_cast<int>(chart.rows)),
          count(chart.patches.size()),
          fewestSeen(count >= 24 ? count / 2 : std::max<std::size_t>(count * 3 / 4, 9)) {
        const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Srgb);
        std::array<Values, kChannels> values;
        for (std::size_t patch = 0; patch < count; ++patch) {
            const colour::Vector3& linear = chart.patches[patch].linear;
            const std::array<double, 3> coded{
                curve.encode(linear.x()), curve.encode(linear.y()), curve.encode(linear.z())};
            for (std::size_t c = 0; c < kChannels; ++c) values[c][patch] = channelOf(coded, c);
        }
        for (std::size_t c = 0; c < kChannels; ++c) order[c] = orderOf(values[c], count);
    }

    int columns;
    int rows;
    std::size_t count;
    std::size_t fewestSeen;
    std::array<Order, kChannels> order;
};

namespace {

constexpr std::size_t kUnseen = kMostPatches;

/// The patches of a chart that a placement shows.
struct SeenPatches {
    std::array<const Site*, kMostPatches> sites;  ///< one after the other
    std::array<std::size_t, kMostPatches> seat;   ///< of each patch in `sites`, or kUnseen
    std::size_t count = 0;
};

/// Spearman's rank correlation of one channel, by the sum of squared rank differences.
double rankAgreement(const SeenPatches& seen, const Order& order, std::size_t channel) {
    Values values{};
    for (std::size_t i = 0; i < seen.count; ++i) values[i] = channelOf(seen.sites[i]->rgb, channel);
    const Ranks measured = ranksOf(values, seen.count);
    int expected = 0;
    long long squares = 0;
    for (std::size_t i = 0; expected < static_cast<int>(seen.count); ++i) {
        const std::size_t seat = seen.seat[order[i]];
        if (seat == kUnseen) continue;
        const long long apart = measured[seat] - expected;
        squares += apart * apart;
        ++expected;
    }
    const auto n = static_cast<double>(seen.count);
    return 1.0 - 6.0 * static_cast<double>(squares) / (n * (n * n - 1.0));
}

template <class Likeness>
double agreement(const SiteMap& sites,
                 const Layout& layout,
                 const Likeness& chart,
                 bool& isInside) {
    SeenPatches seen;
    for (std::size_t patch = 0; patch < chart.count; ++patch) {
        const auto [column, row] =
            layout.at(int(patch) % chart.columns, int(patch) / chart.columns);
        const Site* site = sites.at(column, row);
        const bool isSeen = site != nullptr && site->isInside;
        seen.seat[patch] = isSeen ? seen.count : kUnseen;
        if (isSeen) seen.sites[seen.count++] = site;
    }
    isInside = seen.count == chart.count;
    if (seen.count < chart.fewestSeen) return -1.0;
    std::array<double, kChannels> agree{};
    agree[kGreen] = rankAgreement(seen, chart.order[kGreen], kGreen);
    if (agree[kGreen] < kHopeless) return agree[kGreen];
    for (std::size_t c = 0; c < kChannels; ++c) {
        if (c != kGreen) agree[c] = rankAgreement(seen, chart.order[c], c);
    }
    const double brightness = (agree[0] + agree[1] + agree[2]) / 3.0;
    const double colour = 0.5 * (agree[3] + agree[4]);
    return std::min(brightness, 0.5 * (brightness + colour));
}

constexpr double kAgrees = 0.6;  // an unmirrored chart is at least that; nothing else is

/// The best placement one way round.
template <class Likeness>
std::optional<Placement> bestOneWay(const SiteMap& sites,
                                    const PatchLattice& lattice,
                                    const Likeness& chart,
                                    bool isMirrored) {
    const NodeCounts nodes(lattice);
    const auto needed =
        static_cast<int>(std::ceil(kNodesNeeded * static_cast<double>(std::min<std::size_t>(
                                                      lattice.nodes.size(), chart.count))));
    std::optional<Placement> best;
    for (int roll = 0; roll < 4; ++roll) {
        for (int row0 = lattice.firstRow - kMargin; row0 <= lattice.lastRow + kMargin; ++row0) {
            for (int column0 = lattice.firstColumn - kMargin;
                 column0 <= lattice.lastColumn + kMargin;
                 ++column0) {
                const Layout layout{roll, column0, row0, isMirrored, chart.columns};
                if (nodes.within(layout, chart.columns, chart.rows) < needed) continue;
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

ChartPlacer::ChartPlacer(const ReferenceChart& chart)
    : m_likeness(std::make_unique<const Likeness>(chart)) {}
ChartPlacer::~ChartPlacer() = default;

std::optional<Placement> ChartPlacer::best(const StretchedPicture& colour,
                                           const PatchLattice& lattice) const {
    const SiteMap sites(colour, lattice);
    auto upright = bestOneWay(sites, lattice, *m_likeness, false);
    if (upright && upright->score > kAgrees) return upright;
    const auto mirrored = bestOneWay(sites, lattice, *m_likeness, true);
    return mirrored && (!upright || mirrored->score > upright->score) ? mirrored : upright;
}

}  // namespace rigmatch::chart
