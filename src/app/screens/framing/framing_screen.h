// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QVector>
#include <QWidget>

#include "app/screens/framing/framed_view.h"
#include "app/services/app_context.h"

class QButtonGroup;
class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QListView;
class QPushButton;
class QScrollArea;
class QSlider;
class QStackedWidget;

namespace rigmatch::app {

class CropBar;
class FramingTurnModel;

/// How the cameras frame their people: pictures with their lines, what has moved since the framing
/// was saved, and what to turn at the tripods.
class FramingScreen : public QWidget {
    Q_OBJECT
public:
    FramingScreen(AppContext& context, QWidget* parent);
    [[nodiscard]] FramingController& controller() { return *m_controller; }
    /// "measures", "saved", "pair", "crops" or "focus".
    Q_INVOKABLE void showPage(const QString& page);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    QWidget* buildHead();
    QWidget* buildTabs(QWidget* parent);
    QWidget* buildPictures();
    QWidget* buildPair();
    QWidget* buildTurns();
    QWidget* buildSavedBar();
    void refresh();
    void refreshGoals();
    void refreshViews();
    void refreshPair();
    void refreshPairBoxes();
    void refreshTurns();
    void refreshOver();
    void choosePage(int page);
    void flick(bool isSaved);
    void askCard();

    AppContext& m_context;
    FramingController* m_controller;
    FramingTurnModel* m_model = nullptr;
    FramedPage m_page = FramedPage::Measures;
    QButtonGroup* m_tabs = nullptr;
    QPushButton* m_goals = nullptr;
    QPushButton* m_save = nullptr;
    QPushButton* m_card = nullptr;
    QLabel* m_empty = nullptr;
    QLabel* m_legend = nullptr;
    QWidget* m_body = nullptr;
    QStackedWidget* m_pages = nullptr;
    QGridLayout* m_grid = nullptr;
    QVector<FramedView*> m_views;
    QWidget* m_savedBar = nullptr;
    QComboBox* m_over = nullptr;
    CropBar* m_cropBar = nullptr;
    QSlider* m_through = nullptr;
    QPushButton* m_flick = nullptr;
    QCheckBox* m_safe = nullptr;
    FramedView* m_left = nullptr;
    FramedView* m_right = nullptr;
    FramedView* m_both = nullptr;
    QComboBox* m_leftBox = nullptr;
    QComboBox* m_rightBox = nullptr;
    QCheckBox* m_mirror = nullptr;
    QListView* m_turns = nullptr;
    QLabel* m_turnSummary = nullptr;
    QLabel* m_turnsEmpty = nullptr;
};

}  // namespace rigmatch::app
