// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

class QLabel;
class QPushButton;
class QTableWidget;

namespace rigmatch::app {

class MatchController;

/// How every camera's controls answered so far; it can be written into the camera's sheet, where
/// templates take it to other rigs, or be forgotten.
class LearnedDialog : public QDialog {
    Q_OBJECT
public:
    LearnedDialog(MatchController& controller, QWidget* parent);

private:
    void refresh();
    [[nodiscard]] std::string chosenCamera() const;

    MatchController& m_controller;
    std::vector<std::string> m_cameras;  ///< of each row
    QTableWidget* m_table;
    QLabel* m_state;
    QPushButton* m_keep;
    QPushButton* m_forget;
};

}  // namespace rigmatch::app
