// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/cameras_screen.h"

#include <QHeaderView>
#include <QStackedWidget>
#include <QTableView>

#include "app/models/cameras_model.h"
#include "app/screens/cameras/camera_form.h"
#include "app/screens/cameras/cameras_controller.h"
#include "app/screens/cameras/cameras_delegate.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

}  // namespace

CamerasScreen::CamerasScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_controller(new CamerasController(context, this)),
      m_model(new CamerasModel(this)) {
    setObjectName(u"camerasScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 14, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    buildTable();
    m_form = new CameraForm(*m_controller, this);
    m_pages = new QStackedWidget(this);
    auto* empty = makeLabel(tr("No camera yet.\n\nAdd the camera that is on screen longest first: "
                               "it becomes the reference.\n"
                               "Then add the others and set each one's body, lens and settings as "
                               "they are on the set."),
                            "dim",
                            u"camerasEmptyLabel"_s,
                            this);
    empty->setAlignment(Qt::AlignCenter);
    m_pages->addWidget(m_table);
    m_pages->addWidget(empty);
    layout->addWidget(m_pages, 1);
    layout->addWidget(m_form);
    connect(m_controller, &CamerasController::changed, this, &CamerasScreen::refresh);
    refresh();
}

void CamerasScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->addWidget(makeLabel(tr("Cameras"), "title", u"camerasTitle"_s, this));
    m_summary = makeLabel(QString(), "dim", u"camerasSummary"_s, this);
    head->addSpacing(12);
    head->addWidget(m_summary);
    head->addStretch();
    m_reference = makeButton(tr("Make &reference"),
                             u"makeReferenceButton"_s,
                             tr("Match the other cameras to this one"),
                             this);
    m_up = makeButton(tr("Move &up"), u"moveUpButton"_s, tr("Letters follow the order"), this);
    m_down =
        makeButton(tr("Move d&own"), u"moveDownButton"_s, tr("Letters follow the order"), this);
    m_remove = makeButton(tr("R&emove"),
                          u"removeCameraButton"_s,
                          tr("Take this camera and its clips out of the rig"),
                          this);
    m_add = makeButton(tr("&Add camera"), u"addCameraButton"_s, tr("Up to eight cameras"), this);
    for (QPushButton* button : {m_reference, m_up, m_down, m_remove, m_add})
        head->addWidget(button);
    layout->addLayout(head);
    connect(m_reference, &QPushButton::clicked, m_controller, &CamerasController::makeReference);
    connect(m_up, &QPushButton::clicked, m_controller, [this] { m_controller->moveCurrent(-1); });
    connect(m_down, &QPushButton::clicked, m_controller, [this] { m_controller->moveCurrent(1); });
    connect(m_remove, &QPushButton::clicked, m_controller, &CamerasController::removeCurrent);
    connect(m_add, &QPushButton::clicked, m_controller, &CamerasController::addCamera);
}

void CamerasScreen::buildTable() {
    m_table = new QTableView(this);
    m_table->setObjectName(u"camerasTable"_s);
    m_table->setAccessibleName(tr("Cameras of the rig"));
    m_table->setModel(m_model);
    m_table->setItemDelegate(new CamerasDelegate(m_table));
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setTabKeyNavigation(false);
    m_table->setWordWrap(true);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(52);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    m_table->horizontalHeader()->setHighlightSections(false);
    using Column = CamerasModel::Column;
    const std::array<std::pair<Column, int>, 5> widths{{{Column::Camera, 160},
                                                        {Column::Body, 176},
                                                        {Column::Exposure, 196},
                                                        {Column::Colour, 186},
                                                        {Column::Recording, 140}}};
    for (const auto& [column, width] : widths)
        m_table->setColumnWidth(static_cast<int>(column), width);
    m_table->horizontalHeader()->setStretchLastSection(true);
    connect(m_table->selectionModel(),
            &QItemSelectionModel::currentRowChanged,
            this,
            [this](const QModelIndex& now) { selectRow(now.row()); });
}

void CamerasScreen::selectRow(int row) {
    const auto& cameras = m_controller->rig().cameras;
    if (row >= 0 && row < static_cast<int>(cameras.size()))
        m_controller->select(plain(cameras[static_cast<std::size_t>(row)].id));
}

void CamerasScreen::refresh() {
    const rig::Rig& rig = m_controller->rig();
    m_model->setRig(rig);
    m_pages->setCurrentIndex(rig.cameras.empty() ? 1 : 0);
    const rig::Camera* camera = m_controller->current();
    for (std::size_t i = 0; camera != nullptr && i < rig.cameras.size(); ++i) {
        if (rig.cameras[i].id != camera->id || m_table->currentIndex().row() == static_cast<int>(i))
            continue;
        m_table->selectRow(static_cast<int>(i));
    }
    m_form->showCurrent();
    const int flagged = m_model->flaggedCameras();
    m_summary->setText(
        flagged == 0
            ? counted(static_cast<int>(rig.cameras.size()), tr("1 camera"), tr("%1 cameras"))
            : tr("%1 of %2 cameras want attention").arg(flagged).arg(rig.cameras.size()));
    m_add->setEnabled(m_controller->canAdd());
    m_remove->setEnabled(camera != nullptr);
    m_up->setEnabled(m_controller->canMove(-1));
    m_down->setEnabled(m_controller->canMove(1));
    m_reference->setEnabled(camera != nullptr && camera->id != rig.referenceId);
}

}  // namespace rigmatch::app
