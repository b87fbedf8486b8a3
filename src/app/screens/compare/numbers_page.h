// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/compare/compare_page.h"
#include "app/services/app_context.h"

class QLabel;
class QTableView;

namespace rigmatch::app {

class FactTableModel;

/// Everything else that the readings tell: tone, casts, hues, noise, edges, light, drift, skin.
class NumbersPage : public ComparePage {
    Q_OBJECT
public:
    NumbersPage(CompareController& controller, AppContext& context, QWidget* parent);
    void refresh() override;
    [[nodiscard]] QString numbers() const override;

private:
    void explain();

    AppContext& m_context;
    FactTableModel* m_model;
    QTableView* m_table;
    QLabel* m_words;
};

}  // namespace rigmatch::app
