// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/try_out_json.h"

#include <nlohmann/json.hpp>

#include "output/json_parts.h"
#include "output/json_tidy.h"
#include "words/english.h"

namespace rigmatch::output {

std::string tryOutJson(const rig::Rig& rig, const jobs::TryOutReport& report) {
    Json profiles = Json::array(), ranked = Json::array();
    for (const jobs::TriedProfile& tried : report.profiles) {
        profiles.push_back({{"camera", rig::letterOf(rig, tried.cameraId)},
                            {"profile", tried.profile},
                            {"take", tried.takeNumber},
                            {"headroomStops", orNull(tried.headroomStops)},
                            {"rangeStops", orNull(tried.rangeStops)},
                            {"noisePercent",
                             tried.isNoiseKnown ? Json(tidy(tried.noisePercent)) : Json(nullptr)}});
    }
    for (const jobs::ProfileCombination& one : report.ranked) {
        Json chosen = Json::object();
        for (const std::size_t i : one.chosen)
            chosen[rig::letterOf(rig, report.profiles[i].cameraId)] = report.profiles[i].profile;
        ranked.push_back({{"profiles", chosen},
                          {"worstAfterTurns", tidy(one.afterTurns)},
                          {"uncertainty", tidy(one.uncertainty)},
                          {"asGoodAsBest", one.isAsGoodAsBest},
                          {"meanAfterTurns", tidy(one.mean)},
                          {"worstAfterLut", tidy(one.afterLut)},
                          {"leftOver", words::inEnglish(one.leftOver)}});
    }
    return Json{{"profiles", profiles},
                {"ranked", ranked},
                {"notes", words::inEnglish(report.notes)}}
               .dump(2) +
           "\n";
}

}  // namespace rigmatch::output
