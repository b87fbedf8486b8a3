// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <vector>

#include "jobs/lamp_job.h"

class QCheckBox;
class QVBoxLayout;

namespace rigmatch::app {

class MatchController;

/// Turns of lamps and windows that serve all cameras at once, each to be ticked. Hidden where there
/// is none.
class LightTurnsPanel : public QFrame {
    Q_OBJECT
public:
    explicit LightTurnsPanel(MatchController& controller, QWidget* parent = nullptr);

    void refresh();

private:
    void addHead(const QString& text);
    QCheckBox* addRow(const plan::LampAdvice& advice, const QString& name, const QString& effect);

    MatchController& m_controller;
    QVBoxLayout* m_rows;
    std::vector<QWidget*> m_widgets;  ///< of the rows
};

}  // namespace rigmatch::app
