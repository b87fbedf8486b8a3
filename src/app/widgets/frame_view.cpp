// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/frame_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QTransform>
#include <algorithm>
#include <cmath>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

constexpr double kHandlePx = 9.0;
constexpr double kReachPx = 16.0;
constexpr int kMagnifierPx = 168;
constexpr double kMagnification = 8.0;
constexpr double kPatchMiddle = 0.55;

QPolygonF quadOf(double x, double y, double halfX, double halfY) {
    return QPolygonF({{x - halfX, y - halfY},
                      {x + halfX, y - halfY},
                      {x + halfX, y + halfY},
                      {x - halfX, y + halfY}});
}

}  // namespace

FrameView::FrameView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(320, 200);
    setAccessibleName(tr("Picture of the take"));
}

void FrameView::setPicture(const QImage& picture) {
    m_picture = picture;
    updateDescription();
    update();
}

void FrameView::setChart(const std::optional<rig::PictureQuad>& corners,
                         double patchShare,
                         int columns,
                         int rows) {
    if (m_isMoving) return;
    m_columns = std::max(columns, 1);
    m_rows = std::max(rows, 1);
    m_corners = corners;
    m_patchShare = patchShare;
    if (!corners) m_active = -1;
    updateDescription();
    update();
}

void FrameView::setWaiting(bool isWaiting, const QString& words) {
    m_isWaiting = isWaiting;
    m_waitingWords = words;
    updateDescription();
    update();
}

void FrameView::setEmptyText(const QString& text) {
    m_emptyText = text;
    update();
}

void FrameView::setFaces(const QVector<QRectF>& faces) {
    m_faces = faces;
    update();
}

void FrameView::setMarks(const QVector<QRectF>& marks) {
    m_marks.setMarks(marks);
    updateDescription();
    update();
}

void FrameView::setMarking(bool isMarking) {
    m_marks.setOn(isMarking);
    m_active = -1;
    updateDescription();
    update();
}

QRectF FrameView::toWidget(const QRectF& box) const {
    // Boxes lie between pixels: the centre of the first pixel is (0, 0).
    return {toWidget(rig::PicturePoint{box.left() - 0.5, box.top() - 0.5}),
            toWidget(rig::PicturePoint{box.right() - 0.5, box.bottom() - 0.5})};
}

void FrameView::setEditable(bool isEditable) { m_isEditable = isEditable; }

QRectF FrameView::pictureRect() const {
    if (m_picture.isNull()) return rect();
    const double scale =
        std::min(width() / double(m_picture.width()), height() / double(m_picture.height()));
    const QSizeF size(m_picture.width() * scale, m_picture.height() * scale);
    return {QPointF((width() - size.width()) / 2.0, (height() - size.height()) / 2.0), size};
}

QPointF FrameView::toWidget(const rig::PicturePoint& point) const {
    const QRectF area = pictureRect();
    const double scale = m_picture.isNull() ? 1.0 : area.width() / m_picture.width();
    return area.topLeft() + QPointF((point.x + 0.5) * scale, (point.y + 0.5) * scale);
}

rig::PicturePoint FrameView::toPicture(const QPointF& position) const {
    const QRectF area = pictureRect();
    const double scale = m_picture.isNull() ? 1.0 : area.width() / m_picture.width();
    return {(position.x() - area.left()) / scale - 0.5, (position.y() - area.top()) / scale - 0.5};
}

int FrameView::cornerAt(const QPointF& position) const {
    if (!m_corners) return -1;
    for (int i = 0; i < 4; ++i) {
        const QPointF offset = toWidget((*m_corners)[static_cast<std::size_t>(i)]) - position;
        if (std::hypot(offset.x(), offset.y()) < kReachPx) return i;
    }
    return -1;
}

void FrameView::moveCorner(rig::PicturePoint to) {
    if (!m_corners || m_active < 0) return;
    to.x = std::clamp(to.x, 0.0, m_picture.width() - 1.0);
    to.y = std::clamp(to.y, 0.0, m_picture.height() - 1.0);
    (*m_corners)[static_cast<std::size_t>(m_active)] = to;
    m_isMoving = true;
    updateDescription();
    update();
    Q_EMIT cornersMoved(*m_corners);
}

