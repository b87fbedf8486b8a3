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

std::string historyText(const std::vector<HistoryPoint>& points, match::Quality quality) {
    std::string text;
    int known = 0;
    const match::Difference* last = nullptr;
    std::string unit;
    for (const HistoryPoint& point : points) {
        const match::Difference& difference = point.qualities[static_cast<std::size_t>(quality)];
        if (!difference.value) continue;
        const CellText cell = cellText(quality, difference);
        text += (text.empty() ? "take " : " → take ") + std::to_string(point.takeNumber) + " " +
                cell.value;
        unit = cell.unit;
        last = &difference;
        ++known;
    }
    if (known < 2) return {};
    if (!unit.empty()) text += " " + unit;
    const double neutral = match::isRatio(quality) ? 1.0 : 0.0;
    if (std::abs(*last->value - neutral) <= 2.0 * last->uncertainty &&
        quality != match::Quality::DeltaE)
        return text + ": no more than can be told, stop here";
    if (last->verdict == match::Verdict::Good) return text + ": below what is seen, stop here";
    return text;
}

}  // namespace rigmatch::jobs
