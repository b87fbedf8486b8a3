// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/framing_screen.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QListView>
#include <QMenu>
#include <QPointer>
#include <QScrollArea>
#include <QSlider>
#include <QStackedWidget>
#include <algorithm>
#include <array>

#include "app/screens/framing/crop_bar.h"
#include "app/screens/framing/framing_card.h"
#include "app/screens/framing/framing_turn_list.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "rig/framing_goals.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr std::array kGoals{"headroom", "placing"};

}  // namespace

FramingScreen::FramingScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_context(context),
      m_controller(new FramingController(context, this)),
      m_model(new FramingTurnModel(*m_controller, this)) {
    setObjectName(u"framingScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(10);
    layout->addWidget(buildHead());
    m_empty = makeLabel(
        tr("Nothing to frame yet.\n\nLet everybody sit where they will sit, roll all cameras for a "
           "few seconds, and drop the clips on the screen Test take.\nHeads, eyes, level and focus "
           "are measured as the clips are read."),
        "dim",
        u"framingEmptyLabel"_s,
        this);
    m_empty->setAlignment(Qt::AlignCenter);
    m_empty->setWordWrap(true);
    layout->addWidget(m_empty, 1);
    m_body = new QWidget(this);
    auto* body = new QHBoxLayout(m_body);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(12);
    auto* column = new QVBoxLayout;
    column->setSpacing(8);
    m_pages = new QStackedWidget(m_body);
    m_pages->addWidget(buildPictures());
    m_pages->addWidget(buildPair());
    column->addWidget(m_pages, 1);
    column->addWidget(buildSavedBar());
    m_cropBar = new CropBar(context, *m_controller, m_body);
    m_cropBar->setObjectName(u"cropBar"_s);
    column->addWidget(m_cropBar);
    m_legend = makeLabel(QString(), "dim", u"framingLegend"_s, m_body);
    m_legend->setWordWrap(true);
    auto* foot = new QHBoxLayout;
    foot->addWidget(m_legend, 1);
    m_safe = new QCheckBox(tr("Safe &areas"), m_body);
    m_safe->setObjectName(u"safeAreasCheck"_s);
    m_safe->setAccessibleName(tr("Safe areas"));
    m_safe->setToolTip(tr("Action and graphics areas, 3.5 and 5 % in from each side (EBU R95)"));
    connect(m_safe, &QCheckBox::toggled, this, [this](bool isOn) {
        for (FramedView* view : m_views) view->setSafeAreas(isOn);
    });
    foot->addWidget(m_safe);
    column->addLayout(foot);
    body->addLayout(column, 1);
    body->addWidget(buildTurns());
    layout->addWidget(m_body, 1);
    connect(m_controller, &FramingController::changed, this, &FramingScreen::refresh);
    connect(m_controller, &FramingController::failed, this, [this](const base::Error& error) {
        m_context.prompter.showError(window(), error);
    });
    connect(m_controller, &FramingController::framingSaved, this, [this](int cameras) {
        m_turnSummary->setText(
            counted(cameras, tr("framing of 1 camera saved"), tr("framing of %1 cameras saved")));
    });
    choosePage(0);
}

QWidget* FramingScreen::buildHead() {
    auto* head = new QWidget(this);
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(makeLabel(tr("Framing"), "title", u"framingTitle"_s, head));
    row->addSpacing(4);
    row->addWidget(buildTabs(head));
    row->addStretch();
    m_goals = makeButton(QString(),
                         u"framingGoalsButton"_s,
                         tr("How much room over the hair, and where a lone person stands"),
                         head);
    auto* menu = new QMenu(m_goals);
    menu->setObjectName(u"framingGoalsMenu"_s);
    for (const rig::School& school : rig::schools()) {
        if (std::find(kGoals.begin(), kGoals.end(), school.key) == kGoals.end()) continue;
        menu->addSection(fromCore(school.question));
        for (const rig::School::Option& option : school.options) {
            QAction* action = menu->addAction(fromCore(option.title));
            action->setCheckable(true);
            action->setObjectName(plain(school.key + "-" + option.value));
            action->setToolTip(fromCore(school.why));
            connect(action, &QAction::triggered, this, [this, key = school.key, option] {
                m_controller->setChoice(plain(key), plain(option.value));
            });
        }
    }
    m_goals->setMenu(menu);
    row->addWidget(m_goals);
    m_save = makeButton(tr("&Save framing"),
                        u"saveFramingButton"_s,
                        tr("Keep how every camera stands in this take: later takes are laid on it"),
                        head);
    m_card = makeButton(tr("Ca&rd…"),
                        u"framingCardButton"_s,
                        tr("A page per camera with picture, marks, numbers and distances, to be "
                           "printed"),
                        head);
    row->addWidget(m_save);
    row->addWidget(m_card);
    connect(m_save, &QPushButton::clicked, m_controller, &FramingController::saveFraming);
    connect(m_card, &QPushButton::clicked, this, &FramingScreen::askCard);
    return head;
}

QWidget* FramingScreen::buildTabs(QWidget* parent) {
    auto* holder = new QWidget(parent);
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    m_tabs = new QButtonGroup(this);
    const auto tab = [&](const QString& text, const char* name, const QString& help) {
        QPushButton* button = makeTab(text, QString::fromLatin1(name), help, m_tabs, holder);
        m_tabs->setId(button, static_cast<int>(m_tabs->buttons().size()) - 1);
        row->addWidget(button);
        return button;
    };
    tab(tr("&Measures"), "measuresTab", tr("Eyes, headroom and where people are wanted"))
        ->setChecked(true);
    tab(tr("A&gainst saved"), "savedTab", tr("The saved frame over the present one"));
    tab(tr("Side &by side"), "pairTab", tr("Two cameras large, one mirrored if wanted"));
    tab(tr("&Crops"), "cropsTab", tr("Windows of other formats, and the largest punch-in"));
    tab(tr("&Focus"), "focusTab", tr("Which place is the sharpest"));
    connect(m_tabs, &QButtonGroup::idClicked, this, &FramingScreen::choosePage);
    return holder;
}

QWidget* FramingScreen::buildPictures() {
    auto* scroll = new QScrollArea(this);
    scroll->setObjectName(u"framedPicturesScroll"_s);
    scroll->setAccessibleName(tr("Pictures of the cameras"));
    scroll->setFocusPolicy(Qt::NoFocus);  // the pictures in it have the focus
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setStyleSheet(u"QScrollArea { border: none; }"_s);
    auto* holder = new QWidget(scroll);
    m_grid = new QGridLayout(holder);
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setSpacing(10);
    scroll->setWidget(holder);
    return scroll;
}

QWidget* FramingScreen::buildPair() {
    auto* page = new QWidget(this);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    auto* bar = new QHBoxLayout;
    const auto box = [&](const QString& label, const QString& name) {
        auto* one = new QComboBox(page);
        one->setObjectName(name);
        one->setAccessibleName(label);
        bar->addWidget(one);
        connect(one, &QComboBox::activated, this, &FramingScreen::refreshPair);
        return one;
    };
    m_leftBox = box(tr("Camera on the left"), u"pairLeftBox"_s);
    m_rightBox = box(tr("Camera on the right"), u"pairRightBox"_s);
    m_mirror = new QCheckBox(tr("&Mirror the right one"), page);
    m_mirror->setObjectName(u"mirrorCheck"_s);
    m_mirror->setAccessibleName(tr("Mirror the right one"));
    connect(m_mirror, &QCheckBox::toggled, this, &FramingScreen::refreshPair);
    bar->addWidget(m_mirror);
    bar->addStretch();
    column->addLayout(bar);
    auto* both = new QHBoxLayout;
    both->setSpacing(10);
    m_left = new FramedView(*m_controller, 0, page);
    m_left->setObjectName(u"pairLeftView"_s);
    m_right = new FramedView(*m_controller, 1, page);
    m_right->setObjectName(u"pairRightView"_s);
    for (FramedView* view : {m_left, m_right}) {
        view->setPage(FramedPage::Pair);
        both->addWidget(view, 1);
    }
    column->addLayout(both, 2);
    m_both = new FramedView(*m_controller, 0, page);
    m_both->setObjectName(u"pairBothView"_s);
    m_both->setPage(FramedPage::Pair);
    column->addWidget(m_both, 3);
    return page;
}

QWidget* FramingScreen::buildSavedBar() {
    m_savedBar = new QWidget(this);
    auto* row = new QHBoxLayout(m_savedBar);
    row->setContentsMargins(0, 0, 0, 0);
    auto* over = makeLabel(tr("La&y over"), "dim", QString(), m_savedBar);
    row->addWidget(over);
    m_over = new QComboBox(m_savedBar);
    m_over->setObjectName(u"layOverBox"_s);
    m_over->setAccessibleName(tr("What is laid over the present frame"));
    m_over->setToolTip(
        tr("The saved frame, or an earlier take: whoever sits down fits into the outline"));
    over->setBuddy(m_over);
    row->addWidget(m_over);
    connect(m_over, &QComboBox::activated, this, [this] {
        m_controller->setGhostTake(m_over->currentData().toString());
    });
    auto* label = makeLabel(tr("Ho&w much"), "dim", QString(), m_savedBar);
    row->addWidget(label);
    m_through = new QSlider(Qt::Horizontal, m_savedBar);
    m_through->setObjectName(u"savedShareSlider"_s);
    m_through->setAccessibleName(tr("How much of the saved frame shows, %"));
    m_through->setRange(0, 100);
    m_through->setValue(50);
    m_through->setFixedWidth(220);
    label->setBuddy(m_through);
    row->addWidget(m_through);
    m_flick = makeButton(tr("Flic&k"),
                         u"flickButton"_s,
                         tr("The saved frame while it is held down: what moved, jumps"),
                         m_savedBar);
    row->addWidget(m_flick);
    row->addStretch();
    connect(m_through, &QSlider::valueChanged, this, [this](int value) {
        for (FramedView* view : m_views) view->setSavedShare(value / 100.0);
    });
    connect(m_flick, &QPushButton::pressed, this, [this] { flick(true); });
    connect(m_flick, &QPushButton::released, this, [this] { flick(false); });
    return m_savedBar;
}

void FramingScreen::flick(bool isSaved) {
    for (FramedView* view : m_views)
        view->setSavedShare(isSaved ? 1.0 : m_through->value() / 100.0);
}

QWidget* FramingScreen::buildTurns() {
    QFrame* card = makeCard(u"framingTurnsCard"_s, this);
    card->setFixedWidth(300);
    auto* column = new QVBoxLayout(card);
    column->setContentsMargins(1, 10, 1, 1);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 12, 0);
    head->addWidget(makeLabel(tr("To do at the tripods"), "heading", QString(), card));
    head->addStretch();
    column->addLayout(head);
    m_turnSummary = makeLabel(QString(), "dim", u"framingTurnSummary"_s, card);
    m_turnSummary->setContentsMargins(12, 0, 12, 4);
    m_turnSummary->setWordWrap(true);
    column->addWidget(m_turnSummary);
    m_turns = new QListView(card);
    m_turns->setObjectName(u"framingTurnList"_s);
    m_turns->setAccessibleName(tr("Turns at the tripods, worst first; space ticks one as done"));
    m_turns->setModel(m_model);
    m_turns->setItemDelegate(new FramingTurnDelegate(m_turns));
    m_turns->setFrameShape(QFrame::NoFrame);
    m_turns->setStyleSheet(u"QListView { border: none; background: transparent; }"_s);
    m_turns->setResizeMode(QListView::Adjust);
    m_turns->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    m_turns->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column->addWidget(m_turns, 1);
    m_turnsEmpty = makeLabel(QString(), "dim", u"framingTurnsEmpty"_s, card);
    m_turnsEmpty->setWordWrap(true);
    m_turnsEmpty->setAlignment(Qt::AlignTop);
    m_turnsEmpty->setContentsMargins(12, 6, 12, 0);
    column->addWidget(m_turnsEmpty, 1);
    auto* byEye = makeLabel(tr("Look for yourself, pictures do not tell it surely: elbow, wrist or "
                               "knee on the edge; microphone, stand or another camera in the "
                               "frame; reflections."),
                            "dim",
                            u"framingByEye"_s,
                            card);
    byEye->setWordWrap(true);
    byEye->setContentsMargins(12, 6, 12, 10);
    column->addWidget(byEye);
    return card;
}

