// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/rig_document.h"

#include <QTime>
#include <QUndoCommand>

namespace rigmatch::app {
namespace {

constexpr int kJournalDelayMs = 400;
constexpr int kMostUndoSteps = 200;

}  // namespace

/// One step: the rig before and after. Steps of one group melt into one.
class RigCommand : public QUndoCommand {
public:
    RigCommand(RigDocument& document, const QString& text, const rig::Rig& after, int group)
        : QUndoCommand(text),
          m_document(document),
          m_before(document.rig()),
          m_after(after),
          m_group(group) {}

    void undo() override { m_document.replace(m_before); }
    void redo() override { m_document.replace(m_after); }
    [[nodiscard]] int id() const override { return m_group; }
    bool mergeWith(const QUndoCommand* later) override {
        const auto* other = dynamic_cast<const RigCommand*>(later);
        if (other == nullptr || other->m_group != m_group || m_group < 0) return false;
        m_after = other->m_after;
        return true;
    }

private:
    RigDocument& m_document;
    rig::Rig m_before;
    rig::Rig m_after;
    int m_group;
};

RigDocument::RigDocument(const QString& journalFolder, QObject* parent)
    : QObject(parent),
      m_journal(journalFolder.toStdString()),
      m_journalled(std::make_shared<JournalledRig>()) {
    m_undo.setUndoLimit(kMostUndoSteps);
    m_writer.setMaxThreadCount(1);
    m_journalTimer.setSingleShot(true);
    m_journalTimer.setInterval(kJournalDelayMs);
    connect(&m_journalTimer, &QTimer::timeout, this, &RigDocument::writeJournal);
    connect(&m_undo, &QUndoStack::cleanChanged, this, &RigDocument::stateChanged);
}

RigDocument::~RigDocument() {
    m_undo.disconnect(this);
    m_writer.waitForDone();
}

void RigDocument::change(const QString& text, const rig::Rig& next, int group) {
    if (next == m_rig) return;
    m_undo.push(new RigCommand(*this, text, next, group));
}

bool RigDocument::observe(const std::string& takeId,
                          const std::string& cameraId,
                          const rig::Observation& observation,
                          bool evenIfMoved) {
    m_observations.add(observation);
    for (std::size_t i = 0; i < m_rig.takes.size(); ++i) {
        const auto take = m_rig.takes.share(i);
        const rig::Shot* shot = take->id == takeId ? rig::findShot(*take, cameraId) : nullptr;
        if (shot == nullptr) continue;
        const std::string rests = rig::restsOn(*shot, rig::askedOf(m_rig, *take, cameraId));
        const auto fileOf = [](const std::string& text) { return text.substr(0, text.find('\n')); };
        const bool isFollowed = evenIfMoved && fileOf(rests) == fileOf(observation.rests);
        if (rests != observation.rests && !isFollowed) continue;
        rig::putInto(observation, *rig::findShot(m_rig.takes[i], cameraId));
        const bool wasModified = isModified();
        m_hasUnsavedReadings = true;
        startJournal();
        Q_EMIT rigChanged();
        if (!wasModified) Q_EMIT stateChanged();
        return true;
    }
    return false;
}

const rig::Observation* RigDocument::known(const rig::Take& take, const rig::Shot& shot) const {
    return m_observations.find(rig::restsOn(shot, rig::askedOf(m_rig, take, shot.cameraId)));
}

void RigDocument::startJournal() {
    // Not restarted by every change: a stream of changes must not put the journal off.
    if (!m_journalTimer.isActive()) m_journalTimer.start();
}

void RigDocument::replace(const rig::Rig& rig) {
    rig::Rig next = rig;
    m_observations.putInto(next, m_rig);
    m_rig = std::move(next);
    startJournal();
    Q_EMIT rigChanged();
}

void RigDocument::reset(const rig::Rig& rig, const QString& path, bool isReadOnly) {
    m_journalTimer.stop();
    m_writer.waitForDone();
    *m_journalled = {};
    m_undo.clear();
    ++m_opened;
    m_rig = rig;
    m_observations.clear();
    m_observations.addAll(rig);
    m_hasUnsavedReadings = false;
    m_path = path;
    m_isReadOnly = isReadOnly;
    m_savedAt.clear();
    Q_EMIT opened();
    Q_EMIT rigChanged();
    Q_EMIT stateChanged();
}

void RigDocument::start(const rig::Rig& rig) {
    close();
    reset(rig, QString(), false);
}

base::Result<std::vector<std::filesystem::path>> RigDocument::open(const QString& path) {
    auto loaded = rig::loadRig(path.toStdString());
    if (!loaded) return tl::unexpected(loaded.error());
    open(path, *loaded);
    return loaded->missingMedia;
}

void RigDocument::open(const QString& path, const rig::LoadedRig& loaded) {
    close();
    reset(loaded.rig, path, loaded.isReadOnly);
}

void RigDocument::recover(const rig::Recovery& recovery) {
    if (m_journal.pathFor(m_path.toStdString()) != recovery.journal) close();
    reset(recovery.rig, QString::fromStdString(recovery.document.string()), false);
    m_undo.resetClean();
    writeJournal();
    m_writer.waitForDone();
    if (m_journal.pathFor(recovery.document) != recovery.journal) {
        // The new journal holds it all; the old one is given up last.
        std::error_code ignored;
        std::filesystem::remove(recovery.journal, ignored);
    }
    Q_EMIT stateChanged();
}

base::Result<void> RigDocument::save() {
    if (m_isReadOnly) {
        return base::fail(base::ErrorCode::NewerVersion,
                          base::say("rigFile.readOnly"),
                          base::say("rigFile.later"),
                          base::say("rigFile.saveUnderAnother"));
    }
    return saveAs(m_path);
}

base::Result<void> RigDocument::saveAs(const QString& path) {
    m_writer.waitForDone();
    if (auto written = rig::saveRig(m_rig, path.toStdString()); !written) return written;
    m_hasUnsavedReadings = false;
    saved(path, m_undo.index());
    return {};
}

void RigDocument::saveInBackground(const QString& path,
                                   std::function<void(base::Result<void>)> done) {
    m_hasUnsavedReadings = false;
    const int index = m_undo.index();
    m_writer.start([this, copy = m_rig, path, index, opened = m_opened, done = std::move(done)] {
        const auto written = rig::saveRig(copy, path.toStdString());
        QMetaObject::invokeMethod(
            this,
            [this, written, path, index, opened, done] {
                // Another rig may have taken its place while the file was written.
                if (opened == m_opened && written) saved(path, index);
                if (opened == m_opened && !written) m_hasUnsavedReadings = true;
                done(written);
            },
            Qt::QueuedConnection);
    });
}

/// The file holds what was open at that step.
void RigDocument::saved(const QString& path, int undoIndex) {
    const bool isSame = m_undo.index() == undoIndex;
    const QString before = m_path;
    m_path = path;
    m_savedAt = QTime::currentTime().toString(QStringLiteral("HH:mm"));
    if (isSame) m_undo.setClean();
    if (!isModified()) {
        m_journalTimer.stop();
        m_writer.waitForDone();
        m_journal.remove(before.toStdString());
    } else if (before != path) {
        // What has changed since belongs to the new file.
        m_journal.remove(before.toStdString());
        startJournal();
    }
    Q_EMIT stateChanged();
}

void RigDocument::close() {
    m_journalTimer.stop();
    m_writer.waitForDone();
    m_journal.remove(m_path.toStdString());
}

void RigDocument::writeJournal() {
    if (m_isReadOnly) return;
    // The copy shares all of its parts with the rig, and what is new in it is written beside the
    // interface. A journal that cannot be written (full disk) must not disturb the work; saving
    // will say so.
    m_writer.start([journal = m_journal,
                    rig = m_rig,
                    document = std::filesystem::path(m_path.toStdString()),
                    held = m_journalled] {
        const bool isHeld = held->rig && held->document == document;
        const auto written =
            isHeld ? journal.append(*held->rig, rig, document) : journal.write(rig, document);
        held->rig = written ? std::optional(rig) : std::nullopt;
        held->document = document;
    });
}

}  // namespace rigmatch::app
