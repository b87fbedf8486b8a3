// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/turn_list_model.h"

#include <algorithm>

#include "app/services/texts.h"
#include "jobs/match_job.h"
#include "words/english.h"
#include "words/match_text.h"
#include "words/shooter_words.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

void TurnListModel::setTurns(const rig::Rig& rig,
                             const std::vector<rig::Turn>& turns,
                             bool isReadOnly) {
    m_isReadOnly = isReadOnly;
    const int before = rowCount();
    const auto after = static_cast<int>(turns.size());
    m_rig = rig;
    if (after > before) {
        beginInsertRows({}, before, after - 1);
        m_turns = turns;
        endInsertRows();
    } else if (after < before) {
        beginRemoveRows({}, after, before - 1);
        m_turns = turns;
        endRemoveRows();
    }
    m_turns = turns;
    if (after > 0) Q_EMIT dataChanged(index(0, 0), index(after - 1, kColumns - 1));
}

int TurnListModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_turns.size());
}
int TurnListModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : kColumns;
}

bool TurnListModel::isDone(int row) const {
    const rig::Turn& turn = m_turns[static_cast<std::size_t>(row)];
    const rig::Camera* camera = rig::findCamera(m_rig, turn.cameraId);
    return camera != nullptr && rig::isDone(camera->settings, turn);
}

bool TurnListModel::hasNeededTurns() const {
    return std::any_of(
        m_turns.begin(), m_turns.end(), [](const rig::Turn& turn) { return !turn.isFine; });
}

int TurnListModel::openTurns() const {
    int open = 0;
    for (int row = 0; row < rowCount(); ++row) open += isDone(row) ? 0 : 1;
    return open;
}

Qt::ItemFlags TurnListModel::flags(const QModelIndex& index) const {
    Qt::ItemFlags flags = QAbstractTableModel::flags(index);
    if (index.isValid() && index.column() == 0 && !m_isReadOnly) flags |= Qt::ItemIsUserCheckable;
    return flags;
}

QVariant TurnListModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const rig::Turn& turn = m_turns[static_cast<std::size_t>(index.row())];
    const rig::Camera* camera = rig::findCamera(m_rig, turn.cameraId);
    const QString letter = camera == nullptr ? QString() : plain(camera->letter);
    const QString change = fromCore(turn.fromText) + u" → "_s + fromCore(turn.toText);
    switch (role) {
        case Qt::CheckStateRole:
            if (index.column() != 0) return {};
            return isDone(index.row()) ? Qt::Checked : Qt::Unchecked;
        case LetterRole:
            return letter;
        case ToTextRole:
            return fromCore(turn.toText);
        case FromTextRole:
            return fromCore(turn.fromText);
        case Qt::ToolTipRole:
            // What the effect column says in words, here with its numbers.
            return fromCore(words::inEnglish(turn.reason)) +
                   (m_isTechnical ? QString() : u" ("_s + plain(words::effectText(turn)) + u")"_s);
        case Qt::AccessibleTextRole:
            return tr("Camera %1, %2: %3, %4")
                .arg(letter, fromCore(words::controlTitle(turn)), change, effectOf(turn));
        case Qt::DisplayRole:
            break;
        default:
            return {};
    }
    switch (static_cast<Column>(index.column())) {
        case Column::Done:
            return {};
        case Column::Control:
            return fromCore(words::controlTitle(turn));
        case Column::Change:
            return change;
        case Column::Effect:
            return effectOf(turn);
        case Column::Why:
            return fromCore(words::inEnglish(turn.reason));
    }
    return {};
}

void TurnListModel::setWords(const std::map<std::string, words::DialWords>& dials,
                             bool isTechnical) {
    m_dials = dials;
    m_isTechnical = isTechnical;
    if (rowCount() > 0) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, kColumns - 1));
}

QString TurnListModel::effectOf(const rig::Turn& turn) const {
    const auto dials = m_dials.find(turn.cameraId);
    const QString effect = m_isTechnical || dials == m_dials.end()
                               ? plain(words::effectText(turn))
                               : fromCore(words::shooterEffect(turn, dials->second));
    return turn.isFine ? tr("good already; %1").arg(effect) : effect;
}

QVariant TurnListModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    switch (static_cast<Column>(section)) {
        case Column::Done:
            return tr("Done");
        case Column::Control:
            return tr("Control");
        case Column::Change:
            return tr("Turn");
        case Column::Effect:
            return tr("Expected");
        case Column::Why:
            return tr("Why");
    }
    return {};
}

bool TurnListModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const bool isTick = role == Qt::CheckStateRole && index.isValid() && index.column() == 0;
    if (!isTick || m_isReadOnly) return false;
    Q_EMIT ticked(index.row(), value.toInt() == Qt::Checked);
    return true;
}

}  // namespace rigmatch::app
