// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/shot_delegate.h"

#include <QPainter>

#include "app/models/shot_list_model.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

QSize ShotDelegate::sizeHint(const QStyleOptionViewItem& /*option*/,
                             const QModelIndex& /*index*/) const {
    return {200, 76};
}

void ShotDelegate::paint(QPainter* painter,
                         const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    painter->save();
    if ((option.state & QStyle::State_Selected) != 0)
        painter->fillRect(option.rect, QColor(69, 69, 69));
    painter->setPen(theme::kLine);
    painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
    const QRect area = option.rect.adjusted(10, 8, -8, -6);
    theme::paintBadge(*painter,
                      QRectF(area.left(), area.top(), 20, 20),
                      index.data(ShotListModel::LetterRole).toString());
    painter->setPen(theme::kText);
    painter->setFont(theme::font(13, QFont::Medium));
    const QRect first(area.left() + 30, area.top(), area.width() - 30, 20);
    painter->drawText(
        first,
        Qt::AlignVCenter | Qt::AlignLeft,
        painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, first.width()));
    painter->setFont(theme::font(12));
    painter->setPen(theme::kDim);
    const QRect second = first.translated(0, 21);
    const QString file = index.data(ShotListModel::FileRole).toString();
    painter->drawText(
        second,
        Qt::AlignVCenter | Qt::AlignLeft,
        painter->fontMetrics().elidedText(file.isEmpty() ? tr("drop a clip or still here") : file,
                                          Qt::ElideMiddle,
                                          second.width()));
    const auto attention =
        static_cast<ShotListModel::Attention>(index.data(ShotListModel::AttentionRole).toInt());
    QRect third = second.translated(0, 20);
    if (attention != ShotListModel::Attention::None) {
        const bool isOff = attention == ShotListModel::Attention::Off;
        painter->setPen(isOff ? theme::kOff : theme::kNear);
        painter->drawText(third, Qt::AlignVCenter | Qt::AlignLeft, isOff ? u"▲"_s : u"△"_s);
        third.setLeft(third.left() + 18);
    }
    painter->drawText(
        third,
        Qt::AlignVCenter | Qt::AlignLeft,
        painter->fontMetrics().elidedText(
            index.data(ShotListModel::StateRole).toString(), Qt::ElideRight, third.width()));
    painter->restore();
}

}  // namespace rigmatch::app
