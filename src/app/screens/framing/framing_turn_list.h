// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractListModel>
#include <QStyledItemDelegate>

#include "app/screens/framing/framing_controller.h"

namespace rigmatch::app {

/// What to turn at the tripods, worst first, to be ticked.
class FramingTurnModel : public QAbstractListModel {
    Q_OBJECT
public:
    enum Role { LetterRole = Qt::UserRole + 1, HeadlineRole, NumbersRole, VerdictRole };

    FramingTurnModel(FramingController& controller, QObject* parent);
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

private:
    void take();

    FramingController& m_controller;
    std::vector<base::Finding> m_turns;
};

/// A box, the camera's badge, the turn in bold over as many lines as it needs, why, and the
/// numbers.
class FramingTurnDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;

protected:
    bool editorEvent(QEvent* event,
                     QAbstractItemModel* model,
                     const QStyleOptionViewItem& option,
                     const QModelIndex& index) override;
};

}  // namespace rigmatch::app
