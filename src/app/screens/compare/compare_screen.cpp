// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/compare_screen.h"

#include <QAction>
#include <QApplication>
#include <QButtonGroup>
#include <QClipboard>
#include <QComboBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>
#include <algorithm>

#include "app/screens/compare/compare_controller.h"
#include "app/screens/compare/numbers_page.h"
#include "app/screens/compare/pictures_page.h"
#include "app/screens/compare/quilt_page.h"
#include "app/screens/compare/scopes_page.h"
#include "app/screens/compare/tone_page.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

CompareScreen::CompareScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_context(context),
      m_controller(new CompareController(context, this)),
      m_tabs(new QButtonGroup(this)),
      m_stages(new QButtonGroup(this)) {
    setObjectName(u"compareScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(8);
    buildHead(layout);
    m_stageNote = makeLabel(QString(), "dim", u"stageNote"_s, this);
    m_stageNote->setWordWrap(true);
    layout->addWidget(m_stageNote);
    m_pages = new QStackedWidget(this);
    m_pages->addWidget(new QuiltPage(*m_controller, m_pages));
    m_pages->addWidget(new PicturesPage(*m_controller, m_pages));
    m_pages->addWidget(new ScopesPage(*m_controller, context, m_pages));
    m_pages->addWidget(new TonePage(*m_controller, m_pages));
    m_pages->addWidget(new NumbersPage(*m_controller, context, m_pages));
    m_states = new QStackedWidget(this);
    m_states->addWidget(m_pages);
    auto* empty = makeLabel(
        tr("Nothing to look at yet.\n\nDrop this take's clips on the screen Test take, or let the "
           "simulated cameras shoot:\ntheir charts and faces are then shown here side by side."),
        "dim",
        u"compareEmptyLabel"_s,
        this);
    empty->setAlignment(Qt::AlignCenter);
    m_states->addWidget(empty);
    layout->addWidget(m_states, 1);
    connect(m_controller, &CompareController::changed, this, &CompareScreen::refresh);
    refresh();
}

void CompareScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    head->addWidget(makeLabel(tr("Compare"), "title", u"compareTitle"_s, this));
    head->addSpacing(10);
    const auto tab = [&](QButtonGroup* group,
                         const QString& text,
                         const char* name,
                         int id,
                         const QString& help) {
        QPushButton* button = makeTab(text, QString::fromLatin1(name), help, group, this);
        group->setId(button, id);
        button->setChecked(id == 0);
        head->addWidget(button);
    };
    tab(m_tabs, tr("&Quilt"), "quiltTab", 0, tr("The chart's patches of all cameras"));
    tab(m_tabs, tr("&Pictures"), "picturesTab", 1, tr("The same part of every picture"));
    tab(m_tabs, tr("Sc&opes"), "scopesTab", 2, tr("Waveform, vectorscope, histogram"));
    tab(m_tabs, tr("&Tone"), "toneTab", 3, tr("Tone curves and greys"));
    tab(m_tabs,
        tr("&Numbers"),
        "compareNumbersTab",
        4,
        tr("Everything else that the readings tell"));
    head->addSpacing(8);
    m_subjectLabel = makeLabel(tr("Pa&rt"), "dim", QString(), this);
    m_subject = new QComboBox(this);
    m_subject->setObjectName(u"subjectBox"_s);
    m_subject->setAccessibleName(tr("Part of the pictures"));
    m_subject->setMinimumWidth(104);
    m_subjectLabel->setBuddy(m_subject);
    head->addWidget(m_subjectLabel);
    head->addWidget(m_subject);
    head->addStretch();
    head->addWidget(makeLabel(tr("Show"), "dim", QString(), this));
    tab(m_stages, tr("as &shot"), "asShotTab", 0, tr("What the files hold"));
    tab(m_stages,
        tr("after the t&urns"),
        "afterTurnsTab",
        1,
        tr("Predicted: as the cameras will record it once the turn list is carried out"));
    tab(m_stages,
        tr("throu&gh LUT"),
        "throughLutTab",
        2,
        tr("As shot, through each camera's viewing LUT"));
    buildLuts();
    head->addWidget(m_luts);
    buildCopy();
    head->addWidget(m_copy);
    layout->addLayout(head);
    connect(m_tabs, &QButtonGroup::idClicked, this, [this](int id) {
        m_pages->setCurrentIndex(id);
        refresh();
    });
    connect(m_stages, &QButtonGroup::idClicked, this, [this](int id) {
        m_controller->setStage(static_cast<jobs::Stage>(id));
    });
    connect(m_subject, &QComboBox::activated, this, &CompareScreen::chooseSubject);
}

void CompareScreen::buildLuts() {
    m_luts = new QToolButton(this);
    m_luts->setObjectName(u"lutsButton"_s);
    m_luts->setText(tr("LUTs"));
    m_luts->setAccessibleName(tr("Viewing LUTs of the cameras"));
    m_luts->setToolTip(tr("Choose a viewing LUT for each camera"));
    m_luts->setPopupMode(QToolButton::InstantPopup);
    m_luts->setMenu(new QMenu(m_luts));
    m_luts->setFocusPolicy(Qt::StrongFocus);
}

