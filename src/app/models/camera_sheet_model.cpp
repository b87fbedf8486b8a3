// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/camera_sheet_model.h"

#include <algorithm>

#include "app/services/texts.h"
#include "words/english.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using Kind = SheetRow::Kind;

const SheetRow& rowAt(int row) { return sheetRows()[static_cast<std::size_t>(row)]; }

const words::ToldFact* factOf(const std::vector<words::ToldFact>& facts, const QString& key) {
    for (const words::ToldFact& fact : facts) {
        if (plain(fact.key) == key) return &fact;
    }
    return nullptr;
}

}  // namespace

void CameraSheetModel::setRig(const rig::Rig& rig) {
    const auto count = static_cast<int>(rig.cameras.size());
    const int before = columnCount();
    const auto takeOver = [&] {
        m_rig = rig;
        m_facts.clear();
        m_marks.clear();
        for (const rig::Camera& camera : m_rig.cameras) {
            m_facts.push_back(words::told(plan::sheetFacts(m_rig, camera)));
            m_marks.push_back(plan::sheetMarks(m_rig, camera));
        }
    };
    if (count > before) {
        beginInsertColumns({}, before, count - 1);
        takeOver();
        endInsertColumns();
    } else if (count < before) {
        beginRemoveColumns({}, count, before - 1);
        takeOver();
        endRemoveColumns();
    } else {
        takeOver();
    }
    if (count == 0) return;
    Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, count - 1));
    Q_EMIT headerDataChanged(Qt::Horizontal, 0, count - 1);
}

int CameraSheetModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(sheetRows().size());
}

int CameraSheetModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_rig.cameras.size());
}

int CameraSheetModel::rowOf(const QString& key) {
    const auto& rows = sheetRows();
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (rows[i].key == key && rows[i].kind == Kind::Setting) return static_cast<int>(i);
    }
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (rows[i].key == key) return static_cast<int>(i);
    }
    return -1;
}

const std::vector<words::ToldFact>& CameraSheetModel::factsOf(int column) const {
    static const std::vector<words::ToldFact> kNone;
    return column < 0 || column >= columnCount() ? kNone
                                                 : m_facts[static_cast<std::size_t>(column)];
}

const words::ToldFact* CameraSheetModel::factAt(const QModelIndex& index) const {
    if (!index.isValid() || rowAt(index.row()).kind != Kind::Fact) return nullptr;
    return factOf(factsOf(index.column()), rowAt(index.row()).key);
}

base::Verdict CameraSheetModel::levelAt(const SheetRow& row, std::size_t column) const {
    if (row.kind == Kind::Fact) {
        const words::ToldFact* fact = factOf(m_facts[column], row.key);
        return fact == nullptr ? base::Verdict::Unknown : fact->verdict;
    }
    for (const plan::SheetMark& mark : m_marks[column]) {
        if (plain(mark.field) == row.key) return mark.verdict;
    }
    return base::Verdict::Good;
}

QString CameraSheetModel::markText(const SheetRow& row, std::size_t column) const {
    for (const plan::SheetMark& mark : m_marks[column]) {
        if (plain(mark.field) == row.key) return fromCore(words::inEnglish(mark.text));
    }
    return {};
}

bool CameraSheetModel::isEqualOverAll(const SheetRow& row) const {
    if (row.kind != Kind::Setting || m_rig.cameras.size() < 2) return false;
    const QString first = row.text(m_rig.cameras.front());
    return std::all_of(m_rig.cameras.begin(), m_rig.cameras.end(), [&](const rig::Camera& camera) {
        return row.text(camera) == first;
    });
}

QVariant CameraSheetModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.column() >= columnCount()) return {};
    const SheetRow& row = rowAt(index.row());
    const auto column = static_cast<std::size_t>(index.column());
    const rig::Camera& camera = m_rig.cameras[column];
    if (role == KindRole) return static_cast<int>(row.kind);
    if (role == LetterRole) return plain(camera.letter);
    if (row.kind == Kind::Group) return role == Qt::DisplayRole ? QVariant(QString()) : QVariant();
    const words::ToldFact* fact =
        row.kind == Kind::Fact ? factOf(m_facts[column], row.key) : nullptr;
    switch (role) {
        case Qt::DisplayRole:
            if (row.kind == Kind::Setting) return row.text(camera);
            return fact == nullptr ? QString() : fromCore(fact->value);
        case Qt::EditRole:
            return row.kind == Kind::Setting ? row.value(camera) : QVariant();
        case LevelRole:
            return static_cast<int>(levelAt(row, column));
        case IsQuietRole:
            return isEqualOverAll(row);
        case CanEditRole:
            return flags(index).testFlag(Qt::ItemIsEditable);
        case Qt::ToolTipRole:
        case Qt::AccessibleDescriptionRole:
            if (fact != nullptr)
                return fromCore(fact->why) +
                       (fact->change.empty() ? QString() : u"\n→ "_s + fromCore(fact->change));
            return markText(row, column);
        case Qt::AccessibleTextRole:
            return QStringLiteral("%1 %2: %3")
                .arg(plain(camera.letter), row.title, data(index, Qt::DisplayRole).toString());
        default:
            return {};
    }
}

QVariant CameraSheetModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Vertical) {
        if (section < 0 || section >= rowCount()) return {};
        if (role == Qt::DisplayRole) return rowAt(section).title;
        if (role == KindRole) return static_cast<int>(rowAt(section).kind);
        return {};
    }
    if (section < 0 || section >= columnCount()) return {};
    const rig::Camera& camera = m_rig.cameras[static_cast<std::size_t>(section)];
    if (role == Qt::DisplayRole) return plain(camera.role);
    if (role == LetterRole) return plain(camera.letter);
    if (role == IsReferenceRole) return camera.id == m_rig.referenceId;
    return {};
}

Qt::ItemFlags CameraSheetModel::flags(const QModelIndex& index) const {
    if (!index.isValid()) return Qt::NoItemFlags;
    const SheetRow& row = rowAt(index.row());
    if (row.kind == Kind::Group) return Qt::NoItemFlags;
    Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (row.kind == Kind::Setting && (row.takesTyping || choices(index).size() > 1))
        flags |= Qt::ItemIsEditable;
    return flags;
}

bool CameraSheetModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !flags(index).testFlag(Qt::ItemIsEditable)) return false;
    if (value == data(index, Qt::EditRole)) return false;
    Q_EMIT edited(index.row(), index.column(), value);
    return true;
}

QList<SheetChoice> CameraSheetModel::choices(const QModelIndex& index) const {
    const SheetRow& row = rowAt(index.row());
    if (!row.choices || index.column() >= columnCount()) return {};
    return row.choices(m_rig.cameras[static_cast<std::size_t>(index.column())]);
}

}  // namespace rigmatch::app
