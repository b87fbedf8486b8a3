// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPointF>
#include <QRectF>
#include <algorithm>

#include "plan/geometry.h"

namespace rigmatch::app {

enum class PlanSide { Above, Side };

/// Metres of the plan to places on the widget. From above: left wall left, back wall on top. From
/// the side: back wall left, floor below.
struct PlanScale {
    PlanSide side = PlanSide::Above;
    double pxPerMetre = 80.0;
    QPointF origin;  ///< of the room's corner (0, 0)

    [[nodiscard]] static PlanScale fitting(const rig::SetPlan& plan,
                                           PlanSide side,
                                           const QRectF& area) {
        const double across = side == PlanSide::Above ? plan.widthMetres : plan.depthMetres;
        const double down = side == PlanSide::Above ? plan.depthMetres : plan.heightMetres;
        PlanScale scale;
        scale.side = side;
        scale.pxPerMetre = std::min(area.width() / across, area.height() / down);
        scale.origin = area.center() - 0.5 * scale.pxPerMetre * QPointF(across, down);
        if (side == PlanSide::Side) scale.origin.ry() += scale.pxPerMetre * down;
        return scale;
    }
    [[nodiscard]] QPointF toWidget(const plan::Vec& point) const {
        if (side == PlanSide::Above) return origin + pxPerMetre * QPointF(point.x(), point.z());
        return origin + pxPerMetre * QPointF(point.z(), -point.y());
    }
    /// Movement on the widget as movement on the plan.
    [[nodiscard]] plan::Vec movement(const QPointF& by) const {
        if (side == PlanSide::Above) return {by.x() / pxPerMetre, 0.0, by.y() / pxPerMetre};
        return {0.0, -by.y() / pxPerMetre, by.x() / pxPerMetre};
    }
};

}  // namespace rigmatch::app
