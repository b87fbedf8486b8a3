// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QWidget>

#include "app/services/app_context.h"
#include "plan/fact.h"

class QLabel;
class QLineEdit;
class QListView;
class QMenu;
class QPushButton;
class QStackedWidget;
class QToolButton;
class QVBoxLayout;

namespace rigmatch::app {

class BadgeLabel;
class FactList;
class ObjectForm;
class PictureStrip;
class PlanView;
class RoomDialog;
class SetController;

/// Screen "Set": the plan of the room, facts and numbers of the chosen object, every camera's
/// predicted picture, and what to improve.
class SetScreen : public QWidget {
    Q_OBJECT
public:
    SetScreen(AppContext& context, QWidget* parent);

    /// Chooses an object by its id, and the side the plan is seen from ("above", "side"): for
    /// pictures made without a pointer.
    Q_INVOKABLE void showObject(const QString& id, const QString& side);

private:
    void buildHead(QVBoxLayout* layout);
    QWidget* buildSide();
    QWidget* buildNotes();
    QWidget* buildEmptyPage();
    void fillAddMenu();
    void fillLayoutMenu(QMenu* menu);
    void refresh();
    void showSelection();
    void showFacts();
    void showNotes();
    void openNote(int row);
    void openRoom();
    void openLarge(const QString& cameraId);
    void askLayoutName();

    AppContext& m_context;
    SetController* m_controller;
    PlanView* m_plan;
    FactList* m_facts;
    ObjectForm* m_form;
    FactList* m_notes;
    PictureStrip* m_strip;
    QStackedWidget* m_pages;
    QStackedWidget* m_sidePages;
    QLabel* m_summary;
    QLabel* m_notesTitle;
    BadgeLabel* m_badge;
    QLineEdit* m_name;
    QPushButton* m_above;
    QPushButton* m_side;
    QPushButton* m_factsTab;
    QPushButton* m_numbersTab;
    QToolButton* m_arrange;
    QMenu* m_add;
    std::vector<plan::Note> m_shownNotes;
    QElapsedTimer m_notesAge;
};

}  // namespace rigmatch::app