void FramingScreen::showPage(const QString& page) {
    const QStringList names{u"measures"_s, u"saved"_s, u"pair"_s, u"crops"_s, u"focus"_s};
    if (auto* button = m_tabs->button(static_cast<int>(names.indexOf(page)))) button->click();
}

void FramingScreen::choosePage(int page) {
    m_page = static_cast<FramedPage>(page);
    m_pages->setCurrentIndex(m_page == FramedPage::Pair ? 1 : 0);
    m_savedBar->setVisible(m_page == FramedPage::AgainstSaved);
    m_cropBar->setVisible(m_page == FramedPage::Crops);
    m_safe->setVisible(m_page != FramedPage::Pair);
    const std::array<QString, 5> legends{
        tr("Solid: where the eyes are. Dashed: where they should be. Ticks at the edges: where a "
           "lone person is wanted."),
        tr("The saved frame lies over the present one; hold Flick to see it alone."),
        tr("Solid: eyes, crown and chin. Dotted: the other's eyes."),
        tr("Solid windows hold the person for the whole take; out of dashed ones they sway."),
        tr("Width of edges from 10 to 90 %: the fewer px, the sharper. The eyes should be the "
           "sharpest.")};
    m_legend->setText(legends.at(static_cast<std::size_t>(page)));
    refresh();
}

