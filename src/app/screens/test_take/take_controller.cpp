// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/take_controller.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QLocale>
#include <QPointer>
#include <QStandardPaths>
#include <QThreadPool>

#include "app/services/texts.h"
#include "jobs/card_job.h"
#include "jobs/chart_job.h"
#include "rig/bodies.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kCornerDelayMs = 150;

}  // namespace

TakeController::TakeController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    connect(&context.document, &RigDocument::rigChanged, this, &TakeController::changed);
    connect(&context.document, &RigDocument::rigChanged, this, &TakeController::lookForMedia);
    connect(&context.selection, &Selection::changed, this, &TakeController::changed);
    connect(&context.jobs, &JobRunner::changed, this, &TakeController::changed);
    connect(&context.selection, &Selection::nextTakeRequested, this, &TakeController::nextTake);
    m_cornerTimer.setSingleShot(true);
    m_cornerTimer.setInterval(kCornerDelayMs);
    connect(&m_cornerTimer, &QTimer::timeout, this, [this] {
        if (take() != nullptr && camera() != nullptr)
            measure(take()->id, camera()->id, MeasureCare::Corners);
    });
}

const rig::Camera* TakeController::camera() const {
    const rig::Camera* chosen =
        rig::findCamera(rig(), m_context.selection.cameraId().toStdString());
    return chosen != nullptr ? chosen : (rig().cameras.empty() ? nullptr : &rig().cameras.front());
}

const rig::Shot* TakeController::shot() const {
    return take() == nullptr || camera() == nullptr ? nullptr
                                                    : rig::findShot(*take(), camera()->id);
}

/// The running job that measures a camera in the take that is shown; nothing where there is none.
const RunningJob* TakeController::measuringJob(const QString& cameraId) const {
    if (take() == nullptr) return nullptr;
    const auto job = m_measuring.find({take()->id, cameraId.toStdString()});
    if (job == m_measuring.end()) return nullptr;
    const auto running = m_context.jobs.running().find(job->second);
    return running == m_context.jobs.running().end() ? nullptr : &*running;
}

bool TakeController::isMeasuring(const QString& cameraId) const {
    return measuringJob(cameraId) != nullptr;
}

double TakeController::measuredShare(const QString& cameraId) const {
    const RunningJob* running = measuringJob(cameraId);
    return running == nullptr ? 0.0 : running->fraction;
}

bool TakeController::isShooting() const { return m_context.jobs.running().contains(m_shootJob); }

bool TakeController::canShoot() const {
    return !isShooting() &&
           std::any_of(rig().cameras.begin(), rig().cameras.end(), [](const rig::Camera& camera) {
               return camera.simulated.has_value();
           });
}

rig::Take& TakeController::takeOf(rig::Rig& rig, const std::string& takeId) const {
    for (std::size_t i = 0; i < rig.takes.size(); ++i) {
        if (rig.takes.share(i)->id == takeId) return rig.takes[i];
    }
    return rig.takes.emplace_back();
}

std::string TakeController::ensureTake(rig::Rig& next) {
    if (take() != nullptr) return take()->id;
    rig::Take made;
    made.id = rig::freshTakeId(next);
    made.startedAt = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    next.takes.push_back(made);
    return made.id;
}

void TakeController::nextTake() {
    if (canShoot()) {
        shoot();
    } else {
        newTake();
    }
}

void TakeController::newTake() {
    rig::Rig next = rig();
    rig::Take made;
    made.id = rig::freshTakeId(next);
    made.number = next.takes.empty() ? 1 : next.takes.back().number + 1;
    made.startedAt = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    next.takes.push_back(made);
    m_context.document.change(tr("New take"), next);
    m_context.selection.setTakeId(plain(made.id));
}

