// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QScrollArea>

#include "app/screens/sync/sync_controller.h"

class QHBoxLayout;

namespace rigmatch::app {

/// Levels of a channel from −60 dBFS up: from its noise to its speech, its peak, and where peaks
/// are to lie.
class LevelBar : public QWidget {
    Q_OBJECT
public:
    LevelBar(const sound::ChannelReport& channel, QWidget* parent);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    std::optional<double> m_noise, m_speech;
    double m_peak;
};

/// One channel: whose it is, what it is good for, its levels, and what to do in a few words.
class ChannelCard : public QFrame {
    Q_OBJECT
public:
    ChannelCard(const SyncController::Channel& channel, QWidget* parent);

Q_SIGNALS:
    void chosen();

protected:
    void mousePressEvent(QMouseEvent* event) override;
};

/// A card for every channel of the take, the ones to be main and backup first.
class ChannelCards : public QScrollArea {
    Q_OBJECT
public:
    ChannelCards(SyncController& controller, QWidget* parent);
    void refresh();

Q_SIGNALS:
    /// A card was clicked: the source's row.
    void chosen(int row);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void fit();

    SyncController& m_controller;
    QWidget* m_holder;
    QHBoxLayout* m_row;
    std::vector<SyncController::Channel> m_shown;
};

}  // namespace rigmatch::app
