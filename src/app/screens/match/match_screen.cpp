// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/match_screen.h"
#include "app/screens/match/light_turns_panel.h"

#include <QComboBox>
#include <QDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QScrollArea>
#include <QStackedWidget>
#include <QTableView>
#include <algorithm>

#include "app/models/match_board_model.h"
#include "app/models/turn_list_model.h"
#include "app/screens/match/corrections_dialog.h"
#include "app/screens/match/evidence_panel.h"
#include "app/screens/match/learned_dialog.h"
#include "app/screens/match/match_board.h"
#include "app/screens/match/match_controller.h"
#include "app/screens/match/on_set_view.h"
#include "app/screens/match/profiles_dialog.h"
#include "app/screens/match/rest_html.h"
#include "app/screens/match/target_dialog.h"
#include "app/screens/match/turn_delegate.h"
#include "app/screens/match/what_if_panel.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "words/english.h"
#include "words/match_text.h"
#include "words/rest_reasons.h"
#include "words/shooter_words.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

/// Keeps wrapped texts inside from asking for a height by their width: the room that the board
/// leaves is shared, and what is longer scrolls.
class SteadyHeight : public QWidget {
public:
    using QWidget::QWidget;
    [[nodiscard]] bool hasHeightForWidth() const override { return false; }
};

/// A label for words that scroll where they are long.
QLabel* makeWords(QScrollArea* area, const QString& name, const QString& title) {
    area->setObjectName(name + u"Area"_s);
    area->setAccessibleName(title);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setStyleSheet(u"QScrollArea { background: transparent; border: none; }"_s);
    QLabel* words = makeLabel(QString(), nullptr, name, area);
    words->setWordWrap(true);
    words->setTextFormat(Qt::RichText);
    words->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    area->setWidget(words);
    area->viewport()->setAutoFillBackground(false);
    return words;
}

constexpr double kDeltaELimit = 2.0;  // "good" of docs/sources.md, 5.10

}  // namespace

MatchScreen::MatchScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_context(context),
      m_controller(new MatchController(context, this)),
      m_boardModel(new MatchBoardModel(this)),
      m_turnModel(new TurnListModel(this)) {
    setObjectName(u"matchScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    auto* content = new QWidget(this);
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    m_board = new MatchBoard(m_boardModel, context.settings, content);
    connect(m_board->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            &MatchScreen::showEvidence);
    column->addWidget(m_board);
    // Three lines; what is longer scrolls.
    m_notesArea = new QScrollArea(content);
    m_notes = makeWords(m_notesArea, u"matchNotes"_s, tr("What to know before trusting the board"));
    column->addWidget(m_notesArea);
    auto* below = new SteadyHeight(content);
    auto* lower = new QHBoxLayout(below);
    lower->setContentsMargins(0, 0, 0, 0);
    lower->setSpacing(12);
    m_work = new QStackedWidget(content);
    m_work->addWidget(buildTurns(context));
    m_whatIfPanel = new WhatIfPanel(context, *m_controller, content);
    m_work->addWidget(m_whatIfPanel);
    lower->addWidget(m_work, 3);
    m_evidence = new EvidencePanel(*m_controller, content);
    lower->addWidget(m_evidence, 2);
    column->addWidget(below, 1);
    m_pages = new QStackedWidget(this);
    // A window too small for board, notes and turns scrolls; nothing lies over anything.
    auto* page = new QScrollArea(m_pages);
    page->setObjectName(u"matchPage"_s);
    page->setFocusPolicy(Qt::NoFocus);
    page->setWidgetResizable(true);
    page->setFrameShape(QFrame::NoFrame);
    page->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    page->setStyleSheet(u"QScrollArea#matchPage { background: transparent; border: none; }"_s);
    page->setWidget(content);
    page->viewport()->setAutoFillBackground(false);
    content->setAutoFillBackground(false);
    m_pages->addWidget(page);
    auto* empty = makeLabel(
        tr("Nothing to compare yet.\n\nHold a 24-patch chart at the subject's place, in its light, "
           "for five seconds while all cameras roll.\n"
           "Then drop the clips on the screen Test take: the board fills as they are read."),
        "dim",
        u"matchEmptyLabel"_s,
        this);
    empty->setAlignment(Qt::AlignCenter);
    m_pages->addWidget(empty);
    layout->addWidget(m_pages, 1);
    connect(m_controller, &MatchController::changed, this, &MatchScreen::refresh);
    refresh();
}

void MatchScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->setSpacing(10);
    head->addWidget(makeLabel(tr("Match"), "title", u"matchTitle"_s, this));
    head->addSpacing(6);
    buildBlocks(head);
    head->addStretch();
    m_target = makeButton(QString(),
                          u"targetButton"_s,
                          tr("What all cameras are matched to, and what each choice asks of them"),
                          this);
    connect(m_target, &QPushButton::clicked, this, [this] {
        openDialog(new TargetDialog(m_context, *m_controller, this));
    });
    head->addWidget(m_target);
    auto* judgeLabel = makeLabel(tr("&Judge"), "dim", QString(), this);
    m_judge = new QComboBox(this);
    m_judge->setObjectName(u"judgeBox"_s);
    m_judge->setAccessibleName(tr("Judge colours"));
    m_judge->addItem(tr("as recorded"), u"recorded"_s);
    m_judge->addItem(tr("in linear light"), u"linear"_s);
    m_judge->addItem(tr("through viewing LUTs"), u"lut"_s);
    m_judge->setToolTip(
        tr("As recorded: as a standard display shows the files.\nIn linear light: through the "
           "curves that the cameras' profiles declare.\nThrough viewing LUTs: as the LUTs show "
           "them that are chosen on Compare."));
    judgeLabel->setBuddy(m_judge);
    connect(m_judge, &QComboBox::activated, this, [this](int index) {
        m_controller->setJudge(m_judge->itemData(index).toString());
    });
    head->addWidget(judgeLabel);
    head->addWidget(m_judge);
    layout->addLayout(head);
}

