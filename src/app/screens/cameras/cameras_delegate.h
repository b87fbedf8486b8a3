// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStyledItemDelegate>

namespace rigmatch::app {

/// Paints a camera's row: badge and role, "reference" below it, amber triangle before what wants
/// attention.
class CamerasDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
};

}  // namespace rigmatch::app
