// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "app/services/app_context.h"
#include "jobs/target_job.h"

class QLabel;
class QPushButton;
class QTableWidget;

namespace rigmatch::app {

class MatchController;

/// What all cameras are matched to, and what each choice asks of them: every camera as the
/// reference, the least change, the chart's values, and what earlier takes looked like.
class TargetDialog : public QDialog {
    Q_OBJECT
public:
    TargetDialog(AppContext& context, MatchController& controller, QWidget* parent);

private:
    /// One line of the table.
    struct Choice {
        std::string words;        ///< as jobs::targetOf() reads it
        std::string referenceId;  ///< of a camera as the reference
        QString title;
    };
    void fill();
    void showCosts(const std::vector<jobs::TargetCost>& costs);
    void choose();

    AppContext& m_context;
    MatchController& m_controller;
    std::vector<Choice> m_choices;
    QTableWidget* m_table;
    QLabel* m_advice;
    QPushButton* m_use;
};

}  // namespace rigmatch::app