void FrameView::mousePressEvent(QMouseEvent* event) {
    if (!m_isEditable || event->button() != Qt::LeftButton) return;
    if (m_marks.isOn() && !m_picture.isNull()) {
        const rig::PicturePoint at = toPicture(event->position());
        m_marks.press({at.x, at.y});
        update();
        return;
    }
    m_active = cornerAt(event->position());
    update();
}

void FrameView::mouseMoveEvent(QMouseEvent* event) {
    if (m_marks.isOn()) {
        setCursor(Qt::CrossCursor);
        const rig::PicturePoint at = toPicture(event->position());
        m_marks.drag({at.x, at.y}, m_picture.size());
        update();
        return;
    }
    if ((event->buttons() & Qt::LeftButton) != 0 && m_active >= 0 && m_isEditable) {
        moveCorner(toPicture(event->position()));
    } else {
        setCursor(m_isEditable && cornerAt(event->position()) >= 0 ? Qt::SizeAllCursor
                                                                   : Qt::ArrowCursor);
    }
}

void FrameView::mouseReleaseEvent(QMouseEvent* /*event*/) {
    if (m_marks.isOn()) {
        if (m_marks.release()) Q_EMIT marksChanged(m_marks.marks());
        updateDescription();
        update();
        return;
    }
    if (!m_isMoving || !m_corners) return;
    m_isMoving = false;
    update();
    Q_EMIT cornersSettled(*m_corners);
}

void FrameView::keyPressEvent(QKeyEvent* event) {
    if (m_marks.isOn()) {
        const MarkLayer::Key done =
            m_marks.press(event->key(), event->modifiers(), m_picture.size());
        if (done == MarkLayer::Key::Ignored) return QWidget::keyPressEvent(event);
        updateDescription();
        update();
        if (done == MarkLayer::Key::Changed) Q_EMIT marksChanged(m_marks.marks());
        return;
    }
    const int number = event->key() - Qt::Key_1;
    if (m_corners && m_isEditable && number >= 0 && number < 4) {
        m_active = number;
        updateDescription();
        update();
        return;
    }
    double dx = 0.0;
    double dy = 0.0;
    if (event->key() == Qt::Key_Left) dx = -1.0;
    if (event->key() == Qt::Key_Right) dx = 1.0;
    if (event->key() == Qt::Key_Up) dy = -1.0;
    if (event->key() == Qt::Key_Down) dy = 1.0;
    if ((dx == 0.0 && dy == 0.0) || m_active < 0 || !m_corners || !m_isEditable) {
        QWidget::keyPressEvent(event);
        return;
    }
    const double step = event->modifiers().testFlag(Qt::ShiftModifier)     ? 10.0
                        : event->modifiers().testFlag(Qt::ControlModifier) ? 0.1
                                                                           : 1.0;
    const rig::PicturePoint from = (*m_corners)[static_cast<std::size_t>(m_active)];
    moveCorner({from.x + dx * step, from.y + dy * step});
}

void FrameView::keyReleaseEvent(QKeyEvent* event) {
    if (event->isAutoRepeat() || !m_isMoving || !m_corners) return;
    m_isMoving = false;
    update();
    Q_EMIT cornersSettled(*m_corners);
}

void FrameView::focusOutEvent(QFocusEvent* event) {
    m_isMoving = false;
    QWidget::focusOutEvent(event);
    update();
}

