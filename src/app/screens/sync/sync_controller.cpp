// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/sync_controller.h"

#include <algorithm>

#include "app/services/texts.h"
#include "jobs/check_clip.h"
#include "jobs/check_sound.h"
#include "jobs/feed_latency.h"
#include "jobs/picture_job.h"
#include "output/sync_export.h"
#include "words/sync_text.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kClapWidth = 480;  // px of a picture of the clap
constexpr int kStripPictures = 12, kStripWidth = 160;

}  // namespace

SyncController::SyncController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    connect(&context.document, &RigDocument::rigChanged, this, &SyncController::refresh);
    connect(&context.document, &RigDocument::opened, this, [this] {
        m_pictures.clear();
        m_strips.clear();
        stopListening();
        refresh();
    });
    connect(&context.selection, &Selection::changed, this, &SyncController::refresh);
    connect(&context.jobs, &JobRunner::changed, this, &SyncController::changed);
    if (context.player)
        connect(context.player.get(), &SoundPlayer::changed, this, &SyncController::changed);
    refresh();
}

/// The take's shots with a file, the reference's first.
std::vector<const rig::Shot*> SyncController::shots() const {
    const rig::Take* take = m_context.currentTake();
    if (take == nullptr) return {};
    std::vector<const rig::Shot*> all;
    for (const rig::Shot& shot : take->shots) {
        if (shot.media.empty()) continue;
        const bool isFirst = shot.cameraId == m_context.document.rig().referenceId;
        all.insert(isFirst ? all.begin() : all.end(), &shot);
    }
    return all;
}

bool SyncController::isSyncing() const { return m_context.jobs.running().contains(m_job); }

double SyncController::share() const {
    const auto running = m_context.jobs.running().find(m_job);
    return running == m_context.jobs.running().end() ? 0.0 : running->fraction;
}

bool SyncController::canSync() const {
    const auto all = shots();
    const auto measured = std::count_if(all.begin(), all.end(), [](const rig::Shot* shot) {
        return shot->reading.has_value() && !shot->reading->isStill;
    });
    return measured >= 2 && !isSyncing() && !m_context.document.isReadOnly();
}

void SyncController::cancel() { m_context.jobs.cancel(m_job); }

