// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/test_take_screen.h"

#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QListView>
#include <QScrollArea>

#include "app/models/shot_list_model.h"
#include "app/screens/test_take/shot_delegate.h"
#include "app/screens/test_take/shot_facts.h"
#include "app/screens/test_take/take_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/frame_view.h"
#include "jobs/picture_job.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

TestTakeScreen::TestTakeScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_context(context),
      m_controller(new TakeController(context, this)),
      m_model(new ShotListModel(this)) {
    setObjectName(u"testTakeScreen"_s);
    setAcceptDrops(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 14, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    auto* body = new QHBoxLayout;
    body->setSpacing(12);
    body->addWidget(buildList());
    auto* right = new QVBoxLayout;
    right->setSpacing(10);
    right->addWidget(buildPicture(), 3);
    right->addWidget(buildFacts(), 1);
    body->addLayout(right, 1);
    layout->addLayout(body, 1);
    connect(m_controller, &TakeController::changed, this, &TestTakeScreen::refresh);
    connect(m_controller, &TakeController::failed, this, [this](const base::Error& error) {
        m_context.prompter.showError(this, error);
    });
    refresh();
}

void TestTakeScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->addWidget(makeLabel(tr("Test take"), "title", u"testTakeTitle"_s, this));
    m_summary = makeLabel(QString(), "dim", u"takeSummary"_s, this);
    head->addSpacing(12);
    head->addWidget(m_summary);
    head->addStretch();
    m_missing = makeButton(tr("Find &missing clips…"),
                           u"findMissingButton"_s,
                           tr("Look for clips by name in another folder"),
                           this);
    m_newTake = makeButton(
        tr("&New take"), u"newTakeButton"_s, tr("An empty take for another round"), this);
    m_files = makeButton(tr("&Clips…"),
                         u"chooseClipsButton"_s,
                         tr("Choose clips or stills; letters in their names say which camera"),
                         this);
    m_folder = makeButton(tr("F&older…"),
                          u"chooseFolderButton"_s,
                          tr("Choose the folder with this take's clips"),
                          this);
    m_shoot = makeButton(tr("&Shoot"),
                         u"shootButton"_s,
                         tr("Let the simulated cameras shoot a take with their present settings"),
                         this);
    m_cancel = makeButton(
        tr("Cance&l"), u"cancelButton"_s, tr("Stop measuring and shooting; nothing is lost"), this);
    m_shoot->setProperty("primary", true);
    for (QPushButton* button : {m_missing, m_cancel, m_newTake, m_files, m_folder, m_shoot})
        head->addWidget(button);
    layout->addLayout(head);
    connect(m_newTake, &QPushButton::clicked, m_controller, &TakeController::newTake);
    connect(m_shoot, &QPushButton::clicked, m_controller, &TakeController::shoot);
    connect(m_cancel, &QPushButton::clicked, m_controller, &TakeController::cancel);
    connect(m_missing, &QPushButton::clicked, this, &TestTakeScreen::findMissing);
    connect(m_files, &QPushButton::clicked, this, [this] {
        m_context.files.openMedia(this,
                                  [this](const QStringList& files) { take(files, QString()); });
    });
    connect(m_folder, &QPushButton::clicked, this, [this] {
        m_context.files.openFolder(
            this, tr("Folder with this take's clips"), [this](const QString& folder) {
                if (!folder.isEmpty()) m_controller->assignFolder(folder);
            });
    });
}

QWidget* TestTakeScreen::buildList() {
    m_list = new QListView(this);
    m_list->setObjectName(u"shotList"_s);
    m_list->setAccessibleName(tr("Clips of this take, one per camera"));
    m_list->setModel(m_model);
    m_list->setItemDelegate(new ShotDelegate(m_list));
    m_list->setFixedWidth(276);
    m_list->setAcceptDrops(true);
    m_list->setDropIndicatorShown(true);
    m_list->setDragDropMode(QAbstractItemView::DropOnly);
    connect(m_model, &ShotListModel::filesDropped, this, &TestTakeScreen::take);
    connect(m_list->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            [this](const QModelIndex& now) {
                if (now.isValid())
                    m_controller->select(now.data(ShotListModel::CameraIdRole).toString());
            });
    return m_list;
}

