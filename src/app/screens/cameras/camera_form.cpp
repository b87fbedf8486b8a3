// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/camera_form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>
#include <cmath>

#include "app/screens/cameras/cameras_controller.h"
#include "app/services/texts.h"
#include "app/widgets/badge_label.h"
#include "app/widgets/build.h"
#include "optics/exposure.h"
#include "rig/bodies.h"
#include "rig/turn.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QString sizeText(int width, int height) { return QStringLiteral("%1x%2").arg(width).arg(height); }

QString shownSize(const QString& size) { return QString(size).replace(u'x', u" × "_s); }

/// Refills a box without telling anyone, keeping the present value even where the list lacks it.
void fill(QComboBox* box,
          const QStringList& texts,
          const QList<QVariant>& values,
          const QVariant& present,
          const QString& presentText) {
    const QSignalBlocker quiet(box);
    box->clear();
    for (qsizetype i = 0; i < texts.size(); ++i) box->addItem(texts[i], values[i]);
    int index = -1;
    for (int i = 0; i < box->count(); ++i) {
        const QVariant value = box->itemData(i);
        const bool isSame = value.typeId() == QMetaType::Double
                                ? std::abs(value.toDouble() - present.toDouble()) <
                                      1e-6 * (1.0 + std::abs(present.toDouble()))
                                : value == present;
        if (isSame) index = i;
    }
    if (index < 0) {
        box->insertItem(0, presentText, present);
        index = 0;
    }
    box->setCurrentIndex(index);
    box->setEnabled(box->count() > 1);
}

}  // namespace

CameraForm::CameraForm(CamerasController& controller, QWidget* parent)
    : QFrame(parent), m_controller(controller) {
    setObjectName(u"cameraForm"_s);
    setProperty("card", true);
    auto* layout = new QVBoxLayout(this);
    auto* head = new QHBoxLayout;
    m_badge = new BadgeLabel(this);
    m_title = makeLabel(QString(), "heading", u"cameraFormTitle"_s, this);
    head->addWidget(m_badge);
    head->addWidget(m_title);
    head->addStretch();
    layout->addLayout(head);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(8);
    buildCameraGroup(grid);
    buildExposureGroup(grid);
    buildColourGroup(grid);
    buildRecordingGroup(grid);
    for (int column = 0; column < 4; ++column) {
        grid->setColumnStretch(column * 3 + 1, 1);
        if (column < 3) grid->setColumnMinimumWidth(column * 3 + 2, 14);
    }
    layout->addLayout(grid);
    layout->addStretch();
}

void CameraForm::addGroup(QGridLayout* grid, int column, const QString& title) {
    grid->addWidget(makeLabel(title, "dim", QString(), this), 0, column * 3, 1, 2);
}

void CameraForm::addField(QGridLayout* grid,
                          int row,
                          int column,
                          const QString& label,
                          QWidget* field,
                          const QString& objectName) {
    auto* text = makeLabel(label, nullptr, QString(), this);
    text->setBuddy(field);
    field->setObjectName(objectName);
    field->setAccessibleName(QString(label).remove(u'&'));
    grid->addWidget(text, row, column * 3);
    grid->addWidget(field, row, column * 3 + 1);
}

QComboBox* CameraForm::numberBox(const QString& step,
                                 Number number,
                                 Values values,
                                 std::function<QString(double)> words) {
    auto* box = new QComboBox(this);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(7);
    box->setMaxVisibleItems(16);
    connect(box, &QComboBox::activated, this, [this, box, step, number](int index) {
        const double value = box->itemData(index).toDouble();
        m_controller.edit(
            step, [number, value](rig::Camera& camera) { camera.settings.*number = value; });
    });
    m_refresh.push_back([box, number, values, words](const rig::Camera& camera) {
        QStringList texts;
        QList<QVariant> choices;
        for (double value : camera.sheet.*values) {
            texts << words(value);
            choices << value;
        }
        fill(box, texts, choices, camera.settings.*number, words(camera.settings.*number));
    });
    return box;
}

