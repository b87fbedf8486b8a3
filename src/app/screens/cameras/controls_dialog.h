// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

class QComboBox;
class QLabel;
class QVBoxLayout;
class QLineEdit;

namespace rigmatch::app {

class CamerasController;

/// The values that a control of the current camera can take, and for tint and the profile's knobs
/// what one step does.
class ControlsDialog : public QDialog {
    Q_OBJECT
public:
    ControlsDialog(CamerasController& controller, QWidget* parent);

private:
    void buildForm(QVBoxLayout* layout);
    void showControl();
    void put();

    CamerasController& m_controller;
    QComboBox* m_control;
    QLineEdit* m_values;
    QLineEdit* m_perStep;
    QLabel* m_unit;
    QLabel* m_refusal;
};

}  // namespace rigmatch::app
