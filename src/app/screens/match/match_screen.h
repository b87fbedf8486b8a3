// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QComboBox;
class QDialog;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QScrollArea;
class QStackedWidget;
class QTableView;
class QVBoxLayout;

namespace rigmatch::app {

class EvidencePanel;
class LightTurnsPanel;
class MatchBoard;
class MatchBoardModel;
class MatchController;
class TurnListModel;
class WhatIfPanel;

/// Screen "Match": the board, the turn list, and the evidence of the chosen cell.
class MatchScreen : public QWidget {
    Q_OBJECT
public:
    MatchScreen(AppContext& context, QWidget* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void buildHead(QVBoxLayout* layout);
    void buildBlocks(QHBoxLayout* head);
    QWidget* buildTurns(AppContext& context);
    void buildTurnHead(QHBoxLayout* head, QWidget* card);
    void buildMore(QPushButton* more);
    void buildTurnTable(QWidget* card);
    void refresh();
    void refreshHead();
    void refreshNotes();
    void showEvidence();
    void fitNotes();
    void showRest();
    void showTurnReason();
    void openDialog(QDialog* dialog);

    AppContext& m_context;
    MatchController* m_controller;
    MatchBoardModel* m_boardModel;
    TurnListModel* m_turnModel;
    MatchBoard* m_board;
    QTableView* m_turns = nullptr;
    EvidencePanel* m_evidence;
    LightTurnsPanel* m_light = nullptr;
    QStackedWidget* m_pages;
    QStackedWidget* m_work;  ///< the turn list, or what is tried by hand
    WhatIfPanel* m_whatIfPanel;
    QPushButton* m_whatIf;
    QComboBox* m_judge;
    QLabel* m_now;
    QLabel* m_after;
    QLabel* m_nowWords = nullptr;
    QLabel* m_afterWords = nullptr;
    QLabel* m_nowPair;
    QScrollArea* m_notesArea;
    QLabel* m_notes;
    QLabel* m_turnSummary;
    QLabel* m_rest = nullptr;
    QScrollArea* m_restArea = nullptr;
    QLabel* m_turnWhy;
    QPushButton* m_tickAll;
    QPushButton* m_next;
    QPushButton* m_target;
    QPushButton* m_onSet;
};

}  // namespace rigmatch::app
