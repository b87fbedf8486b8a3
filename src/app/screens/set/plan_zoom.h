// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/set/plan_scale.h"

namespace rigmatch::app {

/// How far into the plan one looks, and where: on top of the scale that fits the whole room.
class PlanZoom {
public:
    static constexpr double kMost = 16.0;

    [[nodiscard]] double times() const { return m_times; }
    [[nodiscard]] bool isWhole() const { return m_times <= 1.0; }

    [[nodiscard]] PlanScale applied(PlanScale fitted, const QPointF& middle) const {
        fitted.origin = middle + m_times * (fitted.origin - middle) + m_shift;
        fitted.pxPerMetre *= m_times;
        return fitted;
    }
    /// What lies at `at` stays there. `middle`: of the view, as for applied().
    void zoomBy(double factor, const QPointF& at, const QPointF& middle) {
        const double times = std::clamp(m_times * factor, 1.0, kMost);
        const QPointF from = (at - middle - m_shift) / m_times;
        m_shift = at - middle - times * from;
        m_times = times;
        if (isWhole()) m_shift = {};
    }
    void panBy(const QPointF& by) {
        if (!isWhole()) m_shift += by;
    }
    /// The middle of the view never leaves `room`, the fitted room on the widget.
    void keepWithin(const QRectF& room, const QPointF& middle) {
        const QPointF seen = -m_shift / m_times + middle;
        const QPointF kept(std::clamp(seen.x(), room.left(), room.right()),
                           std::clamp(seen.y(), room.top(), room.bottom()));
        m_shift -= m_times * (kept - seen);
    }
    void reset() { *this = {}; }

private:
    double m_times = 1.0;
    QPointF m_shift;  ///< px of the widget
};

}  // namespace rigmatch::app
