// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "match/match_report.h"
#include "rig/rig.h"

class QLabel;
class QStackedWidget;

namespace rigmatch::app {

class CurvePlot;
class MatchController;
class PatchQuilt;

/// The evidence of one cell of the match board: grey rows with both curves, or the patches side by
/// side.
class EvidencePanel : public QFrame {
    Q_OBJECT
public:
    EvidencePanel(MatchController& controller, QWidget* parent);
    void show(const match::CameraMatch* camera, match::Quality quality);

private:
    MatchController& m_controller;
    QLabel* m_title;
    QLabel* m_number;
    QLabel* m_words;
    QStackedWidget* m_pages;
    CurvePlot* m_plot;
    PatchQuilt* m_stripes;
};

}  // namespace rigmatch::app
