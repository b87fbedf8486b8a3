// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/screens/sync/sync_controller.h"

namespace rigmatch::app {

/// The sources on one clock: a bar each, where it begins and ends, with marks at frames that repeat
/// or are left out. A row can be chosen by click and arrow keys.
class TimeLine : public QWidget {
    Q_OBJECT
public:
    TimeLine(SyncController& controller, QWidget* parent);

    [[nodiscard]] int current() const { return m_current; }
    void setCurrent(int row);
    void refresh();
    [[nodiscard]] QSize sizeHint() const override;

Q_SIGNALS:
    void currentChanged(int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void paintRow(QPainter& painter, int row, const QRectF& area, double perSecond) const;
    void paintScale(QPainter& painter, double left, double perSecond, double seconds) const;
    void paintClap(QPainter& painter, double left, double perSecond) const;
    void paintPictures(QPainter& painter, const SyncController::Row& row, const QRectF& bar) const;
    void paintSound(QPainter& painter, const SyncController::Row& row, const QRectF& bar) const;
    [[nodiscard]] double lastSeconds() const;

    SyncController& m_controller;
    int m_current = 0;
};

/// "+1123.0 ms ± 0.1 by sound", or why there is none.
[[nodiscard]] QString offsetText(const SyncController::Row& row);

}  // namespace rigmatch::app
