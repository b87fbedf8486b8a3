// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/what_if_panel.h"

#include <QGridLayout>
#include <QScrollArea>
#include <QSlider>

#include "app/screens/match/match_controller.h"
#include "app/services/images.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "words/try_text.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

constexpr int kPictureWidth = 160, kPictureHeight = 90;
constexpr int kTitleWidth = 104, kValueWidth = 138;

}  // namespace

WhatIfPanel::WhatIfPanel(AppContext& context, MatchController& controller, QWidget* parent)
    : QFrame(parent), m_context(context), m_controller(controller) {
    setObjectName(u"whatIfPanel"_s);
    setProperty("card", true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 8, 10, 8);
    layout->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(makeLabel(tr("What if"), "heading", u"whatIfTitle"_s, this));
    head->addSpacing(8);
    buildTabs(head);
    head->addStretch();
    buildButtons(head);
    layout->addLayout(head);
    auto* body = new QHBoxLayout;
    body->setSpacing(10);
    buildControls(body);
    buildPictures(body);
    layout->addLayout(body, 1);
}

void WhatIfPanel::buildButtons(QHBoxLayout* head) {
    m_reset = makeButton(
        tr("As sho&t"), u"resetTriedButton"_s, tr("Put this camera back to how it was shot"), this);
    m_drop = makeButton(
        tr("&Drop"), u"dropTriedButton"_s, tr("Forget what was tried; nothing changes"), this);
    m_keep = makeButton(tr("&Keep"),
                        u"keepTriedButton"_s,
                        tr("Write these settings to the cameras, as if they had been turned"),
                        this);
    for (QPushButton* button : {m_reset, m_drop, m_keep}) head->addWidget(button);
    connect(m_keep, &QPushButton::clicked, &m_controller.whatIf(), &WhatIf::keep);
    connect(m_drop, &QPushButton::clicked, &m_controller.whatIf(), &WhatIf::drop);
    connect(m_reset, &QPushButton::clicked, this, [this] {
        m_controller.whatIf().resetCamera(m_cameraId);
    });
}

void WhatIfPanel::buildControls(QHBoxLayout* body) {
    m_area = new QScrollArea(this);
    m_area->setObjectName(u"whatIfControls"_s);
    m_area->setAccessibleName(tr("Controls of the camera, to be tried"));
    m_area->setWidgetResizable(true);
    m_area->setFrameShape(QFrame::NoFrame);
    m_area->setFocusPolicy(Qt::NoFocus);
    m_area->setStyleSheet(
        u"QScrollArea, QWidget#whatIfRows { border: none; background: transparent; }"_s);
    body->addWidget(m_area, 1);
    m_empty = makeLabel(tr("Of a camera without a chart nothing tells what a turn would do: show "
                           "it the chart, or choose another camera."),
                        "dim",
                        u"whatIfEmpty"_s,
                        this);
    m_empty->setWordWrap(true);
    m_empty->setAlignment(Qt::AlignCenter);
    body->addWidget(m_empty, 1);
}

void WhatIfPanel::buildPictures(QHBoxLayout* body) {
    auto* pictures = new QVBoxLayout;
    pictures->setSpacing(2);
    for (auto [picture, name, key] :
         {std::tuple{&m_reference, &m_referenceName, u"whatIfReference"_s},
          {&m_picture, &m_pictureName, u"whatIfPicture"_s}}) {
        *name = makeLabel(QString(), "dim", key + u"Name"_s, this);
        (*name)->setFont(theme::font(11));
        *picture = makeLabel(QString(), nullptr, key, this);
        (*picture)->setFixedSize(kPictureWidth, kPictureHeight);
        (*picture)->setAlignment(Qt::AlignCenter);
        pictures->addWidget(*name);
        pictures->addWidget(*picture);
    }
    pictures->addStretch();
    body->addLayout(pictures);
}

void WhatIfPanel::buildTabs(QHBoxLayout* row) {
    m_group = new QButtonGroup(this);
    m_tabs = new QHBoxLayout;
    m_tabs->setSpacing(2);
    row->addLayout(m_tabs);
}

void WhatIfPanel::fillTabs() {
    std::vector<std::string> ids;
    for (const rig::Camera& camera : m_controller.rig().cameras) ids.push_back(camera.id);
    if (ids == m_tabIds) return;
    m_tabIds = ids;
    qDeleteAll(m_group->buttons());
    for (const rig::Camera& camera : m_controller.rig().cameras) {
        QPushButton* tab =
            makeTab(plain(camera.letter),
                    u"tryCamera%1"_s.arg(plain(camera.letter)),
                    tr("Turn camera %1, %2").arg(plain(camera.letter), plain(camera.role)),
                    m_group,
                    this);
        tab->setAccessibleName(tr("Try camera %1").arg(plain(camera.letter)));
        connect(tab, &QPushButton::clicked, this, [this, id = camera.id] { showCamera(id); });
        m_tabs->addWidget(tab);
    }
}

void WhatIfPanel::showCamera(const std::string& cameraId) {
    m_cameraId = cameraId;
    if (m_controller.whatIf().isOn()) refresh();
}

void WhatIfPanel::refresh() {
    fillTabs();
    if (rig::findCamera(m_controller.rig(), m_cameraId) == nullptr && !m_tabIds.empty())
        m_cameraId = m_tabIds.front();
    const auto buttons = m_group->buttons();
    for (int i = 0; i < buttons.size(); ++i)
        buttons[i]->setChecked(m_tabIds[static_cast<std::size_t>(i)] == m_cameraId);
    fillRows();
    refreshRows();
    refreshPictures();
    const bool isTried = m_controller.whatIf().isAnythingTried();
    m_keep->setEnabled(isTried && m_controller.isNewestTake());
    m_reset->setEnabled(!m_controller.whatIf().stageOf(m_cameraId).isIdentity());
}

