// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/light_turns_panel.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "words/lamp_text.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

LightTurnsPanel::LightTurnsPanel(MatchController& controller, QWidget* parent)
    : QFrame(parent), m_controller(controller) {
    setObjectName(u"lightTurns"_s);
    setAccessibleName(tr("Turns of the light that serve all cameras"));
    m_rows = new QVBoxLayout(this);
    m_rows->setContentsMargins(10, 4, 10, 4);
    m_rows->setSpacing(2);
}

void LightTurnsPanel::addRow(const jobs::SetLightTurn& turn, std::size_t index) {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* box = new QCheckBox(fromCore(words::lampTurnText(turn.advice)), row);
    box->setObjectName(u"lightTurn%1"_s.arg(index));
    box->setChecked(turn.isDone);
    box->setToolTip(tr("Turn it on the set and tick it here: the plan keeps it"));
    connect(box, &QCheckBox::toggled, this, [this, index](bool isDone) {
        m_controller.tickLight(index, isDone);
    });
    line->addWidget(box);
    line->addWidget(makeLabel(fromCore(words::lampEffectText(turn.advice)), "dim", QString(), row));
    line->addStretch();
    m_rows->addWidget(row);
    m_widgets.push_back(row);
}

void LightTurnsPanel::refresh() {
    const std::vector<jobs::SetLightTurn>& turns = m_controller.lightTurns();
    // A ticked box may be the one that is being handled.
    for (QWidget* widget : m_widgets) {
        widget->hide();
        widget->deleteLater();
    }
    m_widgets.clear();
    setVisible(!turns.empty());
    if (turns.empty()) return;
    const bool isAnyDone =
        std::any_of(turns.begin(), turns.end(), [](const auto& turn) { return turn.isDone; });
    QLabel* head = makeLabel(
        isAnyDone ? tr("The light is turned: shoot again before you turn a camera")
                  : tr("The light first: it serves all cameras, and the list below shrinks"),
        "heading",
        u"lightTurnsTitle"_s,
        this);
    m_rows->addWidget(head);
    m_widgets.push_back(head);
    for (std::size_t i = 0; i < turns.size(); ++i) addRow(turns[i], i);
}

}  // namespace rigmatch::app
