// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/cameras_delegate.h"

#include <QCoreApplication>
#include <QPainter>

#include "app/models/cameras_model.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using Column = CamerasModel::Column;

void paintCamera(QPainter& painter, QRect area, const QModelIndex& index) {
    const QRect badge(area.left(), area.center().y() - 10, 20, 20);
    theme::paintBadge(painter, badge, index.data(CamerasModel::LetterRole).toString());
    area.setLeft(badge.right() + 10);
    painter.setPen(theme::kText);
    painter.setFont(theme::font(13));
    const QString role =
        painter.fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, area.width());
    if (!index.data(CamerasModel::IsReferenceRole).toBool()) {
        painter.drawText(area, Qt::AlignVCenter | Qt::AlignLeft, role);
        return;
    }
    painter.drawText(
        area.adjusted(0, 0, 0, -area.height() / 2), Qt::AlignBottom | Qt::AlignLeft, role);
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(11));
    painter.drawText(area.adjusted(0, area.height() / 2, 0, 0),
                     Qt::AlignTop | Qt::AlignLeft,
                     QCoreApplication::translate("CamerasDelegate", "reference"));
}

}  // namespace

void CamerasDelegate::paint(QPainter* painter,
                            const QStyleOptionViewItem& option,
                            const QModelIndex& index) const {
    painter->save();
    if ((option.state & QStyle::State_Selected) != 0)
        painter->fillRect(option.rect, QColor(69, 69, 69));
    painter->setClipRect(option.rect);
    QRect area = option.rect.adjusted(8, 3, -6, -3);
    const auto column = static_cast<Column>(index.column());
    if (column == Column::Camera) {
        paintCamera(*painter, area, index);
        painter->restore();
        return;
    }
    painter->setFont(theme::font(12));
    painter->setPen(column == Column::Body ? theme::kDim : theme::kText);
    if (column == Column::Attention) {
        const bool hasFlag = index.data(CamerasModel::HasFlagRole).toBool();
        painter->setPen(hasFlag ? theme::kNear : theme::kFaint);
        if (hasFlag) {
            painter->drawText(area.adjusted(0, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, u"△"_s);
            area.setLeft(area.left() + 18);
        }
    }
    const QString text = index.data().toString().isEmpty() && column == Column::Attention
                             ? u"–"_s
                             : index.data().toString();
    painter->drawText(area, Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap, text);
    painter->restore();
}

}  // namespace rigmatch::app
