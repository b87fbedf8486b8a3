// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <map>
#include <memory>

#include "app/services/app_context.h"
#include "jobs/sound_job.h"
#include "jobs/sync_export.h"

namespace rigmatch::app {

/// Lays the files of the take on each other: what was found, by take, until the rig is closed.
class SyncController : public QObject {
    Q_OBJECT
public:
    explicit SyncController(AppContext& context, QObject* parent = nullptr);

    /// A source of the take with what is known of it.
    struct Row {
        QString letter;  ///< of a camera; empty for other sources
        QString name;
        std::string file;
        const jobs::SyncResult* result = nullptr;  ///< nullptr: the reference, or nothing yet
        const jobs::HeardFile* heard = nullptr;
        bool isReference = false;
        double startSeconds = 0.0, lengthSeconds = 0.0;  ///< on the common clock
        bool isPlaced = false;
    };
    [[nodiscard]] const std::vector<Row>& rows() const { return m_rows; }
    [[nodiscard]] bool isSyncing() const;
    [[nodiscard]] double share() const;
    /// Two files at least.
    [[nodiscard]] bool canSync() const;
    [[nodiscard]] bool hasReport() const { return report() != nullptr; }

    void sync();
    void cancel();
    /// Offsets as text, one line a source.
    [[nodiscard]] QString offsetsText() const;
    void exportTo(const QString& file);

Q_SIGNALS:
    void changed();
    void failed(const rigmatch::base::Error& error);

private:
    struct Found {
        std::vector<std::string> files;  ///< that it rests on, the reference first
        base::Result<jobs::SyncReport> sync;
        std::vector<jobs::HeardFile> heard;
    };
    [[nodiscard]] const Found* found() const;
    [[nodiscard]] const jobs::SyncReport* report() const;
    [[nodiscard]] std::vector<std::string> files() const;
    void refresh();

    AppContext& m_context;
    std::map<std::string, std::shared_ptr<const Found>> m_found;  ///< by take
    std::vector<Row> m_rows;
    int m_job = 0;
};

}  // namespace rigmatch::app
