// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/set_screen.h"

#include <QDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>

#include "app/screens/set/layout_dialogs.h"
#include "app/screens/set/object_form.h"
#include "app/screens/set/picture_strip.h"
#include "app/screens/set/plan_view.h"
#include "app/screens/set/set_controller.h"
#include "app/services/texts.h"
#include "app/widgets/badge_label.h"
#include "app/widgets/build.h"
#include "app/widgets/fact_list.h"
#include "plan/layouts.h"
#include "words/english.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using rig::PlanKind;

constexpr int kSideWidth = 352;
constexpr int kLowerHeight = 148;
constexpr int kNotesEveryMs = 150;

QString kindTitle(PlanKind kind) {
    const auto words = [](const char* text) {
        return QCoreApplication::translate("SetScreen", text);
    };
    switch (kind) {
        case PlanKind::Person:
            return words("Person");
        case PlanKind::Camera:
            return words("Camera");
        case PlanKind::Light:
            return words("Light or practical lamp");
        case PlanKind::Window:
            return words("Window");
        case PlanKind::Door:
            return words("Door");
        case PlanKind::Table:
            return words("Table");
        case PlanKind::Riser:
            return words("Riser");
        case PlanKind::Backdrop:
            return words("Backdrop");
        case PlanKind::Prop:
            return words("Prop");
        case PlanKind::Flag:
            return words("Flag");
        case PlanKind::Bounce:
            return words("Bounce board");
        case PlanKind::Chart:
            break;
    }
    return words("Place of the chart");
}

QToolButton* makeMenuButton(const QString& text,
                            const QString& objectName,
                            QMenu* menu,
                            QWidget* parent) {
    auto* button = new QToolButton(parent);
    button->setText(text + u" ▾"_s);
    button->setObjectName(objectName);
    button->setAccessibleName(QString(text).remove(u'&'));
    button->setMenu(menu);
    button->setPopupMode(QToolButton::InstantPopup);
    button->setToolButtonStyle(Qt::ToolButtonTextOnly);
    button->setFocusPolicy(Qt::StrongFocus);
    return button;
}

}  // namespace