void FrameView::updateDescription() {
    if (m_picture.isNull()) {
        setAccessibleDescription(m_emptyText);
    } else if (m_marks.isOn()) {
        const int active = m_marks.active();
        const QString chosen = active < 0 ? QString()
                                          : tr(" Mark %1: %2 × %3 px at %4, %5.")
                                                .arg(active + 1)
                                                .arg(m_marks.marks()[active].width(), 0, 'f', 0)
                                                .arg(m_marks.marks()[active].height(), 0, 'f', 0)
                                                .arg(m_marks.marks()[active].left(), 0, 'f', 0)
                                                .arg(m_marks.marks()[active].top(), 0, 'f', 0);
        setAccessibleDescription(
            tr("Marking skin. Enter places a mark, N chooses the next, arrows move it, plus and "
               "minus size it, Delete removes it.") +
            chosen);
    } else if (!m_corners) {
        setAccessibleDescription(tr("No chart marked."));
    } else if (m_active >= 0) {
        const rig::PicturePoint p = (*m_corners)[static_cast<std::size_t>(m_active)];
        setAccessibleDescription(
            tr("Corner %1 at %2, %3 px").arg(m_active + 1).arg(p.x, 0, 'f', 1).arg(p.y, 0, 'f', 1));
    } else if (m_isWaiting) {
        setAccessibleDescription(m_waitingWords + u' ' +
                                 tr("Keys 1 to 4 choose a corner, arrows move it."));
    } else {
        setAccessibleDescription(tr("Chart marked. Keys 1 to 4 choose a corner, arrows move it."));
    }
}

void FrameView::paintChart(QPainter& painter) const {
    QPolygonF field;
    for (const rig::PicturePoint& corner : *m_corners) field << toWidget(corner);
    painter.setRenderHint(QPainter::Antialiasing);
    QTransform toField;
    const QPolygonF unit({{0, 0}, {1, 0}, {1, 1}, {0, 1}});
    if (QTransform::quadToQuad(unit, field, toField)) {
        painter.setBrush(Qt::NoBrush);
        const double f = m_patchShare;
        const double across = m_columns - 1.0 + f;
        const double down = m_rows - 1.0 + f;
        for (int patch = 0; patch < m_columns * m_rows; ++patch) {
            const int column = patch % m_columns, row = patch / m_columns;
            const double x = (column + 0.5 * f) / across;
            const double y = (row + 0.5 * f) / down;
            const QPolygonF quad = toField.map(
                quadOf(x, y, 0.5 * kPatchMiddle * f / across, 0.5 * kPatchMiddle * f / down));
            painter.setPen(QPen(QColor(0, 0, 0, 150), 3.0));
            painter.drawPolygon(quad);
            painter.setPen(
                QPen(QColor(255, 255, 255, 230), 1.0, m_isWaiting ? Qt::DashLine : Qt::SolidLine));
            painter.drawPolygon(quad);
        }
    }
    painter.setPen(QPen(QColor(0, 0, 0, 170), 3.5));
    painter.drawPolygon(field);
    painter.setPen(QPen(theme::kText, 1.5, m_isWaiting ? Qt::DashLine : Qt::SolidLine));
    painter.drawPolygon(field);
    if (m_isWaiting) paintWaitingWords(painter, field);
    if (!m_isEditable) return;
    painter.setFont(theme::font(11, QFont::DemiBold));
    for (int i = 0; i < 4; ++i) {
        const QPointF at = field.at(i);
        const bool isActive = i == m_active;
        painter.setPen(QPen(Qt::black, 1.0));
        painter.setBrush(isActive ? theme::kFocus : QColor(235, 235, 235));
        painter.drawEllipse(
            at, isActive ? kHandlePx + 2 : kHandlePx, isActive ? kHandlePx + 2 : kHandlePx);
        painter.setPen(Qt::black);
        painter.drawText(
            QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt::AlignCenter, QString::number(i + 1));
    }
}

/// Under the grid, or over it where there is no room.
void FrameView::paintWaitingWords(QPainter& painter, const QPolygonF& field) const {
    if (m_waitingWords.isEmpty()) return;
    painter.setFont(theme::font(13, QFont::Medium));
    const QRectF box = field.boundingRect();
    const QSizeF size =
        painter.fontMetrics().size(Qt::TextSingleLine, m_waitingWords) + QSizeF(16, 8);
    double top = box.bottom() + 16.0;
    if (top + size.height() > height()) top = std::max(0.0, box.top() - 16.0 - size.height());
    const double left = std::clamp(
        box.center().x() - 0.5 * size.width(), 0.0, std::max(0.0, width() - size.width()));
    const QRectF place(QPointF(left, top), size);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(20, 20, 20, 220));
    painter.drawRoundedRect(place, 4, 4);
    painter.setPen(theme::kText);
    painter.drawText(place, Qt::AlignCenter, m_waitingWords);
    painter.setBrush(Qt::NoBrush);
}

