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

void LightTurnsPanel::addHead(const QString& text) {
    QLabel* head = makeLabel(text, "heading", u"lightTurnsTitle"_s, this);
    m_rows->addWidget(head);
    m_widgets.push_back(head);
}

QCheckBox* LightTurnsPanel::addRow(const plan::LampAdvice& advice,
                                   const QString& name,
                                   const QString& effect) {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* box = new QCheckBox(fromCore(words::lampTurnText(advice)), row);
    box->setObjectName(name);
    line->addWidget(box);
    line->addWidget(makeLabel(effect, "dim", QString(), row));
    line->addStretch();
    m_rows->addWidget(row);
    m_widgets.push_back(row);
    return box;
}

void LightTurnsPanel::refresh() {
    const std::vector<jobs::SetLightTurn>& turns = m_controller.lightTurns();
    const std::vector<plan::LampAdvice>& former = m_controller.formerLightTurns();
    // A ticked box may be the one that is being handled.
    for (QWidget* widget : m_widgets) {
        widget->hide();
        widget->deleteLater();
    }
    m_widgets.clear();
    setVisible(!turns.empty() || !former.empty());
    const bool isAnyDone =
        std::any_of(turns.begin(), turns.end(), [](const auto& turn) { return turn.isDone; });
    if (turns.empty() && !former.empty())
        addHead(tr("The light was turned since this take"));
    else if (!turns.empty())
        addHead(isAnyDone
                    ? tr("The light is turned: shoot again before you turn a camera")
                    : tr("The light first: it serves all cameras, and the list below shrinks"));
    for (std::size_t i = 0; i < turns.size(); ++i) {
        const plan::LampAdvice& advice = turns[i].advice;
        QCheckBox* box =
            addRow(advice, u"lightTurn%1"_s.arg(i), fromCore(words::lampEffectText(advice)));
        box->setChecked(turns[i].isDone);
        box->setToolTip(tr("Turn it on the set and tick it here: the plan keeps it"));
        connect(box, &QCheckBox::toggled, this, [this, i](bool isDone) {
            m_controller.tickLight(i, isDone);
        });
    }
    for (std::size_t i = 0; i < former.size(); ++i) {
        QCheckBox* box =
            addRow(former[i], u"formerLightTurn%1"_s.arg(i), tr("no longer asked for"));
        box->setChecked(true);
        box->setToolTip(
            tr("Untick it where it was not done, or was turned back: the plan follows"));
        connect(box, &QCheckBox::toggled, this, [this, i] { m_controller.untickFormerLight(i); });
    }
}

}  // namespace rigmatch::app