SetScreen::SetScreen(AppContext& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_controller(new SetController(context, this)) {
    setObjectName(u"setScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    auto* content = new QWidget(this);
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(12);
    m_plan = new PlanView(*m_controller, content);
    // Another rig is seen whole.
    connect(&m_context.document, &RigDocument::opened, m_plan, &PlanView::showWhole);
    upper->addWidget(m_plan, 1);
    upper->addWidget(buildSide());
    column->addLayout(upper, 1);
    auto* lower = new QHBoxLayout;
    lower->setSpacing(12);
    m_strip = new PictureStrip(*m_controller, content);
    m_strip->setFixedHeight(kLowerHeight);
    lower->addWidget(m_strip, 1);
    lower->addWidget(buildNotes());
    column->addLayout(lower);
    m_pages = new QStackedWidget(this);
    m_pages->addWidget(content);
    m_pages->addWidget(buildEmptyPage());
    layout->addWidget(m_pages, 1);
    connect(m_controller, &SetController::changed, this, &SetScreen::refresh);
    connect(m_controller, &SetController::selectionChanged, this, &SetScreen::showSelection);
    connect(m_controller, &SetController::refused, this, [this](const base::Error& error) {
        if (m_controller->current() == nullptr) {
            m_context.prompter.showError(this, error);
            return;
        }
        m_numbersTab->click();
        m_form->showRefusal(error);
    });
    connect(m_strip, &PictureStrip::enlarged, this, &SetScreen::openLarge);
    refresh();
    showSelection();
}

void SetScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->setSpacing(8);
    head->addWidget(makeLabel(tr("Set plan"), "title", u"setTitle"_s, this));
    m_summary = makeLabel(QString(), "dim", u"setSummary"_s, this);
    head->addSpacing(10);
    head->addWidget(m_summary);
    head->addStretch();
    auto* sides = new QButtonGroup(this);
    m_above = makeTab(tr("From a&bove"), u"fromAboveButton"_s, QString(), sides, this);
    m_side = makeTab(tr("From the si&de"), u"fromSideButton"_s, QString(), sides, this);
    m_above->setChecked(true);
    connect(m_above, &QPushButton::clicked, this, [this] { m_plan->setSide(PlanSide::Above); });
    connect(m_side, &QPushButton::clicked, this, [this] { m_plan->setSide(PlanSide::Side); });
    head->addWidget(m_above);
    head->addWidget(m_side);
    m_add = new QMenu(this);
    m_add->setObjectName(u"addMenu"_s);
    fillAddMenu();
    head->addWidget(makeMenuButton(tr("&Add"), u"addObjectButton"_s, m_add, this));
    auto* arrange = new QMenu(this);
    const auto act =
        [&](const QString& text, const QString& name, const QKeySequence& keys, auto work) {
            QAction* action = arrange->addAction(text, this, work);
            action->setObjectName(name);
            action->setShortcut(keys);
            action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
            addAction(action);
        };
    act(tr("D&uplicate"), u"duplicateAction"_s, QKeySequence(u"Ctrl+D"_s), [this] {
        m_controller->duplicateSelected();
    });
    act(tr("&Remove"), u"removeObjectAction"_s, {}, [this] { m_controller->removeSelected(); });
    arrange->addSeparator();
    const std::array<std::tuple<QString, QString, plan::Alignment>, 4> alignments{
        {{tr("Same distance from the &left wall"), u"alignXAction"_s, plan::Alignment::X},
         {tr("Same distance from the &back wall"), u"alignZAction"_s, plan::Alignment::Z},
         {tr("Same &height"), u"alignHeightAction"_s, plan::Alignment::Height},
         {tr("&Mirror the second to the first"), u"mirrorAction"_s, plan::Alignment::Mirror}}};
    for (const auto& [text, name, alignment] : alignments) {
        act(text, name, {}, [this, alignment = alignment] { m_controller->align(alignment); });
    }
    m_arrange = makeMenuButton(tr("Arra&nge"), u"arrangeButton"_s, arrange, this);
    m_arrange->setToolTip(
        tr("Works on the chosen objects; Shift+click chooses several, the first is the model"));
    head->addWidget(m_arrange);
    auto* room =
        makeButton(tr("R&oom…"),
                   u"roomButton"_s,
                   tr("Size and surfaces, metres or feet, circuits, your lenses, both schools"),
                   this);
    connect(room, &QPushButton::clicked, this, &SetScreen::openRoom);
    head->addWidget(room);
    auto* layouts = new QMenu(this);
    layouts->setObjectName(u"layoutMenu"_s);
    connect(layouts, &QMenu::aboutToShow, this, [this, layouts] { fillLayoutMenu(layouts); });
    fillLayoutMenu(layouts);
    head->addWidget(makeMenuButton(tr("&Layouts"), u"layoutsButton"_s, layouts, this));
    layout->addLayout(head);
}

void SetScreen::fillAddMenu() {
    for (const PlanKind kind : rig::kPlanKinds) {
        QAction* action =
            m_add->addAction(kindTitle(kind), this, [this, kind] { m_controller->add(kind); });
        action->setObjectName(QString::fromUtf8(rig::kindName(kind)) + u"AddAction"_s);
    }
}

void SetScreen::fillLayoutMenu(QMenu* menu) {
    menu->clear();
    int number = 1;
    for (const rig::Layout& layout : plan::builtInLayouts()) {
        QAction* action = menu->addAction(
            fromCore(layout.title), this, [this, &layout] { m_controller->startFrom(layout); });
        action->setToolTip(fromCore(layout.description));
        action->setObjectName(u"layout%1Action"_s.arg(number++));
    }
    const auto own = rig::loadLayouts(m_controller->layoutFolder().toStdString());
    if (!own.values.empty() || !own.failures.empty()) menu->addSection(tr("Your own"));
    for (const rig::Layout& layout : own.values) {
        QAction* action = menu->addAction(
            plain(layout.title), this, [this, layout] { m_controller->startFrom(layout); });
        action->setObjectName(u"ownLayout-"_s + plain(layout.title));
    }
    for (const base::Error& failure : own.failures) {
        menu->addAction(fromCore(failure.what), this, [this, failure] {
            m_context.prompter.showError(this, failure);
        });
    }
    menu->addSeparator();
    QAction* save =
        menu->addAction(tr("&Save this set as a layout…"), this, [this] { askLayoutName(); });
    save->setObjectName(u"saveLayoutAction"_s);
    save->setEnabled(m_controller->hasPlan());
}

QWidget* SetScreen::buildSide() {
    QFrame* card = makeCard(u"factsCard"_s, this);
    card->setFixedWidth(kSideWidth);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(1, 8, 1, 1);
    layout->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(10, 0, 10, 0);
    m_badge = new BadgeLabel(card);
    m_name = new QLineEdit(card);
    m_name->setObjectName(u"objectNameEdit"_s);
    m_name->setAccessibleName(tr("Name of the chosen object"));
    m_name->setMaxLength(60);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (m_name->isModified()) m_controller->rename(m_name->text());
        m_name->setModified(false);
    });
    auto* tabs = new QButtonGroup(card);
    m_factsTab = makeTab(tr("&Facts"), u"factsTab"_s, QString(), tabs, card);
    m_numbersTab = makeTab(tr("N&umbers"), u"numbersTab"_s, QString(), tabs, card);
    m_factsTab->setChecked(true);
    head->addWidget(m_badge);
    head->addWidget(m_name, 1);
    head->addWidget(m_factsTab);
    head->addWidget(m_numbersTab);
    layout->addLayout(head);
    m_sidePages = new QStackedWidget(card);
    m_facts = new FactList(u"factList"_s, tr("Facts of the chosen object"), card);
    m_form = new ObjectForm(*m_controller, card);
    m_sidePages->addWidget(m_facts);
    m_sidePages->addWidget(m_form);
    layout->addWidget(m_sidePages, 1);
    connect(m_factsTab, &QPushButton::clicked, this, [this] { m_sidePages->setCurrentIndex(0); });
    connect(m_numbersTab, &QPushButton::clicked, this, [this] { m_sidePages->setCurrentIndex(1); });
    return card;
}

