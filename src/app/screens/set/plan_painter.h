// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QStringList>
#include <QVector>
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
    /// Where names were put by paintObjects(): none on another, none outside.
    [[nodiscard]] const QVector<QRectF>& nameBoxes() const { return m_nameBoxes; }

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
    enum class NameRank { Person, Thing };
    void addName(const QPointF& below,
                 const QString& name,
                 bool isSelected,
                 NameRank rank = NameRank::Thing);
    void paintNames();
    [[nodiscard]] QRectF placeFor(const QRectF& wanted) const;
    [[nodiscard]] QPolygonF outlineOf(const rig::PlanObject& object) const;

    QPainter& m_painter;
    const plan::SetAnalysis& m_set;
    PlanScale m_scale;
    struct Name {
        QPointF below;
        QString text;
        bool isSelected = false;
        NameRank rank = NameRank::Thing;
    };
    QVector<Name> m_names;
    QVector<QRectF> m_bodies;  ///< what a name is not to cover
    QVector<QRectF> m_nameBoxes;
};

/// Where the handle of an object lies (aim of cameras and lamps, look of people, front of things);
/// nothing where it has none from this side.
[[nodiscard]] std::optional<QPointF> planHandle(const rig::PlanObject& object,
                                                const PlanScale& scale);

}  // namespace rigmatch::app