void TakeController::assign(const QStringList& files, const QString& cameraId) {
    if (files.isEmpty() || rig().cameras.empty()) return;
    rig::Rig next = rig();
    const std::string takeId = ensureTake(next);
    std::vector<std::filesystem::path> paths;
    for (const QString& file : files) paths.emplace_back(file.toStdString());
    std::vector<int> assigned(next.cameras.size(), -1);
    if (!cameraId.isEmpty() && paths.size() == 1) {
        for (std::size_t i = 0; i < next.cameras.size(); ++i) {
            if (next.cameras[i].id == cameraId.toStdString()) assigned[i] = 0;
        }
    } else {
        assigned = jobs::assignFiles(next, paths);
    }
    std::vector<std::string> given;
    for (std::size_t i = 0; i < assigned.size(); ++i) {
        if (assigned[i] < 0) continue;
        rig::Take& take = takeOf(next, takeId);
        rig::Shot shot;
        shot.cameraId = next.cameras[i].id;
        shot.media = std::filesystem::absolute(paths[static_cast<std::size_t>(assigned[i])]);
        shot.settings = next.cameras[i].settings;
        std::erase_if(take.shots,
                      [&](const rig::Shot& old) { return old.cameraId == shot.cameraId; });
        take.shots.push_back(shot);
        given.push_back(shot.cameraId);
    }
    m_context.document.change(
        counted(static_cast<int>(given.size()), tr("Add a clip"), tr("Add %1 clips")), next);
    for (const std::string& camera : given) measure(takeId, camera, MeasureCare::Anew);
}

void TakeController::assignFolder(const QString& folder) {
    QStringList files;
    for (const auto& path : jobs::mediaInFolder(folder.toStdString()))
        files << plain(path.string());
    if (files.isEmpty()) {
        Q_EMIT failed(
            {base::ErrorCode::NotFound,
             "No clip in this folder",
             "\"" + folder.toStdString() + "\" holds no clip or still of a kind that is read.",
             "Choose the folder with this take's files."});
        return;
    }
    assign(files);
}

void TakeController::editShot(const QString& text,
                              const std::function<void(rig::Shot&)>& edit,
                              int group) {
    if (shot() == nullptr) return;
    rig::Rig next = rig();
    edit(*rig::findShot(takeOf(next, take()->id), camera()->id));
    m_context.document.change(text, next, group);
}

void TakeController::removeShot() {
    if (shot() == nullptr) return;
    rig::Rig next = rig();
    std::erase_if(takeOf(next, take()->id).shots,
                  [&](const rig::Shot& s) { return s.cameraId == camera()->id; });
    m_context.document.change(tr("Remove the clip of camera %1").arg(plain(camera()->letter)),
                              next);
}

void TakeController::measureAgain() {
    if (shot() != nullptr) measure(take()->id, camera()->id, MeasureCare::Anew);
}

void TakeController::setCorners(const rig::PictureQuad& corners, bool isSettled) {
    if (m_cornerGroup < 0) m_cornerGroup = m_context.document.newGroup();
    editShot(
        tr("Move chart corners"),
        [&](rig::Shot& s) {
            s.manualCorners = corners;
            if (s.reading && !s.reading->isStill) s.cornersAtSeconds = m_shownSeconds;
        },
        m_cornerGroup);
    // The reading follows while a corner moves, at rest within a moment.
    if (!m_cornerTimer.isActive()) m_cornerTimer.start();
    if (!isSettled) return;
    m_cornerTimer.stop();
    m_cornerGroup = -1;
    if (take() != nullptr && camera() != nullptr)
        measure(take()->id, camera()->id, MeasureCare::Corners);
}

void TakeController::findAgain() {
    editShot(tr("Find the chart again"), [](rig::Shot& s) {
        s.manualCorners.reset();
        s.cornersAtSeconds.reset();
    });
    if (shot() != nullptr) measure(take()->id, camera()->id, MeasureCare::Whole);
}

void TakeController::setRange(const QString& range) {
    if (shot() == nullptr || plain(shot()->rangeOverride) == range) return;
    editShot(tr("Read the codes differently"),
             [&](rig::Shot& s) { s.rangeOverride = range.toStdString(); });
    measure(take()->id, camera()->id, MeasureCare::Whole);
}

void TakeController::setMatrix(const QString& matrix) {
    if (shot() == nullptr || plain(shot()->matrixOverride) == matrix) return;
    editShot(tr("Take the colours by another matrix"),
             [&](rig::Shot& s) { s.matrixOverride = matrix.toStdString(); });
    measure(take()->id, camera()->id, MeasureCare::Whole);
}

