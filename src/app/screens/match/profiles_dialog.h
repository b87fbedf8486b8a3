// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "app/services/app_context.h"
#include "jobs/try_out.h"

class QLabel;
class QPushButton;
class QTableWidget;

namespace rigmatch::app {

/// Profile try-out: which rounds to shoot, and how well the profiles that were shot go together.
class ProfilesDialog : public QDialog {
    Q_OBJECT
public:
    ProfilesDialog(AppContext& context, QWidget* parent);

private:
    QTableWidget* makeTable(const QString& objectName, const QString& accessibleName);
    void refresh();
    void fillRounds();
    void startRanking();
    void showRanking(const base::Result<jobs::TryOutReport>& ranked);
    void shootNext();
    void useChosen();

    AppContext& m_context;
    std::vector<jobs::TryOutRound> m_rounds;
    jobs::TryOutReport m_report;
    QTableWidget* m_roundTable;
    QTableWidget* m_ranking;
    QLabel* m_state;
    QPushButton* m_shoot;
    QPushButton* m_use;
    int m_asked = 0;
};

}  // namespace rigmatch::app
