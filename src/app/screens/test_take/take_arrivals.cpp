// SPDX-License-Identifier: GPL-3.0-or-later
// How files come into a rig: dropped, chosen, or given to one row of the list.
#include <QDateTime>
#include <algorithm>

#include "app/screens/test_take/take_controller.h"
#include "app/services/texts.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

std::string nowText() { return QDateTime::currentDateTime().toString(Qt::ISODate).toStdString(); }

}  // namespace

bool TakeController::isTakingIn() const { return m_context.jobs.running().contains(m_intakeJob); }

void TakeController::assign(const QStringList& files, const QString& sourceId) {
    if (files.isEmpty()) return;
    std::vector<std::filesystem::path> paths;
    for (const QString& file : files)
        paths.push_back(std::filesystem::absolute(file.toStdString()));
    jobs::Arrivals arrivals;
    for (const auto& path : paths) {
        jobs::Arrival arrival;
        arrival.what.file = path;
        arrival.place = sourceId.toStdString();
        arrival.reason = jobs::ArrivalReason::Chosen;
        arrivals.files.push_back(arrival);
    }
    putArrivals(arrivals);
}

void TakeController::takeIn(const QStringList& dropped, const QString& chosenId) {
    if (dropped.isEmpty() || isTakingIn()) return;
    std::vector<std::filesystem::path> paths;
    for (const QString& path : dropped)
        paths.push_back(std::filesystem::absolute(path.toStdString()));
    if (rig().cameras.empty() && rig().sources.empty()) {
        startIntake<jobs::Intake>(
            [paths](const base::Progress& progress) { return jobs::intakeOf(paths, progress); },
            [this](const jobs::Intake& taken) { makeCameras(taken); });
        return;
    }
    const std::string shown = take() == nullptr ? std::string() : take()->id;
    startIntake<jobs::Arrivals>(
        [paths, copy = rig(), shown, chosen = chosenId.toStdString()](
            const base::Progress& progress) {
            return jobs::arrivalsOf(copy, shown, chosen, paths, progress);
        },
        [this, shown](const jobs::Arrivals& arrivals) {
            const std::string now = take() == nullptr ? std::string() : take()->id;
            if (now != shown) return;  // the rig has moved on
            if (arrivals.isSure)
                putArrivals(arrivals);
            else
                Q_EMIT arrivalsGuessed(arrivals);
        });
}

/// Looks at files in the background; `done` gets what came of it.
template <class Found>
void TakeController::startIntake(
    const std::function<base::Result<Found>(const base::Progress&)>& look,
    const std::function<void(const Found&)>& done) {
    m_intakeJob = m_context.jobs.start<base::Result<Found>>(
        tr("Looking at the files"), this, look, [this, done](const base::Result<Found>& found) {
            m_intakeJob = 0;
            if (found)
                done(*found);
            else if (found.error().code != base::ErrorCode::Cancelled)
                Q_EMIT failed(found.error());
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void TakeController::putArrivals(const jobs::Arrivals& arrivals) {
    rig::Rig next = rig();
    const std::string shown = take() == nullptr ? std::string() : take()->id;
    const jobs::PutArrivals put = jobs::putArrivals(arrivals, shown, nowText(), next);
    if (put.sources.empty()) return;
    m_context.document.change(
        counted(static_cast<int>(put.sources.size()), tr("Add a clip"), tr("Add %1 clips")), next);
    m_context.selection.setTakeId(plain(put.takeId));
    for (const std::string& id : put.sources) measure(put.takeId, id, MeasureCare::Arrived);
}

void TakeController::makeCameras(const jobs::Intake& intake) {
    if (!rig().cameras.empty()) return;  // another rig was opened meanwhile
    const rig::Rig next = jobs::rigFrom(rig(), intake, nowText());
    const auto count = static_cast<int>(next.takes.back().shots.size());
    m_takenIn = next.takes.back().id;
    m_context.document.change(counted(count, tr("Take in a file"), tr("Take in %1 files")), next);
    m_context.selection.setTakeId(plain(m_takenIn));
    const std::string takeId = m_takenIn;
    for (const rig::Shot& shot : next.takes.back().shots)
        measure(takeId, shot.cameraId, MeasureCare::Arrived);
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