void FramingScreen::refresh() {
    const auto& rows = m_controller->rows();
    const bool hasAny = std::any_of(
        rows.begin(), rows.end(), [](const auto& row) { return row.reading != nullptr; });
    m_empty->setVisible(!hasAny);
    m_body->setVisible(hasAny);
    m_save->setEnabled(m_controller->canSave());
    m_card->setEnabled(hasAny);
    refreshGoals();
    refreshViews();
    refreshPairBoxes();
    refreshPair();
    refreshTurns();
    refreshOver();
    m_cropBar->refresh();
}

void FramingScreen::refreshOver() {
    m_over->clear();
    m_over->addItem(tr("saved frame"), QString());
    for (const auto& [id, title] : m_controller->ghostTakes()) m_over->addItem(title, id);
    m_over->setCurrentIndex(std::max(0, m_over->findData(m_controller->ghostTake())));
}

void FramingScreen::refreshGoals() {
    QStringList chosen;
    for (const rig::School& school : rig::schools()) {
        if (std::find(kGoals.begin(), kGoals.end(), school.key) == kGoals.end()) continue;
        for (const rig::School::Option& option : school.options) {
            const bool isChosen = m_controller->rig().choices.*school.field == option.value;
            if (auto* action =
                    m_goals->menu()->findChild<QAction*>(plain(school.key + "-" + option.value)))
                action->setChecked(isChosen);
        }
    }
    const rig::Choices& choices = m_controller->rig().choices;
    chosen << (choices.headroom == "wide" ? tr("wide headroom") : tr("tight headroom"))
           << (choices.placing == "centre"   ? tr("centred")
               : choices.placing == "thirds" ? tr("on a third")
                                             : tr("by the look"));
    m_goals->setText(tr("Goals: %1").arg(chosen.join(u", "_s)));
    m_goals->setAccessibleName(m_goals->text());
    m_goals->setEnabled(!m_controller->isReadOnly());
}