void TakeController::setPrimaries(const QString& primaries) {
    if (shot() == nullptr || plain(shot()->primariesOverride) == primaries) return;
    editShot(
        tr("Take the colours by other primaries"),
        [&](rig::Shot& s) { s.primariesOverride = primaries.toStdString(); },
        m_context.document.newGroup());
}

void TakeController::setReference(const QString& idOrPath) {
    const std::string id = idOrPath.toStdString();
    if (id.empty() || rig().chart == id) return;
    const auto reference = jobs::referenceOf(id);
    if (!reference) {
        Q_EMIT failed(reference.error());
        Q_EMIT changed();
        return;
    }
    const auto before = jobs::referenceOf(rig().chart);
    // Corners of one grid tell nothing of another.
    const bool isSameGrid =
        before && before->columns == reference->columns && before->rows == reference->rows;
    rig::Rig next = rig();
    next.chart = id;
    std::vector<std::string> cameras;
    if (take() != nullptr) {
        for (rig::Shot& shot : takeOf(next, take()->id).shots) {
            if (!isSameGrid) {
                shot.manualCorners.reset();
                shot.cornersAtSeconds.reset();
            }
            cameras.push_back(shot.cameraId);
        }
    }
    m_context.document.change(tr("Choose the chart"), next);
    for (const std::string& camera : cameras) measure(take()->id, camera, MeasureCare::Whole);
}

void TakeController::setSkinMarks(const std::vector<rig::SkinMark>& marks) {
    if (shot() == nullptr) return;
    editShot(tr("Mark skin"), [&](rig::Shot& s) { s.skinMarks = marks; });
    measure(take()->id, camera()->id, MeasureCare::Corners);
}

void TakeController::writeCard(const QString& file) {
    if (file.isEmpty()) return;
    // Letter where inches are at home, A4 elsewhere.
    const bool isLetter = QLocale().measurementSystem() == QLocale::ImperialUSSystem;
    const auto written = jobs::writePrintedCard(file.toStdString(), isLetter ? "letter" : "a4");
    if (written) {
        Q_EMIT cardWritten(file);
    } else {
        Q_EMIT failed(written.error());
    }
}

void TakeController::measure(const std::string& takeId,
                             const std::string& cameraId,
                             MeasureCare care) {
    const rig::Camera* camera = rig::findCamera(rig(), cameraId);
    const rig::Shot* shot = nullptr;
    for (const rig::Take& take : rig().takes) {
        if (take.id == takeId) shot = rig::findShot(take, cameraId);
    }
    if (camera == nullptr || shot == nullptr) return;
    const ShotKey key{takeId, cameraId};
    if (const auto before = m_measuring.find(key); before != m_measuring.end())
        m_context.jobs.cancel(before->second);
    // Taken back or chosen before: the older measurement is there already.
    if (care != MeasureCare::Anew && m_context.document.known(*shot) != nullptr) {
        Q_EMIT changed();
        Q_EMIT this->measured(plain(cameraId));
        return;
    }
    rig::Shot asked = *shot;
    if (care != MeasureCare::Corners) asked.reading.reset();
    const QString title = tr("Measuring camera %1").arg(plain(camera->letter));
    const auto number = std::make_shared<int>(0);
    *number = m_context.jobs.start<jobs::MeasuredShot>(
        title,
        this,
        [copy = std::move(asked), chart = rig().chart](const base::Progress& progress) {
            return jobs::measureShot(copy, chart, progress);
        },
        [this, takeId, key, number, chart = rig().chart](const jobs::MeasuredShot& measured) {
            if (const auto job = m_measuring.find(key);
                job != m_measuring.end() && job->second == *number)
                m_measuring.erase(job);
            if (!measured.isCancelled) takeReading(takeId, chart, measured);
            Q_EMIT changed();
            Q_EMIT this->measured(plain(key.second));
        });
    m_measuring[key] = *number;
    Q_EMIT changed();
}

