// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/shot_list_panel.h"

#include <QHBoxLayout>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/models/shot_list_model.h"
#include "app/screens/test_take/shot_delegate.h"
#include "app/screens/test_take/shot_facts.h"
#include "app/screens/test_take/take_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

ShotListPanel::ShotListPanel(TakeController& controller, QWidget* parent)
    : QWidget(parent), m_controller(controller), m_model(new ShotListModel(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    m_list = new QListView(this);
    m_list->setObjectName(u"shotList"_s);
    m_list->setAccessibleName(tr("Clips of this take, one per camera and source"));
    m_list->setModel(m_model);
    m_list->setItemDelegate(new ShotDelegate(m_list));
    m_list->setAcceptDrops(true);
    m_list->setDropIndicatorShown(true);
    m_list->setDragDropMode(QAbstractItemView::DropOnly);
    m_list->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked);
    layout->addWidget(m_list, 1);
    auto* row = new QHBoxLayout;
    m_addSource = makeButton(
        tr("Add s&ource"),
        u"addSourceButton"_s,
        tr("A sound recorder, or a recording of the switcher or a computer: it takes part in "
           "takes, and is never matched. F2 renames it."),
        this);
    auto* menu = new QMenu(m_addSource);
    menu->setObjectName(u"addSourceMenu"_s);
    for (const auto kind :
         {rig::SourceKind::SoundRecorder, rig::SourceKind::Switcher, rig::SourceKind::Computer}) {
        menu->addAction(
            kindText(kind), &m_controller, [this, kind] { m_controller.addSource(kind); });
    }
    m_addSource->setMenu(menu);
    m_removeSource = makeButton(tr("Remo&ve source"),
                                u"removeSourceButton"_s,
                                tr("Take this source and its files out of the rig; files stay"),
                                this);
    row->addWidget(m_addSource);
    row->addWidget(m_removeSource);
    row->addStretch();
    layout->addLayout(row);
    connect(m_removeSource, &QPushButton::clicked, &m_controller, &TakeController::removeSource);
    connect(m_model, &ShotListModel::filesDropped, this, &ShotListPanel::filesDropped);
    connect(m_model, &ShotListModel::renamed, &m_controller, &TakeController::renameSource);
    connect(m_list->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            [this](const QModelIndex& now) {
                if (now.isValid())
                    m_controller.select(now.data(ShotListModel::CameraIdRole).toString());
            });
}

void ShotListPanel::refresh() {
    QVector<ShotListModel::Row> rows;
    int current = -1;
    const rig::Take* take = m_controller.take();
    const auto add = [&](ShotListModel::Row row, const std::string& id) {
        const rig::Shot* shot = take == nullptr ? nullptr : rig::findShot(*take, id);
        const QString key = plain(id);
        if (id == m_controller.selectedId()) current = static_cast<int>(rows.size());
        putShot(shot,
                take != nullptr && rig::showsChart(*take) && !row.isRenamable,
                m_controller.isMeasuring(key) ? m_controller.measuredShare(key) : -1.0,
                row);
        if (shot != nullptr && m_controller.isMissing(*shot)) {
            row.state = tr("file not found: Find missing clips…");
            row.attention = ShotListModel::Attention::Off;
        } else if (shot != nullptr && m_controller.hasOtherContent(*shot)) {
            row.state = tr("another file has this name now: measure it again");
            row.attention = ShotListModel::Attention::Near;
        }
        rows << row;
    };
    for (const rig::Camera& camera : m_controller.rig().cameras)
        add({plain(camera.id), plain(camera.letter), plain(camera.role)}, camera.id);
    int number = 0;
    for (const rig::Source& source : m_controller.rig().sources) {
        ShotListModel::Row row{plain(source.id), QString::number(++number), plain(source.name)};
        row.isRenamable = true;
        add(row, source.id);
    }
    m_model->setRows(rows);
    if (current >= 0 && m_list->currentIndex().row() != current)
        m_list->setCurrentIndex(m_model->index(current));
    m_addSource->setEnabled(m_controller.rig().sources.size() < rig::kMostSources);
    m_removeSource->setVisible(m_controller.source() != nullptr);
}

}  // namespace rigmatch::app
