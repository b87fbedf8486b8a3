// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "base/result.h"

class QFormLayout;
class QLabel;
class QLineEdit;

namespace rigmatch::app {

class CamerasController;

/// What the shoot is for, and the user's school where practitioners disagree, each with the reason
/// for the default. Every field takes effect by itself and can be undone.
class ChoicesDialog : public QDialog {
    Q_OBJECT
public:
    ChoicesDialog(CamerasController& controller, QWidget* parent);

private:
    void addNumbers(QFormLayout* form);
    void addSchools(QFormLayout* form);
    void show(const base::Result<void>& done);

    CamerasController& m_controller;
    QLabel* m_refusal;
};

/// Asks for the name of a camera template.
class TemplateNameDialog : public QDialog {
    Q_OBJECT
public:
    TemplateNameDialog(const QString& suggestion, QWidget* parent);
    [[nodiscard]] QString name() const;

private:
    QLineEdit* m_name;
};

}  // namespace rigmatch::app
