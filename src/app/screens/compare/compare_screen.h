// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QButtonGroup;
class QComboBox;
class QLabel;
class QMenu;
class QStackedWidget;
class QToolButton;
class QVBoxLayout;

namespace rigmatch::app {

class CompareController;
class ComparePage;

/// Screen "Compare": patch quilt, pictures, scopes and tone of all cameras; as shot, after the
/// turns as predicted, and through each camera's viewing LUT.
class CompareScreen : public QWidget {
    Q_OBJECT
    /// False while pictures load: for whoever draws the window.
    Q_PROPERTY(bool isIdle READ isIdle)
public:
    CompareScreen(AppContext& context, QWidget* parent);
    [[nodiscard]] bool isIdle() const;
    /// Shows a page by name: "quilt", "pictures", "scopes", "tone", "numbers".
    Q_INVOKABLE void showPage(const QString& page);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void buildHead(QVBoxLayout* layout);
    void buildLuts();
    void buildCopy();
    void refresh();
    void refreshSubjects();
    void refreshLuts();
    void chooseSubject();
    void chooseLut(const QString& cameraId);
    void copyPicture();
    void copyNumbers();
    [[nodiscard]] ComparePage* page() const;

    AppContext& m_context;
    CompareController* m_controller;
    QButtonGroup* m_tabs;
    QButtonGroup* m_stages;
    QComboBox* m_subject = nullptr;
    QLabel* m_subjectLabel = nullptr;
    QToolButton* m_luts = nullptr;
    QToolButton* m_copy = nullptr;
    QLabel* m_stageNote = nullptr;
    QStackedWidget* m_pages;
    QStackedWidget* m_states;
};

}  // namespace rigmatch::app
