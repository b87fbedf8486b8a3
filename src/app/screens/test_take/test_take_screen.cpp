// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/test_take_screen.h"

#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenu>
#include <QSlider>
#include <cmath>

#include "app/models/shot_list_model.h"
#include "app/screens/test_take/arrivals_dialog.h"
#include "app/screens/test_take/reference_panel.h"
#include "app/screens/test_take/shot_facts.h"
#include "app/screens/test_take/shot_list_panel.h"
#include "app/screens/test_take/take_controller.h"
#include "app/services/images.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/frame_view.h"
#include "jobs/picture_job.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

TestTakeScreen::TestTakeScreen(AppContext& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_controller(new TakeController(context, this)) {
    setObjectName(u"testTakeScreen"_s);
    setAcceptDrops(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 14, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    auto* body = new QHBoxLayout;
    body->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(10);
    m_list = new ShotListPanel(*m_controller, this);
    m_list->setFixedWidth(276);
    connect(m_list, &ShotListPanel::filesDropped, this, &TestTakeScreen::take);
    left->addWidget(m_list, 1);
    m_reference = new ReferencePanel(this);
    m_reference->setFixedWidth(276);
    left->addWidget(m_reference);
    body->addLayout(left);
    auto* right = new QVBoxLayout;
    right->setSpacing(10);
    right->addWidget(buildPicture(), 2);
    right->addWidget(buildTimeRow());
    right->addWidget(buildFacts(), 1);
    body->addLayout(right, 1);
    layout->addLayout(body, 1);
    connectController();
    refresh();
}

void TestTakeScreen::connectController() {
    connect(m_controller, &TakeController::changed, this, &TestTakeScreen::refresh);
    connect(m_controller, &TakeController::failed, this, [this](const base::Error& error) {
        m_context.prompter.showError(window(), error);
    });
    connect(m_reference, &ReferencePanel::chosen, m_controller, &TakeController::setReference);
    connect(m_reference, &ReferencePanel::ownChartAsked, this, [this] {
        m_context.files.openChart(
            this, [this](const QString& file) { m_controller->setReference(file); });
    });
    connect(m_reference, &ReferencePanel::cardAsked, this, &TestTakeScreen::writeCard);
    connect(m_controller,
            &TakeController::arrivalsGuessed,
            this,
            [this](const jobs::Arrivals& arrivals) {
                auto* dialog = new ArrivalsDialog(
                    m_controller->rig(), m_controller->take(), arrivals, window());
                dialog->setAttribute(Qt::WA_DeleteOnClose);
                connect(dialog, &QDialog::accepted, this, [this, dialog] {
                    m_controller->putArrivals(dialog->arrivals());
                });
                dialog->open();
            });
    connect(m_controller, &TakeController::takenIn, this, [this](const QString& note) {
        m_context.prompter.showText(window(), tr("Clips taken in"), note);
    });
    connect(m_controller, &TakeController::relinked, this, [this](int found, int missing) {
        m_context.prompter.showText(
            this, tr("Missing clips"), tr("%1 found, %2 still missing.").arg(found).arg(missing));
    });
    connect(m_controller, &TakeController::cardWritten, this, [this](const QString& file) {
        m_context.prompter.showText(
            this,
            tr("Card saved"),
            tr("%1\n\nPrint it at 100 % on matte paper, without colour “enhancement”; the scale "
               "must measure 100 mm. A home print is good for matching cameras to each other, not "
               "for absolute colour. Keep paper away from hot lamps.")
                .arg(file));
    });
}

void TestTakeScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->addWidget(makeLabel(tr("Test take"), "title", u"testTakeTitle"_s, this));
    m_summary = makeLabel(QString(), "dim", u"takeSummary"_s, this);
    head->addSpacing(12);
    head->addWidget(m_summary);
    buildPurposes();
    head->addSpacing(12);
    head->addWidget(m_purposes);
    head->addStretch();
    buildButtons(head);
    layout->addLayout(head);
}

void TestTakeScreen::buildPurposes() {
    m_purposes = makeButton(QString(),
                            u"purposesButton"_s,
                            tr("What the take is for: only that is looked for and judged"),
                            this);
    auto* purposes = new QMenu(m_purposes);
    purposes->setObjectName(u"purposesMenu"_s);
    for (const auto& [purpose, text] :
         {std::pair{rig::Purpose::Match, tr("Matching: the chart is looked for, skin is compared")},
          {rig::Purpose::Programme,
           tr("The programme itself: only what harms a recording is told")}}) {
        QAction* action = purposes->addAction(text);
        action->setCheckable(true);
        action->setData(static_cast<int>(purpose));
        connect(action, &QAction::triggered, this, [this, purpose = purpose](bool isOn) {
            m_controller->setPurpose(purpose, isOn);
        });
    }
    m_purposes->setMenu(purposes);
}

void TestTakeScreen::buildButtons(QHBoxLayout* head) {
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
    connect(m_newTake, &QPushButton::clicked, this, [this] { m_controller->newTake(); });
    connect(m_shoot, &QPushButton::clicked, this, [this] { m_controller->shoot(); });
    connect(m_cancel, &QPushButton::clicked, m_controller, &TakeController::cancel);
    connect(m_missing, &QPushButton::clicked, this, &TestTakeScreen::findMissing);
    connect(m_files, &QPushButton::clicked, this, [this] {
        m_context.files.openMedia(this, [this](const QStringList& files) {
            m_controller->takeIn(files, m_context.selection.cameraId());
        });
    });
    connect(m_folder, &QPushButton::clicked, this, [this] {
        m_context.files.openFolder(
            this, tr("Folder with this take's clips"), [this](const QString& folder) {
                if (!folder.isEmpty()) m_controller->takeIn({folder});
            });
    });
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
    connect(m_view, &FrameView::marksChanged, this, &TestTakeScreen::takeMarks);
    connect(m_view, &FrameView::cornersSettled, m_controller, [this](const rig::PictureQuad& quad) {
        m_controller->setCorners(quad, true);
    });
    return m_view;
}

QWidget* TestTakeScreen::buildTimeRow() {
    auto* row = new QWidget(this);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(10);
    m_time = new QSlider(Qt::Horizontal, row);
    m_time->setObjectName(u"timeSlider"_s);
    m_time->setAccessibleName(tr("Moment of the clip"));
    m_time->setToolTip(tr("The frame that is shown; corners and marks set now hold on it"));
    m_time->setSingleStep(40);
    m_time->setPageStep(500);
    m_timeLabel = makeLabel(QString(), "dim", u"timeLabel"_s, row);
    m_timeLabel->setMinimumWidth(108);
    m_mark = makeButton(tr("Mar&k skin"),
                        u"markSkinButton"_s,
                        tr("Draw a box on skin where no face was found; drag it to move it, Delete "
                           "removes it"),
                        row);
    m_mark->setCheckable(true);
    layout->addWidget(m_time, 1);
    layout->addWidget(m_timeLabel);
    layout->addWidget(m_mark);
    m_findAgain = makeButton(tr("Drop m&y corners"),
                             u"findAgainButton"_s,
                             tr("Drop the corners set by hand; the chart is looked for again"),
                             row);
    m_measureAgain = makeButton(tr("Read the file aga&in"),
                                u"measureAgainButton"_s,
                                tr("The file has changed: measure all of it anew"),
                                row);
    m_removeClip = makeButton(tr("Remove cl&ip"),
                              u"removeClipButton"_s,
                              tr("Take this clip out of the take; the file stays"),
                              row);
    connect(m_findAgain, &QPushButton::clicked, m_controller, &TakeController::findAgain);
    connect(m_measureAgain, &QPushButton::clicked, m_controller, &TakeController::measureAgain);
    connect(m_removeClip, &QPushButton::clicked, m_controller, &TakeController::removeShot);
    for (QWidget* widget : {m_findAgain, m_measureAgain, m_removeClip}) layout->addWidget(widget);
    connect(m_time, &QSlider::valueChanged, this, [this](int milliseconds) {
        showMoment(milliseconds / 1000.0);
    });
    connect(m_mark, &QPushButton::toggled, this, [this](bool isOn) {
        m_view->setMarking(isOn);
        if (isOn) m_view->setFocus();
    });
    return row;
}

void TestTakeScreen::takeMarks(const QVector<QRectF>& marks) {
    const rig::Shot* shot = m_controller->shot();
    if (shot == nullptr) return;
    std::vector<rig::SkinMark> next;
    for (const QRectF& box : marks) {
        rig::SkinMark mark{box.left(), box.top(), box.width(), box.height(), shownSeconds()};
        // One that was only kept stays on its own frame.
        for (const rig::SkinMark& old : shot->skinMarks) {
            if (QRectF(old.left, old.top, old.width, old.height) == box)
                mark.atSeconds = old.atSeconds;
        }
        next.push_back(mark);
    }
    m_controller->setSkinMarks(next);
}

double TestTakeScreen::shownSeconds() const {
    if (m_moment) return *m_moment;
    const rig::Shot* shot = m_controller->shot();
    if (shot == nullptr || !shot->reading || shot->reading->isStill) return 0.0;
    if (shot->cornersAtSeconds) return *shot->cornersAtSeconds;
    const rig::Reading& reading = *shot->reading;
    if (reading.hasChart) return 0.5 * (reading.spanStartSeconds + reading.spanEndSeconds);
    return reading.faces.empty() ? 0.5 * reading.durationSeconds : reading.faces.front().atSeconds;
}

void TestTakeScreen::showMoment(double seconds) {
    m_moment = seconds;
    m_controller->setShownSeconds(seconds);
    const rig::Shot* shot = m_controller->shot();
    const double all = shot != nullptr && shot->reading ? shot->reading->durationSeconds : 0.0;
    m_timeLabel->setText(tr("%1 of %2 s").arg(seconds, 0, 'f', 2).arg(all, 0, 'f', 2));
    loadPicture();
}

void TestTakeScreen::take(const QStringList& files, const QString& cameraId) {
    const bool isFolder = files.size() == 1 && QFileInfo(files.front()).isDir();
    if (cameraId.isEmpty() || isFolder)
        m_controller->takeIn(files);
    else
        m_controller->assign(files, cameraId);
}

void TestTakeScreen::takeIn(const QStringList& files) { m_controller->takeIn(files); }

void TestTakeScreen::writeCard() {
    m_context.files.savePdf(window(), u"rig-match-card.pdf"_s, [this](const QString& file) {
        m_controller->writeCard(file);
    });
}

void TestTakeScreen::dragEnterEvent(QDragEnterEvent* event) {
    if (!localFiles(*event->mimeData()).isEmpty()) event->acceptProposedAction();
}

void TestTakeScreen::dropEvent(QDropEvent* event) {
    const QStringList files = localFiles(*event->mimeData());
    const bool isOnPicture = m_view->geometry().contains(event->position().toPoint());
    // One file on the picture is for the source shown; of anything else it is guessed.
    take(files, isOnPicture && files.size() == 1 ? plain(m_controller->selectedId()) : QString());
    event->acceptProposedAction();
}

void TestTakeScreen::findMissing() {
    m_context.files.openFolder(
        this, tr("Folder in which to look for missing clips"), [this](const QString& folder) {
            if (!folder.isEmpty()) m_controller->relink(folder);
        });
}

void TestTakeScreen::refresh() {
    m_list->refresh();
    const rig::Shot* shot = m_controller->shot();
    const rig::Camera* camera = m_controller->camera();
    const rig::Take* take = m_controller->take();
    m_summary->setText(take == nullptr ? tr("no take yet") : tr("take %1").arg(take->number));
    const rig::Source* source = m_controller->source();
    m_pictureTitle->setText(
        camera != nullptr   ? tr("Camera %1 · %2").arg(plain(camera->letter), plain(camera->role))
        : source != nullptr ? plain(source->name)
                            : QString());
    refreshPurposes();
    m_facts->setText(shotFacts(shot));
    const bool isBusy = !m_context.jobs.running().isEmpty();
    m_cancel->setVisible(isBusy);
    m_missing->setVisible(m_controller->missingMedia() > 0);
    m_shoot->setEnabled(m_controller->canShoot());
    m_shoot->setVisible(m_controller->canShoot() || m_controller->isShooting());
    for (QPushButton* button : {m_newTake, m_files, m_folder})
        button->setEnabled(camera != nullptr || source != nullptr);
    m_range->setEnabled(shot != nullptr);
    m_range->setCurrentIndex(
        std::max(0, shot == nullptr ? 0 : m_range->findData(plain(shot->rangeOverride))));
    m_matrix->setEnabled(shot != nullptr);
    m_matrix->setCurrentIndex(
        std::max(0, shot == nullptr ? 0 : m_matrix->findData(plain(shot->matrixOverride))));
    m_primaries->setEnabled(shot != nullptr);
    m_primaries->setCurrentIndex(
        std::max(0, shot == nullptr ? 0 : m_primaries->findData(plain(shot->primariesOverride))));
    m_reference->setReference(plain(m_controller->rig().chart));
    m_reference->setEnabledForCameras(camera != nullptr);
    refreshMoment();
    m_findAgain->setEnabled(shot != nullptr && shot->manualCorners.has_value());
    m_measureAgain->setEnabled(shot != nullptr);
    m_removeClip->setEnabled(shot != nullptr);
    refreshView();
    loadPicture();
}

void TestTakeScreen::refreshPurposes() {
    const rig::Take* take = m_controller->take();
    m_purposes->setEnabled(take != nullptr);
    QStringList names;
    for (const rig::Purpose purpose : rig::kPurposes) {
        if (take != nullptr && rig::isFor(*take, purpose)) names << purposeText(purpose);
    }
    m_purposes->setAccessibleName(tr("What the take is for"));
    m_purposes->setText(take == nullptr ? tr("For…") : tr("For: %1").arg(names.join(u", "_s)));
    for (QAction* action : m_purposes->menu()->actions())
        action->setChecked(take != nullptr &&
                           rig::isFor(*take, static_cast<rig::Purpose>(action->data().toInt())));
}

/// What lies over the picture: the chart, faces and marks.
void TestTakeScreen::refreshView() {
    const rig::Shot* shot = m_controller->shot();
    const bool hasChart = shot != nullptr && shot->reading && shot->reading->hasChart;
    std::optional<rig::PictureQuad> corners;
    if (hasChart) corners = shot->reading->corners;
    if (shot != nullptr && shot->manualCorners) corners = shot->manualCorners;
    const rig::Take* take = m_controller->take();
    const bool isChartWanted =
        take != nullptr && rig::showsChart(*take) && m_controller->camera() != nullptr;
    // Without a chart the corners can still be set by hand: they wait in the middle of the picture.
    const bool isWaiting = !corners && isChartWanted && shot != nullptr && shot->reading;
    if (isWaiting) {
        const double w = shot->reading->width;
        const double h = shot->reading->height;
        corners = rig::PictureQuad{{{0.35 * w, 0.35 * h},
                                    {0.65 * w, 0.35 * h},
                                    {0.65 * w, 0.65 * h},
                                    {0.35 * w, 0.65 * h}}};
    }
    const jobs::ReferenceEntry* reference = m_reference->reference();
    m_view->setChart(corners,
                     hasChart ? shot->reading->patchShare
                              : (reference != nullptr ? reference->patchShare : 0.86),
                     reference != nullptr ? static_cast<int>(reference->columns) : 6,
                     reference != nullptr ? static_cast<int>(reference->rows) : 4);
    m_view->setWaiting(isWaiting, tr("Drag 1 to 4 onto the chart’s corners."));
    QVector<QRectF> faces;
    QVector<QRectF> marks;
    if (shot != nullptr && shot->reading) {
        for (const rig::FaceReading& face : shot->reading->faces) {
            if (!face.isManual) faces << QRectF(face.left, face.top, face.width, face.height);
        }
    }
    if (shot != nullptr) {
        for (const rig::SkinMark& mark : shot->skinMarks)
            marks << QRectF(mark.left, mark.top, mark.width, mark.height);
    }
    m_view->setFaces(faces);
    m_view->setMarks(marks);
}

void TestTakeScreen::refreshMoment() {
    const rig::Shot* shot = m_controller->shot();
    const bool isClip =
        shot != nullptr && shot->reading && !shot->reading->isStill && shot->reading->hasPicture;
    // A moment chosen by hand holds for its clip alone.
    const QString clip =
        shot == nullptr ? QString() : plain(shot->cameraId) + u"|"_s + plain(shot->media.string());
    if (clip != m_momentOf) m_moment.reset();
    m_momentOf = clip;
    const double seconds = shownSeconds();
    m_controller->setShownSeconds(seconds);
    const QSignalBlocker blocker(m_time);
    m_time->setEnabled(isClip);
    m_mark->setEnabled(shot != nullptr && shot->reading && shot->reading->hasPicture);
    m_time->setRange(
        0, isClip ? static_cast<int>(std::lround(1000.0 * shot->reading->durationSeconds)) : 0);
    m_time->setValue(static_cast<int>(std::lround(1000.0 * seconds)));
    m_timeLabel->setText(isClip ? tr("%1 of %2 s")
                                      .arg(seconds, 0, 'f', 2)
                                      .arg(shot->reading->durationSeconds, 0, 'f', 2)
                                : QString());
}

void TestTakeScreen::loadPicture() {
    const rig::Shot* shot = m_controller->shot();
    const bool isSound = shot != nullptr && shot->reading && !shot->reading->hasPicture;
    if (shot == nullptr || !shot->failure.empty() || isSound) {
        m_shownPicture.clear();
        m_view->setPicture(QImage());
        m_view->setEmptyText(isSound ? tr("A recording of sound has no picture.")
                             : m_controller->source() != nullptr && shot == nullptr
                                 ? tr("Drop this source’s recording here.")
                             : m_controller->camera() == nullptr
                                 ? tr("Add the rig's cameras first (screen Cameras).")
                             : shot == nullptr
                                 ? tr("Drop this camera's clip here, or a whole take on the list.")
                                 : tr("This file cannot be shown."));
        return;
    }
    const double seconds = shownSeconds();
    const QString key = plain(shot->media.string()) + u"|%1|"_s.arg(seconds) +
                        plain(shot->rangeOverride) + u"|"_s + plain(shot->matrixOverride);
    if (key == m_shownPicture ||
        (!shot->reading && m_controller->isMeasuring(plain(shot->cameraId))))
        return;
    m_shownPicture = key;
    using Shown = base::Result<jobs::Picture>;
    m_context.jobs.start<Shown>(
        tr("Loading the picture"),
        this,
        [media = shot->media, seconds, codes = jobs::codeReading(*shot)](const base::Progress&) {
            return jobs::pictureAt(media, seconds, codes);
        },
        [this, key](const Shown& picture) {
            if (key != m_shownPicture) return;
            if (!picture) {
                m_view->setPicture(QImage());
                m_view->setEmptyText(fromCore(base::fullText(picture.error())));
                return;
            }
            m_view->setPicture(imageOf(*picture));
        });
}

}  // namespace rigmatch::app
