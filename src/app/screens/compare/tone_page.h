// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/compare/compare_numbers.h"
#include "app/screens/compare/compare_page.h"
#include "app/widgets/curve_plot.h"
#include "app/widgets/neutral_ladder.h"

class QLabel;

namespace rigmatch::app {

class CurveRow;

/// The cameras' tone curves together, and their greys.
class TonePage : public ComparePage {
    Q_OBJECT
public:
    TonePage(CompareController& controller, QWidget* parent);
    void refresh() override;
    [[nodiscard]] QString numbers() const override;

private:
    CurvePlot* m_plot;
    NeutralLadder* m_ladder;
    QLabel* m_title;
    QLabel* m_words;
    CurveRow* m_curves;
    QuiltData m_quilt;
    QVector<NeutralLadder::Camera> m_greys;
};

}  // namespace rigmatch::app
