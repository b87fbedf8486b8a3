// SPDX-License-Identifier: GPL-3.0-or-later
// What takes part in takes beside the cameras, and what a take is for.
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

}  // namespace rigmatch::app
