// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractListModel>
#include <QMimeData>

#include "rig/rig.h"

namespace rigmatch::app {

/// The cameras with what each gave in one take. Files can be dropped on a row, or beside the rows.
class ShotListModel : public QAbstractListModel {
    Q_OBJECT
public:
    enum Role { LetterRole = Qt::UserRole + 1, CameraIdRole, FileRole, StateRole, AttentionRole };
    enum class Attention { None, Near, Off };

    /// What is known of the clip of one camera or other source.
    struct Row {
        QString cameraId;
        QString letter;
        QString role;
        QString file{};
        QString state{};
        Attention attention = Attention::None;
        bool isRenamable = false;  ///< a source; cameras are renamed on Cameras

        bool operator==(const Row&) const = default;
    };

    using QAbstractListModel::QAbstractListModel;
    void setRows(const QVector<Row>& rows);
    [[nodiscard]] const QVector<Row>& rows() const { return m_rows; }

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    [[nodiscard]] Qt::DropActions supportedDropActions() const override {
        return Qt::CopyAction | Qt::MoveAction;
    }
    [[nodiscard]] QStringList mimeTypes() const override;
    [[nodiscard]] bool canDropMimeData(const QMimeData* data,
                                       Qt::DropAction action,
                                       int row,
                                       int column,
                                       const QModelIndex& parent) const override;
    bool dropMimeData(const QMimeData* data,
                      Qt::DropAction action,
                      int row,
                      int column,
                      const QModelIndex& parent) override;

Q_SIGNALS:
    /// Files were dropped; `cameraId` is empty where they were dropped beside the rows.
    void filesDropped(const QStringList& files, const QString& cameraId);
    void renamed(const QString& sourceId, const QString& name);

private:
    QVector<Row> m_rows;
};

/// The local files of a drop; a dropped folder is kept as such.
[[nodiscard]] QStringList localFiles(const QMimeData& data);

}  // namespace rigmatch::app
