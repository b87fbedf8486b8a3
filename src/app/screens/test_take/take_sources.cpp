// SPDX-License-Identifier: GPL-3.0-or-later
// What takes part in takes beside the cameras, and what a take is for.
#include <QDateTime>
#include <QFileInfo>
#include <algorithm>

#include "app/screens/test_take/shot_facts.h"
#include "app/screens/test_take/take_controller.h"
#include "app/services/texts.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

void TakeController::addSource(rig::SourceKind kind) {
    if (rig().sources.size() >= rig::kMostSources) return;
    rig::Rig next = rig();
    rig::Source source;
    source.id = rig::freshSourceId(next);
    source.kind = kind;
    const auto alike = std::count_if(
        next.sources.begin(), next.sources.end(), [&](const auto& s) { return s.kind == kind; });
    const QString name = kindText(kind);
    source.name = (alike == 0 ? name : tr("%1 %2").arg(name).arg(alike + 1)).toStdString();
    next.sources.push_back(source);
    m_context.document.change(tr("Add a source"), next);
    select(plain(source.id));
}

void TakeController::removeSource() {
    const rig::Source* gone = source();
    if (gone == nullptr) return;
    rig::Rig next = rig();
    const std::string id = gone->id;
    for (std::size_t i = 0; i < next.takes.size(); ++i) {
        if (rig::findShot(*next.takes.share(i), id) != nullptr)
            next.takes[i].shots.removeIf([&](const auto& s) { return s.cameraId == id; });
    }
    std::vector<rig::Source> kept;
    for (const rig::Source& each : rig().sources) {
        if (each.id != id) kept.push_back(each);
    }
    next.sources = kept;
    m_context.document.change(tr("Remove a source"), next);
}

void TakeController::renameSource(const QString& sourceId, const QString& name) {
    rig::Rig next = rig();
    for (rig::Source& each : next.sources) {
        if (plain(each.id) == sourceId) each.name = name.left(60).toStdString();
    }
    m_context.document.change(tr("Rename a source"), next);
}

void TakeController::setPurpose(rig::Purpose purpose, bool isOn) {
    if (take() == nullptr || rig::isFor(*take(), purpose) == isOn) return;
    rig::Rig next = rig();
    const std::string takeId = take()->id;
    rig::Take& changed = takeOf(next, takeId);
    std::vector<rig::Purpose> purposes;
    for (const rig::Purpose each : rig::kPurposes) {
        if (each == purpose ? isOn : rig::isFor(changed, each)) purposes.push_back(each);
    }
    if (purposes.empty()) {
        Q_EMIT this->changed();
        return;
    }
    const bool didShowChart = rig::showsChart(changed);
    changed.purposes = purposes;
    const bool isAnotherLook = didShowChart != rig::showsChart(changed);
    m_context.document.change(tr("What the take is for"), next);
    if (!isAnotherLook) return;
    for (const rig::Shot& shot : take()->shots) measure(takeId, shot.cameraId, MeasureCare::Whole);
}

bool TakeController::isTakingIn() const { return m_context.jobs.running().contains(m_intakeJob); }

void TakeController::takeIn(const QStringList& dropped) {
    if (dropped.isEmpty() || isTakingIn()) return;
    if (!rig().cameras.empty()) {
        if (dropped.size() == 1 && QFileInfo(dropped.front()).isDir())
            assignFolder(dropped.front());
        else
            assign(dropped);
        return;
    }
    std::vector<std::filesystem::path> paths;
    for (const QString& path : dropped)
        paths.push_back(std::filesystem::absolute(path.toStdString()));
    using Taken = base::Result<jobs::Intake>;
    m_intakeJob = m_context.jobs.start<Taken>(
        tr("Looking at the files"),
        this,
        [paths](const base::Progress& progress) { return jobs::intakeOf(paths, progress); },
        [this](const Taken& taken) {
            m_intakeJob = 0;
            if (taken)
                makeCameras(*taken);
            else if (taken.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(taken.error());
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void TakeController::makeCameras(const jobs::Intake& intake) {
    if (!rig().cameras.empty()) return;  // another rig was opened meanwhile
    const rig::Rig next = jobs::rigFrom(
        rig(), intake, QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
    const auto count = static_cast<int>(next.takes.back().shots.size());
    m_takenIn = next.takes.back().id;
    m_context.document.change(counted(count, tr("Take in a file"), tr("Take in %1 files")), next);
    m_context.selection.setTakeId(plain(m_takenIn));
    const std::string takeId = m_takenIn;
    for (const rig::Shot& shot : next.takes.back().shots)
        measure(takeId, shot.cameraId, MeasureCare::Anew);
    QStringList notes;
    if (!intake.leftOut.empty())
        notes << counted(
                     static_cast<int>(intake.leftOut.size()),
                     tr("1 file was left out: it cannot be read, or is one camera too many (%2)."),
                     tr("%1 files were left out: they cannot be read, or are more than sixteen "
                        "cameras (%2)."))
                     .arg(plain(intake.leftOut.front().filename().string()));
    if (!intake.olderOnCard.empty())
        notes << tr("Of each folder the newest clip was taken; older ones were left (%1).")
                     .arg(plain(intake.olderOnCard.front().filename().string()));
    if (!notes.isEmpty()) Q_EMIT takenIn(notes.join(u'\n'));
}

/// Once: when the last of the files that made the rig is measured.
void TakeController::announceWhenMeasured() {
    if (m_takenIn.empty()) return;
    for (const auto& [key, job] : m_measuring) {
        if (key.first == m_takenIn) return;
    }
    const bool isShown = take() != nullptr && take()->id == m_takenIn;
    m_takenIn.clear();
    if (isShown) m_context.selection.announceTake();
}

}  // namespace rigmatch::app
