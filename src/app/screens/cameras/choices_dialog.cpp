// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/choices_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <cmath>

#include "app/screens/cameras/cameras_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/number_edit.h"
#include "app/widgets/theme.h"
#include "rig/plan_fields.h"
#include "rig/region.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kNtsc = 1000.0 / 1001.0;
const QList<double> kRates{
    24.0 * kNtsc, 24.0, 25.0, 30.0 * kNtsc, 30.0, 50.0, 60.0 * kNtsc, 60.0, 100.0, 120.0};

/// "25", "29.97", "23.976".
QString rateText(double rate) {
    const QString text = QString::number(rate, 'f', 3);
    return QString::number(text.toDouble(), 'g', 5);
}

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
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* page = new QWidget(scroll);
    auto* form = new QFormLayout(page);
    addHeading(tr("What it is delivered as, and where"), form);
    addRegions(form);
    addNumbers(form);
    addHeading(tr("Your school, where practitioners disagree"), form);
    addSchools(form);
    refresh();
    scroll->setWidget(page);
    layout->addWidget(scroll, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    // Enter ends the typing in a field, not the dialog.
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
    resize(560, 600);
}

void ChoicesDialog::addHeading(const QString& text, QFormLayout* form) {
    auto* heading = makeLabel(text, nullptr, QString(), form->parentWidget());
    heading->setFont(theme::font(13, QFont::DemiBold));
    heading->setContentsMargins(0, form->rowCount() > 0 ? 14 : 0, 0, 4);
    form->addRow(heading);
}

/// A field with room for what is wrong with it.
void ChoicesDialog::addField(QLabel* label, QWidget* field, QFormLayout* form) {
    auto* holder = new QWidget(form->parentWidget());
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    column->addWidget(field);
    label->setBuddy(field);
    form->addRow(label, holder);
}

void ChoicesDialog::addRegions(QFormLayout* form) {
    m_region = new QComboBox(form->parentWidget());
    m_region->setObjectName(u"regionBox"_s);
    m_region->setAccessibleName(tr("Region"));
    m_region->setPlaceholderText(tr("not told: choose one"));
    // Its texts are long: the list shows them whole, the dialog keeps its width.
    m_region->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_region->setMinimumContentsLength(28);
    m_region->setToolTip(tr("Sets mains, delivered rate, voltage and feet or metres at once"));
    for (const rig::Region& region : rig::regions())
        m_region->addItem(tr("%1: %2 Hz, %3 fps, %4 V, %5")
                              .arg(fromCore(region.title))
                              .arg(region.mainsHz, 0, 'f', 0)
                              .arg(rateText(region.framesPerSecond))
                              .arg(region.volts, 0, 'f', 0)
                              .arg(region.isInFeet ? tr("feet") : tr("metres")),
                          plain(region.key));
    auto* label = makeLabel(tr("Region"), nullptr, QString(), form->parentWidget());
    label->setBuddy(m_region);
    form->addRow(label, m_region);
    connect(m_region, &QComboBox::activated, this, [this](int index) {
        m_controller.setRegion(rig::regions().at(static_cast<std::size_t>(index)));
        refresh();
    });
}

void ChoicesDialog::addChoice(QFormLayout* form,
                              const rig::NumberField<rig::Choices>& field,
                              const QList<double>& values) {
    auto* box = new QComboBox(form->parentWidget());
    box->setObjectName(QString::fromUtf8(field.key) + u"Box"_s);
    box->setAccessibleName(fromCore(field.title));
    for (const double value : values) box->addItem(rateText(value), value);
    auto* label = makeLabel(tr("%1, %2").arg(fromCore(field.title), QString::fromUtf8(field.unit)),
                            nullptr,
                            QString(),
                            form->parentWidget());
    addField(label, box, form);
    m_lists << std::pair{box, &field};
    connect(box, &QComboBox::activated, this, [this, box, &field](int index) {
        show(m_controller.setChoice(
                 fromCore(field.title),
                 [&](rig::Choices& next) { next.*field.value = box->itemData(index).toDouble(); }),
             box);
        refresh();
    });
}

/// Lists show what the rig says; a value that none of them has, from a file, is shown as it is.
void ChoicesDialog::refresh() {
    const rig::Choices& choices = m_controller.rig().choices;
    for (const auto& [box, field] : m_lists) {
        const double value = choices.*field->value;
        int place = 0;
        while (place < box->count() && std::abs(box->itemData(place).toDouble() - value) > 0.002)
            ++place;
        if (place == box->count()) box->addItem(rateText(value), value);
        box->setCurrentIndex(place);
    }
    // What was chosen apart from its region is no region's.
    const rig::Region* region = rig::findRegion(choices.region);
    const bool isWhole = region != nullptr && region->mainsHz == choices.mainsHz;
    m_region->setCurrentIndex(isWhole ? m_region->findData(plain(region->key)) : -1);
}

void ChoicesDialog::addNumbers(QFormLayout* form) {
    for (const auto& field : rig::choiceFields().numbers) {
        if (field.value == &rig::Choices::deliveryFps) {
            addChoice(form, field, kRates);
            continue;
        }
        if (field.value == &rig::Choices::mainsHz) {
            addChoice(form, field, {50.0, 60.0});
            continue;
        }
        auto* edit = new NumberEdit(
            QString::fromUtf8(field.key) + u"Edit"_s, fromCore(field.title), form->parentWidget());
        edit->setValue(m_controller.rig().choices.*field.value, field.decimals);
        const QString unit = QString::fromUtf8(field.unit);
        auto* label = makeLabel(
            unit.isEmpty() ? fromCore(field.title) : tr("%1, %2").arg(fromCore(field.title), unit),
            nullptr,
            QString(),
            form->parentWidget());
        addField(label, edit, form);
        connect(edit, &NumberEdit::entered, this, [this, edit, &field](double value) {
            const auto done = m_controller.setChoice(
                fromCore(field.title), [&](rig::Choices& next) { next.*field.value = value; });
            show(done, edit);
            if (!done) edit->markRefused();
        });
        connect(edit, &NumberEdit::refused, this, [this, edit](const base::Error& error) {
            show(tl::unexpected(error), edit);
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
        addField(label, box, form);
        auto* why = makeLabel(
            tr("Default: %1. %2").arg(fromCore(school.options.front().title), fromCore(school.why)),
            "dim",
            QString(),
            form->parentWidget());
        why->setWordWrap(true);
        form->addRow(QString(), why);
        connect(box, &QComboBox::activated, this, [this, box, &school](int index) {
            show(m_controller.setChoice(fromCore(school.question),
                                        [&](rig::Choices& next) {
                                            next.*school.field =
                                                box->itemData(index).toString().toStdString();
                                        }),
                 box);
        });
    }
}

/// What is wrong stands under the field that it is about.
void ChoicesDialog::show(const base::Result<void>& done, QWidget* field) {
    if (!done) field->parentWidget()->layout()->addWidget(m_refusal);
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