QWidget* SetScreen::buildNotes() {
    QFrame* card = makeCard(u"notesCard"_s, this);
    card->setFixedWidth(kSideWidth);
    card->setFixedHeight(kLowerHeight);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(1, 8, 1, 1);
    layout->setSpacing(4);
    m_notesTitle = makeLabel(QString(), "heading", u"notesTitle"_s, card);
    m_notesTitle->setContentsMargins(11, 0, 0, 0);
    layout->addWidget(m_notesTitle);
    m_notes = new FactList(u"notesList"_s, tr("Notes on the plan, the most important first"), card);
    m_notes->setToolTip(tr("Click or Enter goes to the object"));
    layout->addWidget(m_notes, 1);
    connect(
        m_notes, &QListView::clicked, this, [this](const QModelIndex& at) { openNote(at.row()); });
    connect(m_notes, &QListView::activated, this, [this](const QModelIndex& at) {
        openNote(at.row());
    });
    return card;
}

QWidget* SetScreen::buildEmptyPage() {
    auto* page = new QWidget(this);
    auto* column = new QVBoxLayout(page);
    column->addStretch();
    auto* text = makeLabel(
        tr("No plan yet.\n\nStart from the layout that is nearest to your set, then move people, "
           "cameras and lights to where they will stand:\nlens, light, exposure and every "
           "camera's picture are worked out as you go."),
        "dim",
        u"setEmptyLabel"_s,
        page);
    text->setAlignment(Qt::AlignCenter);
    column->addWidget(text);
    column->addSpacing(14);
    int number = 1;
    for (const rig::Layout& layout : plan::builtInLayouts()) {
        auto* button = makeButton(fromCore(layout.title),
                                  u"startLayout%1Button"_s.arg(number++),
                                  fromCore(layout.description),
                                  page);
        button->setFixedWidth(320);
        connect(button, &QPushButton::clicked, this, [this, &layout] {
            m_controller->startFrom(layout);
        });
        column->addWidget(button, 0, Qt::AlignHCenter);
    }
    column->addStretch();
    return page;
}

