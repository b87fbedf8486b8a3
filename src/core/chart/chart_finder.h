// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/result.h"
#include "chart/chart_pose.h"
#include "chart/reference_chart.h"
#include "image/frame.h"

namespace rigmatch::chart {

/// Quick: without the pass at full size, for frames of a clip that come in number. Full: all sizes,
/// for a still or when nothing was found.
enum class Effort { Quick, Full };

struct FinderOptions {
    Effort effort = Effort::Full;
    double leastAgreement = 0.72;  ///< rank agreement of the colours that is taken for the chart;
                                   ///< charts of fewer than 20 patches need 0.85
};

/// A chart that was found in one frame.
struct FoundChart {
    ChartPose pose;
    double confidence = 0.0;  ///< 0..1, from colour agreement and patches whose edges fit
    int patchesFitted = 0;    ///< of all
    int otherCharts = 0;      ///< further charts in the frame; this one is the largest
};

/// Finds `chart` (which must be searchable) anywhere in the frame: any roll, mirrored, tilted up to
/// about 45 degrees, from 8 % of the width, in log as in standard pictures; of several, the
/// largest. Fails with ChartNotFound, saying what was seen instead. About 20 ms for 1080p on one
/// core; thread-safe.
[[nodiscard]] base::Result<FoundChart> findChart(const image::CodedFrame& frame,
                                                 const FinderOptions& options = {},
                                                 const ReferenceChart& chart = classicChart());

/// Rank agreement of the colours at the patches' places with the chart's, -1..1, mean of red, green
/// and blue: what findChart() and followChart() ask for, for corners that were set by hand.
[[nodiscard]] double coloursAgree(const image::CodedFrame& frame,
                                  const ChartPose& pose,
                                  const ReferenceChart& chart);

/// Follows a chart from a pose nearby (the frame before, or corners set by hand).
/// Fails with ChartNotFound where the edges are not there or the colours are not the chart's.
[[nodiscard]] base::Result<FoundChart> followChart(const image::CodedFrame& frame,
                                                   const ChartPose& near,
                                                   const ReferenceChart& chart = classicChart());

}  // namespace rigmatch::chart
