// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QLabel;
class QVBoxLayout;
class QProgressBar;
class QPushButton;
class QScrollArea;

namespace rigmatch::app {

class SyncController;
class ChannelCards;
class ClapView;
class TimeLine;

/// Sources of the take on one clock, what their sound holds and what their frames hide.
class SyncScreen : public QWidget {
    Q_OBJECT
public:
    SyncScreen(AppContext& context, QWidget* parent);
    [[nodiscard]] SyncController& controller() { return *m_controller; }

protected:
    void showEvent(QShowEvent* event) override;

private:
    void buildLines(QVBoxLayout* body);
    void buildCards(QVBoxLayout* body);
    QWidget* buildHead();
    void refresh();
    void refreshDetails();
    void exportOffsets();
    void listen();
    [[nodiscard]] QString feedHtml() const;

    AppContext& m_context;
    SyncController* m_controller;
    QPushButton* m_sync = nullptr;
    QPushButton* m_cancel = nullptr;
    QPushButton* m_copy = nullptr;
    QPushButton* m_export = nullptr;
    QPushButton* m_listen = nullptr;
    QProgressBar* m_progress = nullptr;
    QLabel* m_summary = nullptr;
    QLabel* m_empty = nullptr;
    QWidget* m_body = nullptr;
    QScrollArea* m_lines = nullptr;
    TimeLine* m_line = nullptr;
    QLabel* m_timingTitle = nullptr;
    QLabel* m_timing = nullptr;
    QLabel* m_sound = nullptr;
    QLabel* m_microphones = nullptr;
    ChannelCards* m_channels = nullptr;
    ClapView* m_clap = nullptr;
};

}  // namespace rigmatch::app
