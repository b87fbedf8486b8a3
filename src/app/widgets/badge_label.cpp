// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/badge_label.h"

#include <QPainter>

#include "app/widgets/theme.h"

namespace rigmatch::app {

BadgeLabel::BadgeLabel(QWidget* parent) : QWidget(parent) { setFixedSize(20, 20); }

void BadgeLabel::setLetter(const QString& letter) {
    if (letter == m_letter) return;
    m_letter = letter;
    setAccessibleName(tr("Camera %1").arg(letter));
    update();
}

void BadgeLabel::paintEvent(QPaintEvent* /*event*/) {
    if (m_letter.isEmpty()) return;
    QPainter painter(this);
    theme::paintBadge(painter, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), m_letter);
}

}  // namespace rigmatch::app
