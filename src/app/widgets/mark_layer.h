// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QRectF>
#include <QVector>

namespace rigmatch::app {

/// Boxes that are drawn, moved and removed by hand over a picture; all places in px of the picture.
class MarkLayer {
public:
    void setMarks(const QVector<QRectF>& marks);
    [[nodiscard]] const QVector<QRectF>& marks() const { return m_marks; }
    /// While off, marks only show.
    void setOn(bool isOn);
    [[nodiscard]] bool isOn() const { return m_isOn; }
    /// The chosen mark, or -1.
    [[nodiscard]] int active() const { return m_active; }
    [[nodiscard]] bool isDragging() const { return m_grip != Grip::None; }

    /// Takes hold of the mark there, or begins a new one.
    void press(QPointF at);
    void drag(QPointF at, const QSizeF& picture);
    /// True where marks have changed; a box of under 8 px is no mark.
    bool release();

    enum class Key { Ignored, Chosen, Changed };
    /// Enter places a mark in the middle, N chooses the next, arrows move it (Shift: 10
    /// px), plus and minus size it, Delete removes it.
    Key press(int key, Qt::KeyboardModifiers modifiers, const QSizeF& picture);

private:
    enum class Grip { None, Drawing, Moving };

    QVector<QRectF> m_marks;
    int m_active = -1;
    bool m_isOn = false;
    Grip m_grip = Grip::None;
    QPointF m_from;
    QRectF m_before;
};

}  // namespace rigmatch::app