void TakeController::takeReading(const std::string& takeId,
                                 const std::string& chart,
                                 const jobs::MeasuredShot& measured) {
    const std::string& cameraId = measured.shot.cameraId;
    const rig::Observation observation = jobs::observationOf(measured, chart);
    // A reading follows its corners while they are dragged: the last one comes when they rest.
    const bool isDragged = m_cornerGroup >= 0;
    if (!m_context.document.observe(takeId, cameraId, observation, isDragged)) return;
    const rig::Camera* camera = rig::findCamera(rig(), cameraId);
    if (camera == nullptr || camera->simulated || takeId != rig().takes.back().id) return;
    // The sheet is the user's: what the file tells is offered there.
    rig::Settings told = camera->settings;
    rig::putTold(observation, told);
    if (told == camera->settings) {
        m_context.selection.dropOffer(plain(cameraId));
    } else {
        m_context.selection.offer(plain(cameraId), told);
    }
}

QString TakeController::shootFolder(int number) const {
    const QString path = m_context.document.path();
    if (!path.isEmpty() && QFileInfo(QFileInfo(path).path()).isWritable()) {
        const QFileInfo file(path);
        return file.path() + u"/"_s + file.completeBaseName() + u"-take-%1"_s.arg(number);
    }
    const QString stamp = QDateTime::currentDateTime().toString(u"yyyyMMdd-HHmmss-zzz"_s);
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + u"/takes/"_s + stamp;
}

void TakeController::shoot() {
    if (!canShoot()) return;
    const int number = rig().takes.empty() ? 1 : rig().takes.back().number + 1;
    const std::string folder = shootFolder(number).toStdString();
    using Files = base::Result<std::vector<jobs::ShotFile>>;
    sim::ShootOptions options;
    options.seed = static_cast<std::uint64_t>(number);
    m_shootJob = m_context.jobs.start<Files>(
        tr("Simulated cameras are shooting"),
        this,
        [copy = rig(), folder, options, set = m_context.simulatedSet](
            const base::Progress& progress) {
            const std::lock_guard lock(set->mutex);
            return jobs::shootTake(set->set, copy, folder, "", options, progress);
        },
        [this](const Files& files) {
            m_shootJob = 0;
            if (files) takeFiles(*files);
            Q_EMIT changed();
            if (!files && files.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(files.error());
        });
    Q_EMIT changed();
}

void TakeController::takeFiles(const std::vector<jobs::ShotFile>& files) {
    rig::Rig next = rig();
    rig::Take made;
    made.id = rig::freshTakeId(next);
    made.number = next.takes.empty() ? 1 : next.takes.back().number + 1;
    made.startedAt = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    for (const jobs::ShotFile& file : files) {
        rig::Shot shot;
        shot.cameraId = file.cameraId;
        shot.media = std::filesystem::absolute(file.file);
        shot.settings = file.settings;
        shot.isIsoRecorded = shot.isKelvinRecorded = true;
        made.shots.push_back(shot);
    }
    next.takes.push_back(made);
    m_context.document.change(tr("Shoot take %1").arg(made.number), next);
    m_context.selection.setTakeId(plain(made.id));
    for (const jobs::ShotFile& file : files) measure(made.id, file.cameraId, MeasureCare::Anew);
}

void TakeController::cancel() { m_context.jobs.cancelAll(); }

void TakeController::lookForMedia() {
    if (rig().takes == m_lookedFor) return;
    m_lookedFor = rig().takes;
    const int look = ++m_looks;
    // Cards and network shares answer when they like: not on the interface thread.
    const QPointer<TakeController> self(this);
    QThreadPool::globalInstance()->start([self, look, takes = m_lookedFor] {
        int missing = 0;
        for (const rig::Take& take : takes) {
            for (const rig::Shot& shot : take.shots) {
                std::error_code ignored;
                if (!shot.media.empty() && !std::filesystem::exists(shot.media, ignored)) ++missing;
            }
        }
        QMetaObject::invokeMethod(
            qApp,
            [self, look, missing] {
                // A slow disk may answer after a later look.
                if (!self || self->m_looks != look || self->m_missing == missing) return;
                self->m_missing = missing;
                Q_EMIT self->changed();
            },
            Qt::QueuedConnection);
    });
}

std::pair<int, int> TakeController::relink(const QString& folder) {
    const rig::Relinked relinked = rig::relinkMedia(rig(), folder.toStdString());
    if (relinked.found > 0) m_context.document.change(tr("Find missing clips"), relinked.rig);
    return {relinked.found, relinked.stillMissing};
}

}  // namespace rigmatch::app
