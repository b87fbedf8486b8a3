// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/rail_button.h"

#include <QPainter>

#include "app/services/texts.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

RailButton::RailButton(int number, const QString& title, QWidget* parent)
    : QToolButton(parent), m_number(number), m_title(title) {
    setProperty("railEntry", true);
    setCheckable(true);
    setAutoExclusive(true);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFixedHeight(38);
    setAccessibleName(title);
    setToolTip(tr("%1 (Ctrl+%2)").arg(title).arg(number));
}

void RailButton::setState(State state, int count) {
    if (state == m_state && count == m_count) return;
    m_state = state;
    m_count = count;
    setAccessibleDescription(
        state == State::Done ? tr("done")
        : state == State::Attention
            ? counted(count, tr("1 thing wants attention"), tr("%1 things want attention"))
            : tr("open"));
    update();
}

void RailButton::paintEvent(QPaintEvent* event) {
    QToolButton::paintEvent(event);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme::kFaint);
    painter.setFont(theme::font(11));
    painter.drawText(QRect(14, 0, 16, height()), Qt::AlignVCenter, QString::number(m_number));
    painter.setPen(theme::kText);
    painter.setFont(theme::font(13, isChecked() ? QFont::DemiBold : QFont::Normal));
    painter.drawText(QRect(38, 0, width() - 80, height()), Qt::AlignVCenter, m_title);
    const QRectF mark(width() - 40, height() / 2.0 - 9, 28, 18);
    if (m_state == State::Done) {
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(12));
        painter.drawText(mark, Qt::AlignCenter, u"✓"_s);
    } else if (m_state == State::Attention) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme::kNear);
        painter.drawRoundedRect(mark, 9, 9);
        painter.setPen(QColor(30, 30, 30));
        painter.setFont(theme::font(11, QFont::DemiBold));
        painter.drawText(mark, Qt::AlignCenter, QString::number(m_count));
    }
}

}  // namespace rigmatch::app
