// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/main_window.h"

#include <QActionGroup>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QHBoxLayout>
#include <QMenuBar>
#include <QMimeData>
#include <QStackedWidget>
#include <QTimer>
#include <QVBoxLayout>

#include "app/models/shot_list_model.h"
#include "app/shell/bottom_bar.h"
#include "app/shell/file_flow.h"
#include "app/shell/rail_button.h"
#include "app/shell/safety.h"
#include "app/shell/start_page.h"
#include "app/shell/text_size.h"
#include "app/shell/top_bar.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

MainWindow::MainWindow(AppContext& context)
    : m_context(context), m_files(new FileFlow(context, this)), m_entries(screenEntries()) {
    setObjectName(u"mainWindow"_s);
    auto* central = new QWidget(this);
    auto* column = new QVBoxLayout(central);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(new TopBar(context, central));
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    auto* rail = new QFrame(central);
    rail->setObjectName(u"rail"_s);
    rail->setFixedWidth(148);
    auto* railLayout = new QVBoxLayout(rail);
    railLayout->setContentsMargins(0, 8, 0, 8);
    railLayout->setSpacing(0);
    m_stack = new QStackedWidget(central);
    buildRail(railLayout);
    middle->addWidget(rail);
    middle->addWidget(m_stack, 1);
    column->addLayout(middle, 1);
    column->addWidget(new BottomBar(context, central));
    setCentralWidget(central);
    buildStart();
    buildMenus();
    connect(&m_context.document, &RigDocument::rigChanged, this, &MainWindow::refreshRail);
    connect(m_context.reports.get(), &ReportCache::ready, this, &MainWindow::refreshRail);
    connect(m_context.reports.get(), &ReportCache::broke, this, [this](const base::Error& error) {
        m_context.prompter.showError(this, error);
    });
    connect(&m_context.selection, &Selection::changed, this, &MainWindow::refreshRail);
    connect(&m_context.document, &RigDocument::stateChanged, this, &MainWindow::refreshTitle);
    connect(&m_context.document, &RigDocument::opened, &m_context.selection, &Selection::clear);
    connect(&m_context.jobs, &JobRunner::broke, this, [this](const base::Error& error) {
        m_context.prompter.showError(this, error);
    });
    connect(m_files, &FileFlow::recentChanged, this, &MainWindow::refreshRecent);
    connect(&m_context.selection, &Selection::nextTakeRequested, this, [this] {
        showScreen(u"testTake"_s);
    });
    connect(m_files, &FileFlow::mediaMissing, this, [this] { showScreen(u"testTake"_s); });
    setAcceptDrops(true);
    setMinimumSize(1024, 680);
    resize(1280, 800);
    restoreGeometry(m_context.settings.value(u"window/geometry"_s).toByteArray());
    showScreen(m_context.settings.value(u"window/screen"_s, m_entries.front().id).toString());
    refreshRail();
    refreshTitle();
    showStart();
}

void MainWindow::buildStart() {
    m_start = new StartPage(m_stack);
    m_stack->addWidget(m_start);
    connect(m_start, &StartPage::filesDropped, this, &MainWindow::takeIn);
    connect(m_start, &StartPage::clipsWanted, this, [this] {
        m_context.files.openMedia(this, [this](const QStringList& files) { takeIn(files); });
    });
    connect(m_start, &StartPage::folderWanted, this, [this] {
        m_context.files.openFolder(
            this, tr("Folder with the clips of your test take"), [this](const QString& folder) {
                if (!folder.isEmpty()) takeIn({folder});
            });
    });
    connect(m_start, &StartPage::planWanted, this, [this] { showScreen(u"set"_s); });
    connect(m_start, &StartPage::demoWanted, this, [this] { m_files->openDemo(); });
    connect(m_start, &StartPage::cardWanted, this, [this] {
        QMetaObject::invokeMethod(screen(u"testTake"_s), "writeCard");
    });
    connect(m_start, &StartPage::rigWanted, this, [this](const QString& file) {
        m_files->openPath(file);
    });
    connect(&m_context.document, &RigDocument::rigChanged, this, &MainWindow::followRig);
    connect(&m_context.document, &RigDocument::opened, this, &MainWindow::showStart);
    connect(&m_context.jobs, &JobRunner::changed, this, [this] {
        const bool isBusy = !m_context.jobs.running().isEmpty();
        if (isStarting()) m_start->setBusy(isBusy);
        // A job is over before what came of it is put into the rig.
        if (!isBusy) QTimer::singleShot(0, this, [this] { m_isTakingIn = false; });
    });
    connect(&m_context.selection, &Selection::takeMeasured, this, [this] {
        if (m_stack->currentWidget() == screen(u"testTake"_s)) showScreen(u"match"_s);
    });
}

