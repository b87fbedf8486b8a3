// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/layout_dialogs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QTabWidget>

#include "app/screens/set/picture_strip.h"
#include "app/screens/set/set_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/number_edit.h"
#include "plan/shot_size.h"
#include "rig/plan_fields.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QWidget* makeNote(const QString& text, QWidget* parent) {
    auto* label = makeLabel(text, "dim", QString(), parent);
    label->setWordWrap(true);
    return label;
}

}  // namespace

base::Result<std::vector<rig::OwnedLens>> lensesOf(const QString& text) {
    static const QRegularExpression kLens(
        uR"(^\s*(\d+(?:\.\d+)?)(?:\s*[-–]\s*(\d+(?:\.\d+)?))?\s*(?:mm)?\s*[fTt]/?\s*(\d+(?:\.\d+)?)\s*$)"_s);
    std::vector<rig::OwnedLens> lenses;
    for (const QString& part :
         text.split(QRegularExpression(u"[;\\n]|,(?=\\s)"_s), Qt::SkipEmptyParts)) {
        if (part.trimmed().isEmpty()) continue;
        const auto match = kLens.match(part);
        const double shortest = match.captured(1).toDouble();
        const double longest =
            match.captured(2).isEmpty() ? shortest : match.captured(2).toDouble();
        const double aperture = match.captured(3).toDouble();
        const bool isPossible = match.hasMatch() && shortest >= 1.0 && longest >= shortest &&
                                longest <= 2000.0 && aperture >= 0.5 && aperture <= 64.0;
        if (!isPossible) {
            return base::fail(
                base::ErrorCode::OutOfRange,
                base::say("ownedLens.cannotTake"),
                base::say("ownedLens.howWritten", {{"given", part.trimmed().toStdString()}}),
                base::say("ownedLens.correct"));
        }
        lenses.push_back({shortest, longest, aperture});
    }
    return lenses;
}

QString lensText(const std::vector<rig::OwnedLens>& lenses) {
    QStringList parts;
    for (const rig::OwnedLens& lens : lenses) {
        QString focal = QString::number(lens.shortFocalMm);
        if (lens.longFocalMm > lens.shortFocalMm)
            focal += u"-"_s + QString::number(lens.longFocalMm);
        parts << focal + u" f/"_s + QString::number(lens.largestAperture);
    }
    return parts.join(u", "_s);
}

RoomDialog::RoomDialog(SetController& controller, QWidget* parent)
    : QDialog(parent), m_controller(controller) {
    setObjectName(u"roomDialog"_s);
    setWindowTitle(tr("Room and wishes"));
    auto* layout = new QVBoxLayout(this);
    m_refusal = makeLabel(QString(), nullptr, u"roomRefusalLabel"_s, this);
    m_refusal->setProperty("refusal", true);
    m_refusal->setWordWrap(true);
    m_refusal->hide();
    auto* tabs = new QTabWidget(this);
    tabs->setObjectName(u"roomTabs"_s);
    tabs->addTab(buildRoomPage(), tr("&Room"));
    tabs->addTab(buildSuppliesPage(), tr("&Circuits and lenses"));
    tabs->addTab(buildChoicesPage(), tr("&Delivery and schools"));
    layout->addWidget(tabs);
    layout->addWidget(m_refusal);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    // Enter ends the typing in a field, not the dialog.
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
    resize(560, 520);
}

void RoomDialog::show(const base::Result<void>& done) {
    m_refusal->setVisible(!done.has_value());
    if (!done) {
        m_refusal->setText(fromCore(done.error().what) + u". "_s + fromCore(done.error().detail) +
                           u" "_s + fromCore(done.error().hint));
    }
}

QWidget* RoomDialog::buildRoomPage() {
    auto* page = new QWidget(this);
    auto* form = new QFormLayout(page);
    for (const auto& field : rig::roomFields().numbers) {
        const bool isLength = qstrcmp(field.unit, "m") == 0;
        auto* edit =
            new NumberEdit(QString::fromUtf8(field.key) + u"Edit"_s, fromCore(field.title), page);
        const double factor = isLength && m_controller.plan().isInFeet ? 0.3048 : 1.0;
        edit->setValue(m_controller.plan().*field.value / factor, field.decimals);
        const QString unit = isLength ? (factor < 1.0 ? tr("ft") : tr("m")) : tr("0–1");
        auto* label =
            makeLabel(tr("%1, %2").arg(fromCore(field.title), unit), nullptr, QString(), page);
        label->setBuddy(edit);
        form->addRow(label, edit);
        connect(edit, &NumberEdit::entered, this, [this, edit, &field, factor](double value) {
            base::Result<void> done = rig::checkField(field, value * factor);
            if (done) {
                done = m_controller.edit(
                    tr("Room: %1").arg(fromCore(field.title)),
                    [&](rig::SetPlan& plan) { plan.*field.value = value * factor; });
            }
            show(done);
            if (!done) edit->markRefused();
        });
        connect(edit, &NumberEdit::refused, this, [this](const base::Error& error) {
            show(tl::unexpected(error));
        });
    }
    auto* feet = new QCheckBox(tr("Show &feet"), page);
    feet->setObjectName(u"feetCheck"_s);
    feet->setChecked(m_controller.plan().isInFeet);
    connect(feet, &QCheckBox::clicked, this, [this](bool isOn) {
        show(m_controller.edit(tr("Metres or feet"),
                               [isOn](rig::SetPlan& plan) { plan.isInFeet = isOn; }));
    });
    form->addRow(QString(), feet);
    form->addRow(makeNote(
        tr("The right and the front wall move; what stands keeps its distance from the left and "
           "the "
           "back wall. Light that walls give back fills shadows: white about 0.8, mid grey 0.18, "
           "dark paper 0.05."),
        page));
    return page;
}