void FrameView::paintMarks(QPainter& painter) const {
    painter.setBrush(Qt::NoBrush);
    const auto outline = [&](const QRectF& box, Qt::PenStyle style, bool isChosen) {
        painter.setPen(QPen(QColor(0, 0, 0, 150), 3.0));
        painter.drawRect(box);
        painter.setPen(
            QPen(isChosen ? theme::kFocus : QColor(235, 235, 235), isChosen ? 2.0 : 1.0, style));
        painter.drawRect(box);
    };
    for (const QRectF& face : m_faces) outline(toWidget(face), Qt::DashLine, false);
    painter.setFont(theme::font(11, QFont::DemiBold));
    for (int i = 0; i < m_marks.marks().size(); ++i) {
        const QRectF box = toWidget(m_marks.marks()[i]);
        outline(box, Qt::SolidLine, i == m_marks.active());
        const QRectF caption(box.left(), box.bottom() + 2, 60, 16);
        painter.setPen(Qt::black);
        painter.drawText(caption.translated(1, 1), Qt::AlignLeft, tr("skin %1").arg(i + 1));
        painter.setPen(QColor(235, 235, 235));
        painter.drawText(caption, Qt::AlignLeft, tr("skin %1").arg(i + 1));
    }
}

void FrameView::paintMagnifier(QPainter& painter) const {
    const rig::PicturePoint corner = (*m_corners)[static_cast<std::size_t>(m_active)];
    const QPointF at = toWidget(corner);
    // In the corner of the view that is away from the handle.
    const double left = at.x() > width() / 2.0 ? 12.0 : width() - kMagnifierPx - 12.0;
    const double top = at.y() > height() / 2.0 ? 12.0 : height() - kMagnifierPx - 36.0;
    const QRectF area(left, top, kMagnifierPx, kMagnifierPx);
    const double span = kMagnifierPx / kMagnification;
    const QRectF source(corner.x + 0.5 - span / 2.0, corner.y + 0.5 - span / 2.0, span, span);
    painter.setRenderHint(QPainter::SmoothPixmapTransform, false);
    painter.fillRect(area, Qt::black);
    painter.drawImage(area, m_picture, source);
    painter.setPen(QPen(theme::kText, 1.0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(area);
    painter.drawLine(QPointF(area.center().x(), area.top()),
                     QPointF(area.center().x(), area.bottom()));
    painter.drawLine(QPointF(area.left(), area.center().y()),
                     QPointF(area.right(), area.center().y()));
    const QRectF caption(area.left(), area.bottom() + 2, area.width(), 20);
    painter.fillRect(caption, QColor(20, 20, 20, 220));
    painter.setFont(theme::font(12));
    painter.drawText(caption,
                     Qt::AlignCenter,
                     tr("corner %1: %2, %3 px")
                         .arg(m_active + 1)
                         .arg(corner.x, 0, 'f', 1)
                         .arg(corner.y, 0, 'f', 1));
}

void FrameView::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.fillRect(rect(), QColor(30, 30, 30));
    if (m_picture.isNull()) {
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(14));
        painter.drawText(
            rect().adjusted(40, 20, -40, -20), Qt::AlignCenter | Qt::TextWordWrap, m_emptyText);
    } else {
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(pictureRect(), m_picture);
        paintMarks(painter);
        if (m_corners && !m_marks.isOn()) {
            paintChart(painter);
            if (m_active >= 0 && m_isEditable && (m_isMoving || hasFocus()))
                paintMagnifier(painter);
        }
    }
    if (hasFocus()) {
        painter.setPen(QPen(theme::kFocus, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

}  // namespace rigmatch::app
