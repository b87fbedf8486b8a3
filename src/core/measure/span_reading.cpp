// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/span_reading.h"

#include <algorithm>
#include <cmath>

#include "image/robust.h"
#include "measure/cut_whites.h"
#include "measure/patch_average.h"

namespace rigmatch::measure {
namespace {

/// Middle of the looks' values, and its standard deviation: that of a mean from their spread (a
/// quarter more for a median), and for few looks that of a standard deviation itself, 1 / sqrt(2 n)
/// of it, with 30 independent pixels (neighbours hang together) a look.
void putNoise(const std::vector<std::array<double, 3>>& looks,
              std::array<double, 3>& middle,
              std::array<double, 3>& error) {
    constexpr double kMedianOverMean = 1.2533;
    constexpr double kIndependent = 30.0;
    const auto count = static_cast<double>(looks.size());
    for (std::size_t c = 0; c < 3; ++c) {
        std::vector<double> list;
        list.reserve(looks.size());
        for (const auto& look : looks) list.push_back(look[c]);
        middle[c] = image::median(list);
        error[c] = std::max(kMedianOverMean * image::meanSigma(list).sigma / std::sqrt(count),
                            middle[c] / std::sqrt(2.0 * kIndependent * count));
    }
}

/// Noise, edges and drift, where the span tells them.
void putDetails(rig::Reading& reading, const SteadySpan& span, const chart::ReferenceChart& chart) {
    if (!span.greyNoise.empty()) {
        rig::NoiseReading& noise = reading.noise.emplace();
        putNoise(span.greyNoise, noise.grey, noise.greyError);
        putNoise(span.blackNoise, noise.black, noise.blackError);
    }
    if (!span.edges.empty()) {
        std::vector<double> widths, overshoots;
        for (const chart::EdgeSharpness& edge : span.edges) {
            widths.push_back(edge.widthPx);
            overshoots.push_back(edge.overshootPercent);
        }
        const image::MeanSigma width = image::meanSigma(widths);
        const image::MeanSigma overshoot = image::meanSigma(overshoots);
        const double count = std::sqrt(static_cast<double>(widths.size()));
        // Below a tenth of a pixel and 0.4 percent the method itself is not surer.
        reading.sharpness = rig::SharpnessReading{width.mean,
                                                  std::hypot(width.sigma / count, 0.1),
                                                  std::max(0.0, overshoot.mean),
                                                  std::hypot(overshoot.sigma / count, 0.4)};
    }
    // In the hand a chart tilts against the light: that is no drift of the camera.
    if (!span.isHeld) reading.drift = driftOf(span.frames, chart);
}

}  // namespace

void putSpan(rig::Reading& reading, const SteadySpan& span, const chart::ReferenceChart& chart) {
    reading.hasChart = true;
    reading.layout = chart.id;
    reading.columns = static_cast<int>(chart.columns);
    reading.rows = static_cast<int>(chart.rows);
    reading.trust = chart.trust;
    reading.confidence = span.chart.confidence;
    for (std::size_t i = 0; i < 4; ++i) {
        reading.corners[i] = {span.chart.pose.corners[i].x, span.chart.pose.corners[i].y};
    }
    reading.patchShare = span.chart.pose.patchShare;
    reading.spanStartSeconds = span.startSeconds;
    reading.spanEndSeconds = span.endSeconds;
    reading.framesUsed = static_cast<int>(span.frames.size());
    reading.patches = averagePatches(span.frames, chart);
    if (const auto cut = markCutWhites(reading.patches)) reading.warnings.push_back(*cut);
    putDetails(reading, span, chart);
}

}  // namespace rigmatch::measure