void RoomDialog::addCircuits(QFormLayout* form) {
    const auto& circuits = m_controller.plan().circuits;
    for (std::size_t i = 0; i < circuits.size(); ++i) {
        auto* row = new QHBoxLayout;
        for (const auto& field : rig::circuitFields().numbers) {
            auto* edit = new NumberEdit(u"circuit%1-%2"_s.arg(i).arg(QString::fromUtf8(field.key)),
                                        fromCore(field.title),
                                        form->parentWidget());
            edit->setValue(circuits[i].*field.value, field.decimals);
            edit->setMaximumWidth(70);
            row->addWidget(edit);
            row->addWidget(
                makeLabel(QString::fromUtf8(field.unit), "dim", QString(), form->parentWidget()));
            connect(edit, &NumberEdit::entered, this, [this, edit, &field, i](double value) {
                const auto done = m_controller.edit(tr("Circuit: %1").arg(fromCore(field.title)),
                                                    [&](rig::SetPlan& plan) {
                                                        if (i < plan.circuits.size())
                                                            plan.circuits[i].*field.value = value;
                                                    });
                show(done);
                if (!done) edit->markRefused();
            });
        }
        row->addStretch();
        form->addRow(plain(circuits[i].name), row);
    }
}

QWidget* RoomDialog::buildSuppliesPage() {
    auto* page = new QWidget(this);
    auto* form = new QFormLayout(page);
    form->addRow(makeNote(
        tr("Voltage, breaker and what else hangs on each circuit. Ask a licensed electrician for "
           "anything beyond plugging in a sound, certified device."),
        page));
    addCircuits(form);
    auto* add = makeButton(tr("&Add a circuit"), u"addCircuitButton"_s, QString(), page);
    form->addRow(QString(), add);
    connect(add, &QPushButton::clicked, this, [this, form, add] {
        show(m_controller.edit(tr("Add a circuit"), [](rig::SetPlan& plan) {
            rig::Circuit circuit;
            circuit.id = "circuit-" + std::to_string(plan.circuits.size() + 1);
            circuit.name = "Circuit " + std::to_string(plan.circuits.size() + 1);
            if (!plan.circuits.empty()) circuit.volts = plan.circuits.back().volts;
            plan.circuits.push_back(circuit);
        }));
        add->setEnabled(false);
        add->setText(tr("Added: open this again to set it"));
    });
    auto* lenses = new QLineEdit(lensText(m_controller.plan().lenses), page);
    lenses->setObjectName(u"lensesEdit"_s);
    lenses->setAccessibleName(tr("Lenses you own"));
    auto* label = makeLabel(tr("&Lenses you own"), nullptr, QString(), page);
    label->setBuddy(lenses);
    form->addRow(label, lenses);
    form->addRow(makeNote(tr("Such as: 24 f/2.8, 50 f/1.8, 24-70 f/2.8"), page));
    connect(
        lenses, &QLineEdit::editingFinished, this, [this, lenses] { setLenses(lenses->text()); });
    return page;
}

void RoomDialog::setLenses(const QString& text) {
    const auto lenses = lensesOf(text);
    if (!lenses) {
        show(tl::unexpected(lenses.error()));
        return;
    }
    show(m_controller.edit(tr("Lenses"), [&](rig::SetPlan& plan) { plan.lenses = *lenses; }));
}

