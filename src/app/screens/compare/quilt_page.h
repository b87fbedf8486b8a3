// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/compare/compare_numbers.h"
#include "app/screens/compare/compare_page.h"

class QLabel;

namespace rigmatch::app {

class ScopeView;

/// The chart's patches striped with all cameras, their places on the vectorscope, and the greys.
class QuiltPage : public ComparePage {
    Q_OBJECT
public:
    QuiltPage(CompareController& controller, QWidget* parent);
    void refresh() override;
    [[nodiscard]] QString numbers() const override;

private:
    void showPatch(int patch);

    QuiltData m_data;
    PatchQuilt* m_quilt;
    ScopeView* m_vectors;
    NeutralLadder* m_ladder;
    QLabel* m_title;
    QLabel* m_details;
};

}  // namespace rigmatch::app
