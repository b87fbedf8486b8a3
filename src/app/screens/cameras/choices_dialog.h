// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QList>
#include <utility>

#include "base/result.h"
#include "rig/plan_fields.h"

class QComboBox;
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
    static void addHeading(const QString& text, QFormLayout* form);
    static void addField(QLabel* label, QWidget* field, QFormLayout* form);
    void addRegions(QFormLayout* form);
    void addNumbers(QFormLayout* form);
    /// Mains and rate: chosen, not typed.
    void addChoice(QFormLayout* form,
                   const rig::NumberField<rig::Choices>& field,
                   const QList<double>& values);
    void refresh();
    void addSchools(QFormLayout* form);
    void show(const base::Result<void>& done, QWidget* field);

    CamerasController& m_controller;
    QLabel* m_refusal;
    QComboBox* m_region = nullptr;
    QList<std::pair<QComboBox*, const rig::NumberField<rig::Choices>*>> m_lists;
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
