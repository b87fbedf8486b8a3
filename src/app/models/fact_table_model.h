// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>

#include "words/reading_facts.h"

namespace rigmatch::app {

/// The facts of all readings: quantities down, cameras across, with a heading above each group.
class FactTableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Role {
        IsHeadingRole = Qt::UserRole + 1,
        VerdictRole,
        MarkRole,
        ValueRole,
        ExplanationRole
    };
    using QAbstractTableModel::QAbstractTableModel;

    void setTable(const rig::Rig& rig, const words::FactTable& table);
    [[nodiscard]] bool isHeading(int row) const;
    /// Tab-separated lines with a head line.
    [[nodiscard]] QString numbers() const;

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section,
                                      Qt::Orientation orientation,
                                      int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;

private:
    struct Row {
        QString heading;  ///< of a group; empty: a quantity
        int fact = -1;
    };
    [[nodiscard]] QVariant cellData(const words::FactRow& row, int column, int role) const;

    words::FactTable m_table;
    QVector<Row> m_rows;
    QStringList m_letters;
};

}  // namespace rigmatch::app
