// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/learned_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QTableWidget>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "words/learned_text.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

LearnedDialog::LearnedDialog(MatchController& controller, QWidget* parent)
    : QDialog(parent), m_controller(controller) {
    setObjectName(u"learnedDialog"_s);
    setWindowTitle(tr("How the controls answered"));
    auto* layout = new QVBoxLayout(this);
    auto* words = makeLabel(tr("Learned from takes between which a camera was turned and the "
                               "reference was left alone. The next turns count on it."),
                            "dim",
                            {},
                            this);
    words->setWordWrap(true);
    layout->addWidget(words);
    m_table = new QTableWidget(0, 4, this);
    m_table->setObjectName(u"learnedTable"_s);
    m_table->setAccessibleName(tr("What each control does"));
    m_table->setHorizontalHeaderLabels(
        {tr("Camera"), tr("Control"), tr("What it does"), tr("Learned from")});
    m_table->verticalHeader()->hide();
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
    m_table->setTabKeyNavigation(false);
    // What stretches of a dial do makes a row long: it wraps, however wide the window is drawn.
    connect(m_table->horizontalHeader(),
            &QHeaderView::sectionResized,
            m_table,
            &QTableWidget::resizeRowsToContents);
    layout->addWidget(m_table, 1);
    m_state = makeLabel(QString(), "dim", u"learnedStateLabel"_s, this);
    m_state->setWordWrap(true);
    layout->addWidget(m_state);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    m_keep = buttons->addButton(tr("&Keep with the camera"), QDialogButtonBox::ActionRole);
    m_keep->setObjectName(u"keepLearnedButton"_s);
    m_keep->setToolTip(
        tr("Write what a step does into the camera's sheet, so that its template "
           "brings it to other rigs"));
    m_forget = buttons->addButton(tr("&Forget"), QDialogButtonBox::ActionRole);
    m_forget->setObjectName(u"forgetLearnedButton"_s);
    m_forget->setToolTip(tr("Begin again for the chosen camera: takes so far teach nothing"));
    connect(
        m_keep, &QPushButton::clicked, this, [this] { m_controller.keepLearned(chosenCamera()); });
    connect(m_forget, &QPushButton::clicked, this, [this] {
        m_controller.forgetLearned(chosenCamera());
    });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_table, &QTableWidget::itemSelectionChanged, this, [this] {
        const bool isChosen = !chosenCamera().empty();
        m_keep->setEnabled(isChosen);
        m_forget->setEnabled(isChosen);
    });
    connect(&controller, &MatchController::changed, this, &LearnedDialog::refresh);
    layout->addWidget(buttons);
    resize(660, 380);
    refresh();
}

std::string LearnedDialog::chosenCamera() const {
    const int row = m_table->currentRow();
    return row < 0 || row >= static_cast<int>(m_cameras.size())
               ? std::string()
               : m_cameras[static_cast<std::size_t>(row)];
}

void LearnedDialog::refresh() {
    m_cameras.clear();
    m_table->setRowCount(0);
    for (const match::CameraMatch& match : m_controller.report().cameras) {
        const rig::Camera* camera = rig::findCamera(m_controller.rig(), match.cameraId);
        if (camera == nullptr) continue;
        for (const words::LearnedRow& row : words::learnedRows(*camera, match.learned)) {
            const int at = m_table->rowCount();
            m_table->insertRow(at);
            m_cameras.push_back(match.cameraId);
            const QStringList cells{
                plain(camera->letter),
                fromCore(row.control),
                fromCore(row.effect),
                row.takes == 0 ? tr("kept") : counted(row.takes, tr("1 turn"), tr("%1 turns"))};
            for (int column = 0; column < static_cast<int>(cells.size()); ++column)
                m_table->setItem(at, column, new QTableWidgetItem(cells[column]));
        }
    }
    m_table->resizeRowsToContents();
    const bool isAny = !m_cameras.empty();
    if (isAny) m_table->selectRow(0);
    m_keep->setEnabled(isAny);
    m_forget->setEnabled(isAny);
    m_state->setText(isAny ? QString()
                           : tr("Nothing is learned yet. Carry out the turns, tick them, and shoot "
                                "the chart once more."));
}

}  // namespace rigmatch::app
