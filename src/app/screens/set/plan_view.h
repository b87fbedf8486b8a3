// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/screens/set/plan_scale.h"
#include "app/screens/set/plan_zoom.h"

class QPushButton;

namespace rigmatch::app {

class SetController;

/// The room to scale, from above or from the side. Objects are chosen by click (with Shift
/// several), moved by dragging (Alt: off the grid) or with the arrow keys (Shift: half a metre,
/// Ctrl: one centimetre); the round handle of a camera or lamp is its aim, that of a person where
/// it looks. The wheel and the plus and minus keys zoom; a drag on free floor, or Alt with the
/// arrow keys, moves what is seen.
class PlanView : public QWidget {
    Q_OBJECT
public:
    PlanView(SetController& controller, QWidget* parent);

    void setSide(PlanSide side);
    void showWhole();
    [[nodiscard]] PlanSide side() const { return m_side; }
    /// Where an object is drawn, for tests and for the pointer.
    [[nodiscard]] QPointF placeOf(const QString& id) const;
    /// Where its handle (aim, look) is drawn; nothing for objects without one.
    [[nodiscard]] std::optional<QPointF> handleOf(const QString& id) const;
    [[nodiscard]] QSize minimumSizeHint() const override { return {360, 240}; }
    [[nodiscard]] const PlanZoom& zoom() const { return m_zoom; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    enum class Grip { None, Body, Handle, Floor };

    [[nodiscard]] QRectF free() const;
    [[nodiscard]] PlanScale fitted() const;
    [[nodiscard]] PlanScale scale() const;
    void makeZoomButtons();
    void zoomBy(double factor, const QPointF& at);
    void panBy(const QPointF& by);
    void panByKey(int key);
    void bringIntoView(const QString& id);
    void afterZoom();
    [[nodiscard]] QString objectAt(const QPointF& position) const;
    void nudge(int key, Qt::KeyboardModifiers modifiers);
    void updateDescription();

    SetController& m_controller;
    PlanSide m_side = PlanSide::Above;
    Grip m_grip = Grip::None;
    QPointF m_pressedAt;
    bool m_hasMoved = false;
    PlanZoom m_zoom;
    QPushButton* m_zoomOut = nullptr;
    QPushButton* m_whole = nullptr;
    QPushButton* m_zoomIn = nullptr;
};

}  // namespace rigmatch::app