void MatchScreen::buildBlocks(QHBoxLayout* head) {
    const auto block = [&](QLabel** caption, QLabel** number, QLabel** words, const char* name) {
        QFrame* card = makeCard(QString(), this);
        auto* column = new QVBoxLayout(card);
        column->setContentsMargins(12, 4, 12, 5);
        column->setSpacing(0);
        *caption = makeLabel(QString(), "dim", QString::fromLatin1(name) + u"Pair"_s, card);
        (*caption)->setFont(theme::font(11));
        column->addWidget(*caption);
        auto* row = new QHBoxLayout;
        row->setSpacing(8);
        *number = makeLabel(QString(), "big", QString::fromLatin1(name) + u"Label"_s, card);
        *words = makeLabel(QString(), "dim", QString::fromLatin1(name) + u"Words"_s, card);
        row->addWidget(*number);
        row->addWidget(*words);
        row->addStretch();
        column->addLayout(row);
        head->addWidget(card);
    };
    QLabel *afterCaption = nullptr, *goalCaption = nullptr, *goal = nullptr, *goalWords = nullptr;
    block(&m_nowPair, &m_now, &m_nowWords, "worstNow");
    m_nowPair->setObjectName(u"worstPairLabel"_s);
    block(&afterCaption, &m_after, &m_afterWords, "worstAfter");
    afterCaption->setText(tr("after the turns, predicted"));
    m_after->setToolTip(
        tr("As predicted from the turns below; good to %1.").arg(kDeltaELimit, 0, 'f', 1));
    block(&goalCaption, &goal, &goalWords, "goal");
    goalCaption->setText(tr("goal"));
    goal->setText(QString::number(kDeltaELimit, 'f', 1));
    goal->setStyleSheet(u"color: #a5a5a5;"_s);
    goalWords->setText(fromCore(words::seenText(kDeltaELimit - 0.01)));
}

