// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/offset_line.h"

#include <algorithm>
#include <cmath>

#include "image/robust.h"

namespace rigmatch::timing {
namespace {
constexpr double kTogether = 0.0015;    // s from the line that a point may lie at most
constexpr double kSlopeSpread = 1.0;    // s, below which no slope is fitted
constexpr double kUsualDrift = 8e-5;    // common practice: 10 to 50 ppm, rarely more
constexpr double kSteepest = 5e-4;      // of clocks
constexpr double kPointSeconds = 4e-5;  // spread of one point at a height of ten
constexpr double kLeastScatter = 4e-6;  // s: a fifteenth of a sample
constexpr double kFloorSeconds = 3e-5;  // half a sample: what microphones' own filters leave
constexpr double kSlopeDoubt = 1.25;    // reflections come and go with who turns where

}  // namespace

void OffsetLine::add(const OffsetPoint& point) {
    m_points.push_back(point);
    (void)fit();
}

double OffsetLine::doubtAt(double seconds, double fastestDrift) const {
    const double away = std::abs(seconds - m_middle);
    const double nearest = [&] {
        double least = away;
        for (const OffsetPoint& point : m_points)
            least = std::min(least, std::abs(seconds - point.atSeconds));
        return least;
    }();
    if (!m_hasSlope) return fastestDrift * away;
    return std::min(fastestDrift * away,
                    4.0 * m_slopeUncertainty * away + fastestDrift * 0.02 * nearest);
}

/// Weighted least squares; the slope only where the times lie apart.
void OffsetLine::solve(const std::vector<double>& weights) {
    double sum = 0.0, time = 0.0, offset = 0.0;
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        sum += weights[i];
        time += weights[i] * m_points[i].atSeconds;
        offset += weights[i] * m_points[i].offsetSeconds;
    }
    if (sum <= 0.0) return;
    m_middle = time / sum;
    m_offset = offset / sum;
    double tt = 0.0, to = 0.0;
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        const double t = m_points[i].atSeconds - m_middle;
        tt += weights[i] * t * t;
        to += weights[i] * t * (m_points[i].offsetSeconds - m_offset);
    }
    m_spreadSeconds = std::sqrt(tt / sum);
    m_hasSlope = m_spreadSeconds > kSlopeSpread;
    m_slope = m_hasSlope ? std::clamp(to / tt, -kSteepest, kSteepest) : 0.0;
}

void OffsetLine::weigh(std::vector<double>& weights, double scale) const {
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        const double off = (m_points[i].offsetSeconds - at(m_points[i].atSeconds)) / scale;
        const double height = std::min(std::abs(m_points[i].height), 40.0);
        const bool isHigh = height >= kLeastHeight;
        // Tukey's biweight: what lies far off has no say.
        const double share = std::abs(off) < 4.0 ? 1.0 - off * off / 16.0 : 0.0;
        weights[i] = isHigh ? height * height * share * share : 0.0;
    }
}

double OffsetLine::scatter() const {
    std::vector<double> away;
    for (const OffsetPoint& point : m_points) {
        if (point.isUsed) away.push_back(std::abs(point.offsetSeconds - at(point.atSeconds)));
    }
    return away.empty() ? 0.0 : 1.4826 * image::median(away);
}

/// The line through two points that most others are near to; false where none is high enough.
bool OffsetLine::begin() {
    double best = -1.0;
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        for (std::size_t j = i; j < m_points.size(); ++j) {
            const OffsetPoint &a = m_points[i], &b = m_points[j];
            if (std::min(std::abs(a.height), std::abs(b.height)) < kLeastHeight) continue;
            const double time = b.atSeconds - a.atSeconds;
            const bool isApart = std::abs(time) > kSlopeSpread;
            const double slope = isApart ? (b.offsetSeconds - a.offsetSeconds) / time : 0.0;
            if (std::abs(slope) > kSteepest) continue;
            double score = 0.0;
            const double usual = std::exp(-0.5 * std::pow(slope / kUsualDrift, 2.0));
            for (const OffsetPoint& point : m_points) {
                const double off =
                    point.offsetSeconds - a.offsetSeconds - slope * (point.atSeconds - a.atSeconds);
                const bool isSameSign = point.height * a.height > 0.0;
                if (isSameSign && std::abs(point.height) >= kLeastHeight &&
                    std::abs(off) < kTogether)
                    score += std::min(std::abs(point.height), 40.0) *
                             (1.0 - std::abs(off) / kTogether) * usual;
            }
            if (score <= best) continue;
            best = score;
            m_offset = a.offsetSeconds;
            m_middle = a.atSeconds;
            m_slope = slope;
        }
    }
    return best >= 0.0;
}

/// Least squares, points that lie far off losing their say.
void OffsetLine::refine() {
    std::vector<double> weights(m_points.size(), 1.0);
    double scale = kTogether / 2.0;
    for (int round = 0; round < 6; ++round) {
        weigh(weights, scale);
        solve(weights);
        for (std::size_t i = 0; i < m_points.size(); ++i) {
            OffsetPoint& point = m_points[i];
            const double off = std::abs(point.offsetSeconds - at(point.atSeconds));
            point.isUsed =
                std::abs(point.height) >= kLeastHeight && off < std::min(kTogether, 4.0 * scale);
        }
        scale = std::clamp(scatter(), kFloorSeconds, kTogether / 2.0);
    }
}

bool OffsetLine::fit() {
    if (m_points.empty() || !begin()) return false;
    refine();
    double count = 0.0, heights = 0.0;
    for (const OffsetPoint& point : m_points) {
        if (!point.isUsed) continue;
        count += 1.0;
        heights += std::abs(point.height);
    }
    if (count < 1.0 || (count < 2.0 && heights < kSureHeight)) return false;
    const double byHeight = kPointSeconds * 10.0 / (heights / count);
    const double one =
        std::max(count < 4.0 ? std::max(byHeight, scatter()) : scatter(), kLeastScatter);
    // Stretches overlap by half: what is wrong in one is wrong in its neighbour.
    const double mean = one / std::sqrt(std::max(1.0, count / 2.0));
    m_uncertainty = std::hypot(mean, kFloorSeconds);
    m_slopeUncertainty = m_hasSlope ? kSlopeDoubt * mean / m_spreadSeconds : 0.0;
    return true;
}

std::optional<OffsetLine::Drift> OffsetLine::drift() const {
    if (!m_hasSlope) return std::nullopt;
    return Drift{m_slope, m_slopeUncertainty};
}

}  // namespace rigmatch::timing
