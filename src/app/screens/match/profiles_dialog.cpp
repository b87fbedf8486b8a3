// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/profiles_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QTableWidget>
#include <algorithm>

#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "words/english.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

ProfilesDialog::ProfilesDialog(AppContext& context, QWidget* parent)
    : QDialog(parent), m_context(context) {
    setObjectName(u"profilesDialog"_s);
    setWindowTitle(tr("Profile try-out"));
    auto* layout = new QVBoxLayout(this);
    layout->setSpacing(8);
    auto* words = makeLabel(
        tr("Leave chart, light and places as they are, and shoot a few seconds of the chart in "
           "each profile that is worth trying. What no turn can bring together shows here."),
        "dim",
        {},
        this);
    words->setWordWrap(true);
    layout->addWidget(words);
    layout->addWidget(makeLabel(tr("To shoot"), "heading", {}, this));
    m_roundTable = makeTable(u"roundTable"_s, tr("Rounds: the profile of each camera"));
    layout->addWidget(m_roundTable, 1);
    layout->addWidget(makeLabel(tr("How they go together"), "heading", {}, this));
    m_ranking = makeTable(u"profileRanking"_s, tr("Combinations of profiles, best first"));
    layout->addWidget(m_ranking, 2);
    m_state = makeLabel(QString(), "dim", u"profilesState"_s, this);
    m_state->setWordWrap(true);
    m_state->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    layout->addWidget(m_state);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    m_shoot = buttons->addButton(tr("Shoot the next &round"), QDialogButtonBox::ActionRole);
    m_shoot->setObjectName(u"shootRoundButton"_s);
    m_shoot->setToolTip(tr("Set the cameras to these profiles and begin a take for it"));
    m_use = buttons->addButton(tr("&Use these profiles"), QDialogButtonBox::ActionRole);
    m_use->setObjectName(u"useProfilesButton"_s);
    m_use->setToolTip(tr("Set every camera to its profile of the chosen row"));
    connect(m_shoot, &QPushButton::clicked, this, &ProfilesDialog::shootNext);
    connect(m_use, &QPushButton::clicked, this, &ProfilesDialog::useChosen);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_ranking, &QTableWidget::itemActivated, this, [this] { useChosen(); });
    connect(&context.document, &RigDocument::rigChanged, this, &ProfilesDialog::refresh);
    layout->addWidget(buttons);
    resize(820, 560);
    refresh();
}

QTableWidget* ProfilesDialog::makeTable(const QString& objectName, const QString& accessibleName) {
    auto* table = new QTableWidget(0, 0, this);
    table->setObjectName(objectName);
    table->setAccessibleName(accessibleName);
    table->verticalHeader()->hide();
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->setSelectionMode(QAbstractItemView::SingleSelection);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setTabKeyNavigation(false);
    table->setStyleSheet(u"QTableWidget::item { padding-left: 6px; }"_s);
    return table;
}

void ProfilesDialog::refresh() {
    m_rounds = jobs::tryOutRounds(m_context.document.rig());
    fillRounds();
    startRanking();
}

void ProfilesDialog::fillRounds() {
    const rig::Rig& rig = m_context.document.rig();
    QStringList heads{tr("Round")};
    std::vector<std::string> ids;
    for (const rig::Camera& camera : rig.cameras) {
        if (camera.sheet.profiles.empty()) continue;
        ids.push_back(camera.id);
        heads << plain(camera.letter);
    }
    heads << tr("State");
    m_roundTable->setColumnCount(static_cast<int>(heads.size()));
    m_roundTable->setHorizontalHeaderLabels(heads);
    m_roundTable->setRowCount(static_cast<int>(m_rounds.size()));
    for (int row = 0; row < static_cast<int>(m_rounds.size()); ++row) {
        const jobs::TryOutRound& round = m_rounds[static_cast<std::size_t>(row)];
        const auto put = [&](int column, const QString& text) {
            auto* item = new QTableWidgetItem(text);
            if (round.isShot) item->setForeground(theme::kDim);
            m_roundTable->setItem(row, column, item);
        };
        put(0, QString::number(row + 1));
        for (int column = 0; column < static_cast<int>(ids.size()); ++column)
            put(column + 1, plain(round.settings[static_cast<std::size_t>(column)].profile));
        put(static_cast<int>(ids.size()) + 1, round.isShot ? tr("shot") : tr("to shoot"));
    }
    m_roundTable->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_roundTable->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    m_shoot->setEnabled(std::any_of(
        m_rounds.begin(), m_rounds.end(), [](const auto& round) { return !round.isShot; }));
}

