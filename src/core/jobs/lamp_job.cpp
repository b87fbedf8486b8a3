// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/lamp_job.h"

#include <algorithm>

#include "jobs/match_job.h"
#include "plan/fact.h"

namespace rigmatch::jobs {
namespace {

bool isSameControl(const rig::LampTurn& a, const rig::LampTurn& b) {
    return a.objectId == b.objectId && a.control == b.control;
}

}  // namespace

std::vector<SetLightTurn> lightTurns(const rig::Rig& rig,
                                     const rig::Take& take,
                                     const match::MatchReport& report) {
    if (!rig.plan || !report.commonLight) return {};
    rig::SetPlan asShot = *rig.plan;
    for (const rig::LampTurn& turn : take.doneAtLamps)
        asShot = plan::withLampTurn(std::move(asShot), turn, false);
    plan::LightChange wanted;
    if (report.commonLight->stops) wanted.stops = -*report.commonLight->stops;
    if (report.commonLight->mired) wanted.mired = -*report.commonLight->mired;
    std::vector<SetLightTurn> turns;
    for (plan::LampAdvice& advice : plan::lampAdvice(asShot, wanted)) {
        const auto& done = take.doneAtLamps;
        const auto found = std::find_if(done.begin(), done.end(), [&](const rig::LampTurn& one) {
            return isSameControl(one, advice.turn);
        });
        // What was carried out stays as it was asked for.
        if (found != done.end()) advice.turn = *found;
        turns.push_back({std::move(advice), found != done.end()});
    }
    return turns;
}

std::vector<plan::LampAdvice> formerLightTurns(const rig::Rig& rig,
                                               const rig::Take& take,
                                               const std::vector<SetLightTurn>& asked) {
    std::vector<plan::LampAdvice> former;
    if (!rig.plan) return former;
    for (const rig::LampTurn& turn : take.doneAtLamps) {
        const bool isAsked = std::any_of(asked.begin(), asked.end(), [&](const SetLightTurn& one) {
            return isSameControl(one.advice.turn, turn);
        });
        const rig::PlanObject* lamp = rig::findObject(*rig.plan, turn.objectId);
        if (!isAsked && lamp != nullptr) former.push_back({turn, plan::nameOf(*lamp)});
    }
    return former;
}

rig::Rig withLightTurn(rig::Rig rig,
                       const std::string& takeId,
                       const rig::LampTurn& turn,
                       bool isDone) {
    for (std::size_t i = 0; i < rig.takes.size(); ++i) {
        if (rig.takes.share(i)->id != takeId) continue;
        auto& done = rig.takes[i].doneAtLamps;
        std::erase_if(done, [&](const rig::LampTurn& one) { return isSameControl(one, turn); });
        if (isDone) done.push_back(turn);
    }
    if (rig.plan) rig.plan = plan::withLampTurn(std::move(*rig.plan), turn, isDone);
    return rig;
}

std::optional<std::vector<plan::LampAdvice>> carryOutLightTurns(rig::Rig& rig) {
    const rig::Take* take = rig::newestTake(rig, rig::Purpose::Match);
    if (take == nullptr) return std::nullopt;
    const std::string id = take->id;
    std::vector<SetLightTurn> turns = lightTurns(rig, *take, matchReport(rig, *take));
    if (turns.empty()) return std::nullopt;
    std::vector<plan::LampAdvice> done;
    for (SetLightTurn& turn : turns) {
        if (turn.isDone) continue;
        rig = withLightTurn(std::move(rig), id, turn.advice.turn, true);
        done.push_back(std::move(turn.advice));
    }
    return done;
}

}  // namespace rigmatch::jobs
