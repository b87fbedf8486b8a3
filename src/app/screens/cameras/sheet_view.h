// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QHeaderView>
#include <QStyledItemDelegate>
#include <QTableView>

namespace rigmatch::app {

/// Paints a cell of the camera sheet and opens its editor: a list of what this camera allows, or a
/// field to type in.
class SheetDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    QWidget* createEditor(QWidget* parent,
                          const QStyleOptionViewItem& option,
                          const QModelIndex& index) const override;
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void setModelData(QWidget* editor,
                      QAbstractItemModel* model,
                      const QModelIndex& index) const override;
};

/// Heads: badge, role and "reference" of a camera; names of rows, titles of groups.
class SheetHeader : public QHeaderView {
    Q_OBJECT
public:
    SheetHeader(Qt::Orientation orientation, QWidget* parent);

protected:
    void paintSection(QPainter* painter, const QRect& rect, int section) const override;
};

}  // namespace rigmatch::app