void SetScreen::refresh() {
    const bool hasPlan = m_controller->hasPlan();
    m_pages->setCurrentIndex(hasPlan ? 0 : 1);
    for (QWidget* widget : {static_cast<QWidget*>(m_above),
                            static_cast<QWidget*>(m_side),
                            static_cast<QWidget*>(m_arrange)}) {
        widget->setEnabled(hasPlan);
    }
    for (const QString& name : {u"addObjectButton"_s, u"roomButton"_s}) {
        findChild<QWidget*>(name)->setEnabled(hasPlan);
    }
    if (!hasPlan) {
        m_summary->clear();
        return;
    }
    const rig::SetPlan& plan = m_controller->plan();
    m_summary->setText(
        tr("room %1 × %2, ceiling %3")
            .arg(plain(words::inEnglish(plan::lengthText(plan, plan.widthMetres))),
                 plain(words::inEnglish(plan::lengthText(plan, plan.depthMetres))),
                 plain(words::inEnglish(plan::lengthText(plan, plan.heightMetres)))));
    showFacts();
    m_strip->refresh();
}

void SetScreen::showSelection() {
    const rig::PlanObject* object = m_controller->hasPlan() ? m_controller->current() : nullptr;
    const rig::Camera* camera = object == nullptr ? nullptr : m_controller->cameraOf(*object);
    m_badge->setVisible(camera != nullptr);
    if (camera != nullptr) m_badge->setLetter(plain(camera->letter));
    m_name->setReadOnly(object == nullptr);
    m_arrange->setEnabled(object != nullptr);
    if (!m_controller->hasPlan()) return;
    showFacts();
    m_strip->refresh();
}

void SetScreen::showFacts() {
    const rig::PlanObject* object = m_controller->current();
    if (!m_name->isModified() || !m_name->hasFocus()) {
        m_name->setText(object == nullptr ? tr("Room") : plain(object->name));
        m_name->setModified(false);
    }
    const plan::SetAnalysis& set = m_controller->analysis();
    m_facts->setFacts(words::told(set.facts(object == nullptr ? std::string() : object->id)));
    m_form->showCurrent();
    // Notes may lag behind a drag by a blink; they are right when it ends.
    if (m_controller->isDragging() && m_notesAge.isValid() &&
        m_notesAge.elapsed() < kNotesEveryMs) {
        return;
    }
    m_notesAge.start();
    showNotes();
}

void SetScreen::showNotes() {
    m_shownNotes = m_controller->analysis().notes();
    std::vector<words::ToldFact> rows;
    for (const plan::Note& note : m_shownNotes) {
        words::ToldFact row;
        row.title = words::inEnglish(note.text);
        row.verdict = note.verdict;
        row.why = words::inEnglish(note.change);
        rows.push_back(row);
    }
    m_notes->setFacts(rows);
    m_notesTitle->setText(rows.empty() ? tr("Notes on the plan: nothing to improve")
                                       : tr("Notes on the plan (%1)").arg(rows.size()));
}

void SetScreen::showObject(const QString& id, const QString& side) {
    m_controller->select(id);
    (side == u"side"_s ? m_side : m_above)->click();
}

void SetScreen::openNote(int row) {
    if (row < 0 || row >= static_cast<int>(m_shownNotes.size())) return;
    m_controller->select(plain(m_shownNotes[static_cast<std::size_t>(row)].objectId));
    m_factsTab->click();
}

void SetScreen::openRoom() {
    auto* dialog = new RoomDialog(*m_controller, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void SetScreen::openLarge(const QString& cameraId) {
    const rig::PlanObject* place =
        rig::findPlanCamera(m_controller->plan(), cameraId.toStdString());
    if (place != nullptr) m_controller->select(plain(place->id));
    auto* dialog = new LargePictureDialog(*m_controller, cameraId, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void SetScreen::askLayoutName() {
    auto* dialog = new LayoutNameDialog(plain(m_controller->shown().name), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        const auto saved = m_controller->saveLayout(dialog->title());
        if (!saved) m_context.prompter.showError(this, saved.error());
    });
    dialog->open();
}

}  // namespace rigmatch::app
