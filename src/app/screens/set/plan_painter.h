// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QStringList>
#include <optional>

#include "app/screens/set/plan_scale.h"
#include "plan/analysis.h"

namespace rigmatch::app {

/// Draws a plan: room, grid, furniture, light beams, lens cones, people, labels.
class PlanPainter {
public:
    PlanPainter(QPainter& painter, const plan::SetAnalysis& set, const PlanScale& scale);

    void paintRoom();
    void paintObjects(const QStringList& selection);

private:
    void paintGrid();
    void paintScaleBar();
    void paintAxisOfAction();
    void paintCone(const plan::PlacedCamera& camera, bool isSelected);
    void paintSurface(const rig::PlanObject& object, bool isSelected);
    void paintPerson(const rig::PlanObject& person, bool isSelected);
    void paintLight(const rig::PlanObject& light, bool isSelected);
    void paintCamera(const plan::PlacedCamera& camera, bool isSelected);
    void paintHandle(const rig::PlanObject& object);
    void paintName(const QPointF& below, const QString& name, bool isSelected);
    [[nodiscard]] QPolygonF outlineOf(const rig::PlanObject& object) const;

    QPainter& m_painter;
    const plan::SetAnalysis& m_set;
    PlanScale m_scale;
};

/// Where the handle of an object lies (aim of cameras and lamps, look of people, front of things);
/// nothing where it has none from this side.
[[nodiscard]] std::optional<QPointF> planHandle(const rig::PlanObject& object,
                                                const PlanScale& scale);

}  // namespace rigmatch::app