void FramingScreen::refreshViews() {
    const int count = static_cast<int>(m_controller->rows().size());
    while (m_views.size() > count) delete m_views.takeLast();
    while (m_views.size() < count) {
        auto* view = new FramedView(*m_controller, static_cast<int>(m_views.size()), this);
        view->setObjectName(u"framedView%1"_s.arg(m_views.size()));
        connect(view, &FramedView::chosen, &m_context.selection, &Selection::setCameraId);
        m_views << view;
    }
    const int columns = count <= 1 ? 1 : count <= 4 ? 2 : 3;
    for (int i = 0; i < count; ++i) {
        m_grid->addWidget(m_views[i], i / columns, i % columns);
        m_views[i]->setSafeAreas(m_safe->isChecked());
        m_views[i]->setPage(m_page == FramedPage::Pair ? FramedPage::Measures : m_page);
        m_views[i]->refresh();
    }
}

/// The two that are compared: those of a finding "alike" first.
void FramingScreen::refreshPairBoxes() {
    const auto& rows = m_controller->rows();
    const bool isNew = m_leftBox->count() != static_cast<int>(rows.size());
    const QString left = m_leftBox->currentData().toString();
    const QString right = m_rightBox->currentData().toString();
    for (QComboBox* box : {m_leftBox, m_rightBox}) {
        box->clear();
        for (const auto& row : rows) box->addItem(row.letter + u"  "_s + row.role, row.cameraId);
    }
    if (!isNew) {
        m_leftBox->setCurrentIndex(std::max(0, m_leftBox->findData(left)));
        m_rightBox->setCurrentIndex(std::max(0, m_rightBox->findData(right)));
        return;
    }
    m_leftBox->setCurrentIndex(0);
    m_rightBox->setCurrentIndex(std::min(1, m_rightBox->count() - 1));
    for (const base::Finding& finding : m_controller->findings()) {
        if (finding.other.empty()) continue;
        m_leftBox->setCurrentIndex(std::max(0, m_leftBox->findData(plain(finding.other))));
        m_rightBox->setCurrentIndex(std::max(0, m_rightBox->findData(plain(finding.subject))));
        break;
    }
}