void WhatIfPanel::fillRows() {
    const auto controls = m_controller.whatIf().controlsOf(m_cameraId);
    m_area->setVisible(!controls.empty());
    m_empty->setVisible(controls.empty());
    const auto isSame = [](const jobs::TryControl& a, const jobs::TryControl& b) {
        return a.control == b.control && a.knob == b.knob && a.values == b.values &&
               a.isAmount == b.isAmount && a.shot == b.shot;
    };
    const bool isThere =
        std::equal(controls.begin(), controls.end(), m_controls.begin(), m_controls.end(), isSame);
    if (isThere && m_area->widget() != nullptr) return;
    m_controls = controls;
    m_rows.clear();
    auto* inside = new QWidget(m_area);
    inside->setObjectName(u"whatIfRows"_s);
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 6, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(6);
    for (std::size_t i = 0; i < controls.size(); ++i) {
        const jobs::TryControl& control = controls[i];
        const QString title = fromCore(words::tryTitle(control));
        auto* name = makeLabel(title, nullptr, QString(), inside);
        name->setFixedWidth(kTitleWidth);
        auto* slider = new QSlider(Qt::Horizontal, inside);
        slider->setObjectName(u"try%1"_s.arg(i));
        slider->setAccessibleName(title);
        slider->setRange(0, static_cast<int>(control.values.size()) - 1);
        slider->setSingleStep(1);
        slider->setPageStep(3);
        auto* value = makeLabel(QString(), nullptr, u"tryValue%1"_s.arg(i), inside);
        value->setFixedWidth(kValueWidth);
        const int row = static_cast<int>(i);
        grid->addWidget(name, row, 0);
        grid->addWidget(slider, row, 1);
        grid->addWidget(value, row, 2);
        connect(slider, &QSlider::valueChanged, this, [this, control](int index) {
            m_controller.whatIf().turn(m_cameraId, control, static_cast<std::size_t>(index));
        });
        m_rows.push_back({control, slider, value});
    }
    grid->setRowStretch(static_cast<int>(controls.size()), 1);
    m_area->setWidget(inside);
}

void WhatIfPanel::refreshRows() {
    const jobs::Tried tried = m_controller.whatIf().triedOf(m_cameraId);
    for (const Row& row : m_rows) {
        const std::size_t index = jobs::triedIndex(row.control, tried);
        const QSignalBlocker blocker(row.slider);
        row.slider->setValue(static_cast<int>(index));
        const QString now = fromCore(words::tryText(row.control, index));
        const bool isTurned = index != row.control.shot;
        row.value->setText(
            isTurned && !row.control.isAmount
                ? tr("%1 → %2").arg(fromCore(words::tryText(row.control, row.control.shot)), now)
                : now);
        row.value->setStyleSheet(isTurned ? QString() : u"color: #a5a5a5;"_s);
        row.slider->setAccessibleDescription(row.value->text());
    }
}

void WhatIfPanel::refreshPictures() {
    const std::string& reference = m_controller.report().referenceId;
    paint(reference, m_reference, m_referenceName);
    const bool isOther = m_cameraId != reference;
    m_picture->setVisible(isOther);
    m_pictureName->setVisible(isOther);
    if (isOther) paint(m_cameraId, m_picture, m_pictureName);
}

void WhatIfPanel::paint(const std::string& cameraId, QLabel* place, QLabel* caption) {
    const rig::Take* take = m_controller.take();
    const rig::Shot* shot = take == nullptr ? nullptr : rig::findShot(*take, cameraId);
    const rig::Camera* camera = rig::findCamera(m_controller.rig(), cameraId);
    if (shot == nullptr || camera == nullptr || !shot->reading) {
        place->clear();
        caption->clear();
        return;
    }
    const jobs::StageMap stage = m_controller.whatIf().stageOf(cameraId);
    caption->setText((stage.isIdentity() ? tr("%1 as shot") : tr("%1 as tried, predicted"))
                         .arg(plain(camera->letter)));
    const Frame& held = m_frames[plain(cameraId)];
    const QString key = plain(shot->media.string()) +
                        u"|%1"_s.arg(jobs::secondsOf(*shot->reading, jobs::Moment::Faces));
    if (held.key != key) {
        m_frames[plain(cameraId)] = {key, std::nullopt};
        load(cameraId, *shot);
        return;
    }
    if (!held.frame) return;
    const int width = static_cast<int>(kPictureWidth * devicePixelRatioF());
    QImage image = imageOf(held.frame->smallPicture(stage, width));
    image.setDevicePixelRatio(1.0);
    QPixmap shown = QPixmap::fromImage(image.scaled(
        place->size() * devicePixelRatioF(), Qt::KeepAspectRatio, Qt::SmoothTransformation));
    shown.setDevicePixelRatio(devicePixelRatioF());
    place->setPixmap(shown);
}

void WhatIfPanel::load(const std::string& cameraId, const rig::Shot& shot) {
    using Loaded = base::Result<jobs::ComparedFrame>;
    const QString key = m_frames[plain(cameraId)].key;
    m_context.jobs.start<Loaded>(
        tr("Loading the picture"),
        this,
        [media = shot.media,
         seconds = jobs::secondsOf(*shot.reading, jobs::Moment::Faces),
         codes = jobs::codeReading(shot)](const base::Progress&) {
            return jobs::ComparedFrame::load(media, seconds, codes);
        },
        [this, cameraId, key](const Loaded& loaded) {
            Frame& held = m_frames[plain(cameraId)];
            if (held.key != key || !loaded) return;  // a missing clip shows no picture
            held.frame = *loaded;
            if (m_controller.whatIf().isOn()) refreshPictures();
        });
}

}  // namespace rigmatch::app
