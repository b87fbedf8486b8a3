// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/framing_controller.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>

#include "app/services/images.h"
#include "app/services/texts.h"
#include "base/atomic_file.h"
#include "jobs/crop_track.h"
#include "jobs/picture_job.h"
#include "output/crop_track_csv.h"
#include "words/frame_text.h"
#include "words/framing_text.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kPictureWidth = 1280;  // px that are kept of a picture for the screen

QString keyOf(const std::string& file, double seconds) {
    return plain(file) + u'@' + QString::number(seconds, 'f', 3);
}

/// What is to be kept of one camera.
struct ToSave {
    std::string cameraId, letter, media;
    double seconds = 0.0;
    jobs::CodeReading codes;
};

struct Saved {
    std::map<std::string, std::string> pictures;  ///< by camera
    std::optional<base::Error> failure;
};

Saved savePictures(const std::vector<ToSave>& cameras,
                   const QString& folder,
                   const QString& stamp,
                   const base::Progress& progress) {
    Saved saved;
    QDir().mkpath(folder);
    double done = 0.0;
    for (const ToSave& one : cameras) {
        if (progress.isCancelled()) {
            saved.failure = base::cancelledError();
            return saved;
        }
        const auto picture = jobs::pictureAt(one.media, one.seconds, one.codes);
        if (!picture) {
            saved.failure = picture.error();
            return saved;
        }
        const QString file = folder + u'/' + plain(one.letter) + u'-' + stamp + u".png"_s;
        if (!imageOf(*picture).save(file, "PNG")) {
            saved.failure =
                base::Error{base::ErrorCode::WriteFailed,
                            base::say("framing.notSaved"),
                            base::say("file.notWritten", {{"file", file.toStdString()}}),
                            base::say("framing.saveRigElsewhere")};
            return saved;
        }
        saved.pictures[one.cameraId] = file.toStdString();
        done += 1.0;
        progress.report(done / static_cast<double>(cameras.size()), base::say("progress.saving"));
    }
    return saved;
}

}  // namespace

FramingController::FramingController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    connect(&context.document, &RigDocument::rigChanged, this, &FramingController::refresh);
    connect(&context.document, &RigDocument::opened, this, [this] {
        m_pictures.clear();
        refresh();
    });
    connect(&context.selection, &Selection::changed, this, &FramingController::refresh);
    refresh();
}

void FramingController::setActive(bool isActive) {
    if (isActive == m_isActive) return;
    m_isActive = isActive;
    if (isActive) refresh();
}

words::FramingWords FramingController::words(const base::Finding& finding) const {
    return take() == nullptr ? words::FramingWords{} : words::framingWords(finding, rig(), *take());
}

QString FramingController::letterOf(const base::Finding& finding) const {
    const rig::Camera* camera = rig::findCamera(rig(), finding.subject);
    return camera == nullptr ? QString() : plain(camera->letter);
}

bool FramingController::isDone(const base::Finding& finding) const {
    if (take() == nullptr) return false;
    const auto& done = take()->doneAtTripods;
    return std::find(done.begin(), done.end(), finding.key()) != done.end();
}

int FramingController::openTurns() const {
    return static_cast<int>(std::count_if(
        m_turns.begin(), m_turns.end(), [&](const base::Finding& f) { return !isDone(f); }));
}

void FramingController::setDone(const base::Finding& finding, bool isDone) {
    if (take() == nullptr || this->isDone(finding) == isDone) return;
    rig::Rig next = rig();
    for (std::size_t i = 0; i < next.takes.size(); ++i) {
        if (next.takes.share(i)->id != take()->id) continue;
        auto& done = next.takes[i].doneAtTripods;
        if (isDone)
            done.push_back(finding.key());
        else
            std::erase(done, finding.key());
    }
    // The pictures of the plan move along.
    if (auto plan = jobs::planAfterTurn(rig(), finding, !isDone)) next.plan = std::move(*plan);
    m_context.document.change(isDone ? tr("Tick a turn at the tripod") : tr("Untick a turn"), next);
}

void FramingController::setChoice(const QString& key, const QString& value) {
    for (const rig::School& school : rig::schools()) {
        if (plain(school.key) != key) continue;
        rig::Rig next = rig();
        next.choices.*school.field = value.toStdString();
        m_context.document.change(fromCore(school.question), next);
    }
}

