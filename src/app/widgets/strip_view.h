// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QTransform>
#include <QVector>
#include <QWidget>
#include <optional>

namespace rigmatch::app {

/// The same part of every camera's picture, laid over each other in one frame of reference: places
/// in it run from (0, 0) at the top left to (1, 1) at the bottom right, on every camera the same
/// spot of chart or face. Wheel or + and - zoom, dragging moves, 0 shows all again. A click or the
/// arrow keys set the mark at which all cameras are read; Shift and drag mark a region.
class StripView : public QWidget {
    Q_OBJECT
public:
    enum class Mode { SideBySide, Slices, Wipe, Difference };
    struct Strip {
        QString letter;
        QImage picture;
        QTransform toPicture;  ///< from the frame of reference to px of `picture`
        QString missing;       ///< why there is nothing; empty where there is
    };
    explicit StripView(QWidget* parent = nullptr);

    /// `aspect`: width over height of the frame of reference.
    void setStrips(const QVector<Strip>& strips, double aspect);
    void setMode(Mode mode);
    /// The two that wipe and difference set against each other.
    void setPair(int first, int second);
    void setLoupe(bool isOn);
    void setMark(const std::optional<QPointF>& mark);
    void setRegion(const std::optional<QRectF>& region);

    [[nodiscard]] Mode mode() const { return m_mode; }
    [[nodiscard]] const QVector<Strip>& strips() const { return m_strips; }
    [[nodiscard]] double zoom() const { return m_zoom; }
    [[nodiscard]] std::optional<QPointF> mark() const { return m_mark; }
    /// Areas in which strips are drawn: one per strip side by side, else one for all.
    [[nodiscard]] QVector<QRectF> cells() const;
    /// Where the mark's surroundings are drawn large: one in a cell of its own, two for the pair of
    /// wipe and difference.
    [[nodiscard]] QVector<QRectF> loupes(const QRectF& cell) const;
    /// Share of the width at which the wipe divides.
    [[nodiscard]] double divider() const { return m_divider; }
    [[nodiscard]] QSize sizeHint() const override { return {700, 400}; }

Q_SIGNALS:
    void picked(const QPointF& place);
    void regionDrawn(const QRectF& region);

protected:
    void paintEvent(QPaintEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] QRectF cellAt(const QPointF& position) const;
    /// From the frame of reference to a cell, with zoom and place.
    [[nodiscard]] QTransform toCell(const QRectF& cell) const;
    void zoomBy(double factor, const QPointF& fixed);
    void moveMark(double dx, double dy);
    void keepInside();
    void drawStrip(QPainter& painter, int index, const QRectF& cell, const QRectF& clip) const;
    void drawDifference(QPainter& painter, const QRectF& cell) const;
    void drawLoupe(QPainter& painter, int index, const QRectF& area) const;
    [[nodiscard]] static double loupeSide(const QRectF& cell);
    void drawMarks(QPainter& painter, const QRectF& cell) const;
    void drawShared(QPainter& painter, const QRectF& cell) const;

    QVector<Strip> m_strips;
    double m_aspect = 16.0 / 9.0;
    Mode m_mode = Mode::SideBySide;
    int m_first = 0;
    int m_second = 1;
    bool m_isLoupe = false;
    double m_zoom = 1.0;
    QPointF m_centre{0.5, 0.5};
    double m_divider = 0.5;
    std::optional<QPointF> m_mark;
    std::optional<QRectF> m_region;
    std::optional<QPointF> m_dragFrom;  ///< frame of reference
    bool m_isDragging = false;
    bool m_isMarking = false;
    bool m_isWiping = false;
};

}  // namespace rigmatch::app