QWidget* MatchScreen::buildTurns(AppContext& context) {
    QFrame* card = makeCard(u"turnsCard"_s, this);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(1, 8, 1, 1);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(10, 0, 10, 0);
    buildTurnHead(head, card);
    layout->addLayout(head);
    m_light = new LightTurnsPanel(*m_controller, card);
    layout->addWidget(m_light);
    buildTurnTable(card);
    layout->addWidget(m_turns, 1);
    m_restArea = new QScrollArea(card);
    m_restArea->setMinimumHeight(40);
    m_rest = makeWords(m_restArea, u"restLabel"_s, tr("What is left, and what would help"));
    m_rest->setContentsMargins(10, 4, 10, 4);
    layout->addWidget(m_restArea, 1);
    m_turnWhy = makeLabel(QString(), "dim", u"turnWhyLabel"_s, card);
    m_turnWhy->setContentsMargins(10, 4, 10, 6);
    m_turnWhy->setWordWrap(true);
    layout->addWidget(m_turnWhy);
    connect(m_turnModel, &TurnListModel::ticked, this, [this](int row, bool isDone) {
        m_controller->tick(m_turnModel->turns()[static_cast<std::size_t>(row)], isDone);
    });
    connect(m_tickAll, &QPushButton::clicked, m_controller, &MatchController::tickAll);
    connect(m_next, &QPushButton::clicked, &context.selection, [&context] {
        context.selection.requestNextTake();
    });
    return card;
}

void MatchScreen::buildTurnHead(QHBoxLayout* head, QWidget* card) {
    head->addWidget(makeLabel(tr("Turn list"), "heading", u"turnListTitle"_s, card));
    m_turnSummary = makeLabel(QString(), "dim", u"turnSummary"_s, card);
    head->addWidget(m_turnSummary);
    head->addStretch();
    m_tickAll = makeButton(
        tr("&All done"), u"tickAllButton"_s, tr("Write all new settings to the cameras"), card);
    m_next = makeButton(
        tr("Next ta&ke"), u"nextTakeButton"_s, tr("Shoot again to see what the turns did"), card);
    m_onSet = makeButton(tr("On &set"),
                         u"onSetButton"_s,
                         tr("One turn at a time over the whole screen, to be read from afar"),
                         card);
    connect(m_onSet, &QPushButton::clicked, this, [this] {
        (new OnSetView(m_context, *m_controller, this))->showFullScreen();
    });
    m_whatIf = makeButton(tr("What &if…"),
                          u"whatIfButton"_s,
                          tr("Turn any control by hand and see what it would do, before you go"),
                          card);
    connect(m_whatIf, &QPushButton::clicked, this, [this] {
        const QModelIndex chosen = m_board->currentIndex();
        const auto& cameras = m_controller->report().cameras;
        if (chosen.isValid() && chosen.column() < static_cast<int>(cameras.size()))
            m_whatIfPanel->showCamera(cameras[static_cast<std::size_t>(chosen.column())].cameraId);
        m_controller->whatIf().start();
    });
    head->addWidget(m_whatIf);
    auto* more = makeButton(
        tr("Mo&re"), u"moreButton"_s, tr("Profiles, corrections, what was learned"), card);
    buildMore(more);
    head->addWidget(more);
    head->addWidget(m_onSet);
    head->addWidget(m_tickAll);
    head->addWidget(m_next);
}

void MatchScreen::buildMore(QPushButton* more) {
    auto* menu = new QMenu(more);
    const auto add = [&](const QString& text, const QString& name, auto make) {
        QAction* action = menu->addAction(text, this, [this, make] { openDialog(make()); });
        action->setObjectName(name);
    };
    add(tr("&Profiles: which go together…"), u"profilesAction"_s, [this] {
        return new ProfilesDialog(m_context, this);
    });
    add(tr("&Corrections for what turns leave…"), u"correctionsAction"_s, [this] {
        return new CorrectionsDialog(m_context, *m_controller, this);
    });
    add(tr("&Learned: how the controls answered…"), u"learnedAction"_s, [this] {
        return new LearnedDialog(*m_controller, this);
    });
    more->setMenu(menu);
}

void MatchScreen::buildTurnTable(QWidget* card) {
    m_turns = new QTableView(card);
    m_turns->setObjectName(u"turnList"_s);
    m_turns->setAccessibleName(tr("Turns in the order to do them; space ticks one as done"));
    m_turns->setModel(m_turnModel);
    m_turns->setItemDelegate(new TurnDelegate(m_turns));
    m_turns->setShowGrid(false);
    m_turns->setFrameShape(QFrame::NoFrame);
    m_turns->setStyleSheet(
        u"QTableView { border: none; } QTableView:focus { border: 1px solid #d6d2b0; }"_s);
    m_turns->horizontalHeader()->hide();
    m_turns->verticalHeader()->hide();
    m_turns->verticalHeader()->setDefaultSectionSize(33);
    m_turns->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_turns->setSelectionMode(QAbstractItemView::SingleSelection);
    m_turns->setTabKeyNavigation(false);
    m_turns->installEventFilter(this);
    const std::array<int, 3> widths{66, 112, 272};
    for (std::size_t i = 0; i < widths.size(); ++i)
        m_turns->setColumnWidth(static_cast<int>(i), widths[i]);
    m_turns->setColumnHidden(static_cast<int>(TurnListModel::Column::Why), true);
    m_turns->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_turns->horizontalHeader()->setStretchLastSection(true);
    connect(m_turns->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            &MatchScreen::showTurnReason);
}

