// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>

#include "rig/rig.h"
#include "rig/turn.h"
#include "words/shooter_words.h"

namespace rigmatch::app {

/// The turns in the order to do them. A tick writes the new setting to its camera.
class TurnListModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum class Column { Done, Control, Change, Effect, Why };
    static constexpr int kColumns = 5;
    enum Role { LetterRole = Qt::UserRole + 1, ToTextRole, FromTextRole };

    using QAbstractTableModel::QAbstractTableModel;
    /// Ticks are told by the settings of `rig`'s cameras; read-only ones cannot be changed.
    void setTurns(const rig::Rig& rig, const std::vector<rig::Turn>& turns, bool isReadOnly);
    /// Words for every camera's dials; `isTechnical`: the units of colour science instead.
    void setWords(const std::map<std::string, words::DialWords>& dials, bool isTechnical);
    [[nodiscard]] const std::vector<rig::Turn>& turns() const { return m_turns; }
    [[nodiscard]] bool isDone(int row) const;
    [[nodiscard]] int openTurns() const;
    /// False where all turns are for what is good already.
    [[nodiscard]] bool hasNeededTurns() const;

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section,
                                      Qt::Orientation orientation,
                                      int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

Q_SIGNALS:
    void ticked(int row, bool isDone);

private:
    rig::Rig m_rig;
    [[nodiscard]] QString effectOf(const rig::Turn& turn) const;

    std::vector<rig::Turn> m_turns;
    std::map<std::string, words::DialWords> m_dials;
    bool m_isTechnical = false;
    bool m_isReadOnly = false;
};

}  // namespace rigmatch::app