void CompareScreen::buildCopy() {
    m_copy = new QToolButton(this);
    m_copy->setObjectName(u"copyButton"_s);
    m_copy->setText(tr("Copy"));
    m_copy->setAccessibleName(tr("Copy what is shown"));
    m_copy->setToolTip(tr("Copy what is shown, as picture or as numbers"));
    m_copy->setPopupMode(QToolButton::InstantPopup);
    m_copy->setFocusPolicy(Qt::StrongFocus);
    auto* menu = new QMenu(m_copy);
    m_copy->setMenu(menu);
    const auto add =
        [&](const QString& text, const QString& name, const QKeySequence& keys, auto act) {
            auto* action = new QAction(text, this);
            action->setObjectName(name);
            action->setShortcut(keys);
            action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
            connect(action, &QAction::triggered, this, act);
            addAction(action);
            menu->addAction(action);
        };
    add(tr("As &numbers"), u"copyNumbersAction"_s, QKeySequence::Copy, &CompareScreen::copyNumbers);
    add(tr("As &picture"),
        u"copyPictureAction"_s,
        QKeySequence(u"Ctrl+Shift+C"_s),
        &CompareScreen::copyPicture);
}

bool CompareScreen::isIdle() const { return !isVisible() || !m_controller->isLoading(); }

void CompareScreen::showPage(const QString& page) {
    const QStringList names{u"quilt"_s, u"pictures"_s, u"scopes"_s, u"tone"_s, u"numbers"_s};
    if (auto* button = m_tabs->button(static_cast<int>(names.indexOf(page)))) button->click();
}

void CompareScreen::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    m_controller->setActive(true);
}

void CompareScreen::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    m_controller->setActive(false);
}

ComparePage* CompareScreen::page() const {
    return static_cast<ComparePage*>(m_pages->currentWidget());
}

void CompareScreen::refresh() {
    const auto& cameras = m_controller->cameras();
    const bool hasAny = std::any_of(cameras.begin(), cameras.end(), [](const auto& camera) {
        return camera.reading != nullptr;
    });
    m_states->setCurrentIndex(hasAny ? 0 : 1);
    const bool hasPart = m_pages->currentIndex() == 1 || m_pages->currentIndex() == 2;
    m_subject->setVisible(hasPart);
    m_subjectLabel->setVisible(hasPart);
    m_copy->setEnabled(hasAny);
    refreshSubjects();
    refreshLuts();
    page()->refresh();
}

void CompareScreen::refreshSubjects() {
    m_subject->clear();
    m_subject->addItem(tr("chart"));
    m_subject->addItem(tr("whole picture"));
    for (const match::Person& person : m_controller->people())
        m_subject->addItem(tr("face: %1").arg(fromCore(person.name)));
    const Subject subject = m_controller->subject();
    m_subject->setCurrentIndex(subject.kind == Subject::Kind::Chart   ? 0
                               : subject.kind == Subject::Kind::Whole ? 1
                                                                      : 2 + int(subject.person));
}

void CompareScreen::chooseSubject() {
    const int index = m_subject->currentIndex();
    if (index == 0)
        m_controller->setSubject({Subject::Kind::Chart, 0});
    else if (index == 1)
        m_controller->setSubject({Subject::Kind::Whole, 0});
    else
        m_controller->setSubject({Subject::Kind::Person, static_cast<std::size_t>(index - 2)});
}

void CompareScreen::refreshLuts() {
    QMenu* menu = m_luts->menu();
    menu->clear();
    QStringList without;
    for (const rig::Camera& camera : m_controller->rig().cameras) {
        const QString id = plain(camera.id);
        const QString letter = plain(camera.letter);
        const QString name = plain(camera.viewingLut.filename().string());
        if (name.isEmpty()) without << letter;
        QAction* choose = menu->addAction(name.isEmpty() ? tr("%1: choose a LUT…").arg(letter)
                                                         : u"%1: %2…"_s.arg(letter, name));
        connect(choose, &QAction::triggered, this, [this, id] { chooseLut(id); });
        if (name.isEmpty()) continue;
        QAction* remove = menu->addAction(tr("%1: remove the LUT").arg(letter));
        connect(remove, &QAction::triggered, this, [this, id] { m_controller->setLut(id, {}); });
    }
    QString note;
    if (m_controller->stage() == jobs::Stage::AfterTurns)
        note = tr("Predicted from each camera's own tone curve; shoot one more take to verify.");
    if (m_controller->stage() == jobs::Stage::ThroughLut && !without.isEmpty())
        note = tr("Without a viewing LUT, shown as shot: %1. Choose one under LUTs.")
                   .arg(without.join(u", "_s));
    m_stageNote->setText(note);
    m_stageNote->setVisible(!note.isEmpty());
}

void CompareScreen::chooseLut(const QString& cameraId) {
    m_context.files.openLut(this, [this, cameraId](const QString& path) {
        if (path.isEmpty()) return;
        const auto read = jobs::StageMap::throughLut(path.toStdString());
        if (!read)
            m_context.prompter.showError(this, read.error());
        else
            m_controller->setLut(cameraId, path);
    });
}

void CompareScreen::copyPicture() { QApplication::clipboard()->setPixmap(page()->grab()); }

void CompareScreen::copyNumbers() { QApplication::clipboard()->setText(page()->numbers()); }

}  // namespace rigmatch::app