void FramingController::refresh() {
    m_rows.clear();
    m_findings.clear();
    m_turns.clear();
    const rig::Take* current = take();
    // A take cannot be laid over itself; one that is gone over nothing.
    const auto others = ghostTakes();
    if (std::none_of(others.begin(), others.end(), [this](const auto& one) {
            return one.first == m_ghostTake;
        }))
        m_ghostTake.clear();
    if (current != nullptr) m_findings = jobs::framingFindings(rig(), *current);
    for (const base::Finding& finding : m_findings) {
        if (!finding.advice.code.empty()) m_turns.push_back(finding);
    }
    for (const rig::Camera& camera : rig().cameras) {
        const rig::Shot* shot = current == nullptr ? nullptr : rig::findShot(*current, camera.id);
        Row row;
        row.cameraId = plain(camera.id);
        row.letter = plain(camera.letter);
        row.role = plain(camera.role);
        putPictures(row, camera, shot);
        if (!m_ghostTake.isEmpty()) putGhost(row, camera);
        for (const base::Finding& finding : m_findings) {
            if (finding.subject != camera.id) continue;
            const bool isAsking =
                finding.verdict == base::Verdict::Near || finding.verdict == base::Verdict::Off;
            // The worst first; where nothing asks for attention, that it stands level.
            const bool isQuiet = finding.quantity == "roll" && row.status.isEmpty();
            if (row.verdict != base::Verdict::Unknown && !isQuiet) continue;
            if (row.verdict == base::Verdict::Unknown) row.verdict = finding.verdict;
            if (isAsking || (isQuiet && finding.verdict == base::Verdict::Good))
                row.status = fromCore(words(finding).headline);
        }
        m_rows.push_back(row);
    }
    if (m_isActive) {
        loadPictures();
        measureDrifts();
    }
    Q_EMIT changed();
}

void FramingController::putPictures(Row& row, const rig::Camera& camera, const rig::Shot* shot) {
    if (camera.savedFraming) {
        row.savedAt = plain(camera.savedFraming->savedAt).replace(u'T', u' ').left(16);
        row.saved = m_pictures.value(keyOf(camera.savedFraming->picture.string(), 0.0));
    }
    if (shot == nullptr || shot->media.empty()) {
        row.missing = tr("No clip in this take.");
    } else if (!shot->failure.empty()) {
        row.missing = tr("This file cannot be shown.");
    } else if (!shot->reading) {
        row.missing = tr("Not measured yet.");
    } else if (!shot->reading->framing) {
        row.missing =
            tr("Its framing was not asked for: measure it again on the screen Test take.");
    } else {
        row.reading = &*shot->reading->framing;
        row.widthPx = shot->reading->width;
        row.heightPx = shot->reading->height;
        row.isClip = !shot->reading->isStill;
        const QString key = keyOf(shot->media.string(), row.reading->atSeconds);
        row.picture = m_pictures.value(key);
        if (m_pictures.contains(key) && row.picture.isNull())
            row.missing =
                tr("Its picture cannot be loaded: bring the file back, or find missing "
                   "clips on the screen Test take.");
        if (row.reading->drift)
            row.drift =
                fromCore(words::driftText(*row.reading->drift, jobs::lensOf(camera), row.widthPx));
    }
}

/// A camera's shot in the take that is laid over, where its framing was measured.
const rig::Shot* FramingController::ghostShot(const std::string& cameraId) const {
    for (const rig::Take& one : rig().takes) {
        if (plain(one.id) != m_ghostTake) continue;
        const rig::Shot* shot = rig::findShot(one, cameraId);
        return shot != nullptr && shot->reading && shot->reading->framing ? shot : nullptr;
    }
    return nullptr;
}

void FramingController::putGhost(Row& row, const rig::Camera& camera) const {
    const rig::Shot* shot = ghostShot(camera.id);
    row.savedAt.clear();
    row.saved = {};
    row.drift.clear();
    if (shot == nullptr) return;
    row.ghost = &*shot->reading->framing;
    row.savedAt = tr("in an earlier take");
    for (const auto& [id, title] : ghostTakes()) {
        if (id == m_ghostTake) row.savedAt = title;
    }
    row.saved = m_pictures.value(keyOf(shot->media.string(), row.ghost->atSeconds));
}

