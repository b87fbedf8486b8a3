// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/compare/compare_page.h"
#include "app/services/app_context.h"
#include "app/widgets/scope_view.h"

class QCheckBox;
class QComboBox;
class QLabel;

namespace rigmatch::app {

/// Waveform, parade, vectorscope and histogram of the part shown, of the region drawn in it, or of
/// whole pictures. Counted in the background.
class ScopesPage : public ComparePage {
    Q_OBJECT
    /// False while a scope is being counted: for whoever draws the window.
    Q_PROPERTY(bool isIdle READ isIdle)
public:
    ScopesPage(CompareController& controller, AppContext& context, QWidget* parent);
    void refresh() override;
    [[nodiscard]] QString numbers() const override;
    [[nodiscard]] bool isIdle() const { return m_running == 0; }

private:
    void count();
    void refreshAreas();
    void showWords();

    AppContext& m_context;
    ScopeView* m_view;
    QComboBox* m_kind;
    QComboBox* m_area;
    QCheckBox* m_overlay;
    QLabel* m_words;
    int m_running = 0;
    int m_wish = 0;  ///< the last count asked for; earlier ones are dropped
};

}  // namespace rigmatch::app
