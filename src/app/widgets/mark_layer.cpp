// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/mark_layer.h"

#include <algorithm>

namespace rigmatch::app {
namespace {

constexpr double kLeastPx = 8.0;
constexpr double kFirstShare = 0.06;  // of the picture's width: a mark placed by key
constexpr double kSizeStep = 1.15;

/// Moved into the picture, its size kept as far as there is room.
QRectF inside(QRectF box, const QSizeF& picture) {
    box.setWidth(std::min(box.width(), picture.width()));
    box.setHeight(std::min(box.height(), picture.height()));
    box.moveLeft(std::clamp(box.left(), 0.0, picture.width() - box.width()));
    box.moveTop(std::clamp(box.top(), 0.0, picture.height() - box.height()));
    return box;
}

}  // namespace

void MarkLayer::setMarks(const QVector<QRectF>& marks) {
    if (isDragging()) return;
    m_marks = marks;
    if (m_active >= marks.size()) m_active = -1;
}

void MarkLayer::setOn(bool isOn) {
    m_isOn = isOn;
    m_grip = Grip::None;
    if (!isOn) m_active = -1;
}

void MarkLayer::press(QPointF at) {
    m_from = at;
    for (int i = static_cast<int>(m_marks.size()) - 1; i >= 0; --i) {
        if (!m_marks[i].contains(at)) continue;
        m_active = i;
        m_before = m_marks[i];
        m_grip = Grip::Moving;
        return;
    }
    m_marks << QRectF(at, QSizeF(0, 0));
    m_active = static_cast<int>(m_marks.size()) - 1;
    m_grip = Grip::Drawing;
}

void MarkLayer::drag(QPointF at, const QSizeF& picture) {
    if (m_grip == Grip::None || m_active < 0) return;
    const QRectF whole(QPointF(0, 0), picture);
    m_marks[m_active] = m_grip == Grip::Moving ? inside(m_before.translated(at - m_from), picture)
                                               : QRectF(m_from, at).normalized().intersected(whole);
}

bool MarkLayer::release() {
    if (m_grip == Grip::None || m_active < 0) return false;
    const bool wasDrawing = m_grip == Grip::Drawing;
    m_grip = Grip::None;
    const QRectF box = m_marks[m_active];
    if (wasDrawing && (box.width() < kLeastPx || box.height() < kLeastPx)) {
        m_marks.removeAt(m_active);
        m_active = -1;
        return false;
    }
    return wasDrawing || box != m_before;
}

MarkLayer::Key MarkLayer::press(int key, Qt::KeyboardModifiers modifiers, const QSizeF& picture) {
    if (!m_isOn || picture.isEmpty()) return Key::Ignored;
    if (key == Qt::Key_Return || key == Qt::Key_Enter || key == Qt::Key_Insert) {
        const double side = std::max(kLeastPx, kFirstShare * picture.width());
        QRectF box(0, 0, side, side);
        box.moveCenter({0.5 * picture.width(), 0.5 * picture.height()});
        m_marks << inside(box, picture);
        m_active = static_cast<int>(m_marks.size()) - 1;
        return Key::Changed;
    }
    if (key == Qt::Key_N && !m_marks.isEmpty()) {
        m_active = (m_active + 1) % static_cast<int>(m_marks.size());
        return Key::Chosen;
    }
    if (m_active < 0) return Key::Ignored;
    QRectF& box = m_marks[m_active];
    const double step = modifiers.testFlag(Qt::ShiftModifier) ? 10.0 : 1.0;
    switch (key) {
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            m_marks.removeAt(m_active);
            m_active = -1;
            return Key::Changed;
        case Qt::Key_Left:
            box = inside(box.translated(-step, 0), picture);
            return Key::Changed;
        case Qt::Key_Right:
            box = inside(box.translated(step, 0), picture);
            return Key::Changed;
        case Qt::Key_Up:
            box = inside(box.translated(0, -step), picture);
            return Key::Changed;
        case Qt::Key_Down:
            box = inside(box.translated(0, step), picture);
            return Key::Changed;
        case Qt::Key_Plus:
        case Qt::Key_Minus: {
            const double factor = key == Qt::Key_Plus ? kSizeStep : 1.0 / kSizeStep;
            const QPointF middle = box.center();
            QRectF next(0,
                        0,
                        std::max(kLeastPx, box.width() * factor),
                        std::max(kLeastPx, box.height() * factor));
            next.moveCenter(middle);
            box = inside(next, picture);
            return Key::Changed;
        }
        default:
            return Key::Ignored;
    }
}

}  // namespace rigmatch::app
