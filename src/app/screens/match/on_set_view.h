// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"
#include "jobs/lamp_job.h"
#include "rig/turn.h"

namespace rigmatch::app {

class MatchController;

/// The turns for who stands at the camera: one at a time over the whole screen, in letters to be
/// read from three metres. Arrow keys go on and back, space ticks, P prints, Escape ends.
class OnSetView : public QWidget {
    Q_OBJECT
public:
    OnSetView(AppContext& context, MatchController& controller, QWidget* parent);

    /// The turns of cameras as they are gone through: camera after camera, each in the order to do
    /// them. Before them come the turns of the light that serve all cameras.
    [[nodiscard]] const std::vector<rig::Turn>& turns() const { return m_turns; }
    /// Of all cards, those of the light first.
    [[nodiscard]] int current() const { return m_current; }
    [[nodiscard]] bool isDone(int index) const;
    /// What a turn leaves, in the words that the user chose.
    [[nodiscard]] QString effectOf(const rig::Turn& turn) const;

    /// Writes the list as a PDF, one page per camera. False where the file could not be written.
    bool print(const QString& file) const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    /// One turn as it stands on the screen and on paper.
    struct Card {
        QString letter;  ///< of the camera; empty: the light
        QString who, control, from, to, effect, reason;
        bool isDone = false, isAmount = false;
    };
    [[nodiscard]] int count() const;
    [[nodiscard]] int lights() const;
    [[nodiscard]] Card cardOf(int index) const;
    [[nodiscard]] Card lightCard(const jobs::SetLightTurn& turn) const;
    void refresh();
    void go(int by);
    void tick();
    void askPrint();
    void paintCard(QPainter& painter, const Card& card) const;
    void paintFoot(QPainter& painter) const;

    AppContext& m_context;
    MatchController& m_controller;
    std::vector<rig::Turn> m_turns;
    int m_current = 0;
};

}  // namespace rigmatch::app
