// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/strip_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

constexpr double kStripGap = 6.0;
constexpr double kMostZoom = 40.0;
constexpr double kWipeReach = 8.0;
constexpr double kDragStart = 4.0;

QRectF fitted(const QRectF& area, double aspect) {
    const double width = std::min(area.width(), area.height() * aspect);
    const double height = width / aspect;
    return {area.center().x() - width / 2.0, area.center().y() - height / 2.0, width, height};
}

}  // namespace

StripView::StripView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(240, 100);
    setAccessibleName(tr("Pictures of all cameras"));
}

void StripView::setStrips(const QVector<Strip>& strips, double aspect) {
    m_strips = strips;
    m_aspect = aspect;
    update();
}

void StripView::setMode(Mode mode) {
    m_mode = mode;
    update();
}

void StripView::setPair(int first, int second) {
    m_first = first;
    m_second = second;
    update();
}

void StripView::setLoupe(bool isOn) {
    m_isLoupe = isOn;
    update();
}

void StripView::setMark(const std::optional<QPointF>& mark) {
    m_mark = mark;
    setAccessibleDescription(mark ? tr("Mark at %1 %, %2 % of the part shown")
                                        .arg(100.0 * mark->x(), 0, 'f', 1)
                                        .arg(100.0 * mark->y(), 0, 'f', 1)
                                  : tr("No mark set. Arrow keys set one."));
    update();
}

void StripView::setRegion(const std::optional<QRectF>& region) {
    m_region = region;
    update();
}

QVector<QRectF> StripView::cells() const {
    const QRectF all = QRectF(rect()).adjusted(1, 1, -1, -1);
    const auto count = static_cast<int>(m_strips.size());
    if (m_mode != Mode::SideBySide || count == 0) return {fitted(all, m_aspect)};
    // The number of columns that makes the pictures largest.
    int best = 1;
    double largest = 0.0;
    for (int columns = 1; columns <= count; ++columns) {
        const int rows = (count + columns - 1) / columns;
        const QRectF area(0,
                          0,
                          (all.width() - kStripGap * (columns - 1)) / columns,
                          (all.height() - kStripGap * (rows - 1)) / rows);
        const double width = fitted(area, m_aspect).width();
        if (width > largest + 0.5) {
            largest = width;
            best = columns;
        }
    }
    const int rows = (count + best - 1) / best;
    const double height = largest / m_aspect;
    const double left = all.center().x() - (best * largest + (best - 1) * kStripGap) / 2.0;
    const double top = all.center().y() - (rows * height + (rows - 1) * kStripGap) / 2.0;
    QVector<QRectF> areas;
    for (int i = 0; i < count; ++i) {
        const int column = i % best, row = i / best;
        areas << QRectF(left + column * (largest + kStripGap),
                        top + row * (height + kStripGap),
                        largest,
                        height);
    }
    return areas;
}

QRectF StripView::cellAt(const QPointF& position) const {
    const QVector<QRectF> areas = cells();
    for (const QRectF& area : areas) {
        if (area.contains(position)) return area;
    }
    return {};
}

QTransform StripView::toCell(const QRectF& cell) const {
    QTransform transform;
    transform.translate(cell.center().x(), cell.center().y());
    transform.scale(cell.width() * m_zoom, cell.height() * m_zoom);
    transform.translate(-m_centre.x(), -m_centre.y());
    return transform;
}

void StripView::keepInside() {
    const double reach = 0.5 / m_zoom;
    m_centre.setX(std::clamp(m_centre.x(), reach, 1.0 - reach));
    m_centre.setY(std::clamp(m_centre.y(), reach, 1.0 - reach));
}

void StripView::zoomBy(double factor, const QPointF& fixed) {
    const double before = m_zoom;
    m_zoom = std::clamp(m_zoom * factor, 1.0, kMostZoom);
    m_centre = fixed + (m_centre - fixed) * (before / m_zoom);
    keepInside();
    update();
}