QCheckBox* CameraForm::automaticBox(const QString& text,
                                    const QString& step,
                                    bool rig::Settings::*flag) {
    auto* box = new QCheckBox(text, this);
    connect(box, &QCheckBox::clicked, this, [this, step, flag](bool isOn) {
        m_controller.edit(step,
                          [flag, isOn](rig::Camera& camera) { camera.settings.*flag = isOn; });
    });
    m_refresh.push_back([box, flag](const rig::Camera& camera) {
        const QSignalBlocker quiet(box);
        box->setChecked(camera.settings.*flag);
    });
    return box;
}

void CameraForm::buildCameraGroup(QGridLayout* grid) {
    addGroup(grid, 0, tr("Camera"));
    m_role = new QLineEdit(this);
    m_role->setMaxLength(60);
    addField(grid, 1, 0, tr("Na&me"), m_role, u"roleEdit"_s);
    connect(m_role, &QLineEdit::editingFinished, this, [this] {
        const std::string role = m_role->text().trimmed().toStdString();
        m_controller.edit(tr("name"), [role](rig::Camera& camera) { camera.role = role; });
    });
    m_body = new QComboBox(this);
    m_body->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_body->setMinimumContentsLength(16);
    for (const rig::BodyKind& kind : rig::bodyKinds()) m_body->addItem(fromCore(kind.name));
    addField(grid, 2, 0, tr("&Body"), m_body, u"bodyBox"_s);
    connect(m_body, &QComboBox::activated, this, [this](int index) {
        if (index < 0 || index >= static_cast<int>(rig::bodyKinds().size())) return;
        m_controller.edit(tr("body"), [index](rig::Camera& camera) {
            rig::applyBodyKind(camera, rig::bodyKinds()[static_cast<std::size_t>(index)]);
        });
    });
    m_sensor = makeLabel(QString(), "dim", u"sensorLabel"_s, this);
    grid->addWidget(makeLabel(tr("Sensor"), nullptr, QString(), this), 3, 0);
    grid->addWidget(m_sensor, 3, 1);
    m_lens = new QComboBox(this);
    m_lens->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_lens->setMinimumContentsLength(16);
    for (const rig::Lens& lens : rig::genericLenses()) m_lens->addItem(fromCore(lens.name));
    addField(grid, 4, 0, tr("&Lens"), m_lens, u"lensBox"_s);
    connect(m_lens, &QComboBox::activated, this, [this](int index) {
        if (index < 0 || index >= static_cast<int>(rig::genericLenses().size())) return;
        m_controller.edit(tr("lens"), [index](rig::Camera& camera) {
            rig::applyLens(camera, rig::genericLenses()[static_cast<std::size_t>(index)]);
        });
    });
}

void CameraForm::buildExposureGroup(QGridLayout* grid) {
    addGroup(grid, 1, tr("Exposure"));
    const auto words = [](rig::Control control) {
        return [control](double value) { return plain(rig::valueText(control, value)); };
    };
    addField(grid,
             1,
             1,
             tr("&ISO"),
             numberBox(tr("ISO"),
                       &rig::Settings::isoValue,
                       &rig::ControlSheet::isoValues,
                       words(rig::Control::Iso)),
             u"isoBox"_s);
    addField(grid,
             2,
             1,
             tr("&Shutter"),
             numberBox(tr("shutter"),
                       &rig::Settings::shutterSeconds,
                       &rig::ControlSheet::shutterSeconds,
                       [](double s) { return plain(optics::shutterText(s)); }),
             u"shutterBox"_s);
    addField(grid,
             3,
             1,
             tr("A&perture"),
             numberBox(tr("aperture"),
                       &rig::Settings::fNumber,
                       &rig::ControlSheet::fNumbers,
                       words(rig::Control::Aperture)),
             u"apertureBox"_s);
    addField(grid,
             4,
             1,
             tr("N&D"),
             numberBox(tr("ND"),
                       &rig::Settings::ndStops,
                       &rig::ControlSheet::ndStops,
                       words(rig::Control::Nd)),
             u"ndBox"_s);
    QCheckBox* automatic = automaticBox(
        tr("automatic exposure"), tr("automatic exposure"), &rig::Settings::isAutoExposure);
    automatic->setObjectName(u"autoExposureBox"_s);
    automatic->setAccessibleName(tr("Automatic exposure"));
    grid->addWidget(automatic, 5, 3, 1, 2);
}

