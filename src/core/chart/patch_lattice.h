// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "chart/flat_patches.h"
#include "image/geometry.h"

namespace rigmatch::chart {

/// One candidate at whole lattice coordinates.
struct LatticeNode {
    int column = 0;
    int row = 0;
    std::size_t patch = 0;  ///< index into the candidates
};

/// Candidates that stand in rows and columns, like the patches of a chart.
struct PatchLattice {
    std::vector<LatticeNode> nodes;
    image::Homography toPicture;  ///< lattice coordinates to px of the working picture
    int firstColumn = 0, lastColumn = 0, firstRow = 0, lastRow = 0;
};

/// Grows lattices from every candidate that has neighbours at equal steps at right angles (as seen
/// through its own tilt). Columns run clockwise before rows, as on an unmirrored chart.
/// Only lattices of at least `smallest` nodes are given, largest first.
[[nodiscard]] std::vector<PatchLattice> growLattices(const std::vector<FlatPatch>& patches,
                                                     std::size_t smallest);

}  // namespace rigmatch::chart
