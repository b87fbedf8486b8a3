// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractListModel>
#include <QListView>
#include <QStyledItemDelegate>
#include <vector>

#include "words/plan_text.h"

namespace rigmatch::app {

/// Facts as rows: title and value, why and what to change below.
class FactListModel : public QAbstractListModel {
    Q_OBJECT
public:
    enum Role { TitleRole = Qt::UserRole + 1, ValueRole, WhyRole, ChangeRole, LevelRole };

    using QAbstractListModel::QAbstractListModel;
    void setFacts(const std::vector<words::ToldFact>& facts);
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;

private:
    std::vector<words::ToldFact> m_facts;
};

/// Paints a fact: value right, marked by colour, shape and word where it wants attention.
class FactDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;
};

/// The list itself: rows as high as their words.
class FactList : public QListView {
    Q_OBJECT
public:
    FactList(const QString& objectName, const QString& accessibleName, QWidget* parent);
    void setFacts(const std::vector<words::ToldFact>& facts);
    [[nodiscard]] FactListModel& facts() { return *m_model; }

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    FactListModel* m_model;
};

}  // namespace rigmatch::app
