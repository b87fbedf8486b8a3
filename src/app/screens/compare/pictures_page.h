// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/screens/compare/compare_page.h"
#include "app/widgets/strip_view.h"

class QButtonGroup;
class QCheckBox;
class QComboBox;
class QLabel;

namespace rigmatch::app {

/// The same part of all pictures side by side, sliced, wiped or subtracted; one place read on all.
class PicturesPage : public ComparePage {
    Q_OBJECT
public:
    PicturesPage(CompareController& controller, QWidget* parent);
    void refresh() override;
    [[nodiscard]] QString numbers() const override;

private:
    void chooseMode(int mode);
    void choosePair();
    void refreshAgainst();
    void showMark();

    StripView* m_view;
    QButtonGroup* m_modes;
    QComboBox* m_against;
    QLabel* m_againstLabel;
    QCheckBox* m_loupe;
    QLabel* m_values;
};

}  // namespace rigmatch::app
