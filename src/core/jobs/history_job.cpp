// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/history_job.h"

#include <algorithm>
#include <cmath>

#include "jobs/match_job.h"

namespace rigmatch::jobs {

History historyOf(const rig::Rig& rig, const rig::Take& upTo, std::size_t most) {
    std::vector<const rig::Take*> takes;
    for (const rig::Take& take : rig.takes) {
        if (rig::isFor(take, rig::Purpose::Match)) takes.push_back(&take);
        if (take.id == upTo.id) break;
    }
    if (takes.size() > most) takes.erase(takes.begin(), takes.end() - static_cast<long>(most));
    History history;
    for (const rig::Take* take : takes) {
        const match::MatchReport report = matchReport(rig, *take);
        for (const match::CameraMatch& camera : report.cameras) {
            if (camera.isReference) continue;
            HistoryPoint point{take->id, take->number, {}};
            for (std::size_t i = 0; i < match::kQualityCount; ++i)
                point.qualities[i] = camera.differences.judged(static_cast<match::Quality>(i));
            history[camera.cameraId].push_back(point);
        }
    }
    return history;
}

}  // namespace rigmatch::jobs
