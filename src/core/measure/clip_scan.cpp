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

constexpr double kSlowShare = 0.02;  // of the chart's width from frame to frame
constexpr double kEnoughRest = 1.0;  // seconds
// Following costs some milliseconds a frame: the scan keeps to its time by following no more
// frames than these, and none once a span holds enough.
constexpr int kMostFollowed = 96;
constexpr std::size_t kEnoughFrames = 32;
constexpr double kRestBonus = 1e6;
constexpr int kMissesToRare = 4;  // looks without a chart

/// True where a chart moved so little from one frame to the next that its patches are not smeared.
bool isSlow(const chart::ChartPose& before, const chart::ChartPose& now) {
    return chart::largestCornerShift(before, now) < std::max(2.0, kSlowShare * now.widthPx());
}

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
    // Once a span holds all the frames it may, a look a second tells enough of where the chart
    // goes; so does one where it was not seen for a while: a search costs more than following.
    const bool isRare = hasEnough() || m_misses >= kMissesToRare;
    const int interval = isRare ? 2 * m_interval : m_interval;
    const int place = m_sinceLook;
    m_sinceLook = (m_sinceLook + 1) % interval;
    if (place == 0) {
        look(frame);
        m_pending.clear();
        m_pendingPlaces.clear();
        m_isFollowed = m_last.has_value();
        m_lookedAt = frame;
        return;
    }
    if (!m_last || m_open.frames.size() + m_pending.size() >= kMostFrames) return;
    if (!m_isResting) {
        follow(frame);
        return;
    }
    // Between two looks a resting chart is read where it was last seen; whether it stayed there,
    // the next look tells. No frame is kept for it: 4K frames are large.
    const int step = std::max(1, static_cast<int>(std::lround(m_interval / kFramesPerLook)));
    if (place % step != 0) return;
    if (auto samples = chart::readPatches(frame, m_last->pose, m_chart))
        m_pending.push_back({frame.seconds, std::move(*samples)});
}

bool ClipScan::hasEnough() const {
    return m_open.frames.size() >= kMostFrames ||
           (m_best && m_best->frames.size() >= kEnoughFrames);
}

/// Until it is known to rest, the chart is looked for near its last place in every frame.
void ClipScan::follow(const image::CodedFrame& frame) {
    if (!m_isFollowed || hasEnough() || m_followed >= kMostFollowed) {
        m_isFollowed = false;
        return;
    }
    ++m_followed;
    const auto found = chart::followChart(frame, m_last->pose, m_chart);
    const auto samples =
        found ? chart::readPatches(frame, found->pose, m_chart) : tl::unexpected(base::Error{});
    m_isFollowed = found && samples && isSlow(m_last->pose, found->pose);
    if (!m_isFollowed) return;
    m_pending.push_back({frame.seconds, *samples});
    m_pendingPlaces.push_back(*found);
    m_last = *found;
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
        m_isResting = false;
        ++m_misses;
        return;
    }
    m_isSeen = true;
    m_misses = 0;
    m_otherCharts = std::max(m_otherCharts, found->otherCharts);
    const bool hasRested = m_last && isSteady(m_lookPose, found->pose);
    const bool isHeld = m_last && !hasRested && m_isFollowed && !m_pending.empty() &&
                        isSlow(m_last->pose, found->pose);
    if (hasRested) {
        if (m_open.isHeld) {
            closeSpan();
            openSpan(*found, m_pending.empty() ? frame.seconds : m_pending.front().seconds);
        }
        m_hasRested = true;
        keepSteady(*found, frame);
    } else if (isHeld && (m_open.isHeld || m_open.frames.size() <= 1)) {
        m_hasRested = true;
        keepHeld(*found, frame);
    } else {
        closeSpan();
        openSpan(*found, isHeld ? m_pending.front().seconds : frame.seconds);
        if (isHeld)
            keepHeld(*found, frame);
        else
            keepFrame(*found, frame);
    }
    m_isResting = hasRested;
    m_lookPose = found->pose;
    m_last = *found;
}

void ClipScan::openSpan(const chart::FoundChart& found, double seconds) {
    m_open = SteadySpan{};
    m_open.chart = found;
    m_open.startSeconds = m_open.endSeconds = seconds;
}

void ClipScan::keepFrame(const chart::FoundChart& found, const image::CodedFrame& frame) {
    if (m_open.frames.size() >= kMostFrames) return;
    auto samples = chart::readPatches(frame, found.pose, m_chart);
    if (!samples) return;
    m_open.frames.push_back({frame.seconds, std::move(*samples)});
    m_open.places.push_back(found);
}

/// The frames since the last look were each read at their own place; so is this one.
void ClipScan::keepHeld(const chart::FoundChart& found, const image::CodedFrame& frame) {
    m_open.isHeld = true;
    m_open.endSeconds = frame.seconds;
    if (m_open.frames.size() < kMostFrames) {
        if (const auto edge = chart::edgeSharpness(frame, found.pose, m_chart.edgePatches()))
            m_open.edges.push_back(*edge);
    }
    for (SpanFrame& between : m_pending) m_open.frames.push_back(std::move(between));
    for (const chart::FoundChart& place : m_pendingPlaces) m_open.places.push_back(place);
    keepFrame(found, frame);
}

void ClipScan::keepSteady(const chart::FoundChart& found, const image::CodedFrame& frame) {
    m_open.endSeconds = frame.seconds;
    if (found.confidence > m_open.chart.confidence) m_open.chart = found;
    if (m_open.frames.size() >= kMostFrames) return;
    keepDetails(found, frame);
    for (SpanFrame& between : m_pending) m_open.frames.push_back(std::move(between));
    keepFrame(found, frame);
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
    // The chart is shown where it was in the middle of the span.
    if (m_open.isHeld && !m_open.places.empty())
        m_open.chart = m_open.places[m_open.places.size() / 2];
    const auto worth = [](const SteadySpan& span) {
        const double length = span.endSeconds - span.startSeconds;
        // A second at rest tells more than any time in the hand: noise and drift show only there.
        return length + (!span.isHeld && length >= kEnoughRest ? kRestBonus : 0.0);
    };
    if (!m_best || worth(m_open) > worth(*m_best)) m_best = std::move(m_open);
    m_open = SteadySpan{};
}

std::optional<SteadySpan> ClipScan::finish() {
    closeSpan();
    return m_best;
}

}  // namespace rigmatch::measure
