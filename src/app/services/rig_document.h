// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <optional>

#include "base/result.h"
#include "rig/rig.h"
#include "rig/rig_store.h"

namespace rigmatch::app {

/// The open rig. It changes only through undoable commands; every change reaches the recovery
/// journal within a second.
class RigDocument : public QObject {
    Q_OBJECT
public:
    /// `journalFolder` takes the journals of rigs without a file.
    explicit RigDocument(const QString& journalFolder, QObject* parent = nullptr);
    ~RigDocument() override;

    [[nodiscard]] const rig::Rig& rig() const { return m_rig; }
    [[nodiscard]] QString path() const { return m_path; }
    [[nodiscard]] bool isReadOnly() const { return m_isReadOnly; }
    [[nodiscard]] bool isModified() const { return !m_undo.isClean(); }
    [[nodiscard]] QUndoStack& undoStack() { return m_undo; }
    [[nodiscard]] QString savedAt() const { return m_savedAt; }

    /// A number that ties the steps of one gesture together: changes with equal `group` undo as
    /// one.
    [[nodiscard]] int newGroup() { return ++m_lastGroup; }
    /// Makes `next` the rig, as a step called `text`. Does nothing where they are equal.
    void change(const QString& text, const rig::Rig& next, int group = -1);

    /// Starts anew with `rig`, not yet saved.
    void start(const rig::Rig& rig);
    /// Opens a file. Fails as rig::loadRig; the document then stays as it was.
    [[nodiscard]] base::Result<std::vector<std::filesystem::path>> open(const QString& path);
    /// Takes over what a crashed session left: unsaved, with its file's name.
    void recover(const rig::Recovery& recovery);
    [[nodiscard]] base::Result<void> save();
    [[nodiscard]] base::Result<void> saveAs(const QString& path);
    /// Removes the journal: the rig was saved, or given up on purpose.
    void close();

    [[nodiscard]] const rig::Journal& journal() const { return m_journal; }

Q_SIGNALS:
    void rigChanged();
    /// Path, saved state or read-only state changed.
    void stateChanged();

private:
    friend class RigCommand;
    void replace(const rig::Rig& rig);
    void reset(const rig::Rig& rig, const QString& path, bool isReadOnly);
    void writeJournal();

    rig::Rig m_rig;
    QString m_path;
    QString m_savedAt;
    bool m_isReadOnly = false;
    int m_lastGroup = 0;
    QUndoStack m_undo;
    rig::Journal m_journal;
    QTimer m_journalTimer;
};

}  // namespace rigmatch::app
