// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/screens/framing/framing_controller.h"

namespace rigmatch::app {

/// What is drawn over the pictures.
enum class FramedPage {
    Measures,      ///< eyes, headroom, thirds or centre
    AgainstSaved,  ///< the saved frame over it
    Pair,          ///< eyes and heads, large
    Crops,         ///< windows of other formats
    Focus,         ///< where edges were read
};

/// One camera's picture with its lines.
class FramedView : public QWidget {
    Q_OBJECT
public:
    FramedView(FramingController& controller, int row, QWidget* parent);

    void setRow(int row);
    void setPage(FramedPage page);
    /// EBU R95 action and graphics areas.
    void setSafeAreas(bool isOn);
    /// The saved frame instead of the present one; 0.5: both through each other.
    void setSavedShare(double share);
    void setMirrored(bool isMirrored);
    /// The line of the other's eyes, share of the height; for pairs.
    void setOtherEyes(std::optional<double> eyes);
    /// Another picture through this one, with a name of its own for both.
    void setGhost(const QImage& picture, const QString& title);
    void refresh();

    [[nodiscard]] QSize sizeHint() const override { return {380, 250}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {240, 170}; }
    /// Paints the picture with its lines alone, as a card shows it.
    void paintPicture(QPainter& painter, const QRectF& area) const;

Q_SIGNALS:
    void chosen(const QString& cameraId);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] const FramingController::Row& row() const;
    void paintHead(QPainter& painter, const QRectF& area) const;
    void paintImage(QPainter& painter, const QRectF& area) const;
    void paintPerson(QPainter& painter,
                     const QRectF& area,
                     const rig::FramedPerson& person,
                     bool isLone) const;
    void paintOutline(QPainter& painter, const QRectF& area, const rig::FramedPerson& person) const;
    void paintSpots(QPainter& painter, const QRectF& area) const;
    void paintCrops(QPainter& painter, const QRectF& area) const;
    void paintFocus(QPainter& painter, const QRectF& area) const;
    [[nodiscard]] QString footText() const;
    [[nodiscard]] QRectF pictureRect(const QRectF& whole) const;
    [[nodiscard]] double atX(const QRectF& area, double share) const;

    FramingController& m_controller;
    int m_row = 0;
    FramedPage m_page = FramedPage::Measures;
    bool m_hasSafeAreas = false;
    bool m_isMirrored = false;
    double m_savedShare = 0.5;
    std::optional<double> m_otherEyes;
    QImage m_ghost;
    QString m_ghostTitle;
};

/// "▲ " or "△ " before what asks for attention; empty for what is fine.
[[nodiscard]] QString markOf(base::Verdict verdict);
[[nodiscard]] QColor colourOf(base::Verdict verdict);

}  // namespace rigmatch::app
