// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QString>
#include <QThreadPool>
#include <QTimer>
#include <QUndoStack>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

#include "base/result.h"
#include "rig/observations.h"
#include "rig/rig.h"
#include "rig/rig_store.h"

namespace rigmatch::app {

/// What the journal holds: nothing before it was written, and after that failed.
struct JournalledRig {
    std::optional<rig::Rig> rig;
    std::filesystem::path document;
};

/// The open rig. What a person decides changes it through undoable commands; what is measured is
/// put in beside them: it makes no step, clears no redo, and a correction taken back finds the
/// older measurement again. Every change reaches the recovery journal within a second.
class RigDocument : public QObject {
    Q_OBJECT
public:
    /// `journalFolder` takes the journals of rigs without a file.
    explicit RigDocument(const QString& journalFolder, QObject* parent = nullptr);
    ~RigDocument() override;

    [[nodiscard]] const rig::Rig& rig() const { return m_rig; }
    [[nodiscard]] QString path() const { return m_path; }
    [[nodiscard]] bool isReadOnly() const { return m_isReadOnly; }
    [[nodiscard]] bool isModified() const { return m_hasUnsavedReadings || !m_undo.isClean(); }
    [[nodiscard]] QUndoStack& undoStack() { return m_undo; }
    [[nodiscard]] QString savedAt() const { return m_savedAt; }

    /// A number that ties the steps of one gesture together: changes with equal `group` undo as
    /// one.
    [[nodiscard]] int newGroup() { return ++m_lastGroup; }
    /// Makes `next` the rig, as a step called `text`. Does nothing where they are equal.
    void change(const QString& text, const rig::Rig& next, int group = -1);

    /// Puts a measurement into the shot of that take and camera, if it still asks for it (file and
    /// hand corrections are those it rests on), and keeps it in any case. `evenIfMoved`:
    /// corrections that are moving on are followed. True where it was put in.
    bool observe(const std::string& takeId,
                 const std::string& cameraId,
                 const rig::Observation& observation,
                 bool evenIfMoved = false);
    /// The measurement that rests on the same file and corrections as `shot` of `take`; nullptr:
    /// none yet.
    [[nodiscard]] const rig::Observation* known(const rig::Take& take, const rig::Shot& shot) const;
    /// Those by content (rig::Observations::correctedAlike()).
    [[nodiscard]] std::vector<rig::Observation> correctedAlike(const rig::Shot& shot,
                                                               const std::string& asked) const {
        return m_observations.correctedAlike(shot, asked);
    }

    /// Starts anew with `rig`, not yet saved.
    void start(const rig::Rig& rig);
    /// Opens a file. Fails as rig::loadRig; the document then stays as it was.
    [[nodiscard]] base::Result<std::vector<std::filesystem::path>> open(const QString& path);
    /// The same for one that was loaded from `path`.
    void open(const QString& path, const rig::LoadedRig& loaded);
    /// Takes over what a crashed session left: unsaved, with its file's name.
    void recover(const rig::Recovery& recovery);
    [[nodiscard]] base::Result<void> save();
    [[nodiscard]] base::Result<void> saveAs(const QString& path);
    /// The same beside the interface: `done` gets the outcome on the interface thread. What changes
    /// in the meantime stays unsaved.
    void saveInBackground(const QString& path, std::function<void(base::Result<void>)> done);
    /// Removes the journal: the rig was saved, or given up on purpose.
    void close();

    [[nodiscard]] const rig::Journal& journal() const { return m_journal; }

Q_SIGNALS:
    void rigChanged();
    /// Another rig took the place of the one that was open.
    void opened();
    /// Path, saved state or read-only state changed.
    void stateChanged();

private:
    friend class RigCommand;
    void replace(const rig::Rig& rig);
    void reset(const rig::Rig& rig, const QString& path, bool isReadOnly);
    void saved(const QString& path, int undoIndex);
    void startJournal();
    void writeJournal();

    rig::Rig m_rig;
    rig::Observations m_observations;
    bool m_hasUnsavedReadings = false;
    QString m_path;
    QString m_savedAt;
    bool m_isReadOnly = false;
    int m_lastGroup = 0;
    int m_opened = 0;  ///< how many rigs were
    QUndoStack m_undo;
    rig::Journal m_journal;
    std::shared_ptr<JournalledRig> m_journalled;  ///< touched by the writer, or while it rests
    QTimer m_journalTimer;
    QThreadPool m_writer;  ///< one thread: journals are written in their order
};

}  // namespace rigmatch::app
