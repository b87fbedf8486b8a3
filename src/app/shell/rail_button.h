// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QToolButton>

namespace rigmatch::app {

/// One entry of the rail: number, title, and a tick when done or how many things want attention.
class RailButton : public QToolButton {
    Q_OBJECT
public:
    RailButton(int number, const QString& title, QWidget* parent);
    enum class State { Open, Done, Attention };
    void setState(State state, int count);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    int m_number;
    QString m_title;
    State m_state = State::Open;
    int m_count = 0;
};

}  // namespace rigmatch::app
