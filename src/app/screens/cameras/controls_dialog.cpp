// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/controls_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>

#include "app/screens/cameras/cameras_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "jobs/take_job.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QString valuesText(const std::vector<double>& values) {
    QStringList list;
    for (const double value : values) list << QString::number(value, 'g', 6);
    return list.join(u',');
}

}  // namespace

ControlsDialog::ControlsDialog(CamerasController& controller, QWidget* parent)
    : QDialog(parent), m_controller(controller) {
    setObjectName(u"controlsDialog"_s);
    const rig::Camera* camera = controller.current();
    setWindowTitle(camera == nullptr ? tr("Controls")
                                     : tr("Controls of camera %1").arg(plain(camera->letter)));
    auto* layout = new QVBoxLayout(this);
    auto* words = makeLabel(tr("Turns take only values that the camera has. Knobs of a profile are "
                               "controls too: name one, and say its steps."),
                            "dim",
                            {},
                            this);
    words->setWordWrap(true);
    layout->addWidget(words);
    buildForm(layout);
    m_refusal = makeLabel(QString(), nullptr, u"controlRefusalLabel"_s, this);
    m_refusal->setWordWrap(true);
    layout->addWidget(m_refusal, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    auto* set = buttons->addButton(tr("&Set"), QDialogButtonBox::ActionRole);
    set->setObjectName(u"setControlButton"_s);
    set->setDefault(true);
    connect(set, &QPushButton::clicked, this, &ControlsDialog::put);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_control, &QComboBox::currentTextChanged, this, &ControlsDialog::showControl);
    layout->addWidget(buttons);
    resize(480, 280);
    showControl();
}

void ControlsDialog::buildForm(QVBoxLayout* layout) {
    auto* form = new QFormLayout;
    m_control = new QComboBox(this);
    m_control->setObjectName(u"controlNameBox"_s);
    m_control->setAccessibleName(tr("Control"));
    m_control->setEditable(true);
    m_control->setInsertPolicy(QComboBox::NoInsert);
    for (const char* name : {"contrast",
                             "black",
                             "knee",
                             "saturation",
                             "hue",
                             "tint",
                             "amber",
                             "kelvin",
                             "iso",
                             "gainDb",
                             "fNumber",
                             "ndStops",
                             "shutter",
                             "sharpness",
                             "frameRate"})
        m_control->addItem(QString::fromUtf8(name));
    auto* controlLabel = makeLabel(tr("&Control"), nullptr, {}, this);
    controlLabel->setBuddy(m_control);
    form->addRow(controlLabel, m_control);
    const auto field = [&](const QString& title, const QString& name, const QString& example) {
        auto* edit = new QLineEdit(this);
        edit->setObjectName(name);
        edit->setAccessibleName(QString(title).remove(u'&'));
        edit->setPlaceholderText(example);
        auto* label = makeLabel(title, nullptr, {}, this);
        label->setBuddy(edit);
        form->addRow(label, edit);
        return edit;
    };
    m_values = field(tr("&Values"), u"controlValuesEdit"_s, tr("-5..5:1 or 100,125,160"));
    m_perStep = field(tr("&One step does"), u"controlPerStepEdit"_s, tr("not known"));
    m_unit = makeLabel(QString(), "dim", u"controlUnitLabel"_s, this);
    form->addRow(QString(), m_unit);
    layout->addLayout(form);
}

void ControlsDialog::showControl() {
    const std::string name = m_control->currentText().trimmed().toStdString();
    const rig::Camera* camera = m_controller.current();
    m_refusal->clear();
    if (camera == nullptr) return;
    m_values->setText(valuesText(jobs::stepsOf(name, camera->sheet)));
    const rig::Knob* knob = rig::findKnob(camera->sheet, name);
    m_perStep->setText(name == "tint" ? QString::number(camera->sheet.tintDuvPerStep)
                       : knob != nullptr && knob->perStep != 0.0 ? QString::number(knob->perStep)
                                                                 : QString());
    const bool hasStep = name == "tint" || jobs::isKnobName(name);
    m_perStep->setEnabled(hasStep);
    switch (rig::knobKindOf(name)) {
        case rig::KnobKind::Contrast:
        case rig::KnobKind::Saturation:
            m_unit->setText(tr("as a share: 0.05 is 5 % more"));
            break;
        case rig::KnobKind::Black:
            m_unit->setText(tr("% of signal at black"));
            break;
        case rig::KnobKind::Hue:
            m_unit->setText(tr("degrees"));
            break;
        case rig::KnobKind::Knee:
            m_unit->setText(tr("as a share of the slope of light tones: 0.05 is 5 % more"));
            break;
        case rig::KnobKind::Amber:
            m_unit->setText(tr("mired warmer"));
            break;
        case rig::KnobKind::Other:
            m_unit->setText(name == "tint" ? tr("Duv toward green, as 0.001")
                            : hasStep      ? tr("what an unknown knob does is learned from takes")
                                           : QString());
            break;
    }
}

void ControlsDialog::put() {
    const auto done = m_controller.setControl(
        m_control->currentText().trimmed().toStdString(),
        m_values->text().trimmed().toStdString(),
        m_perStep->isEnabled() ? m_perStep->text().trimmed().toStdString() : std::string());
    m_refusal->setProperty("refusal", !done);
    m_refusal->setText(done ? tr("Set.") : fromCore(base::fullText(done.error())));
}

}  // namespace rigmatch::app
