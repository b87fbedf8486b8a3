// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/object_form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QPushButton>

#include "app/screens/set/set_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/number_edit.h"
#include "rig/plan_fields.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using rig::PlanKind;
using rig::PlanObject;

constexpr double kMetresPerFoot = 0.3048;

QString numberText(double value, int decimals) {
    return QString::number(value, 'f', decimals).replace(u'-', u'\u2212');
}

/// Long entries must not widen the panel.
void keepNarrow(QComboBox* box) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
}

/// Fields that have a control of their own.
bool isSpecial(const std::string PlanObject::*field) {
    return field == &PlanObject::targetId || field == &PlanObject::circuitId ||
           field == &PlanObject::cameraId;
}

}  // namespace

ObjectForm::ObjectForm(SetController& controller, QWidget* parent)
    : QScrollArea(parent), m_controller(controller) {
    setObjectName(u"objectForm"_s);
    setAccessibleName(tr("Exact numbers of the chosen object"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

void ObjectForm::showCurrent() {
    const PlanObject* object = m_controller.hasPlan() ? m_controller.current() : nullptr;
    const int kind = object == nullptr ? -1 : static_cast<int>(object->kind);
    const bool isInFeet = m_controller.hasPlan() && m_controller.plan().isInFeet;
    if (kind != m_kind || isInFeet != m_isInFeet || widget() == nullptr) {
        m_kind = kind;
        m_isInFeet = isInFeet;
        rebuild();
    }
    if (object == nullptr) return;
    for (const auto& refresh : m_refresh) refresh();
}

void ObjectForm::showRefusal(const base::Error& error) {
    if (m_refusal == nullptr) return;
    m_refusal->setText(fromCore(error.what) + u". "_s + fromCore(error.detail) + u" "_s +
                       fromCore(error.hint));
    m_refusal->show();
    ensureWidgetVisible(m_refusal);
}

void ObjectForm::rebuild() {
    m_refresh.clear();
    m_refusal = nullptr;
    auto* page = new QWidget(this);
    auto* form = new QFormLayout(page);
    form->setContentsMargins(12, 10, 12, 10);
    form->setVerticalSpacing(6);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    if (m_kind >= 0) {
        m_refusal = makeLabel(QString(), nullptr, u"refusalLabel"_s, page);
        m_refusal->setWordWrap(true);
        m_refusal->setProperty("refusal", true);
        m_refusal->hide();
        form->addRow(m_refusal);
        addCamera(form);
        addTexts(form);
        addTarget(form);
        addCircuit(form);
        addNumbers(form);
        addTruths(form);
    } else {
        auto* hint = makeLabel(tr("Choose an object on the plan to see and type its numbers."),
                               "dim",
                               u"noObjectLabel"_s,
                               page);
        hint->setWordWrap(true);
        form->addRow(hint);
    }
    setWidget(page);
}

void ObjectForm::addNumbers(QFormLayout* form) {
    for (const auto& field : rig::planFields(static_cast<PlanKind>(m_kind)).numbers) {
        auto* edit = new NumberEdit(
            QString::fromUtf8(field.key) + u"Edit"_s, fromCore(field.title), form->parentWidget());
        edit->setMinimumWidth(60);
        const bool isLength = qstrcmp(field.unit, "m") == 0;
        const bool isFeet = isLength && m_isInFeet;
        const double factor = isFeet ? kMetresPerFoot : 1.0;
        const QString unit = isFeet ? u"ft"_s : QString::fromUtf8(field.unit);
        const QString title = fromCore(field.title);
        auto* label = makeLabel(unit.isEmpty() ? title : title + u", "_s + unit,
                                nullptr,
                                QString(),
                                form->parentWidget());
        label->setBuddy(edit);
        edit->setToolTip(tr("%1 to %2 %3: %4")
                             .arg(numberText(field.lowest / factor, field.decimals),
                                  numberText(field.highest / factor, field.decimals),
                                  unit,
                                  fromCore(field.reason)));
        form->addRow(label, edit);
        connect(edit, &NumberEdit::entered, this, [this, &field, factor](double value) {
            m_refusal->hide();
            m_controller.setNumber(field, value * factor);
        });
        connect(edit, &NumberEdit::refused, this, &ObjectForm::showRefusal);
        m_refresh.push_back([this, edit, &field, factor] {
            edit->setValue(m_controller.current()->*field.value / factor, field.decimals);
        });
    }
}

void ObjectForm::addTexts(QFormLayout* form) {
    for (const auto& field : rig::planFields(static_cast<PlanKind>(m_kind)).texts) {
        if (isSpecial(field.value)) continue;
        auto* box = new QComboBox(form->parentWidget());
        box->setObjectName(QString::fromUtf8(field.key) + u"Box"_s);
        box->setAccessibleName(fromCore(field.title));
        keepNarrow(box);
        for (const std::string& value : field.allowed) box->addItem(fromCore(value), plain(value));
        auto* label = makeLabel(fromCore(field.title), nullptr, QString(), form->parentWidget());
        label->setBuddy(box);
        form->addRow(label, box);
        connect(box, &QComboBox::activated, this, [this, box, &field](int index) {
            m_controller.setText(field, box->itemData(index).toString());
        });
        m_refresh.push_back([this, box, &field] {
            const QSignalBlocker quiet(box);
            box->setCurrentIndex(box->findData(plain(m_controller.current()->*field.value)));
        });
    }
}

void ObjectForm::addTruths(QFormLayout* form) {
    for (const auto& field : rig::planFields(static_cast<PlanKind>(m_kind)).truths) {
        auto* box = new QCheckBox(fromCore(field.title), form->parentWidget());
        box->setObjectName(QString::fromUtf8(field.key) + u"Check"_s);
        box->setAccessibleName(fromCore(field.title));
        form->addRow(QString(), box);
        connect(box, &QCheckBox::clicked, this, [this, &field](bool isOn) {
            m_controller.setTruth(field, isOn);
        });
        m_refresh.push_back([this, box, &field] {
            const QSignalBlocker quiet(box);
            box->setChecked(m_controller.current()->*field.value);
        });
    }
}

void ObjectForm::addTarget(QFormLayout* form) {
    const auto kind = static_cast<PlanKind>(m_kind);
    if (kind != PlanKind::Camera && kind != PlanKind::Light) return;
    auto* box = new QComboBox(form->parentWidget());
    box->setObjectName(u"targetBox"_s);
    box->setAccessibleName(tr("Follows"));
    keepNarrow(box);
    auto* label = makeLabel(tr("Follows"), nullptr, QString(), form->parentWidget());
    label->setBuddy(box);
    form->addRow(label, box);
    connect(box, &QComboBox::activated, this, [this, box](int index) {
        m_controller.aimAt(box->itemData(index).toString());
    });
    m_refresh.push_back([this, box] {
        const QSignalBlocker quiet(box);
        box->clear();
        box->addItem(tr("nobody: the aim stays"), QString());
        for (const PlanObject* person : plan::objectsOf(m_controller.plan(), PlanKind::Person)) {
            box->addItem(plain(plan::nameOf(*person)), plain(person->id));
        }
        box->setCurrentIndex(std::max(0, box->findData(plain(m_controller.current()->targetId))));
    });
}

void ObjectForm::addCircuit(QFormLayout* form) {
    if (static_cast<PlanKind>(m_kind) != PlanKind::Light) return;
    auto* box = new QComboBox(form->parentWidget());
    box->setObjectName(u"circuitBox"_s);
    box->setAccessibleName(tr("Circuit"));
    keepNarrow(box);
    auto* label = makeLabel(tr("Circuit"), nullptr, QString(), form->parentWidget());
    label->setBuddy(box);
    form->addRow(label, box);
    connect(box, &QComboBox::activated, this, [this, box](int index) {
        for (const auto& field : rig::planFields(PlanKind::Light).texts) {
            if (field.value == &PlanObject::circuitId) {
                m_controller.setText(field, box->itemData(index).toString());
            }
        }
    });
    m_refresh.push_back([this, box] {
        const QSignalBlocker quiet(box);
        box->clear();
        box->addItem(tr("none"), QString());
        for (const rig::Circuit& circuit : m_controller.plan().circuits) {
            box->addItem(plain(circuit.name), plain(circuit.id));
        }
        box->setCurrentIndex(std::max(0, box->findData(plain(m_controller.current()->circuitId))));
    });
}

void ObjectForm::addCamera(QFormLayout* form) {
    if (static_cast<PlanKind>(m_kind) != PlanKind::Camera) return;
    auto* button = makeButton(tr("&Frame the shot"),
                              u"frameShotButton"_s,
                              tr("Puts the nearest of your lenses on and aims at the person it "
                                 "follows"),
                              form->parentWidget());
    form->addRow(button);
    connect(button, &QPushButton::clicked, &m_controller, &SetController::frameShot);
}

}  // namespace rigmatch::app
