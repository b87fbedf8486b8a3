// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QMap>
#include <QObject>
#include <QSet>
#include <QTemporaryDir>
#include <QVector>
#include <functional>
#include <optional>

#include "app/services/app_context.h"
#include "jobs/sound_job.h"
#include "output/sync_export.h"

namespace rigmatch::app {

/// Lays the files of the take on each other. What was found is kept with their readings, in the
/// rig.
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
        const sound::SoundReport* heard = nullptr;
        const timing::FrameReport* frames = nullptr;
        const std::vector<base::Warning>* findings = nullptr;
        bool isReference = false;
        double startSeconds = 0.0, lengthSeconds = 0.0;  ///< on the common clock
        bool isPlaced = false;
    };
    [[nodiscard]] const std::vector<Row>& rows() const { return m_rows; }
    /// A channel of one of the rows, and what it would be in the edit.
    enum class Part { Other, Main, Backup };
    struct Channel {
        int row = 0;
        QString letter, name;  ///< the row's
        std::size_t index = 0;
        bool isOnly = true;  ///< of its file
        Part part = Part::Other;
        sound::ChannelReport report;

        bool operator==(const Channel&) const = default;
    };
    /// Of all files that were listened to: main and backup first, then row by row.
    [[nodiscard]] std::vector<Channel> channels() const;
    [[nodiscard]] bool isSyncing() const;
    [[nodiscard]] double share() const;
    /// Two files at least.
    [[nodiscard]] bool canSync() const;
    [[nodiscard]] bool hasReport() const { return m_report.has_value(); }
    /// A clap that all may show, s of the reference; nothing where none stands out.
    [[nodiscard]] std::optional<double> clapSeconds() const;
    /// The channels to be main and backup, in words; empty until it is known.
    [[nodiscard]] QString microphones() const;

    /// Pictures of a clip at even moments of it; empty until they are loaded, or where it has none.
    [[nodiscard]] QVector<QImage> strip(const std::string& file) const;
    /// Loads the strips of all rows with pictures that have none yet.
    void loadStrips();
    /// In words, as a feed of one device that began to record all at once; empty where the files
    /// lie too far apart for that.
    [[nodiscard]] QStringList feedWords(int row) const;
    /// The reference left and `row` right, through the system's output.
    void listen(int row);
    void stopListening();
    [[nodiscard]] bool canListen(int row) const;
    [[nodiscard]] bool isListening() const;

    void sync();
    void cancel();
    /// Offsets as text, one line a source.
    [[nodiscard]] QString offsetsText() const;
    /// A .wav gets the sound of the reference on the left and of `row` on the right, a .mov or .mp4
    /// their pictures too.
    void exportTo(const QString& file, int row);
    /// Pictures of the clap for a row: the reference's, this file's as recorded, and as laid on it.
    struct ClapPictures {
        QImage reference, asRecorded, laidOn;
    };
    /// Null pictures while they are loading, or where there is none.
    [[nodiscard]] ClapPictures clapPictures(int row);

Q_SIGNALS:
    void changed();
    void failed(const rigmatch::base::Error& error);

private:
    [[nodiscard]] std::vector<const rig::Shot*> shots() const;
    [[nodiscard]] std::vector<jobs::MicrophoneRank> mainAndBackup() const;
    void refresh();
    void keep(const std::string& takeId, const jobs::SyncReport& report);
    [[nodiscard]] QImage pictureOf(const std::string& file, double seconds);
    [[nodiscard]] const jobs::SyncResult* resultOf(int row) const;
    void loadStrip(const std::string& file);
    void writeCheck(int row, const QString& to, std::function<void()> written);

    AppContext& m_context;
    std::optional<jobs::SyncReport> m_report;
    std::vector<Row> m_rows;  ///< point into m_report
    QMap<QString, QImage> m_pictures;
    QSet<QString> m_loading;
    QMap<QString, QVector<QImage>> m_strips;
    QTemporaryDir m_folder;  ///< of the sound that is listened to
    int m_job = 0;
};

}  // namespace rigmatch::app
