// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "timing/sound_offset.h"

namespace rigmatch::timing {

/// The offset over time as a straight line through points, of which some are wrong.
class OffsetLine {
public:
    void add(const OffsetPoint& point);
    /// Fits the points again; false where none agrees with any other and none is sure by itself.
    bool fit();

    [[nodiscard]] double at(double seconds) const {
        return m_offset + m_slope * (seconds - m_middle);
    }
    [[nodiscard]] double slope() const { return m_slope; }
    /// Where the offset is known best.
    [[nodiscard]] double middle() const { return m_middle; }
    /// One standard deviation of the offset there, s.
    [[nodiscard]] double uncertainty() const { return m_uncertainty; }
    /// How far the offset may be from the line at a time, as long as clocks drift no faster.
    [[nodiscard]] double doubtAt(double seconds, double fastestDrift) const;

    struct Drift {
        double slope = 0.0;
        double uncertainty = 0.0;
    };
    /// Nothing where the points are too close together to tell.
    [[nodiscard]] std::optional<Drift> drift() const;

    [[nodiscard]] std::span<const OffsetPoint> points() const { return m_points; }

private:
    bool begin();
    void refine();
    void weigh(std::vector<double>& weights, double scale) const;
    void solve(const std::vector<double>& weights);
    [[nodiscard]] double scatter() const;

    std::vector<OffsetPoint> m_points;
    double m_offset = 0.0;
    double m_slope = 0.0;
    double m_middle = 0.0;
    double m_spreadSeconds = 0.0;  ///< standard deviation of the times
    double m_uncertainty = 0.0;
    double m_slopeUncertainty = 0.0;
    bool m_hasSlope = false;
};

}  // namespace rigmatch::timing
