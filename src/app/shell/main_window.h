// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMainWindow>
#include <functional>

#include "app/services/app_context.h"

class QMenu;
class QStackedWidget;
class QVBoxLayout;

namespace rigmatch::app {

class FileFlow;
class RailButton;
class StartPage;

/// A screen of the rail.
struct ScreenEntry {
    QString id;
    QString title;
    std::function<QWidget*(AppContext&, QWidget*)> make;
    /// How the rail marks it.
    std::function<std::pair<int, bool>(const AppContext&)>
        attention;  ///< things that want attention; is it done
};

/// The screens that work, in the order of the work.
[[nodiscard]] QList<ScreenEntry> screenEntries();

/// The window: rail, screens, menus. Knows no domain.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(AppContext& context);

    [[nodiscard]] FileFlow& files() { return *m_files; }
    /// Shows the screen of that id; an unknown one is left alone.
    void showScreen(const QString& id);
    [[nodiscard]] QWidget* screen(const QString& id) const;
    /// Clips, stills and folders from the command line, the file manager or the start page.
    void takeIn(const QStringList& files);

protected:
    void closeEvent(QCloseEvent* event) override;
    /// Files are welcome on every screen.
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void buildRail(QVBoxLayout* layout);
    void buildStart();
    /// An empty rig begins on the start page; what fills it leads on.
    void followRig();
    void showStart();
    [[nodiscard]] bool isStarting() const;
    void buildMenus();
    void buildTextSizes(QMenu* view);
    QAction* addAction(QMenu* menu,
                       const QString& text,
                       const QString& objectName,
                       const QKeySequence& keys,
                       const std::function<void()>& act);
    void refreshRail();
    void refreshRecent();
    void refreshTitle();

    AppContext& m_context;
    FileFlow* m_files;
    QList<ScreenEntry> m_entries;
    QList<RailButton*> m_rail;
    QStackedWidget* m_stack;
    StartPage* m_start = nullptr;
    QMenu* m_recent = nullptr;
    bool m_isLeaving = false;
    bool m_isTakingIn = false;  ///< files are becoming a rig
};

}  // namespace rigmatch::app
