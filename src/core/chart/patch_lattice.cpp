// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/patch_lattice.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <deque>
#include <map>
#include <set>

#include "chart/point_grid.h"

namespace rigmatch::chart {
namespace {

using Eigen::Matrix2d;
using Eigen::Vector2d;

constexpr double kNearestStep = 1.02;  // step over patch side, before erosion is allowed for
constexpr double kFarthestStep = 2.3;
constexpr double kFirstTolerance = 0.24;  // of a step, for the neighbours of the seed
constexpr double kStepTolerance =
    0.13;                  // later, when the local step is known: perspective bends it by less
constexpr int kReach = 9;  // lattice coordinates beyond this are no chart of ours
constexpr std::size_t kNeighbours = 10;

constexpr double kCell = 24.0;  // px

/// Candidates by place, for neighbour queries.
class PatchGrid {
public:
    explicit PatchGrid(const std::vector<FlatPatch>& patches)
        : m_patches(patches), m_grid(gridFor(patches)) {
        for (const FlatPatch& patch : patches) m_grid.add(patch.centre);
    }

    /// Calls `visit(index)` for every candidate within `radius` px.
    template <class Visit>
    void near(const Vector2d& centre, double radius, Visit visit) const {
        m_grid.near(centre, radius, [&](std::size_t index) {
            if ((m_patches[index].centre - centre).squaredNorm() <= radius * radius) visit(index);
            return false;
        });
    }

private:
    static PointGrid gridFor(const std::vector<FlatPatch>& patches) {
        Vector2d far = Vector2d::Zero();
        for (const FlatPatch& patch : patches) far = far.cwiseMax(patch.centre);
        return {kCell, far.x(), far.y()};
    }