bool MainWindow::isStarting() const { return m_stack->currentWidget() == m_start; }

void MainWindow::showStart() {
    const rig::Rig& rig = m_context.document.rig();
    const bool isEmpty =
        rig.cameras.empty() && rig.sources.empty() && rig.takes.empty() && !rig.plan;
    if (!isEmpty) {
        followRig();
        return;
    }
    m_stack->setCurrentWidget(m_start);
    m_start->setFocus();
    // No screen of the rail is shown: none of its entries is down.
    for (RailButton* button : m_rail) {
        button->setAutoExclusive(false);
        button->setChecked(false);
        button->setAutoExclusive(true);
    }
}

void MainWindow::followRig() {
    if (!isStarting()) return;
    const rig::Rig& rig = m_context.document.rig();
    if (rig.cameras.empty() && rig.sources.empty() && rig.takes.empty() && !rig.plan) return;
    m_start->setBusy(false);
    // Clips lead to the take that is being measured; a rig that was opened to where one was.
    const bool isTakenIn =
        m_context.document.path().isEmpty() && !rig.takes.empty() && m_isTakingIn;
    m_isTakingIn = false;
    showScreen(isTakenIn
                   ? u"testTake"_s
                   : m_context.settings.value(u"window/screen"_s, m_entries.front().id).toString());
    if (isStarting()) showScreen(m_entries.front().id);
}

void MainWindow::takeIn(const QStringList& files) {
    if (files.isEmpty()) return;
    if (files.size() == 1 && files.front().endsWith(u".rigmatch"_s)) {
        m_files->openPath(files.front());
        return;
    }
    m_isTakingIn = true;
    QMetaObject::invokeMethod(screen(u"testTake"_s), "takeIn", Q_ARG(QStringList, files));
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (!localFiles(*event->mimeData()).isEmpty()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const QStringList files = localFiles(*event->mimeData());
    event->acceptProposedAction();
    if (files.isEmpty()) return;
    // Where they go is seen on the screen of the takes.
    if (!isStarting() && !files.front().endsWith(u".rigmatch"_s)) showScreen(u"testTake"_s);
    takeIn(files);
}

void MainWindow::buildRail(QVBoxLayout* layout) {
    for (int i = 0; i < m_entries.size(); ++i) {
        auto* button = new RailButton(i + 1, m_entries[i].title, this);
        button->setObjectName(m_entries[i].id + u"RailButton"_s);
        connect(
            button, &RailButton::clicked, this, [this, id = m_entries[i].id] { showScreen(id); });
        layout->addWidget(button);
        m_rail << button;
        m_stack->addWidget(m_entries[i].make(m_context, m_stack));
    }
    layout->addStretch();
}

QAction* MainWindow::addAction(QMenu* menu,
                               const QString& text,
                               const QString& objectName,
                               const QKeySequence& keys,
                               const std::function<void()>& act) {
    auto* action = menu->addAction(text);
    action->setObjectName(objectName);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, [act] { act(); });
    return action;
}

