// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/sync_controller.h"

#include <algorithm>

#include "app/services/texts.h"

namespace rigmatch::app {

SyncController::SyncController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    connect(&context.document, &RigDocument::rigChanged, this, &SyncController::refresh);
    connect(&context.document, &RigDocument::opened, this, [this] {
        m_found.clear();
        refresh();
    });
    connect(&context.selection, &Selection::changed, this, &SyncController::refresh);
    connect(&context.jobs, &JobRunner::changed, this, &SyncController::changed);
    refresh();
}

/// The take's files, the reference's first.
std::vector<std::string> SyncController::files() const {
    const rig::Take* take = m_context.currentTake();
    if (take == nullptr) return {};
    std::vector<std::string> all;
    for (const rig::Shot& shot : take->shots) {
        if (shot.media.empty()) continue;
        const bool isFirst = shot.cameraId == m_context.document.rig().referenceId;
        all.insert(isFirst ? all.begin() : all.end(), shot.media.string());
    }
    return all;
}

/// What was found, as long as the take holds the same files.
const SyncController::Found* SyncController::found() const {
    const rig::Take* take = m_context.currentTake();
    if (take == nullptr) return nullptr;
    const auto known = m_found.find(take->id);
    if (known == m_found.end() || known->second->files != files()) return nullptr;
    return known->second.get();
}

const jobs::SyncReport* SyncController::report() const {
    const Found* known = found();
    return known != nullptr && known->sync ? &*known->sync : nullptr;
}

bool SyncController::isSyncing() const { return m_context.jobs.running().contains(m_job); }

double SyncController::share() const {
    const auto running = m_context.jobs.running().find(m_job);
    return running == m_context.jobs.running().end() ? 0.0 : running->fraction;
}

bool SyncController::canSync() const { return files().size() >= 2 && !isSyncing(); }

void SyncController::cancel() { m_context.jobs.cancel(m_job); }

void SyncController::sync() {
    const rig::Take* take = m_context.currentTake();
    if (take == nullptr || !canSync()) return;
    using Result = std::shared_ptr<const Found>;
    m_job = m_context.jobs.start<Result>(
        tr("Syncing take %1").arg(take->number),
        this,
        [all = files()](const base::Progress& progress) -> Result {
            const std::vector<std::filesystem::path> others(all.begin() + 1, all.end());
            auto made = std::make_shared<Found>();
            made->files = all;
            made->sync = jobs::syncFiles(all.front(), others, progress.part(0.0, 0.8));
            for (std::size_t i = 0; i < all.size() && !progress.isCancelled(); ++i) {
                const double share = 0.2 / static_cast<double>(all.size());
                const double from = 0.8 + share * static_cast<double>(i);
                made->heard.push_back(
                    {all[i], jobs::listenTo(all[i], progress.part(from, from + share))});
            }
            return made;
        },
        [this, takeId = take->id](const Result& made) {
            m_job = 0;
            const bool isCancelled =
                !made->sync && made->sync.error().code == base::ErrorCode::Cancelled;
            if (!isCancelled) m_found[takeId] = made;
            if (!made->sync && !isCancelled) Q_EMIT failed(made->sync.error());
            refresh();
        });
    Q_EMIT changed();
}

void SyncController::refresh() {
    m_rows.clear();
    const rig::Take* take = m_context.currentTake();
    const Found* known = found();
    const auto placed =
        report() != nullptr ? jobs::placedSources(*report()) : std::vector<jobs::PlacedSource>();
    const std::vector<std::string> all = files();
    for (const std::string& file : all) {
        Row row;
        row.file = file;
        row.isReference = file == all.front();
        for (const rig::Shot& shot : take->shots) {
            if (shot.media.string() != file) continue;
            const rig::Rig& rig = m_context.document.rig();
            if (const rig::Camera* camera = rig::findCamera(rig, shot.cameraId)) {
                row.letter = plain(camera->letter);
                row.name = plain(camera->role);
            } else if (const rig::Source* source = rig::findSource(rig, shot.cameraId)) {
                row.name = plain(source->name);
            }
        }
        if (report() != nullptr) {
            for (const jobs::SyncResult& result : report()->results) {
                if (result.file == file) row.result = &result;
            }
        }
        if (known != nullptr) {
            for (const jobs::HeardFile& heard : known->heard) {
                if (heard.file == file) row.heard = &heard;
            }
        }
        for (const jobs::PlacedSource& source : placed) {
            if (source.file != file) continue;
            row.isPlaced = true;
            row.startSeconds = source.startSeconds;
            row.lengthSeconds = source.lengthSeconds;
        }
        m_rows.push_back(row);
    }
    Q_EMIT changed();
}

QString SyncController::offsetsText() const {
    return report() == nullptr ? QString() : plain(jobs::syncCsv(*report()));
}

void SyncController::exportTo(const QString& file) {
    if (file.isEmpty() || report() == nullptr) return;
    const rig::Rig& rig = m_context.document.rig();
    double rate = 25.0;
    if (report()->referenceFrames) rate = report()->referenceFrames->rate;
    const auto written = jobs::exportSync(*report(), file.toStdString(), rate, rig.name);
    if (!written) Q_EMIT failed(written.error());
}

}  // namespace rigmatch::app