QVector<QPair<QString, QString>> FramingController::ghostTakes() const {
    QVector<QPair<QString, QString>> takes;
    for (const rig::Take& one : rig().takes) {
        if (take() != nullptr && one.id == take()->id) continue;
        const bool hasFraming =
            std::any_of(one.shots.begin(), one.shots.end(), [](const rig::Shot& shot) {
                return shot.reading && shot.reading->framing;
            });
        if (hasFraming) takes << std::pair(plain(one.id), tr("take %1").arg(one.number));
    }
    return takes;
}

void FramingController::setGhostTake(const QString& takeId) {
    if (takeId == m_ghostTake) return;
    m_ghostTake = takeId;
    refresh();
}

void FramingController::exportTrack(const QString& cameraId,
                                    const QString& shape,
                                    const QString& file) {
    const rig::Shot* shot =
        take() == nullptr ? nullptr : rig::findShot(*take(), cameraId.toStdString());
    if (shot == nullptr || m_isTracking) return;
    jobs::CropTrackOptions options;
    options.shape = shape.toStdString();
    using Told = base::Result<std::string>;
    m_isTracking = true;
    m_context.jobs.start<Told>(
        tr("Following a person for a crop"),
        this,
        [media = shot->media, options, to = file.toStdString()](
            const base::Progress& progress) -> Told {
            const auto track = jobs::cropTrack(media, options, progress);
            if (!track) return tl::unexpected(track.error());
            const auto written = base::writeAtomically(to, output::cropTrackCsv(*track));
            if (!written) return tl::unexpected(written.error());
            return words::cropTrackText(*track);
        },
        [this](const Told& told) {
            m_isTracking = false;
            if (told)
                Q_EMIT trackMade(fromCore(*told));
            else
                Q_EMIT trackMade(QString());
            if (!told && told.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(told.error());
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void FramingController::loadPictures() {
    struct Wanted {
        QString key;
        std::string file;
        double seconds = 0.0;
        jobs::CodeReading codes;
    };
    std::vector<Wanted> wanted;
    const auto want = [&](const Wanted& one) {
        if (m_pictures.contains(one.key) || m_loading.contains(one.key)) return;
        m_loading.insert(one.key);
        wanted.push_back(one);
    };
    for (const rig::Camera& camera : rig().cameras) {
        const rig::Shot* shot = take() == nullptr ? nullptr : rig::findShot(*take(), camera.id);
        if (shot != nullptr && shot->reading && shot->reading->framing) {
            const double seconds = shot->reading->framing->atSeconds;
            want({keyOf(shot->media.string(), seconds),
                  shot->media.string(),
                  seconds,
                  jobs::codeReading(*shot)});
        }
        if (const rig::Shot* ghost = ghostShot(camera.id)) {
            const double seconds = ghost->reading->framing->atSeconds;
            want({keyOf(ghost->media.string(), seconds),
                  ghost->media.string(),
                  seconds,
                  jobs::codeReading(*ghost)});
        }
        if (camera.savedFraming) {
            const std::string file = camera.savedFraming->picture.string();
            want({keyOf(file, 0.0), file, 0.0, {}});
        }
    }
    for (const Wanted& one : wanted) {
        m_context.jobs.start<QImage>(
            tr("Loading pictures"),
            this,
            [one](const base::Progress&) {
                const auto picture = jobs::pictureAt(one.file, one.seconds, one.codes);
                if (!picture) return QImage();
                return imageOf(*picture).scaledToWidth(std::min(kPictureWidth, picture->width),
                                                       Qt::SmoothTransformation);
            },
            [this, key = one.key](const QImage& image) {
                m_loading.remove(key);
                m_pictures[key] = image;
                refresh();
            });
    }
}

/// Lays every camera on its saved framing where that was not done yet: what comes of it is kept
/// with the reading.
void FramingController::measureDrifts() {
    if (take() == nullptr || isReadOnly()) return;
    for (const rig::Camera& camera : rig().cameras) {
        const rig::Shot* shot = rig::findShot(*take(), camera.id);
        if (!camera.savedFraming || shot == nullptr || !shot->reading || !shot->reading->framing)
            continue;
        const std::string against = camera.savedFraming->picture.string();
        const rig::FramingReading& framing = *shot->reading->framing;
        const QString key = keyOf(shot->media.string() + against, framing.atSeconds);
        const bool isKnown = framing.drift && framing.drift->against == against;
        if (isKnown || camera.savedFraming->takeId == take()->id || m_drifting.contains(key))
            continue;
        m_drifting.insert(key);
        m_context.jobs.start<base::Result<rig::FrameDrift>>(
            tr("Laying camera %1 on its saved framing").arg(plain(camera.letter)),
            this,
            [file = shot->media.string(), seconds = framing.atSeconds, against](
                const base::Progress& progress) {
                return jobs::driftOf(file, seconds, against, progress);
            },
            [this, key, against, takeId = take()->id, id = camera.id](
                const base::Result<rig::FrameDrift>& drift) {
                m_drifting.remove(key);
                keepDrift(takeId, id, against, drift);
            });
    }
}

void FramingController::keepDrift(const std::string& takeId,
                                  const std::string& cameraId,
                                  const std::string& against,
                                  const base::Result<rig::FrameDrift>& drift) {
    for (const rig::Take& take : rig().takes) {
        const rig::Shot* shot = take.id == takeId ? rig::findShot(take, cameraId) : nullptr;
        if (shot == nullptr || !shot->reading || !shot->reading->framing) continue;
        rig::Observation observation = rig::observed(*shot, rig::askedOf(rig(), take, cameraId));
        rig::Reading reading = *shot->reading;
        if (drift) {
            reading.framing->drift = *drift;
        } else {
            if (drift.error().code == base::ErrorCode::Cancelled) return;
            reading.framing->drift = rig::FrameDrift{};
            reading.framing->drift->against = against;
            reading.framing->drift->reason = base::fullText(drift.error());
        }
        observation.reading = std::move(reading);
        m_context.document.observe(takeId, cameraId, observation);
        return;
    }
}

bool FramingController::canSave() const {
    return !isReadOnly() && std::any_of(m_rows.begin(), m_rows.end(), [](const Row& row) {
        return row.reading != nullptr;
    });
}

QString FramingController::framingFolder() const {
    const QString path = m_context.document.path();
    if (!path.isEmpty() && QFileInfo(QFileInfo(path).path()).isWritable()) {
        const QFileInfo file(path);
        return file.path() + u'/' + file.completeBaseName() + u"-framing"_s;
    }
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + u"/framing"_s;
}

void FramingController::saveFraming() {
    if (!canSave()) return;
    std::vector<ToSave> cameras;
    for (const rig::Camera& camera : rig().cameras) {
        const rig::Shot* shot = rig::findShot(*take(), camera.id);
        if (shot == nullptr || !shot->reading || !shot->reading->framing) continue;
        cameras.push_back({camera.id,
                           camera.letter,
                           shot->media.string(),
                           shot->reading->framing->atSeconds,
                           jobs::codeReading(*shot)});
    }
    const QString stamp = QDateTime::currentDateTime().toString(u"yyyyMMdd-HHmmss-zzz"_s);
    m_context.jobs.start<Saved>(
        tr("Saving the framing"),
        this,
        [cameras, folder = framingFolder(), stamp](const base::Progress& progress) {
            return savePictures(cameras, folder, stamp, progress);
        },
        [this, takeId = take()->id](const Saved& saved) {
            if (saved.failure) {
                if (saved.failure->code != base::ErrorCode::Cancelled)
                    Q_EMIT failed(*saved.failure);
                return;
            }
            rig::Rig next = rig();
            for (const auto& [id, file] : saved.pictures) {
                if (rig::Camera* camera = rig::findCamera(next, id))
                    camera->savedFraming = rig::SavedFraming{
                        file,
                        takeId,
                        QDateTime::currentDateTime().toString(Qt::ISODate).toStdString(),
                        {}};
            }
            m_context.document.change(tr("Save the framing"), next);
            Q_EMIT framingSaved(static_cast<int>(saved.pictures.size()));
        });
}

}  // namespace rigmatch::app
