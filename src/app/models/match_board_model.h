// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>

#include "match/match_report.h"
#include "rig/rig.h"
#include "words/shooter_words.h"

namespace rigmatch::app {

/// The match board: qualities down, cameras across, a difference in each cell.
class MatchBoardModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Role {
        ValueRole = Qt::UserRole + 1,  ///< raw difference; invalid where unknown
        UncertaintyTextRole,
        VerdictRole,   ///< match::Verdict as int
        PositionRole,  ///< -1..1 on the gauge, 0 = no difference; invalid where unknown
        GoodRole,      ///< half width of the good band on the gauge
        AcceptRole,
        IsReferenceRole,
        IsQuietRole,  ///< unknown, and nobody's fault: no attention
        LetterRole,
        HelpRole,
        UnitRole,        ///< of a row's numbers, in its head
        GroupStartRole,  ///< true in the first row of a group that follows another
        WordsRole,       ///< what the eye has of it: "2/3 stop darker"; empty in technical terms
    };

    explicit MatchBoardModel(QObject* parent = nullptr);
    /// `report` belongs to `take` of `rig`; what fits no take is shown as unknown.
    void setReport(const rig::Rig& rig, const match::MatchReport& report);
    /// Words for every camera's dials; `isTechnical`: none, and titles of colour science.
    void setWords(const std::map<std::string, words::DialWords>& dials, bool isTechnical);
    /// Qualities that are furthest off on any camera come first; else by group: picture, skin.
    void setWorstFirst(bool isWorstFirst);
    [[nodiscard]] match::Quality qualityAt(int row) const;
    [[nodiscard]] const match::MatchReport& report() const { return m_report; }
    [[nodiscard]] const rig::Rig& rig() const { return m_rig; }

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section,
                                      Qt::Orientation orientation,
                                      int role) const override;

private:
    [[nodiscard]] QVariant referenceData(match::Quality quality,
                                         const match::CameraMatch& match,
                                         int role) const;
    [[nodiscard]] QVariant cellData(match::Quality quality,
                                    const match::CameraMatch& match,
                                    int role) const;

    rig::Rig m_rig;
    match::MatchReport m_report;
    std::map<std::string, words::DialWords> m_dials;  ///< by camera
    void order();

    bool m_isTechnical = false;
    bool m_isWorstFirst = false;
    std::vector<match::Quality> m_rows;  ///< in the order shown
};

}  // namespace rigmatch::app
