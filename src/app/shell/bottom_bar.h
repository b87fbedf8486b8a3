// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QTimer>

#include "app/services/app_context.h"

class QLabel;
class QProgressBar;
class QPushButton;

namespace rigmatch::app {

/// What the take holds, work going on with its remaining time and a cancel button, and when the rig
/// was saved.
class BottomBar : public QFrame {
    Q_OBJECT
public:
    BottomBar(AppContext& context, QWidget* parent);

private:
    void refreshState();
    void refreshJobs();

    AppContext& m_context;
    QLabel* m_state;
    QLabel* m_job;
    QProgressBar* m_progress;
    QPushButton* m_cancel;
    QLabel* m_saved;
    QTimer m_timer;
};

}  // namespace rigmatch::app