void MatchScreen::openDialog(QDialog* dialog) {
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

bool MatchScreen::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_turns && event->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space) {
        const QModelIndex box = m_turns->currentIndex().siblingAtColumn(0);
        if (box.isValid()) {
            const bool isDone = box.data(Qt::CheckStateRole).toInt() == Qt::Checked;
            m_turnModel->setData(box, isDone ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void MatchScreen::refreshHead() {
    const match::MatchReport& report = m_controller->report();
    const auto number = [](const std::optional<match::WorstPair>& pair) {
        return pair ? u"%1 ± %2"_s.arg(pair->deltaE, 0, 'f', 1)
                          .arg(std::max(0.1, pair->uncertainty), 0, 'f', 1)
                    : u"–"_s;
    };
    const bool isTechnical = m_context.selection.isTechnical();
    const bool isTried = m_controller->whatIf().isAnythingTried();
    m_nowPair->setText(
        report.worstNow
            ? (isTried       ? tr("what if, %1 against %2")
               : isTechnical ? tr("now, %1 against %2, ΔE2000")
                             : tr("now, %1 against %2"))
                  .arg(plain(rig::letterOf(m_controller->rig(), report.worstNow->firstId)),
                       plain(rig::letterOf(m_controller->rig(), report.worstNow->secondId)))
            : tr("now: two judged cameras are needed"));
    m_nowWords->setText(report.worstNow ? fromCore(words::seenText(report.worstNow->deltaE))
                                        : QString());
    m_afterWords->setText(report.worstAfter ? fromCore(words::seenText(report.worstAfter->deltaE))
                                            : QString());
    // Board, worst pair and prediction judge alike: by the choice at the head's right.
    const QString judgedBy = fromCore(words::judgeText(report, m_controller->rig()));
    m_nowPair->setToolTip(
        tr("Visible difference: mean ΔE2000 of all patches, judged %1, without the noise of both "
           "cameras. Below 1 nobody sees it, to 2 hardly anyone, to 5 it is seen in a cut.")
            .arg(judgedBy));
    m_nowPair->setAccessibleDescription(m_nowPair->toolTip());
    m_now->setText(number(report.worstNow));
    m_after->setText(number(report.worstAfter));
    m_target->setText(tr("Match &to %1…").arg(m_controller->targetText()));
    m_target->setAccessibleName(tr("Match to %1").arg(m_controller->targetText()));
    m_judge->setCurrentIndex(std::max(0, m_judge->findData(plain(m_controller->rig().judge))));
    refreshNotes();
}

void MatchScreen::refreshNotes() {
    const QString text = notesHtml(*m_controller);
    m_notes->setText(text);
    m_notesArea->setVisible(!text.isEmpty());
    fitNotes();
}

void MatchScreen::fitNotes() {
    constexpr int kMostHeight = 54;
    // As if all that may scroll did.
    constexpr int kBars = 24;
    const int width = this->width() - 32 - kBars;
    m_notesArea->setFixedHeight(std::min(kMostHeight, m_notes->heightForWidth(width) + 2));
}

void MatchScreen::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fitNotes();
}

void MatchScreen::refresh() {
    const rig::Take* take = m_controller->take();
    const bool hasAny =
        take != nullptr &&
        std::any_of(take->shots.begin(), take->shots.end(), [](const rig::Shot& shot) {
            return shot.reading || !shot.failure.empty();
        });
    m_pages->setCurrentIndex(hasAny && m_controller->rig().cameras.size() > 1 ? 0 : 1);
    const bool isNewest = m_controller->isNewestTake();
    const bool isTrying = m_controller->whatIf().isOn();
    rig::Rig shownRig = m_controller->rigAtTake();
    if (isTrying) {
        for (rig::Camera& camera : shownRig.cameras)
            camera.settings = m_controller->whatIf().triedOf(camera.id).settings;
    }
    m_boardModel->setReport(shownRig, m_controller->report());
    // Only the page that is shown asks for height.
    m_whatIfPanel->setSizePolicy(QSizePolicy::Preferred,
                                 isTrying ? QSizePolicy::Preferred : QSizePolicy::Ignored);
    m_work->setCurrentIndex(isTrying ? 1 : 0);
    if (isTrying) m_whatIfPanel->refresh();
    m_whatIf->setEnabled(hasAny && !m_controller->isPending());
    m_turnModel->setTurns(m_controller->rigAfterTake(), m_controller->report().turns(), !isNewest);
    std::map<std::string, words::DialWords> dials;
    if (take != nullptr) {
        for (const rig::Camera& camera : m_controller->rig().cameras)
            dials[camera.id] = words::dialWords(m_controller->rig(), *take, camera.id);
    }
    m_boardModel->setWords(dials, m_context.selection.isTechnical());
    m_turnModel->setWords(dials, m_context.selection.isTechnical());
    m_board->layOut(m_context.selection.isTechnical());
    refreshHead();
    m_light->refresh();
    const int all = m_turnModel->rowCount();
    const int open = m_turnModel->openTurns();
    if (m_controller->isPending()) {
        m_turnSummary->setText(tr("being worked out…"));
    } else if (!isNewest && take != nullptr && all > 0) {
        m_turnSummary->setText(
            tr("an earlier take, to be read only: %1 of %2 were carried out before the next one")
                .arg(all - open)
                .arg(all));
    } else {
        m_turnSummary->setText(all == 0    ? tr("none is left")
                               : open == 0 ? tr("all done: shoot one more take to verify")
                                           : tr("in order, %1 of %2 open").arg(open).arg(all));
    }
    m_onSet->setEnabled(isNewest && all > 0);
    m_tickAll->setEnabled(isNewest && open > 0 && !m_controller->isPending());
    showRest();
    showTurnReason();
    m_board->chooseFirst();
    showEvidence();
}

/// Where no turn is left: whether to stop, and what stays for which reason.
void MatchScreen::showRest() {
    const bool hasTurns = m_turnModel->rowCount() > 0;
    const bool isEnd = !m_turnModel->hasNeededTurns() && m_controller->take() != nullptr &&
                       !m_controller->isPending() && m_controller->report().worstNow;
    m_turns->setVisible(!isEnd || hasTurns);
    const int rows = m_turns->verticalHeader()->defaultSectionSize() * m_turnModel->rowCount();
    m_turns->setMaximumHeight(isEnd ? rows + 4 : QWIDGETSIZE_MAX);
    m_restArea->setVisible(isEnd);
    if (!isEnd) return;
    m_rest->setText(restHtml(*m_controller, hasTurns));
}

void MatchScreen::showTurnReason() {
    const QModelIndex chosen = m_turns->currentIndex();
    const bool hasTurns = m_turnModel->rowCount() > 0;
    m_turnWhy->setVisible(hasTurns);
    m_turnWhy->setText(
        chosen.isValid() ? tr("Why: %1").arg(chosen.data(Qt::ToolTipRole).toString())
        : m_controller->isNewestTake()
            ? tr("Space ticks a turn as done and writes the new setting to its camera.")
            : tr("Ticks tell what the next take was shot with. Choose the newest take to turn."));
}

void MatchScreen::showEvidence() {
    const QModelIndex chosen = m_board->currentIndex();
    const auto& cameras = m_boardModel->report().cameras;
    const bool isSound = chosen.isValid() && chosen.column() < static_cast<int>(cameras.size());
    if (isSound && m_controller->whatIf().isOn() && m_board->hasFocus())
        m_whatIfPanel->showCamera(cameras[static_cast<std::size_t>(chosen.column())].cameraId);
    m_evidence->show(isSound ? &cameras[static_cast<std::size_t>(chosen.column())] : nullptr,
                     isSound ? m_boardModel->qualityAt(chosen.row()) : match::Quality::Exposure);
}

}  // namespace rigmatch::app
