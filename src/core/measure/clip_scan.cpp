// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/clip_scan.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::measure {
namespace {

constexpr double kLooksPerSecond = 2.0;
constexpr double kFramesPerLook = 3.0;  // frames read from one look to the next
constexpr std::size_t kMostFrames = 48;
constexpr double kSteadyShare = 0.004;  // of the chart's width that a corner may move between looks

bool isSteady(const chart::ChartPose& before, const chart::ChartPose& now) {
    return chart::largestCornerShift(before, now) < std::max(1.0, kSteadyShare * now.widthPx());
}

}  // namespace

ClipScan::ClipScan(double frameRate, const chart::ReferenceChart& chart)
    : m_chart(chart),
      m_interval(std::clamp(
          static_cast<int>(std::lround((frameRate > 0 ? frameRate : 25.0) / kLooksPerSecond)),
          2,
          60)) {}

void ClipScan::take(const image::CodedFrame& frame) {
    if (!m_chart.isSearchable()) return;
    const int place = m_count % m_interval;
    ++m_count;
    if (place == 0) {
        look(frame);
        m_pending.clear();
        m_lookedAt = frame;
        return;
    }
    // Between two looks the chart is read where it was last seen; whether it stayed there, the next
    // look tells. No frame is kept for it: 4K frames are large.
    const int step = std::max(1, static_cast<int>(std::lround(m_interval / kFramesPerLook)));
    if (!m_last || place % step != 0 || m_open.frames.size() >= kMostFrames) return;
    if (auto samples = chart::readPatches(frame, m_last->pose, m_chart))
        m_pending.push_back({frame.seconds, std::move(*samples)});
}

void ClipScan::look(const image::CodedFrame& frame) {
    base::Result<chart::FoundChart> found = tl::unexpected(base::Error{});
    if (m_last) found = chart::followChart(frame, m_last->pose, m_chart);
    if (!found)
        found = chart::findChart(
            frame, {chart::Effort::Quick, chart::FinderOptions{}.leastAgreement}, m_chart);
    if (!found) {
        closeSpan();
        m_last.reset();
        return;
    }
    m_isSeen = true;
    m_otherCharts = std::max(m_otherCharts, found->otherCharts);
    if (m_last && isSteady(m_last->pose, found->pose)) {
        m_hasRested = true;
        keepSteady(*found, frame);
    } else {
        closeSpan();
        const auto samples = chart::readPatches(frame, found->pose, m_chart);
        m_open = SteadySpan{*found, frame.seconds, frame.seconds, {}, {}, {}, {}};
        if (samples) m_open.frames.push_back({frame.seconds, *samples});
    }
    m_last = *found;
}

void ClipScan::keepSteady(const chart::FoundChart& found, const image::CodedFrame& frame) {
    m_open.endSeconds = frame.seconds;
    if (found.confidence > m_open.chart.confidence) m_open.chart = found;
    if (m_open.frames.size() >= kMostFrames) return;
    keepDetails(found, frame);
    for (SpanFrame& between : m_pending) m_open.frames.push_back(std::move(between));
    if (auto samples = chart::readPatches(frame, found.pose, m_chart))
        m_open.frames.push_back({frame.seconds, std::move(*samples)});
}

void ClipScan::keepDetails(const chart::FoundChart& found, const image::CodedFrame& frame) {
    if (const auto edge = chart::edgeSharpness(frame, found.pose, m_chart.edgePatches()))
        m_open.edges.push_back(*edge);
    const auto greyAt = m_chart.greyPatch();
    const auto blackAt = m_chart.darkestPatch();
    if (!m_lookedAt || !greyAt || !blackAt) return;
    // Half a second apart: encoders copy what rests from one frame to the next, noise and all.
    const image::CodedFrame& before = *m_lookedAt;
    const auto grey = chart::temporalNoise(before, frame, found.pose, *greyAt);
    const auto black = chart::temporalNoise(before, frame, found.pose, *blackAt);
    if (!grey || !black) return;
    m_open.greyNoise.push_back(*grey);
    m_open.blackNoise.push_back(*black);
}

void ClipScan::closeSpan() {
    if (m_open.frames.empty()) return;
    const auto length = [](const SteadySpan& span) { return span.endSeconds - span.startSeconds; };
    if (!m_best || length(m_open) > length(*m_best)) m_best = std::move(m_open);
    m_open = SteadySpan{};
}

std::optional<SteadySpan> ClipScan::finish() {
    closeSpan();
    return m_best;
}

}  // namespace rigmatch::measure