void SyncController::sync() {
    const rig::Take* take = m_context.currentTake();
    if (take == nullptr || !canSync()) return;
    using Result = base::Result<jobs::SyncReport>;
    m_job = m_context.jobs.start<Result>(
        tr("Syncing take %1").arg(take->number),
        this,
        [rig = m_context.document.rig(),
         takeId = take->id](const base::Progress& progress) -> Result {
            for (const rig::Take& one : rig.takes) {
                if (one.id == takeId) return jobs::syncTake(rig, one, progress);
            }
            return jobs::syncTake(rig, {}, progress);
        },
        [this, takeId = take->id](const Result& made) {
            m_job = 0;
            if (made)
                keep(takeId, *made);
            else if (made.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(made.error());
            refresh();
        });
    Q_EMIT changed();
}

/// Puts what was found into the readings: no step to undo, kept in the file.
void SyncController::keep(const std::string& takeId, const jobs::SyncReport& report) {
    std::vector<std::pair<std::string, rig::Observation>> found;
    for (const rig::Take& take : m_context.document.rig().takes) {
        if (take.id != takeId) continue;
        for (const rig::Shot& shot : take.shots) {
            auto reading = jobs::withSync(shot, report);
            if (!reading) continue;
            rig::Observation observation =
                rig::observed(shot, rig::askedOf(m_context.document.rig(), take, shot.cameraId));
            observation.reading = std::move(*reading);
            found.emplace_back(shot.cameraId, std::move(observation));
        }
    }
    for (const auto& [cameraId, observation] : found)
        m_context.document.observe(takeId, cameraId, observation);
}

void SyncController::refresh() {
    m_rows.clear();
    m_report.reset();
    const rig::Take* take = m_context.currentTake();
    const rig::Rig& rig = m_context.document.rig();
    if (take != nullptr) m_report = jobs::keptSync(rig, *take);
    const auto placed =
        m_report ? output::placedSources(*m_report) : std::vector<output::PlacedSource>();
    const auto all = shots();
    for (const rig::Shot* shot : all) {
        Row row;
        row.file = shot->media.string();
        row.isReference = m_report ? row.file == m_report->reference : shot == all.front();
        if (const rig::Camera* camera = rig::findCamera(rig, shot->cameraId)) {
            row.letter = plain(camera->letter);
            row.name = plain(camera->role);
        } else if (const rig::Source* source = rig::findSource(rig, shot->cameraId)) {
            row.name = plain(source->name);
        }
        if (shot->reading) {
            if (shot->reading->heard) row.heard = &*shot->reading->heard;
            if (shot->reading->frames) row.frames = &*shot->reading->frames;
            if (shot->reading->sync) row.findings = &shot->reading->sync->findings;
        }
        if (m_report) {
            for (const jobs::SyncResult& result : m_report->results) {
                if (result.file == row.file) row.result = &result;
            }
        }
        for (const output::PlacedSource& source : placed) {
            if (source.file != row.file) continue;
            row.isPlaced = true;
            row.startSeconds = source.startSeconds;
            row.lengthSeconds = source.lengthSeconds;
        }
        m_rows.push_back(row);
    }
    Q_EMIT changed();
}

std::optional<double> SyncController::clapSeconds() const {
    return m_report && m_report->referenceHeard ? m_report->referenceHeard->clapSeconds
                                                : std::nullopt;
}

/// The channel to be main, and the backup where there is one: it stands on a recording of its own.
std::vector<jobs::MicrophoneRank> SyncController::mainAndBackup() const {
    if (!m_report) return {};
    const auto ranks = jobs::rankMicrophones(*m_report);
    if (ranks.empty()) return {};
    std::vector<jobs::MicrophoneRank> both{ranks.front()};
    const auto backup = std::find_if(ranks.begin(), ranks.end(), [&](const auto& rank) {
        return rank.file != ranks.front().file;
    });
    if (backup != ranks.end()) both.push_back(*backup);
    return both;
}

std::vector<SyncController::Channel> SyncController::channels() const {
    const auto both = mainAndBackup();
    std::vector<Channel> all;
    for (std::size_t r = 0; r < m_rows.size(); ++r) {
        const Row& row = m_rows[r];
        if (row.heard == nullptr) continue;
        for (std::size_t c = 0; c < row.heard->channels.size(); ++c) {
            Channel channel{static_cast<int>(r),
                            row.letter,
                            row.name,
                            c,
                            row.heard->channels.size() == 1,
                            Part::Other,
                            row.heard->channels[c]};
            for (std::size_t b = 0; b < both.size(); ++b) {
                if (both[b].file == row.file && both[b].channel == c)
                    channel.part = b == 0 ? Part::Main : Part::Backup;
            }
            all.push_back(std::move(channel));
        }
    }
    const auto place = [](const Channel& channel) {
        return channel.part == Part::Main ? 0 : channel.part == Part::Backup ? 1 : 2;
    };
    std::stable_sort(all.begin(), all.end(), [&](const Channel& a, const Channel& b) {
        return place(a) < place(b);
    });
    return all;
}

QString SyncController::microphones() const {
    if (!m_report) return {};
    const auto both = mainAndBackup();
    if (both.empty()) return tr("No speech is heard: the microphones cannot be compared.");
    const auto nameOf = [&](const std::string& file) {
        for (const Row& row : m_rows) {
            if (row.file == file)
                return row.letter.isEmpty() ? row.name : tr("camera %1").arg(row.letter);
        }
        return QString();
    };
    const QString main =
        tr("Main: %1, %2.").arg(nameOf(both[0].file), fromCore(words::microphoneText(both[0])));
    if (both.size() < 2) return main + u' ' + tr("Nothing else could stand in for it.");
    return main + u' ' +
           tr("Backup: %1, %2.")
               .arg(nameOf(both[1].file), fromCore(words::microphoneText(both[1])));
}

QImage SyncController::pictureOf(const std::string& file, double seconds) {
    if (seconds < 0.0) return {};
    const QString key = plain(file) + u'@' + QString::number(seconds, 'f', 3);
    if (m_pictures.contains(key)) return m_pictures[key];
    if (m_loading.contains(key)) return {};
    m_loading.insert(key);
    m_context.jobs.start<QImage>(
        tr("Loading pictures"),
        this,
        [file, seconds](const base::Progress&) {
            const auto picture = jobs::pictureAt(file, seconds, {});
            if (!picture) return QImage();
            return QImage(picture->rgb.data(),
                          picture->width,
                          picture->height,
                          qsizetype{3} * picture->width,
                          QImage::Format_RGB888)
                .scaledToWidth(std::min(kClapWidth, picture->width), Qt::SmoothTransformation);
        },
        [this, key](const QImage& image) {
            m_loading.remove(key);
            m_pictures[key] = image;
            Q_EMIT changed();
        });
    return {};
}

SyncController::ClapPictures SyncController::clapPictures(int index) {
    const auto at = static_cast<std::size_t>(index);
    if (at >= m_rows.size() || !m_report || m_rows[at].result == nullptr) return {};
    const Row& row = m_rows[at];
    const auto offset = row.result->offsetSeconds();
    if (!offset || !row.result->frames || !m_report->referenceFrames) return {};
    // Without a clap the middle of what both saw serves as well.
    const double from = std::max(0.0, -*offset);
    const double to = std::min(m_report->referenceSeconds, row.result->durationSeconds - *offset);
    const double seconds = clapSeconds().value_or(0.5 * (from + to));
    return {pictureOf(m_report->reference, seconds),
            pictureOf(row.file, std::min(seconds, row.result->durationSeconds)),
            pictureOf(row.file, seconds + row.result->offsetAt(seconds).value_or(*offset))};
}

QString SyncController::offsetsText() const {
    return m_report ? plain(output::syncCsv(*m_report)) : QString();
}

/// Of a row; of the first that has one where the row is the reference.
const jobs::SyncResult* SyncController::resultOf(int row) const {
    const auto at = static_cast<std::size_t>(std::max(0, row));
    if (!m_report || at >= m_rows.size()) return nullptr;
    if (m_rows[at].result != nullptr) return m_rows[at].result;
    return m_report->results.empty() ? nullptr : &m_report->results.front();
}

void SyncController::writeCheck(int row, const QString& to, std::function<void()> written) {
    const jobs::SyncResult* result = resultOf(row);
    if (result == nullptr) return;
    using Done = base::Result<void>;
    m_context.jobs.start<Done>(
        tr("Laying two recordings on each other"),
        this,
        [reference = m_report->reference, one = *result, clap = clapSeconds(), to](
            const base::Progress& progress) {
            return jobs::writeCheck(reference, one, clap, to.toStdString(), progress);
        },
        [this, written = std::move(written)](const Done& done) {
            if (done)
                written();
            else if (done.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(done.error());
        });
}

bool SyncController::isListening() const {
    return m_context.player && m_context.player->isPlaying();
}

bool SyncController::canListen(int row) const {
    const jobs::SyncResult* result = resultOf(row);
    return m_context.player && m_context.player->canPlay() && result != nullptr && result->sound;
}

void SyncController::listen(int row) {
    if (!canListen(row)) return;
    const QString file = m_folder.filePath(u"check.wav"_s);
    writeCheck(row, file, [this, file] { m_context.player->play(file, jobs::kCheckRate); });
}

void SyncController::stopListening() {
    if (m_context.player) m_context.player->stop();
}

QStringList SyncController::feedWords(int row) const {
    if (!m_report || !jobs::mayBeFeeds(*m_report)) return {};
    const auto at = static_cast<std::size_t>(std::max(0, row));
    if (at >= m_rows.size()) return {};
    QStringList words;
    for (const jobs::FeedLatency& feed : jobs::feedLatencies(*m_report)) {
        if (feed.file != m_rows[at].file) continue;
        for (const std::string& line : words::feedLines(feed)) words << plain(line);
    }
    return words;
}

QVector<QImage> SyncController::strip(const std::string& file) const {
    return m_strips.value(plain(file));
}

void SyncController::loadStrips() {
    std::vector<std::string> files;
    for (const Row& row : m_rows) {
        if (row.frames != nullptr && !m_strips.contains(plain(row.file))) files.push_back(row.file);
    }
    for (const std::string& file : files) loadStrip(file);
}

void SyncController::loadStrip(const std::string& file) {
    const QString key = plain(file), loading = u"strip "_s + key;
    if (m_loading.contains(loading)) return;
    m_loading.insert(loading);
    using Pictures = base::Result<std::vector<jobs::Picture>>;
    m_context.jobs.start<Pictures>(
        tr("Loading pictures"),
        this,
        [file](const base::Progress& progress) {
            return jobs::pictureStrip(file, kStripPictures, kStripWidth, {}, progress);
        },
        [this, key, loading](const Pictures& pictures) {
            m_loading.remove(loading);
            QVector<QImage> images;
            if (pictures) {
                for (const jobs::Picture& one : *pictures)
                    images << QImage(one.rgb.data(),
                                     one.width,
                                     one.height,
                                     qsizetype{3} * one.width,
                                     QImage::Format_RGB888)
                                  .copy();
            }
            m_strips[key] = images;
            Q_EMIT changed();
        });
}

void SyncController::exportTo(const QString& file, int index) {
    if (file.isEmpty() || !m_report) return;
    if (jobs::isCheckFile(file.toStdString())) {
        writeCheck(index, file, [] {});
        return;
    }
    const rig::Rig& rig = m_context.document.rig();
    double rate = 25.0;
    if (m_report->referenceFrames) rate = m_report->referenceFrames->rate;
    const auto written = output::exportSync(*m_report, file.toStdString(), rate, rig.name);
    if (!written) Q_EMIT failed(written.error());
}

}  // namespace rigmatch::app
