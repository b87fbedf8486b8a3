// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/target_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <algorithm>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "words/english.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

TargetDialog::TargetDialog(AppContext& context, MatchController& controller, QWidget* parent)
    : QDialog(parent), m_context(context), m_controller(controller) {
    setObjectName(u"targetDialog"_s);
    setWindowTitle(tr("Match to"));
    auto* layout = new QVBoxLayout(this);
    auto* words = makeLabel(
        tr("All cameras are turned toward one picture, never toward an average."), "dim", {}, this);
    layout->addWidget(words);
    m_table = new QTableWidget(0, 4, this);
    m_table->setObjectName(u"targetTable"_s);
    m_table->setAccessibleName(tr("What to match to, and what it asks of the cameras"));
    m_table->setHorizontalHeaderLabels(
        {tr("Match to"), tr("Turns"), tr("ΔE2000 after"), tr("Runs out")});
    m_table->horizontalHeaderItem(2)->setToolTip(
        tr("Mean of the worst pair after the turns, as predicted"));
    m_table->horizontalHeaderItem(3)->setToolTip(tr("Controls that do not reach far enough"));
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->verticalHeader()->hide();
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setTabKeyNavigation(false);
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    layout->addWidget(m_table, 1);
    m_advice = makeLabel(
        tr("What each choice costs is being worked out…"), nullptr, u"targetAdviceLabel"_s, this);
    m_advice->setWordWrap(true);
    layout->addWidget(m_advice);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    m_use = buttons->addButton(tr("&Match to this"), QDialogButtonBox::AcceptRole);
    m_use->setObjectName(u"useTargetButton"_s);
    connect(buttons, &QDialogButtonBox::accepted, this, &TargetDialog::choose);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_table, &QTableWidget::itemActivated, this, [this] { choose(); });
    layout->addWidget(buttons);
    fill();
    resize(640, 420);
    if (const rig::Take* take = m_controller.take()) {
        m_context.jobs.startQuick<std::vector<jobs::TargetCost>>(
            tr("Comparing what to match to"),
            this,
            [rig = m_controller.rig(), id = take->id](const base::Progress&) {
                for (const rig::Take& one : rig.takes) {
                    if (one.id == id) return jobs::targetCosts(rig, one);
                }
                return std::vector<jobs::TargetCost>{};
            },
            [this](const std::vector<jobs::TargetCost>& costs) { showCosts(costs); });
    }
}

void TargetDialog::fill() {
    const rig::Rig& rig = m_controller.rig();
    for (const rig::Camera& camera : rig.cameras) {
        m_choices.push_back(
            {"",
             camera.id,
             camera.id == rig.referenceId
                 ? tr("camera %1, %2 (the reference)").arg(plain(camera.letter), plain(camera.role))
                 : tr("camera %1, %2").arg(plain(camera.letter), plain(camera.role))});
    }
    m_choices.push_back({"least", "", tr("whichever camera asks the least of the others")});
    m_choices.push_back({"chart", "", tr("the chart's published values")});
    for (const rig::Take& take : rig.takes) {
        if (m_controller.take() != nullptr && take.id == m_controller.take()->id) break;
        if (!rig::isFor(take, rig::Purpose::Match)) continue;
        const QString when = plain(take.startedAt).replace(u'T', u' ').left(16);
        m_choices.push_back(
            {"take:" + take.id,
             "",
             when.isEmpty() ? tr("the reference as in take %1").arg(take.number)
                            : tr("the reference as in take %1, %2").arg(take.number).arg(when)});
    }
    m_table->setRowCount(static_cast<int>(m_choices.size()));
    for (std::size_t row = 0; row < m_choices.size(); ++row) {
        const Choice& choice = m_choices[row];
        m_table->setItem(static_cast<int>(row), 0, new QTableWidgetItem(choice.title));
        const bool isNow =
            rig.target.empty() ? choice.referenceId == rig.referenceId : choice.words == rig.target;
        if (isNow) m_table->selectRow(static_cast<int>(row));
    }
}

void TargetDialog::showCosts(const std::vector<jobs::TargetCost>& costs) {
    const jobs::Recommendation best = jobs::recommendedReference(costs);
    const auto least =
        std::min_element(costs.begin(), costs.end(), [](const auto& a, const auto& b) {
            return a.change < b.change;
        });
    for (std::size_t row = 0; row < m_choices.size(); ++row) {
        for (const jobs::TargetCost& cost : costs) {
            const bool isLeast = m_choices[row].words == "least" && &cost == &*least;
            if (m_choices[row].referenceId != cost.cameraId && !isLeast) continue;
            const auto put = [&](int column, const QString& text) {
                auto* item = new QTableWidgetItem(text);
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                m_table->setItem(static_cast<int>(row), column, item);
            };
            put(1, QString::number(cost.turns));
            put(2, cost.worstAfter ? QString::number(*cost.worstAfter, 'f', 1) : tr("not known"));
            put(3,
                cost.leftOver == 0 ? tr("nothing")
                                   : counted(cost.leftOver, tr("1 control"), tr("%1 controls")));
        }
    }
    if (best.cameraId.empty()) {
        m_advice->setText(tr("No camera shows a chart in this take: nothing to weigh."));
        return;
    }
    QStringList reasons;
    for (const base::Text& reason : best.reasons) reasons << fromCore(words::inEnglish(reason));
    m_advice->setText(tr("Recommended: camera %1: %2.")
                          .arg(plain(rig::findCamera(m_controller.rig(), best.cameraId)->letter),
                               reasons.join(u"; "_s)));
}

void TargetDialog::choose() {
    const int row = m_table->currentRow();
    if (row < 0) return;
    const Choice& choice = m_choices[static_cast<std::size_t>(row)];
    m_controller.setTarget(choice.words, choice.referenceId);
    accept();
}

}  // namespace rigmatch::app
