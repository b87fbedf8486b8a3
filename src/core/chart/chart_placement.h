// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>

#include "chart/patch_lattice.h"
#include "chart/reference_chart.h"

namespace rigmatch::chart {

/// One way to lay the chart on a lattice, and how well the colours agree.
struct Placement {
    image::Homography toPicture;  ///< chart coordinates (column, row of patch centres) to px of the
                                  ///< working picture
    double score = 0.0;           ///< rank agreement with the chart's colours, 1 = perfect
    bool isInside = true;         ///< false where patches would lie outside the picture
};

/// Lays one chart on lattices.
class ChartPlacer {
public:
    explicit ChartPlacer(const ReferenceChart& chart);
    ~ChartPlacer();
    ChartPlacer(const ChartPlacer&) = delete;
    ChartPlacer& operator=(const ChartPlacer&) = delete;

    /// `colour` must be the three planes of the picture in whose px the lattice lies.
    /// The best of all placements (four rolls, every offset) of the chart on `lattice`; where none
    /// agrees at all, mirrored as well (a picture flipped by its camera or its capture chain).
    /// Agreement is by ranks per channel and of the colour differences, so that no exposure, white
    /// balance, tone curve or saturation can spoil it. Nothing where no placement holds enough
    /// nodes.
    [[nodiscard]] std::optional<Placement> best(const StretchedPicture& colour,
                                                const PatchLattice& lattice) const;

private:
    struct Likeness;
    std::unique_ptr<const Likeness> m_likeness;
};

}  // namespace rigmatch::chart
