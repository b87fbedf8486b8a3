// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QWidget>
#include <optional>

#include "app/widgets/mark_layer.h"
#include "rig/reading.h"

namespace rigmatch::app {

/// A picture with the chart drawn over it. The four corners can be dragged, or chosen with 1..4 and
/// moved with the arrow keys: 1 px, with Shift 10 px, with Ctrl a tenth. While one moves, a
/// magnifier shows its surroundings. Faces that were found show as thin boxes; spots of skin can be
/// marked by hand while marking is on (MarkLayer).
class FrameView : public QWidget {
    Q_OBJECT
public:
    explicit FrameView(QWidget* parent = nullptr);

    void setPicture(const QImage& picture);
    /// The chart's corners and the width of a patch over its step; nothing: no chart is drawn.
    void setChart(const std::optional<rig::PictureQuad>& corners,
                  double patchShare,
                  int columns = 6,
                  int rows = 4);
    /// What stands in the middle while there is no picture.
    void setEmptyText(const QString& text);
    /// True: the corners wait to be put on a chart that nobody found; dashed, with `words` beside
    /// them that say so.
    void setWaiting(bool isWaiting, const QString& words);
    /// False: corners stay where they are.
    void setEditable(bool isEditable);

    /// Faces found by themselves, px of the picture.
    void setFaces(const QVector<QRectF>& faces);
    /// Spots marked by hand, px of the picture.
    void setMarks(const QVector<QRectF>& marks);
    /// True: the mouse draws and moves marks instead of corners.
    void setMarking(bool isMarking);

    [[nodiscard]] std::optional<rig::PictureQuad> corners() const { return m_corners; }
    [[nodiscard]] int activeCorner() const { return m_active; }
    /// Place of a picture point on the widget, and back.
    [[nodiscard]] QPointF toWidget(const rig::PicturePoint& point) const;
    [[nodiscard]] rig::PicturePoint toPicture(const QPointF& position) const;
    [[nodiscard]] QSize sizeHint() const override { return {640, 360}; }

Q_SIGNALS:
    /// A corner is being moved.
    void cornersMoved(const rig::PictureQuad& corners);
    /// The mouse or the arrow key was let go.
    void cornersSettled(const rig::PictureQuad& corners);
    /// Marks were drawn, moved or removed.
    void marksChanged(const QVector<QRectF>& marks);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    [[nodiscard]] QRectF pictureRect() const;
    [[nodiscard]] int cornerAt(const QPointF& position) const;
    void moveCorner(rig::PicturePoint to);
    void paintChart(QPainter& painter) const;
    void paintWaitingWords(QPainter& painter, const QPolygonF& field) const;
    void paintMagnifier(QPainter& painter) const;
    void paintMarks(QPainter& painter) const;
    [[nodiscard]] QRectF toWidget(const QRectF& box) const;
    void updateDescription();

    QImage m_picture;
    QString m_emptyText;
    std::optional<rig::PictureQuad> m_corners;
    double m_patchShare = 0.86;
    int m_columns = 6;
    int m_rows = 4;
    QVector<QRectF> m_faces;
    MarkLayer m_marks;
    int m_active = -1;
    bool m_isEditable = true;
    bool m_isWaiting = false;
    QString m_waitingWords;
    bool m_isMoving = false;
};

}  // namespace rigmatch::app