void FramingScreen::refreshPair() {
    const auto eyesOf = [&](int index) -> std::optional<double> {
        const auto& rows = m_controller->rows();
        const auto at = static_cast<std::size_t>(index);
        if (at >= rows.size() || rows[at].reading == nullptr) return std::nullopt;
        const rig::FramedPerson* lone = rig::lonePerson(*rows[at].reading);
        if (lone == nullptr) return std::nullopt;
        return lone->eyeLine.value;
    };
    m_left->setRow(std::max(0, m_leftBox->currentIndex()));
    m_right->setRow(std::max(0, m_rightBox->currentIndex()));
    m_left->setOtherEyes(eyesOf(m_rightBox->currentIndex()));
    m_right->setOtherEyes(eyesOf(m_leftBox->currentIndex()));
    m_right->setMirrored(m_mirror->isChecked());
    const auto& rows = m_controller->rows();
    const auto right = static_cast<std::size_t>(std::max(0, m_rightBox->currentIndex()));
    if (right >= rows.size()) return;
    m_both->setRow(std::max(0, m_leftBox->currentIndex()));
    m_both->setGhost(
        m_mirror->isChecked() ? rows[right].picture.mirrored(true, false) : rows[right].picture,
        tr("One through the other"));
}

void FramingScreen::refreshTurns() {
    const int all = static_cast<int>(m_controller->turns().size());
    const int open = m_controller->openTurns();
    m_turns->setVisible(all > 0);
    m_turnsEmpty->setVisible(all == 0);
    const bool isAnyKnown = !m_controller->findings().empty();
    m_turnsEmpty->setText(isAnyKnown ? tr("Nothing to turn: framing, level and focus are within "
                                          "their goals, as far as the pictures tell.")
                                     : tr("Nothing was measured yet."));
    m_turnSummary->setText(all == 0    ? QString()
                           : open == 0 ? tr("all done: shoot again to see what they did")
                                       : tr("worst first; %1 of %2 open").arg(open).arg(all));
    m_turnSummary->setVisible(all > 0);
}

void FramingScreen::askCard() {
    const QPointer<FramingScreen> self(this);
    m_context.files.savePdf(window(), tr("framing.pdf"), [self](const QString& file) {
        if (!self || file.isEmpty() || writeFramingCard(*self->m_controller, file)) return;
        self->m_context.prompter.showError(
            self->window(),
            {base::ErrorCode::WriteFailed,
             base::say("framing.cardNotWritten"),
             base::say("file.notWritten", {{"file", file.toStdString()}}),
             base::say("file.chooseFolder")});
    });
}

void FramingScreen::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    m_controller->setActive(true);
}

void FramingScreen::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    m_controller->setActive(false);
}

}  // namespace rigmatch::app