void CameraForm::buildColourGroup(QGridLayout* grid) {
    addGroup(grid, 2, tr("Colour"));
    addField(
        grid,
        1,
        2,
        tr("&White balance"),
        numberBox(tr("white balance"),
                  &rig::Settings::whiteBalanceKelvin,
                  &rig::ControlSheet::kelvins,
                  [](double k) { return plain(rig::valueText(rig::Control::WhiteBalance, k)); }),
        u"kelvinBox"_s);
    addField(grid,
             2,
             2,
             tr("&Tint, + is greener"),
             numberBox(tr("tint"),
                       &rig::Settings::tintSteps,
                       &rig::ControlSheet::tintSteps,
                       [](double t) { return plain(rig::valueText(rig::Control::Tint, t)); }),
             u"tintBox"_s);
    m_profile = new QComboBox(this);
    m_profile->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_profile->setMinimumContentsLength(9);
    addField(grid, 3, 2, tr("P&rofile"), m_profile, u"profileBox"_s);
    connect(m_profile, &QComboBox::activated, this, [this](int index) {
        const std::string name = m_profile->itemData(index).toString().toStdString();
        m_controller.edit(tr("profile"),
                          [name](rig::Camera& camera) { camera.settings.profile = name; });
    });
    QCheckBox* automatic = automaticBox(tr("automatic white balance"),
                                        tr("automatic white balance"),
                                        &rig::Settings::isAutoWhiteBalance);
    automatic->setObjectName(u"autoWhiteBalanceBox"_s);
    automatic->setAccessibleName(tr("Automatic white balance"));
    grid->addWidget(automatic, 5, 6, 1, 2);
}

void CameraForm::buildRecordingGroup(QGridLayout* grid) {
    addGroup(grid, 3, tr("Recording"));
    addField(grid,
             1,
             3,
             tr("&Frame rate"),
             numberBox(tr("frame rate"),
                       &rig::Settings::frameRate,
                       &rig::ControlSheet::frameRates,
                       [this](double rate) { return tr("%1 fps").arg(rate); }),
             u"frameRateBox"_s);
    m_size = new QComboBox(this);
    m_size->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_size->setMinimumContentsLength(10);
    addField(grid, 2, 3, tr("Si&ze"), m_size, u"sizeBox"_s);
    connect(m_size, &QComboBox::activated, this, [this](int index) {
        const QStringList parts = m_size->itemData(index).toString().split(u'x');
        if (parts.size() != 2) return;
        m_controller.edit(tr("size"), [parts](rig::Camera& camera) {
            camera.settings.width = parts[0].toInt();
            camera.settings.height = parts[1].toInt();
        });
    });
}

void CameraForm::showCurrent() {
    const rig::Camera* camera = m_controller.current();
    setEnabled(camera != nullptr);
    if (camera == nullptr) {
        m_badge->setLetter(QString());
        m_title->setText(tr("No camera"));
        return;
    }
    m_badge->setLetter(plain(camera->letter));
    m_title->setText(camera->simulated ? tr("%1 · simulated camera").arg(plain(camera->role))
                                       : plain(camera->role));
    if (!m_role->hasFocus() || m_role->text().trimmed() != plain(camera->role))
        m_role->setText(plain(camera->role));
    m_sensor->setText(fromCore(camera->sensorFormat));
    m_body->setCurrentIndex(m_body->findText(fromCore(camera->body)));
    if (m_body->currentIndex() < 0) m_body->setPlaceholderText(plain(camera->body));
    m_lens->setCurrentIndex(m_lens->findText(fromCore(camera->lens.name)));
    if (m_lens->currentIndex() < 0) m_lens->setPlaceholderText(plain(camera->lens.name));
    QStringList profiles;
    QList<QVariant> names;
    for (const rig::Profile& profile : camera->sheet.profiles) {
        profiles << fromCore(profile.name);
        names << plain(profile.name);
    }
    fill(m_profile,
         profiles,
         names,
         plain(camera->settings.profile),
         plain(camera->settings.profile));
    QStringList sizes;
    QList<QVariant> sizeData;
    for (const std::string& size : camera->sheet.sizes) {
        sizes << shownSize(plain(size));
        sizeData << plain(size);
    }
    const QString present = sizeText(camera->settings.width, camera->settings.height);
    fill(m_size, sizes, sizeData, present, shownSize(present));
    for (const auto& refresh : m_refresh) refresh(*camera);
}

}  // namespace rigmatch::app