/// Beside the interface: every pair of profiles is matched and corrected.
void ProfilesDialog::startRanking() {
    const int asked = ++m_asked;
    m_state->setText(tr("Comparing the profiles…"));
    using Ranked = base::Result<jobs::TryOutReport>;
    m_context.jobs.start<Ranked>(
        tr("Comparing profiles"),
        this,
        [rig = m_context.document.rig()](const base::Progress& progress) {
            return jobs::rankProfiles(rig, progress);
        },
        [this, asked](const Ranked& ranked) {
            if (asked == m_asked) showRanking(ranked);
        });
}

void ProfilesDialog::showRanking(const base::Result<jobs::TryOutReport>& ranked) {
    m_ranking->setRowCount(0);
    m_report = ranked ? *ranked : jobs::TryOutReport{};
    m_use->setEnabled(!m_report.ranked.empty());
    m_ranking->setVisible(!m_report.ranked.empty());
    if (!ranked) {
        m_state->setText(fromCore(ranked.error().detail) + u' ' + fromCore(ranked.error().hint));
        return;
    }
    const rig::Rig& rig = m_context.document.rig();
    QStringList heads;
    if (!m_report.ranked.empty()) {
        for (const std::size_t i : m_report.ranked.front().chosen) {
            const rig::Camera* camera = rig::findCamera(rig, m_report.profiles[i].cameraId);
            heads << (camera == nullptr ? QString() : plain(camera->letter));
        }
    }
    heads << tr("After turns") << tr("With a LUT") << tr("Noise") << tr("To the top");
    m_ranking->setColumnCount(static_cast<int>(heads.size()));
    m_ranking->setHorizontalHeaderLabels(heads);
    const int first = static_cast<int>(heads.size()) - 4;
    const std::array<QString, 4> helps{
        tr("Visible difference (mean ΔE2000) of the worst camera against the reference, as "
           "predicted once its turns are done"),
        tr("The same with a look-up table on top"),
        tr("Noise of the noisiest camera at grey, % of signal"),
        tr("Stops from 18 % grey to the top of the signal, of the camera with the fewest")};
    for (int i = 0; i < 4; ++i)
        m_ranking->horizontalHeaderItem(first + i)->setToolTip(helps[static_cast<std::size_t>(i)]);
    for (const jobs::ProfileCombination& one : m_report.ranked) {
        const int row = m_ranking->rowCount();
        m_ranking->insertRow(row);
        QStringList cells;
        double noise = 0.0;
        std::optional<double> headroom;
        for (const std::size_t i : one.chosen) {
            const jobs::TriedProfile& tried = m_report.profiles[i];
            cells << plain(tried.profile);
            noise = std::max(noise, tried.noisePercent);
            if (tried.headroomStops)
                headroom = std::min(headroom.value_or(99.0), *tried.headroomStops);
        }
        cells << tr("%1 ± %2")
                     .arg(one.afterTurns, 0, 'f', 1)
                     .arg(std::max(one.uncertainty, 0.1), 0, 'f', 1)
              << QString::number(one.afterLut, 'f', 1)
              << (noise > 0.0 ? tr("%1 %").arg(noise, 0, 'f', 2) : tr("not known"))
              << (headroom ? tr("%1 stops").arg(*headroom, 0, 'f', 1) : tr("not known"));
        for (int column = 0; column < static_cast<int>(cells.size()); ++column)
            m_ranking->setItem(row, column, new QTableWidgetItem(cells[column]));
        m_ranking->setVerticalHeaderItem(
            row, new QTableWidgetItem(one.isAsGoodAsBest ? tr("= 1") : QString::number(row + 1)));
    }
    m_ranking->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_ranking->verticalHeader()->show();
    if (m_ranking->rowCount() > 0) m_ranking->selectRow(0);
    QStringList notes{
        tr("= 1: as good as the best, as far as can be told; the least noise first.")};
    for (const base::Text& note : m_report.notes) notes << fromCore(words::inEnglish(note));
    m_state->setText(notes.join(u' '));
}

void ProfilesDialog::shootNext() {
    const auto open = std::find_if(
        m_rounds.begin(), m_rounds.end(), [](const auto& round) { return !round.isShot; });
    if (open == m_rounds.end()) return;
    rig::Rig next = m_context.document.rig();
    jobs::setRound(*open, next);
    const auto number = static_cast<int>(open - m_rounds.begin()) + 1;
    m_context.document.change(tr("Profiles of round %1").arg(number), next);
    m_context.selection.requestNextTake(rig::Purpose::TryOut);
    accept();
}

void ProfilesDialog::useChosen() {
    const int row = m_ranking->currentRow();
    if (row < 0 || row >= static_cast<int>(m_report.ranked.size())) return;
    rig::Rig next = m_context.document.rig();
    jobs::useProfiles(m_report, m_report.ranked[static_cast<std::size_t>(row)], next);
    m_context.document.change(tr("Use these profiles"), next);
    accept();
}

}  // namespace rigmatch::app
