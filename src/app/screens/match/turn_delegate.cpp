// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/turn_delegate.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/models/turn_list_model.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using Column = TurnListModel::Column;

void paintTick(QPainter& painter, const QRect& area, bool isDone, const QString& letter) {
    const QRectF box(area.left(), area.center().y() - 7.5, 16, 16);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(QColor(150, 150, 150), 1.2));
    painter.setBrush(isDone ? QColor(90, 90, 90) : Qt::transparent);
    painter.drawRoundedRect(box, 3, 3);
    if (isDone) {
        painter.setPen(QPen(theme::kText, 2.0));
        painter.drawPolyline(QPolygonF({{box.left() + 3.5, box.center().y()},
                                        {box.left() + 7, box.bottom() - 4},
                                        {box.right() - 3, box.top() + 4}}));
    }
    theme::paintBadge(painter, QRectF(box.right() + 12, area.center().y() - 10, 20, 20), letter);
}

void paintChange(QPainter& painter, const QRect& area, const QModelIndex& index, bool isDone) {
    const QString from = index.data(TurnListModel::FromTextRole).toString();
    const QString lead = from.isEmpty() ? QString() : from + u" → "_s;
    painter.setFont(theme::font(13));
    painter.setPen(isDone ? theme::kFaint : theme::kDim);
    painter.drawText(area, Qt::AlignVCenter | Qt::AlignLeft, lead);
    const QRect rest = area.adjusted(painter.fontMetrics().horizontalAdvance(lead), 0, 0, 0);
    painter.setFont(theme::font(13, QFont::DemiBold));
    painter.setPen(isDone ? theme::kFaint : theme::kText);
    painter.drawText(
        rest,
        Qt::AlignVCenter | Qt::AlignLeft,
        painter.fontMetrics().elidedText(
            index.data(TurnListModel::ToTextRole).toString(), Qt::ElideRight, rest.width()));
}

}  // namespace

void TurnDelegate::paint(QPainter* painter,
                         const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    painter->save();
    if ((option.state & QStyle::State_Selected) != 0)
        painter->fillRect(option.rect, QColor(60, 60, 60));
    painter->setPen(theme::kLine);
    painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
    const QRect area = option.rect.adjusted(8, 0, -6, 0);
    const bool isDone = index.siblingAtColumn(0).data(Qt::CheckStateRole).toInt() == Qt::Checked;
    const auto column = static_cast<Column>(index.column());
    if (column == Column::Done) {
        paintTick(*painter, area, isDone, index.data(TurnListModel::LetterRole).toString());
    } else if (column == Column::Change) {
        paintChange(*painter, area, index, isDone);
    } else {
        painter->setFont(theme::font(column == Column::Control ? 13 : 12,
                                     column == Column::Control ? QFont::Medium : QFont::Normal));
        painter->setPen(isDone                      ? theme::kFaint
                        : column == Column::Control ? theme::kText
                                                    : theme::kDim);
        painter->drawText(area,
                          Qt::AlignVCenter | Qt::AlignLeft,
                          painter->fontMetrics().elidedText(
                              index.data().toString(), Qt::ElideRight, area.width()));
    }
    painter->restore();
}

bool TurnDelegate::editorEvent(QEvent* event,
                               QAbstractItemModel* model,
                               const QStyleOptionViewItem& option,
                               const QModelIndex& index) {
    const bool isClick =
        event->type() == QEvent::MouseButtonRelease && index.column() == 0 &&
        option.rect.contains(static_cast<QMouseEvent*>(event)->position().toPoint());
    if (!isClick) return false;
    const bool isDone = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    return model->setData(index, isDone ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
}

}  // namespace rigmatch::app