QWidget* TestTakeScreen::buildPicture() {
    m_view = new FrameView(this);
    m_view->setObjectName(u"frameView"_s);
    m_view->setToolTip(
        tr("Drag a corner, or press 1 to 4 and move it with the arrow keys\n(Shift: 10 px, Ctrl: a "
           "tenth of a pixel)"));
    connect(m_view, &FrameView::cornersMoved, m_controller, [this](const rig::PictureQuad& quad) {
        m_controller->setCorners(quad, false);
    });
    connect(m_view, &FrameView::cornersSettled, m_controller, [this](const rig::PictureQuad& quad) {
        m_controller->setCorners(quad, true);
    });
    return m_view;
}

QWidget* TestTakeScreen::buildFacts() {
    QFrame* card = makeCard(u"factsCard"_s, this);
    auto* layout = new QVBoxLayout(card);
    auto* head = new QHBoxLayout;
    m_pictureTitle = makeLabel(QString(), "heading", u"factsTitle"_s, card);
    head->addWidget(m_pictureTitle);
    head->addStretch();
    auto* rangeLabel = makeLabel(tr("Read codes &as"), "dim", QString(), card);
    m_range = new QComboBox(card);
    m_range->setObjectName(u"rangeBox"_s);
    m_range->setAccessibleName(tr("Read codes as"));
    m_range->addItem(tr("the file says"), QString());
    m_range->addItem(tr("limited range"), u"limited"_s);
    m_range->addItem(tr("full range"), u"full"_s);
    rangeLabel->setBuddy(m_range);
    connect(m_range, &QComboBox::activated, this, [this](int index) {
        m_controller->setRange(m_range->itemData(index).toString());
    });
    m_findAgain = makeButton(tr("Find &again"),
                             u"findAgainButton"_s,
                             tr("Drop the corners set by hand and look for the chart"),
                             card);
    m_measureAgain = makeButton(
        tr("Measur&e again"), u"measureAgainButton"_s, tr("Read this clip once more"), card);
    m_removeClip = makeButton(tr("&Remove clip"),
                              u"removeClipButton"_s,
                              tr("Take this clip out of the take; the file stays"),
                              card);
    connect(m_findAgain, &QPushButton::clicked, m_controller, &TakeController::findAgain);
    connect(m_measureAgain, &QPushButton::clicked, m_controller, &TakeController::measureAgain);
    connect(m_removeClip, &QPushButton::clicked, m_controller, &TakeController::removeShot);
    for (QWidget* widget : std::initializer_list<QWidget*>{
             rangeLabel, m_range, m_findAgain, m_measureAgain, m_removeClip})
        head->addWidget(widget);
    layout->addLayout(head);
    auto* area = new QScrollArea(card);
    area->setObjectName(u"factsArea"_s);
    area->setAccessibleName(tr("What was found"));
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setStyleSheet(u"QScrollArea { border: none; }"_s);
    m_facts = makeLabel(QString(), nullptr, u"factsLabel"_s, area);
    m_facts->setWordWrap(true);
    m_facts->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    m_facts->setTextFormat(Qt::RichText);
    area->setWidget(m_facts);
    layout->addWidget(area, 1);
    card->setMinimumHeight(150);
    return card;
}

void TestTakeScreen::take(const QStringList& files, const QString& cameraId) {
    if (files.size() == 1 && QFileInfo(files.front()).isDir()) {
        m_controller->assignFolder(files.front());
    } else {
        m_controller->assign(files, cameraId);
    }
}

void TestTakeScreen::dragEnterEvent(QDragEnterEvent* event) {
    if (!m_controller->rig().cameras.empty() && !localFiles(*event->mimeData()).isEmpty())
        event->acceptProposedAction();
}

void TestTakeScreen::dropEvent(QDropEvent* event) {
    const QStringList files = localFiles(*event->mimeData());
    const rig::Camera* camera = m_controller->camera();
    const bool isOnPicture = m_view->geometry().contains(event->position().toPoint());
    // One file on the picture is for the camera shown; anything else is sorted by name.
    take(files,
         isOnPicture && files.size() == 1 && camera != nullptr ? plain(camera->id) : QString());
    event->acceptProposedAction();
}

void TestTakeScreen::findMissing() {
    m_context.files.openFolder(
        this, tr("Folder in which to look for missing clips"), [this](const QString& folder) {
            if (folder.isEmpty()) return;
            const auto [found, missing] = m_controller->relink(folder);
            m_context.prompter.showText(this,
                                        tr("Missing clips"),
                                        tr("%1 found, %2 still missing.").arg(found).arg(missing));
        });
}

