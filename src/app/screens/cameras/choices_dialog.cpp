// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/choices_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>

#include "app/screens/cameras/cameras_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/number_edit.h"
#include "rig/plan_fields.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

}  // namespace

ChoicesDialog::ChoicesDialog(CamerasController& controller, QWidget* parent)
    : QDialog(parent), m_controller(controller) {
    setObjectName(u"choicesDialog"_s);
    setWindowTitle(tr("Delivery and schools"));
    auto* layout = new QVBoxLayout(this);
    m_refusal = makeLabel(QString(), nullptr, u"choicesRefusalLabel"_s, this);
    m_refusal->setProperty("refusal", true);
    m_refusal->setWordWrap(true);
    m_refusal->hide();
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* page = new QWidget(scroll);
    auto* form = new QFormLayout(page);
    addNumbers(form);
    addSchools(form);
    scroll->setWidget(page);
    layout->addWidget(scroll, 1);
    layout->addWidget(m_refusal);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    // Enter ends the typing in a field, not the dialog.
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
    resize(560, 600);
}

void ChoicesDialog::addNumbers(QFormLayout* form) {
    for (const auto& field : rig::choiceFields().numbers) {
        auto* edit = new NumberEdit(
            QString::fromUtf8(field.key) + u"Edit"_s, fromCore(field.title), form->parentWidget());
        edit->setValue(m_controller.rig().choices.*field.value, field.decimals);
        const QString unit = QString::fromUtf8(field.unit);
        auto* label = makeLabel(
            unit.isEmpty() ? fromCore(field.title) : tr("%1, %2").arg(fromCore(field.title), unit),
            nullptr,
            QString(),
            form->parentWidget());
        label->setBuddy(edit);
        form->addRow(label, edit);
        connect(edit, &NumberEdit::entered, this, [this, edit, &field](double value) {
            const auto done = m_controller.setChoice(
                fromCore(field.title), [&](rig::Choices& next) { next.*field.value = value; });
            show(done);
            if (!done) edit->markRefused();
        });
        connect(edit, &NumberEdit::refused, this, [this](const base::Error& error) {
            show(tl::unexpected(error));
        });
    }
}

void ChoicesDialog::addSchools(QFormLayout* form) {
    for (const rig::School& school : rig::schools()) {
        auto* box = new QComboBox(form->parentWidget());
        box->setObjectName(plain(school.key) + u"SchoolBox"_s);
        box->setAccessibleName(fromCore(school.question));
        for (const auto& option : school.options)
            box->addItem(fromCore(option.title), plain(option.value));
        box->setCurrentIndex(box->findData(plain(m_controller.rig().choices.*school.field)));
        auto* label =
            makeLabel(fromCore(school.question), nullptr, QString(), form->parentWidget());
        label->setBuddy(box);
        form->addRow(label, box);
        auto* why = makeLabel(
            tr("Default: %1. %2").arg(fromCore(school.options.front().title), fromCore(school.why)),
            "dim",
            QString(),
            form->parentWidget());
        why->setWordWrap(true);
        form->addRow(QString(), why);
        connect(box, &QComboBox::activated, this, [this, box, &school](int index) {
            show(m_controller.setChoice(fromCore(school.question), [&](rig::Choices& next) {
                next.*school.field = box->itemData(index).toString().toStdString();
            }));
        });
    }
}

void ChoicesDialog::show(const base::Result<void>& done) {
    m_refusal->setVisible(!done.has_value());
    if (!done) {
        m_refusal->setText(fromCore(done.error().what) + u". "_s + fromCore(done.error().detail) +
                           u" "_s + fromCore(done.error().hint));
    }
}

TemplateNameDialog::TemplateNameDialog(const QString& suggestion, QWidget* parent)
    : QDialog(parent) {
    setObjectName(u"templateNameDialog"_s);
    setWindowTitle(tr("Keep as a template"));
    auto* layout = new QVBoxLayout(this);
    auto* label = makeLabel(tr("&Name of the template"), nullptr, QString(), this);
    m_name = new QLineEdit(suggestion, this);
    m_name->setObjectName(u"templateNameEdit"_s);
    m_name->setAccessibleName(tr("Name of the template"));
    m_name->setMaxLength(60);
    m_name->selectAll();
    label->setBuddy(m_name);
    auto* note = makeLabel(tr("Body, lens, controls with their allowed values, and equipment are "
                              "kept as a file in your "
                              "data folder."),
                           "dim",
                           QString(),
                           this);
    note->setWordWrap(true);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel, this);
    layout->addWidget(label);
    layout->addWidget(m_name);
    layout->addWidget(note);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

QString TemplateNameDialog::name() const { return m_name->text(); }

}  // namespace rigmatch::app