    const std::vector<FlatPatch>& m_patches;
    PointGrid m_grid;
};

bool isSimilarSize(const FlatPatch& a, const FlatPatch& b) {
    return a.area < 2.6 * b.area && b.area < 2.6 * a.area;
}

/// Turns the candidate's ellipse into a unit square of unknown roll.
Matrix2d whitener(const FlatPatch& patch) {
    const Eigen::SelfAdjointEigenSolver<Matrix2d> axes(12.0 * patch.covariance);
    // The flat mask loses about one pixel on each side; give it back to the sides.
    const Vector2d sides = axes.eigenvalues().cwiseSqrt().array() + 2.0;
    return sides.cwiseInverse().asDiagonal() * axes.eigenvectors().transpose();
}

struct Basis {
    Vector2d column;  // px from a patch to the next in its row
    Vector2d row;
};

/// The pairs of near neighbours that could be the two steps of a lattice, best first.
std::vector<Basis> basesAt(const std::vector<FlatPatch>& patches,
                           const PatchGrid& grid,
                           std::size_t seed) {
    struct Neighbour {
        Vector2d step;
        Vector2d white;
        double length;
    };
    const FlatPatch& centre = patches[seed];
    const Matrix2d whiten = whitener(centre);
    const double radius = kFarthestStep * (std::sqrt(12.0 * centre.covariance.trace()) + 2.0);
    std::vector<Neighbour> neighbours;
    grid.near(centre.centre, radius, [&](std::size_t index) {
        if (index == seed || !isSimilarSize(centre, patches[index])) return;
        const Vector2d step = patches[index].centre - centre.centre;
        const Vector2d white = whiten * step;
        const double length = white.norm();
        if (length >= kNearestStep * 0.8 && length <= kFarthestStep)
            neighbours.push_back({step, white, length});
    });
    std::sort(neighbours.begin(), neighbours.end(), [](const auto& a, const auto& b) {
        return a.length < b.length;
    });
    if (neighbours.size() > kNeighbours) neighbours.resize(kNeighbours);
    std::vector<std::pair<double, Basis>> found;
    for (const Neighbour& u : neighbours) {
        for (const Neighbour& v : neighbours) {
            const double cross = u.white.x() * v.white.y() - u.white.y() * v.white.x();
            if (u.step.x() * v.step.y() - u.step.y() * v.step.x() <= 0.0) continue;
            const double cosine = std::abs(u.white.dot(v.white)) / (u.length * v.length);
            const double ratio = u.length / v.length;
            if (cosine > 0.34 || ratio > 1.45 || ratio < 0.69 || cross == 0.0) continue;
            found.push_back(
                {u.length + v.length + cosine + std::abs(std::log(ratio)), {u.step, v.step}});
        }
    }
    std::sort(
        found.begin(), found.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<Basis> bases;
    for (const auto& [cost, basis] : found) {
        if (bases.size() < 3) bases.push_back(basis);
    }
    return bases;
}

/// Breadth-first growth: every node knows the local steps, which bend with perspective.
class Grower {
public:
    Grower(const std::vector<FlatPatch>& patches, const PatchGrid& grid)
        : m_patches(patches), m_grid(grid) {}

    std::vector<LatticeNode> grow(std::size_t seed, const Basis& basis) {
        m_taken.clear();
        m_places.clear();
        m_nodes.clear();
        place(0, 0, seed, basis);
        for (std::size_t next = 0; next < m_queue.size(); ++next) {
            const Open open = m_queue[next];  // a copy: the queue grows, and moves, meanwhile
            extend(open);
        }
        m_queue.clear();
        return m_nodes;
    }

private:
    struct Open {
        LatticeNode node;
        Basis basis;
    };

    void place(int column, int row, std::size_t patch, const Basis& basis) {
        m_taken.insert(patch);
        m_places[{column, row}] = patch;
        m_nodes.push_back({column, row, patch});
        m_queue.push_back({{column, row, patch}, basis});
    }

    void extend(const Open& open) {
        static constexpr std::array<std::pair<int, int>, 4> kSteps{
            {{1, 0}, {-1, 0}, {0, 1}, {0, -1}}};
        for (const auto& [dc, dr] : kSteps) {
            const int column = open.node.column + dc;
            const int row = open.node.row + dr;
            if (std::abs(column) > kReach || std::abs(row) > kReach) continue;
            if (m_places.count({column, row}) != 0) continue;
            const Vector2d along = dc != 0 ? open.basis.column : open.basis.row;
            const Vector2d step = (dc + dr) * along;
            const Vector2d expected = m_patches[open.node.patch].centre + step;
            const bool isFirst = open.node.column == 0 && open.node.row == 0;
            const double tolerance = isFirst ? kFirstTolerance : kStepTolerance;
            const auto patch =
                nearest(expected, tolerance * step.norm(), m_patches[open.node.patch]);
            if (!patch) continue;
            Basis basis = open.basis;
            const Vector2d real =
                (m_patches[*patch].centre - m_patches[open.node.patch].centre) * (dc + dr);
            (dc != 0 ? basis.column : basis.row) = 0.5 * (along + real);
            place(column, row, *patch, basis);
        }
    }

    std::optional<std::size_t> nearest(const Vector2d& place,
                                       double radius,
                                       const FlatPatch& like) const {
        std::optional<std::size_t> best;
        double bestDistance = radius;
        m_grid.near(place, radius, [&](std::size_t index) {
            const double distance = (m_patches[index].centre - place).norm();
            if (distance > bestDistance || m_taken.count(index) != 0 ||
                !isSimilarSize(like, m_patches[index]))
                return;
            best = index;
            bestDistance = distance;
        });
        return best;
    }

    const std::vector<FlatPatch>& m_patches;
    const PatchGrid& m_grid;
    std::set<std::size_t> m_taken;
    std::map<std::pair<int, int>, std::size_t> m_places;
    std::vector<LatticeNode> m_nodes;
    std::vector<Open> m_queue;
};

/// Fits the map, drops nodes that lie off it by more than a fifth of a step, fits again.
std::optional<PatchLattice> fitted(std::vector<LatticeNode> nodes,
                                   const std::vector<FlatPatch>& patches,
                                   std::size_t smallest) {
    PatchLattice lattice;
    for (int pass = 0; pass < 2; ++pass) {
        std::vector<image::Point> from;
        std::vector<image::Point> to;
        for (const LatticeNode& node : nodes) {
            from.push_back({double(node.column), double(node.row)});
            to.push_back({patches[node.patch].centre.x(), patches[node.patch].centre.y()});
        }
        const auto map = image::Homography::fit(from, to);
        if (!map) return std::nullopt;
        lattice.toPicture = *map;
        std::vector<LatticeNode> kept;
        for (std::size_t i = 0; i < nodes.size(); ++i) {
            const image::Point expected = map->apply(from[i]);
            const image::Point next = map->apply({from[i].x + 1.0, from[i].y});
            if (image::distancePx(expected, to[i]) < 0.2 * image::distancePx(expected, next))
                kept.push_back(nodes[i]);
        }
        nodes = std::move(kept);
        if (nodes.size() < smallest) return std::nullopt;
    }
    lattice.firstColumn = lattice.lastColumn = nodes.front().column;
    lattice.firstRow = lattice.lastRow = nodes.front().row;
    for (const LatticeNode& node : nodes) {
        lattice.firstColumn = std::min(lattice.firstColumn, node.column);
        lattice.lastColumn = std::max(lattice.lastColumn, node.column);
        lattice.firstRow = std::min(lattice.firstRow, node.row);
        lattice.lastRow = std::max(lattice.lastRow, node.row);
    }
    if (lattice.lastColumn == lattice.firstColumn || lattice.lastRow == lattice.firstRow)
        return std::nullopt;
    lattice.nodes = std::move(nodes);
    return lattice;
}

}  // namespace

std::vector<PatchLattice> growLattices(const std::vector<FlatPatch>& patches,
                                       std::size_t smallest) {
    const PatchGrid grid(patches);
    Grower grower(patches, grid);
    std::vector<bool> isUsed(patches.size(), false);
    std::vector<PatchLattice> lattices;
    for (std::size_t seed = 0; seed < patches.size(); ++seed) {
        if (isUsed[seed]) continue;
        for (const Basis& basis : basesAt(patches, grid, seed)) {
            std::vector<LatticeNode> nodes = grower.grow(seed, basis);
            if (nodes.size() < smallest) continue;
            auto lattice = fitted(std::move(nodes), patches, smallest);
            if (!lattice) continue;
            for (const LatticeNode& node : lattice->nodes) isUsed[node.patch] = true;
            lattices.push_back(std::move(*lattice));
            break;
        }
    }
    std::stable_sort(lattices.begin(), lattices.end(), [](const auto& a, const auto& b) {
        return a.nodes.size() > b.nodes.size();
    });
    return lattices;
}

}  // namespace rigmatch::chart