void StripView::wheelEvent(QWheelEvent* event) {
    const QRectF cell = cellAt(event->position());
    if (cell.isEmpty()) return;
    zoomBy(std::exp2(event->angleDelta().y() / 240.0),
           toCell(cell).inverted().map(event->position()));
    event->accept();
}

void StripView::mousePressEvent(QMouseEvent* event) {
    const QRectF cell = cellAt(event->position());
    if (cell.isEmpty() || event->button() != Qt::LeftButton) return;
    m_isWiping = m_mode == Mode::Wipe && std::abs(event->position().x() - cell.left() -
                                                  m_divider * cell.width()) < kWipeReach;
    m_isMarking = event->modifiers().testFlag(Qt::ShiftModifier);
    m_isDragging = false;
    m_dragFrom = toCell(cell).inverted().map(event->position());
}

void StripView::mouseMoveEvent(QMouseEvent* event) {
    if (!m_dragFrom) return;
    const QVector<QRectF> areas = cells();
    const QRectF cell =
        cellAt(event->position()).isEmpty() ? areas.front() : cellAt(event->position());
    if (m_isWiping) {
        m_divider = std::clamp((event->position().x() - cell.left()) / cell.width(), 0.0, 1.0);
        update();
        return;
    }
    const QPointF place = toCell(cell).inverted().map(event->position());
    const QPointF moved = place - *m_dragFrom;
    if (!m_isDragging &&
        std::hypot(moved.x() * cell.width(), moved.y() * cell.height()) * m_zoom < kDragStart)
        return;
    m_isDragging = true;
    if (m_isMarking) {
        m_region = QRectF(*m_dragFrom, place).normalized() & QRectF(0, 0, 1, 1);
    } else {
        m_centre -= moved;
        keepInside();
    }
    update();
}

void StripView::mouseReleaseEvent(QMouseEvent* event) {
    const QRectF cell = cellAt(event->position());
    if (m_isDragging && m_isMarking && m_region && !m_region->isEmpty()) {
        Q_EMIT regionDrawn(*m_region);
    } else if (!m_isDragging && !m_isWiping && m_dragFrom && !cell.isEmpty()) {
        setMark(m_dragFrom);
        Q_EMIT picked(*m_mark);
    }
    m_dragFrom.reset();
    m_isDragging = m_isMarking = m_isWiping = false;
}

void StripView::moveMark(double dx, double dy) {
    const QPointF from = m_mark.value_or(QPointF(0.5, 0.5));
    const QPointF to = m_mark ? from + QPointF(dx, dy) : from;
    setMark(QPointF(std::clamp(to.x(), 0.0, 1.0), std::clamp(to.y(), 0.0, 1.0)));
    Q_EMIT picked(*m_mark);
}

void StripView::keyPressEvent(QKeyEvent* event) {
    const double step = (event->modifiers().testFlag(Qt::ShiftModifier) ? 0.05 : 0.005) / m_zoom;
    const bool isWipe = m_mode == Mode::Wipe && event->modifiers().testFlag(Qt::ControlModifier);
    switch (event->key()) {
        case Qt::Key_Left:
        case Qt::Key_Right: {
            const double sign = event->key() == Qt::Key_Left ? -1.0 : 1.0;
            if (!isWipe) return moveMark(sign * step, 0.0);
            m_divider = std::clamp(m_divider + 0.02 * sign, 0.0, 1.0);
            return update();
        }
        case Qt::Key_Up:
            return moveMark(0.0, -step * m_aspect);
        case Qt::Key_Down:
            return moveMark(0.0, step * m_aspect);
        case Qt::Key_Plus:
        case Qt::Key_Equal:
            return zoomBy(1.25, m_mark.value_or(m_centre));
        case Qt::Key_Minus:
            return zoomBy(0.8, m_mark.value_or(m_centre));
        case Qt::Key_0:
            m_zoom = 1.0;
            m_centre = {0.5, 0.5};
            return update();
        default:
            QWidget::keyPressEvent(event);
    }
}

}  // namespace rigmatch::app