QWidget* RoomDialog::buildChoicesPage() {
    auto* page = new QWidget(this);
    auto* form = new QFormLayout(page);
    const rig::Choices& choices = m_controller.shown().choices;
    for (const auto& field : rig::choiceFields().numbers) {
        const bool isAboutPictures = field.value == &rig::Choices::deliveryWidthPx ||
                                     field.value == &rig::Choices::deliveryHeightPx ||
                                     field.value == &rig::Choices::largestZoom;
        if (!isAboutPictures) continue;
        auto* edit =
            new NumberEdit(QString::fromUtf8(field.key) + u"Edit"_s, fromCore(field.title), page);
        edit->setValue(choices.*field.value, field.decimals);
        auto* label =
            makeLabel(tr("%1, %2").arg(fromCore(field.title), QString::fromUtf8(field.unit)),
                      nullptr,
                      QString(),
                      page);
        label->setBuddy(edit);
        form->addRow(label, edit);
        connect(edit, &NumberEdit::entered, this, [this, edit, &field](double value) {
            const auto done = m_controller.editChoices(
                fromCore(field.title), [&](rig::Choices& next) { next.*field.value = value; });
            show(done);
            if (!done) edit->markRefused();
        });
    }
    auto* upright = new QCheckBox(tr("An &upright 9:16 version is cut out of the frames"), page);
    upright->setObjectName(u"uprightCheck"_s);
    upright->setChecked(choices.isUprightWanted);
    connect(upright, &QCheckBox::clicked, this, [this](bool isOn) {
        show(m_controller.editChoices(tr("Upright cut"),
                                      [isOn](rig::Choices& next) { next.isUprightWanted = isOn; }));
    });
    form->addRow(QString(), upright);
    for (const rig::School& school : rig::schools()) {
        const bool isAboutSet = school.key == "key" || school.key == "mood" ||
                                school.key == "headroom" || school.key == "placing" ||
                                school.key == "daylight";
        if (!isAboutSet) continue;
        auto* box = new QComboBox(page);
        box->setObjectName(plain(school.key) + u"SchoolBox"_s);
        box->setAccessibleName(fromCore(school.question));
        for (const auto& option : school.options)
            box->addItem(fromCore(option.title), plain(option.value));
        box->setCurrentIndex(box->findData(plain(choices.*school.field)));
        auto* label = makeLabel(fromCore(school.question), nullptr, QString(), page);
        label->setBuddy(box);
        form->addRow(label, box);
        form->addRow(QString(), makeNote(fromCore(school.why), page));
        connect(box, &QComboBox::activated, this, [this, box, &school](int index) {
            show(m_controller.editChoices(fromCore(school.question), [&](rig::Choices& next) {
                next.*school.field = box->itemData(index).toString().toStdString();
            }));
        });
    }
    return page;
}

LayoutNameDialog::LayoutNameDialog(const QString& suggestion, QWidget* parent) : QDialog(parent) {
    setObjectName(u"layoutNameDialog"_s);
    setWindowTitle(tr("Save as a layout"));
    auto* layout = new QVBoxLayout(this);
    auto* label = makeLabel(tr("&Name of the layout"), nullptr, QString(), this);
    m_title = new QLineEdit(suggestion, this);
    m_title->setObjectName(u"layoutNameEdit"_s);
    m_title->setAccessibleName(tr("Name of the layout"));
    m_title->setMaxLength(60);
    m_title->selectAll();
    label->setBuddy(m_title);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel, this);
    layout->addWidget(label);
    layout->addWidget(m_title);
    layout->addWidget(
        makeNote(tr("It is kept as a file in your data folder and can start any rig."), this));
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

QString LayoutNameDialog::title() const { return m_title->text(); }

LargePictureDialog::LargePictureDialog(SetController& controller,
                                       const QString& cameraId,
                                       QWidget* parent)
    : QDialog(parent),
      m_controller(controller),
      m_cameraId(cameraId),
      m_view(new PredictedPicture(cameraId, this)),
      m_pictures(new PredictedPictures(this)) {
    setObjectName(u"largePictureDialog"_s);
    setWindowTitle(tr("Predicted picture"));
    auto* layout = new QVBoxLayout(this);
    m_view->setLarge(true);
    m_view->setObjectName(u"largePicture"_s);
    layout->addWidget(m_view, 1);
    layout->addWidget(makeNote(
        tr("Lines: thirds. Marks at the edges: eye line. Dashed: 9:16 cut. Dotted: 1:1 cut."),
        this));
    connect(m_pictures,
            &PredictedPictures::pictureReady,
            m_view,
            [this](const QString& id, const QImage& picture) {
                if (id == m_cameraId) m_view->setPicture(picture);
            });
    connect(m_view, &PredictedPicture::clicked, this, &QDialog::accept);
    connect(&controller, &SetController::changed, this, &LargePictureDialog::refresh);
    resize(parent->window()->size() * 0.82);
    refresh();
}

void LargePictureDialog::refresh() {
    for (const plan::PlacedCamera& camera : m_controller.analysis().cameras()) {
        if (plain(camera.camera->id) != m_cameraId) continue;
        m_view->setCamera(plain(camera.camera->letter),
                          plain(camera.camera->role),
                          tr("%1 mm").arg(camera.camera->lens.focalLengthMm, 0, 'f', 0));
        std::optional<double> eyes;
        double middle = 0.5;
        if (camera.view && camera.subject != nullptr) {
            if (const auto box = plan::headBox(*camera.view, *camera.subject)) {
                eyes = box->eyes.y;
                if (plan::shotSizeOf(camera.place->shot).headShare > 0.0) middle = box->eyes.x;
            }
        }
        m_view->setGuides(eyes, middle, true);
    }
    // Only this camera: the others need not be drawn.
    rig::Rig one = m_controller.shown();
    one.cameras.removeIf(
        [this](const rig::Camera& camera) { return plain(camera.id) != m_cameraId; });
    m_pictures->request(one, jobs::PictureCare::Whole, 960);
}

}  // namespace rigmatch::app
