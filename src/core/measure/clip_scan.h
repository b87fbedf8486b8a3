// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "chart/chart_finder.h"
#include "chart/edge_sharpness.h"
#include "measure/patch_average.h"

namespace rigmatch::measure {

/// A stretch of a clip in which the chart did not move, or moved so slowly that every frame could
/// be read at its own place.
struct SteadySpan {
    chart::FoundChart chart;
    double startSeconds = 0.0;
    double endSeconds = 0.0;
    std::vector<SpanFrame> frames;
    std::vector<chart::EdgeSharpness> edges;       ///< of one frame per look
    std::vector<std::array<double, 3>> greyNoise;  ///< of frames one look apart
    std::vector<std::array<double, 3>> blackNoise;
    bool isHeld = false;  ///< held by hand: each of `frames` was read at the place in `places`
    std::vector<chart::FoundChart> places{};
};

/// Watches the frames of a clip go by: looks for the chart twice a second. A chart that rests is
/// read between two looks that agree; one that is held by hand is followed from frame to frame and
/// read at each frame's own place, as long as it moves less than 2 % of its width a frame. Reads at
/// most 48 frames of a span, and follows at most 96 frames of a clip. Holds one frame.
class ClipScan {
public:
    /// `chart` must outlive the scan; one that is not searchable is not looked for.
    ClipScan(double frameRate, const chart::ReferenceChart& chart);

    void take(const image::CodedFrame& frame);
    /// Ends the scan. Nothing where the chart was never found.
    [[nodiscard]] std::optional<SteadySpan> finish();

    [[nodiscard]] bool hasSeenChart() const { return m_isSeen; }
    /// Most charts seen in one frame beside the one that was followed.
    [[nodiscard]] int otherCharts() const { return m_otherCharts; }
    /// True where the chart was seen but neither rested nor was held so that it could be followed.
    [[nodiscard]] bool isAlwaysMoving() const { return m_isSeen && !m_hasRested; }

private:
    [[nodiscard]] bool hasEnough() const;
    void look(const image::CodedFrame& frame);
    void keepSteady(const chart::FoundChart& found, const image::CodedFrame& frame);
    void keepHeld(const chart::FoundChart& found, const image::CodedFrame& frame);
    void follow(const image::CodedFrame& frame);
    void openSpan(const chart::FoundChart& found, double seconds);
    void keepFrame(const chart::FoundChart& found, const image::CodedFrame& frame);
    void keepDetails(const chart::FoundChart& found, const image::CodedFrame& frame);
    void closeSpan();

    const chart::ReferenceChart& m_chart;
    int m_interval;
    int m_sinceLook = 0;  ///< frames
    int m_otherCharts = 0;
    bool m_isSeen = false;
    bool m_hasRested = false;
    std::vector<SpanFrame> m_pending;                ///< read since the last look
    std::vector<chart::FoundChart> m_pendingPlaces;  ///< where, if the chart was followed
    int m_followed = 0;                              ///< frames so far
    int m_misses = 0;                                ///< looks since the chart was last seen
    bool m_isFollowed = false;                    ///< every frame since the last look was followed
    bool m_isResting = false;                     ///< the last two looks agreed
    chart::ChartPose m_lookPose;                  ///< of the last look
    std::optional<image::CodedFrame> m_lookedAt;  ///< the frame of the last look
    std::optional<chart::FoundChart> m_last;
    SteadySpan m_open;
    std::optional<SteadySpan> m_best;
};

}  // namespace rigmatch::measure