void TestTakeScreen::refreshList() {
    QVector<ShotListModel::Row> rows;
    int current = -1;
    for (const rig::Camera& camera : m_controller->rig().cameras) {
        const QString id = plain(camera.id);
        const rig::Shot* shot = m_controller->take() == nullptr
                                    ? nullptr
                                    : rig::findShot(*m_controller->take(), camera.id);
        if (m_controller->camera() != nullptr && camera.id == m_controller->camera()->id)
            current = static_cast<int>(rows.size());
        rows << shotRow(
            camera, shot, m_controller->isMeasuring(id) ? m_controller->measuredShare(id) : -1.0);
    }
    m_model->setRows(rows);
    if (current >= 0 && m_list->currentIndex().row() != current)
        m_list->setCurrentIndex(m_model->index(current));
}

void TestTakeScreen::refresh() {
    refreshList();
    const rig::Shot* shot = m_controller->shot();
    const rig::Camera* camera = m_controller->camera();
    const rig::Take* take = m_controller->take();
    const bool hasChart = shot != nullptr && shot->reading && shot->reading->hasChart;
    m_summary->setText(take == nullptr ? tr("no take yet") : tr("take %1").arg(take->number));
    m_pictureTitle->setText(
        camera == nullptr ? QString()
                          : tr("Camera %1 · %2").arg(plain(camera->letter), plain(camera->role)));
    m_facts->setText(shotFacts(shot));
    const bool isBusy = !m_context.jobs.running().isEmpty();
    m_cancel->setVisible(isBusy);
    m_missing->setVisible(m_controller->missingMedia() > 0);
    m_shoot->setEnabled(m_controller->canShoot());
    m_shoot->setVisible(m_controller->canShoot() || m_controller->isShooting());
    for (QPushButton* button : {m_newTake, m_files, m_folder})
        button->setEnabled(camera != nullptr);
    m_range->setEnabled(shot != nullptr);
    m_range->setCurrentIndex(
        std::max(0, shot == nullptr ? 0 : m_range->findData(plain(shot->rangeOverride))));
    m_findAgain->setEnabled(shot != nullptr && shot->manualCorners.has_value());
    m_measureAgain->setEnabled(shot != nullptr);
    m_removeClip->setEnabled(shot != nullptr);
    std::optional<rig::PictureQuad> corners;
    if (hasChart) corners = shot->reading->corners;
    if (shot != nullptr && shot->manualCorners) corners = shot->manualCorners;
    // Without a chart the corners can still be set by hand: they wait in the middle of the picture.
    if (!corners && shot != nullptr && shot->reading) {
        const double w = shot->reading->width;
        const double h = shot->reading->height;
        corners = rig::PictureQuad{{{0.35 * w, 0.35 * h},
                                    {0.65 * w, 0.35 * h},
                                    {0.65 * w, 0.65 * h},
                                    {0.35 * w, 0.65 * h}}};
    }
    m_view->setChart(corners, hasChart ? shot->reading->patchShare : 0.86);
    loadPicture();
}

void TestTakeScreen::loadPicture() {
    const rig::Shot* shot = m_controller->shot();
    if (shot == nullptr || !shot->failure.empty()) {
        m_shownPicture.clear();
        m_view->setPicture(QImage());
        m_view->setEmptyText(
            m_controller->camera() == nullptr ? tr("Add the rig's cameras first (screen Cameras).")
            : shot == nullptr ? tr("Drop this camera's clip here, or a whole take on the list.")
                              : tr("This file cannot be shown."));
        return;
    }
    const double seconds =
        shot->reading ? 0.5 * (shot->reading->spanStartSeconds + shot->reading->spanEndSeconds)
                      : 0.0;
    const QString key =
        plain(shot->media.string()) + u"|%1|"_s.arg(seconds) + plain(shot->rangeOverride);
    if (key == m_shownPicture ||
        (!shot->reading && m_controller->isMeasuring(plain(shot->cameraId))))
        return;
    m_shownPicture = key;
    using Shown = base::Result<jobs::Picture>;
    m_context.jobs.start<Shown>(
        tr("Loading the picture"),
        this,
        [media = shot->media, seconds, range = shot->rangeOverride](const base::Progress&) {
            return jobs::pictureAt(media, seconds, range);
        },
        [this, key](const Shown& picture) {
            if (key != m_shownPicture) return;
            if (!picture) {
                m_view->setPicture(QImage());
                m_view->setEmptyText(fromCore(base::fullText(picture.error())));
                return;
            }
            const QImage image(picture->rgb.data(),
                               picture->width,
                               picture->height,
                               picture->width * 3,
                               QImage::Format_RGB888);
            m_view->setPicture(image.copy());
        });
}

}  // namespace rigmatch::app
