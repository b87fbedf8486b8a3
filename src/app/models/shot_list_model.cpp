// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/shot_list_model.h"

#include <QUrl>

namespace rigmatch::app {

using namespace Qt::StringLiterals;

QStringList localFiles(const QMimeData& data) {
    QStringList files;
    for (const QUrl& url : data.urls()) {
        if (url.isLocalFile()) files << url.toLocalFile();
    }
    return files;
}

void ShotListModel::setRows(const QVector<Row>& rows) {
    const auto before = static_cast<int>(m_rows.size());
    const auto after = static_cast<int>(rows.size());
    if (after > before) {
        beginInsertRows({}, before, after - 1);
        m_rows.append(rows.mid(before));
        endInsertRows();
    } else if (after < before) {
        beginRemoveRows({}, after, before - 1);
        m_rows.resize(after);
        endRemoveRows();
    }
    for (int i = 0; i < after; ++i) {
        if (m_rows[i] == rows[i] && i < before) continue;
        m_rows[i] = rows[i];
        Q_EMIT dataChanged(index(i), index(i));
    }
}

int ShotListModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_rows.size());
}

QVariant ShotListModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= m_rows.size()) return {};
    const Row& row = m_rows[index.row()];
    switch (role) {
        case Qt::DisplayRole:
        case Qt::EditRole:
            return row.role;
        case Qt::ToolTipRole:
            return row.file.isEmpty() ? row.state : row.file + u"\n"_s + row.state;
        case Qt::AccessibleTextRole:
            return (row.isRenamable ? tr("Source %1, %2: %3. %4") : tr("Camera %1, %2: %3. %4"))
                .arg(row.letter, row.role, row.file, row.state);
        case LetterRole:
            return row.letter;
        case CameraIdRole:
            return row.cameraId;
        case FileRole:
            return row.file;
        case StateRole:
            return row.state;
        case AttentionRole:
            return static_cast<int>(row.attention);
        default:
            return {};
    }
}

Qt::ItemFlags ShotListModel::flags(const QModelIndex& index) const {
    const Qt::ItemFlags flags = QAbstractListModel::flags(index) | Qt::ItemIsDropEnabled;
    const bool isRenamable = index.isValid() && m_rows.value(index.row()).isRenamable;
    return isRenamable ? flags | Qt::ItemIsEditable : flags;
}

bool ShotListModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const QString name = value.toString().trimmed();
    if (role != Qt::EditRole || !index.isValid() || name.isEmpty()) return false;
    Q_EMIT renamed(m_rows.value(index.row()).cameraId, name);
    return true;
}

QStringList ShotListModel::mimeTypes() const { return {u"text/uri-list"_s}; }

bool ShotListModel::canDropMimeData(const QMimeData* data,
                                    Qt::DropAction /*action*/,
                                    int /*row*/,
                                    int /*column*/,
                                    const QModelIndex& /*parent*/) const {
    return !m_rows.isEmpty() && data != nullptr && !localFiles(*data).isEmpty();
}

bool ShotListModel::dropMimeData(
    const QMimeData* data, Qt::DropAction action, int row, int column, const QModelIndex& parent) {
    if (!canDropMimeData(data, action, row, column, parent)) return false;
    Q_EMIT filesDropped(localFiles(*data),
                        parent.isValid() ? m_rows[parent.row()].cameraId : QString());
    return true;
}

}  // namespace rigmatch::app
