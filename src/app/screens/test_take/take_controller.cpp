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
    connect(&context.selection, &Selection::changed, this, &TakeController::lookForMedia);
    connect(&context.jobs, &JobRunner::changed, this, &TakeController::changed);
    connect(&context.selection, &Selection::nextTakeRequested, this, &TakeController::nextTake);
    m_cornerTimer.setSingleShot(true);
    m_cornerTimer.setInterval(kCornerDelayMs);
    connect(&m_cornerTimer, &QTimer::timeout, this, [this] {
        if (take() != nullptr) measure(take()->id, selectedId(), MeasureCare::Corners);
    });
}

const rig::Camera* TakeController::camera() const { return rig::findCamera(rig(), selectedId()); }

const rig::Source* TakeController::source() const { return rig::findSource(rig(), selectedId()); }

std::string TakeController::selectedId() const {
    std::string chosen = m_context.selection.cameraId().toStdString();
    if (rig::findCamera(rig(), chosen) != nullptr || rig::findSource(rig(), chosen) != nullptr)
        return chosen;
    if (!rig().cameras.empty()) return rig().cameras.front().id;
    return rig().sources.empty() ? std::string() : rig().sources.front().id;
}

const rig::Shot* TakeController::shot() const {
    return take() == nullptr ? nullptr : rig::findShot(*take(), selectedId());
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

void TakeController::nextTake(rig::Purpose purpose) {
    if (canShoot())
        shoot(purpose);
    else
        newTake(purpose);
}

void TakeController::newTake(rig::Purpose purpose) {
    rig::Rig next = rig();
    // One empty take is enough.
    if (!next.takes.empty() && std::as_const(next.takes).back().shots.empty()) {
        rig::Take& empty = next.takes.back();
        empty.purposes = {purpose};
        const QString id = plain(empty.id);
        m_context.document.change(tr("New take"), next);
        m_context.selection.setTakeId(id);
        return;
    }
    rig::Take made;
    made.id = rig::freshTakeId(next);
    made.number = next.takes.empty() ? 1 : next.takes.back().number + 1;
    made.startedAt = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    made.purposes = {purpose};
    next.takes.push_back(made);
    m_context.document.change(tr("New take"), next);
    m_context.selection.setTakeId(plain(made.id));
}

void TakeController::editShot(const QString& text,
                              const std::function<void(rig::Shot&)>& edit,
                              int group) {
    if (shot() == nullptr) return;
    rig::Rig next = rig();
    edit(*rig::findShot(takeOf(next, take()->id), selectedId()));
    m_context.document.change(text, next, group);
}

void TakeController::removeShot() {
    if (shot() == nullptr) return;
    rig::Rig next = rig();
    takeOf(next, take()->id).shots.removeIf([&](const rig::Shot& s) {
        return s.cameraId == selectedId();
    });
    m_context.document.change(camera() != nullptr
                                  ? tr("Remove the clip of camera %1").arg(plain(camera()->letter))
                                  : tr("Remove the file of “%1”").arg(plain(source()->name)),
                              next);
}

void TakeController::measureAgain() {
    if (shot() != nullptr) measure(take()->id, selectedId(), MeasureCare::Anew);
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
    if (take() != nullptr) measure(take()->id, selectedId(), MeasureCare::Corners);
}

void TakeController::findAgain() {
    editShot(tr("Find the chart again"), [](rig::Shot& s) {
        s.manualCorners.reset();
        s.cornersAtSeconds.reset();
    });
    if (shot() != nullptr) measure(take()->id, selectedId(), MeasureCare::Whole);
}

void TakeController::setRange(const QString& range) {
    if (shot() == nullptr || plain(shot()->rangeOverride) == range) return;
    editShot(tr("Read the codes differently"),
             [&](rig::Shot& s) { s.rangeOverride = range.toStdString(); });
    measure(take()->id, selectedId(), MeasureCare::Whole);
}

void TakeController::setMatrix(const QString& matrix) {
    if (shot() == nullptr || plain(shot()->matrixOverride) == matrix) return;
    editShot(tr("Take the colours by another matrix"),
             [&](rig::Shot& s) { s.matrixOverride = matrix.toStdString(); });
    measure(take()->id, selectedId(), MeasureCare::Whole);
}

void TakeController::lookAtAll() {
    if (shot() == nullptr || shot()->isWholeWanted) return;
    editShot(tr("Look at all of the clip"), [](rig::Shot& s) { s.isWholeWanted = true; });
    measure(take()->id, selectedId(), MeasureCare::Whole);
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
    struct References {
        base::Result<jobs::ReferenceEntry> wanted, before;
    };
    m_context.jobs.startQuick<References>(
        tr("Reading the chart"),
        this,
        [id, before = rig().chart](const base::Progress&) {
            return References{jobs::referenceOf(id), jobs::referenceOf(before)};
        },
        [this, id](const References& read) {
            if (!read.wanted) {
                Q_EMIT failed(read.wanted.error());
                Q_EMIT changed();
                return;
            }
            // Corners of one grid tell nothing of another.
            takeReference(id,
                          read.before && read.before->columns == read.wanted->columns &&
                              read.before->rows == read.wanted->rows);
        });
}

void TakeController::takeReference(const std::string& id, bool isSameGrid) {
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
    measure(take()->id, selectedId(), MeasureCare::Corners);
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
    const rig::Source* source = rig::findSource(rig(), cameraId);
    const rig::Take* take = nullptr;
    for (const rig::Take& each : rig().takes) {
        if (each.id == takeId) take = &each;
    }
    const rig::Shot* shot = take == nullptr ? nullptr : rig::findShot(*take, cameraId);
    if ((camera == nullptr && source == nullptr) || shot == nullptr) return;
    const ShotKey key{takeId, cameraId};
    if (const auto before = m_measuring.find(key); before != m_measuring.end())
        m_context.jobs.cancel(before->second);
    // Taken back or chosen before: the older measurement is there already.
    const bool isNewFile = care == MeasureCare::Anew || care == MeasureCare::Arrived;
    if (!isNewFile && m_context.document.known(*take, *shot) != nullptr) {
        Q_EMIT changed();
        Q_EMIT this->measured(plain(cameraId));
        return;
    }
    rig::Shot asked = *shot;
    if (care != MeasureCare::Corners) asked.reading.reset();
    const QString title = camera != nullptr ? tr("Measuring camera %1").arg(plain(camera->letter))
                                            : tr("Measuring “%1”").arg(plain(source->name));
    const jobs::LookFor what = jobs::lookFor(rig(), *take, cameraId);
    // The same content elsewhere, or under another name, was measured already.
    auto alike = care == MeasureCare::Anew ? std::vector<rig::Observation>{}
                                           : m_context.document.correctedAlike(asked, what.asked);
    const auto number = std::make_shared<int>(0);
    *number = m_context.jobs.start<jobs::MeasuredShot>(
        title,
        this,
        [copy = std::move(asked), what, alike = std::move(alike)](const base::Progress& progress) {
            return jobs::measureShot(copy, what, progress, alike);
        },
        [this, takeId, key, number, asked = what.asked](const jobs::MeasuredShot& measured) {
            if (const auto job = m_measuring.find(key);
                job != m_measuring.end() && job->second == *number)
                m_measuring.erase(job);
            if (!measured.isCancelled) takeReading(takeId, asked, measured);
            Q_EMIT changed();
            Q_EMIT this->measured(plain(key.second));
            announceWhenMeasured();
        });
    m_measuring[key] = *number;
    Q_EMIT changed();
}

void TakeController::takeReading(const std::string& takeId,
                                 const std::string& asked,
                                 const jobs::MeasuredShot& measured) {
    const std::string& cameraId = measured.shot.cameraId;
    const rig::Observation observation = jobs::observationOf(measured, asked);
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

void TakeController::shoot(rig::Purpose purpose) {
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
            return jobs::shootTake(*set->set, copy, folder, "", options, progress);
        },
        [this, purpose](const Files& files) {
            m_shootJob = 0;
            if (files) takeFiles(*files, purpose);
            Q_EMIT changed();
            if (!files && files.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(files.error());
        });
    Q_EMIT changed();
}

void TakeController::takeFiles(const std::vector<jobs::ShotFile>& files, rig::Purpose purpose) {
    rig::Rig next = rig();
    rig::Take made;
    made.id = rig::freshTakeId(next);
    made.number = next.takes.empty() ? 1 : next.takes.back().number + 1;
    made.startedAt = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    made.purposes = {purpose};
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
    const std::string shownTake = take() == nullptr ? std::string() : take()->id;
    if (rig().takes == m_lookedFor && shownTake == m_lookedForTake) return;
    m_lookedFor = rig().takes;
    m_lookedForTake = shownTake;
    const int look = ++m_looks;
    // Cards and network shares answer when they like: not on the interface thread.
    const QPointer<TakeController> self(this);
    std::vector<rig::Shot> shown;
    if (take() != nullptr) {
        for (const rig::Shot& shot : take()->shots)
            if (shot.reading && !shot.reading->identity.empty()) shown.push_back(shot);
    }
    QThreadPool::globalInstance()->start([self, look, takes = m_lookedFor, shown] {
        std::set<std::filesystem::path> missing, changed;
        for (const rig::Take& take : takes) {
            for (const rig::Shot& shot : take.shots) {
                const auto check = [&missing](const std::filesystem::path& file) {
                    std::error_code ignored;
                    if (!file.empty() && !std::filesystem::exists(file, ignored))
                        missing.insert(file);
                };
                check(shot.media);
                for (const auto& part : shot.laterParts) check(part);
            }
        }
        for (const rig::Shot& shot : shown) {
            if (missing.contains(shot.media)) continue;
            if (rig::identityOf(shot) != shot.reading->identity) changed.insert(shot.media);
        }
        QMetaObject::invokeMethod(
            qApp,
            [self, look, missing, changed] {
                // A slow disk may answer after a later look.
                if (!self || self->m_looks != look) return;
                if (self->m_missing == missing && self->m_otherContent == changed) return;
                self->m_missing = missing;
                self->m_otherContent = changed;
                Q_EMIT self->changed();
            },
            Qt::QueuedConnection);
    });
}

bool TakeController::isMissing(const rig::Shot& shot) const {
    return m_missing.contains(shot.media) ||
           std::any_of(shot.laterParts.begin(), shot.laterParts.end(), [&](const auto& part) {
               return m_missing.contains(part);
           });
}

void TakeController::relink(const QString& folder) {
    m_context.jobs.startQuick<rig::Relinked>(
        tr("Looking for missing clips"),
        this,
        [copy = rig(), path = folder.toStdString()](const base::Progress&) {
            return rig::relinkMedia(copy, path);
        },
        [this](const rig::Relinked& relinked) {
            // Only files are put in: the rig may have moved on meanwhile.
            rig::Rig next = rig();
            if (relinked.found > 0) rig::moveFiles(relinked.moved, next);
            m_context.document.change(tr("Find missing clips"), next);
            Q_EMIT this->relinked(relinked.found, relinked.stillMissing);
        });
}

}  // namespace rigmatch::app