void MainWindow::buildMenus() {
    QMenu* file = menuBar()->addMenu(tr("&File"));
    addAction(
        file, tr("&New rig"), u"newAction"_s, QKeySequence::New, [this] { m_files->newRig(); });
    addAction(
        file, tr("&Open…"), u"openAction"_s, QKeySequence::Open, [this] { m_files->openRig(); });
    m_recent = file->addMenu(tr("Open &recent"));
    m_recent->setObjectName(u"recentMenu"_s);
    addAction(file, tr("Open the &demo"), u"demoAction"_s, {}, [this] {
        m_files->settleThen([this] { m_files->openDemo(); });
    });
    file->addSeparator();
    addAction(file, tr("&Save"), u"saveAction"_s, QKeySequence::Save, [this] { m_files->save(); });
    addAction(file, tr("Save &as…"), u"saveAsAction"_s, QKeySequence(u"Ctrl+Shift+S"_s), [this] {
        m_files->saveAs();
    });
    file->addSeparator();
    addAction(file, tr("&Quit"), u"quitAction"_s, QKeySequence(u"Ctrl+Q"_s), [this] { close(); });
    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QUndoStack& undo = m_context.document.undoStack();
    QAction* undoAction = undo.createUndoAction(this, tr("&Undo"));
    undoAction->setObjectName(u"undoAction"_s);
    undoAction->setShortcut(QKeySequence::Undo);
    QAction* redoAction = undo.createRedoAction(this, tr("&Redo"));
    redoAction->setObjectName(u"redoAction"_s);
    redoAction->setShortcuts({QKeySequence(u"Ctrl+Shift+Z"_s), QKeySequence(u"Ctrl+Y"_s)});
    edit->QWidget::addAction(undoAction);
    edit->QWidget::addAction(redoAction);
    QMenu* view = menuBar()->addMenu(tr("&View"));
    for (int i = 0; i < m_entries.size(); ++i) {
        addAction(view,
                  m_entries[i].title,
                  m_entries[i].id + u"Action"_s,
                  QKeySequence(u"Ctrl+%1"_s.arg(i + 1)),
                  [this, id = m_entries[i].id] { showScreen(id); });
    }
    view->addSeparator();
    QAction* technical =
        addAction(view, tr("&Technical terms"), u"technicalTermsAction"_s, {}, [] {});
    technical->setCheckable(true);
    technical->setToolTip(tr("Mired, Duv and ΔE2000 first, instead of a shooter's words"));
    m_context.selection.setTechnical(m_context.settings.value(u"technicalTerms"_s).toBool());
    technical->setChecked(m_context.selection.isTechnical());
    connect(technical, &QAction::toggled, this, [this](bool isOn) {
        m_context.settings.setValue(u"technicalTerms"_s, isOn);
        m_context.selection.setTechnical(isOn);
    });
    buildTextSizes(view);
    QMenu* help = menuBar()->addMenu(tr("&Help"));
    addAction(help, tr("&Safety on the set"), u"safetyAction"_s, {}, [this] {
        m_context.prompter.showText(this, tr("Safety on the set"), safetyText());
    });
    addAction(help, tr("&About"), u"aboutAction"_s, {}, [this] {
        m_context.prompter.showText(this,
                                    tr("Rig Match 0.1.0"),
                                    tr("Matches several cameras on one set.\nFree software under "
                                       "the GNU General Public License, version 3 or later."));
    });
    refreshRecent();
}

void MainWindow::buildTextSizes(QMenu* view) {
    QMenu* sizes = view->addMenu(tr("Text &size"));
    sizes->setObjectName(u"textSizeMenu"_s);
    auto* group = new QActionGroup(sizes);
    for (const int percent : kTextSizes) {
        QAction* action = addAction(sizes,
                                    tr("%1 %").arg(percent),
                                    u"textSize%1Action"_s.arg(percent),
                                    {},
                                    [this, percent] {
                                        chooseTextSize(m_context.settings, percent);
                                        m_context.prompter.showText(
                                            this,
                                            tr("Text size %1 %").arg(percent),
                                            tr("Everything is drawn in this size when Rig Match is "
                                               "opened the next time. Save "
                                               "your rig, close the program and open it again."));
                                    });
        action->setCheckable(true);
        action->setChecked(percent == chosenTextSize(m_context.settings));
        group->addAction(action);
    }
}

void MainWindow::refreshRecent() {
    m_recent->clear();
    for (const QString& path : m_files->recentFiles()) {
        QAction* action = m_recent->addAction(path);
        connect(action, &QAction::triggered, this, [this, path] { m_files->openPath(path); });
    }
    m_recent->setEnabled(!m_recent->isEmpty());
    m_start->setRecent(m_files->recentFiles());
}

void MainWindow::refreshRail() {
    for (int i = 0; i < m_entries.size(); ++i) {
        const auto [count, isDone] = m_entries[i].attention(m_context);
        m_rail[i]->setState(count > 0 ? RailButton::State::Attention
                            : isDone  ? RailButton::State::Done
                                      : RailButton::State::Open,
                            count);
    }
}

void MainWindow::refreshTitle() {
    const QString name = QString::fromStdString(m_context.document.rig().name);
    setWindowTitle(tr("%1[*] – Rig Match").arg(name));
    setWindowModified(m_context.document.isModified());
}

QWidget* MainWindow::screen(const QString& id) const {
    for (int i = 0; i < m_entries.size(); ++i) {
        if (m_entries[i].id == id) return m_stack->widget(i);
    }
    return nullptr;
}

void MainWindow::showScreen(const QString& id) {
    for (int i = 0; i < m_entries.size(); ++i) {
        if (m_entries[i].id != id) continue;
        m_stack->setCurrentIndex(i);
        m_rail[i]->setFocus();
        m_rail[i]->setChecked(true);
    }
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!m_isLeaving) {
        event->ignore();
        m_files->settleThen([this] {
            m_isLeaving = true;
            m_context.document.close();
            close();
        });
        if (!m_isLeaving) return;
    }
    m_context.settings.setValue(u"window/geometry"_s, saveGeometry());
    if (!isStarting())
        m_context.settings.setValue(u"window/screen"_s,
                                    m_entries.value(m_stack->currentIndex()).id);
    event->accept();
}

}  // namespace rigmatch::app
