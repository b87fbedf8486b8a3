// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/target_job.h"

#include <algorithm>
#include <cmath>

#include "jobs/people_job.h"
#include "rig/rig_store.h"

namespace rigmatch::jobs {
namespace {

bool showsChart(const rig::Shot* shot) {
    return shot != nullptr && shot->reading && shot->reading->hasChart;
}

/// A turn's change over what is accepted of its kind (docs/sources.md, 5.10).
double sizeOf(const rig::TurnEffect& change) {
    const auto accepted = [](match::Quality quality) { return match::toleranceOf(quality).accept; };
    return std::abs(change.exposureStops) / accepted(match::Quality::Exposure) +
           std::abs(change.whiteBalanceMired) / accepted(match::Quality::WhiteBalance) +
           std::abs(change.tintDuv) / accepted(match::Quality::Tint) +
           std::abs(change.contrast) / accepted(match::Quality::Contrast) +
           std::abs(change.blackPercent) / accepted(match::Quality::BlackLevel) +
           std::abs(change.saturation) / accepted(match::Quality::Saturation) +
           std::abs(change.hueDegrees) / accepted(match::Quality::Hue);
}

bool isStiff(const rig::ControlSheet& sheet) {
    return sheet.kelvins.size() < 2 || (sheet.isoValues.size() < 2 && sheet.gainsDb.size() < 2 &&
                                        sheet.fNumbers.size() < 2 && sheet.ndStops.size() < 2);
}

tl::unexpected<base::Error> noTarget(const std::string& words, const base::Text& why) {
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("targetJob.noTarget", {{"words", words}}),
                      why,
                      base::say("targetJob.giveCamerasLetter"));
}

/// What the reference of a take looked like.
base::Result<match::Target> earlierTarget(const std::string& words,
                                          const rig::Rig& rig,
                                          const std::string& takeId) {
    const auto take = std::find_if(rig.takes.begin(), rig.takes.end(), [&](const rig::Take& one) {
        return one.id == takeId || std::to_string(one.number) == takeId;
    });
    if (take == rig.takes.end())
        return noTarget(words,
                        base::say("targetJob.rigNoTake", {{"name", rig.name}, {"takeId", takeId}}));
    const rig::Camera* camera = rig::findCamera(rig, rig.referenceId);
    const rig::Shot* shot = rig::findShot(*take, rig.referenceId);
    if (camera == nullptr || !showsChart(shot)) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("targetJob.nothingMatch", {{"words", words}}),
                          base::say("targetJob.referenceTakeShows"),
                          base::say("targetJob.chooseTakeChart"));
    }
    match::Target target;
    target.outside = match::Target::Outside{*camera, *shot};
    // Who is where is known of today's pictures alone.
    target.outside->camera.id.clear();
    target.words = "camera " + camera->letter + " of take " + std::to_string(take->number) +
                   (take->startedAt.empty() ? "" : " of " + take->startedAt);
    return target;
}

base::Result<match::Target> leastTarget(const rig::Rig& rig, const rig::Take& take) {
    const std::vector<TargetCost> costs = targetCosts(rig, take);
    const auto least =
        std::min_element(costs.begin(), costs.end(), [](const auto& a, const auto& b) {
            return a.change < b.change;
        });
    if (least == costs.end()) return noTarget("least", base::say("targetJob.noCameraShows"));
    match::Target target;
    target.cameraId = least->cameraId;
    return target;
}

}  // namespace

std::vector<TargetCost> targetCosts(const rig::Rig& rig, const rig::Take& take) {
    std::vector<TargetCost> costs;
    for (const rig::Camera& camera : rig.cameras) {
        if (!showsChart(rig::findShot(take, camera.id))) continue;
        match::Target target;
        target.cameraId = camera.id;
        const match::MatchReport report = matchReport(rig, take, target, true);
        TargetCost cost;
        cost.cameraId = camera.id;
        cost.isStiff = isStiff(camera.sheet);
        for (const match::CameraMatch& match : report.cameras) {
            cost.leftOver += static_cast<int>(match.plan.leftOver.size());
            for (const rig::Turn& turn : match.plan.turns) {
                ++cost.turns;
                cost.change += sizeOf(turn.change);
            }
        }
        if (report.worstAfter) cost.worstAfter = report.worstAfter->deltaE;
        costs.push_back(cost);
    }
    return costs;
}

Recommendation recommendedReference(const std::vector<TargetCost>& costs) {
    constexpr double kAlike = 0.3;  // ΔE2000: what two worst pairs may differ by and be alike
    Recommendation recommended;
    double least = 1e9;
    for (const TargetCost& cost : costs) least = std::min(least, cost.worstAfter.value_or(1e9));
    const TargetCost* best = nullptr;
    for (const TargetCost& cost : costs) {
        if (cost.worstAfter.value_or(1e9) > least + kAlike) continue;
        const bool isBetter = best == nullptr || (cost.isStiff && !best->isStiff) ||
                              (cost.isStiff == best->isStiff &&
                               (cost.leftOver < best->leftOver ||
                                (cost.leftOver == best->leftOver && cost.change < best->change)));
        if (isBetter) best = &cost;
    }
    if (best == nullptr) return recommended;
    recommended.cameraId = best->cameraId;
    if (best->isStiff) recommended.reasons.push_back(base::say("target.stiff"));
    if (best->worstAfter)
        recommended.reasons.push_back(
            base::say("target.worstAfter", {{"deltaE", base::Number{*best->worstAfter, 1}}}));
    recommended.reasons.push_back(base::say(best->turns == 1 ? "target.turn" : "target.turns",
                                            {{"turns", base::Number{double(best->turns)}}}));
    if (best->leftOver == 0) recommended.reasons.push_back(base::say("target.noControlEnds"));
    return recommended;
}

base::Result<match::Target> targetOf(const std::string& words,
                                     const rig::Rig& rig,
                                     const rig::Take& take) {
    match::Target target;
    if (words == "least") return leastTarget(rig, take);
    if (words == "chart") {
        const rig::Shot* own = rig::findShot(take, rig.referenceId);
        if (showsChart(own)) return match::chartTarget(*own->reading);
        for (const rig::Shot& shot : take.shots) {
            if (showsChart(&shot)) return match::chartTarget(*shot.reading);
        }
        return noTarget(words, base::say("targetJob.noCameraShows"));
    }
    constexpr std::string_view kTake = "take:";
    if (words.starts_with(kTake)) return earlierTarget(words, rig, words.substr(kTake.size()));
    if (const auto colon = words.rfind(':'); colon != std::string::npos) {
        auto other = rig::loadRig(words.substr(0, colon));
        if (!other) return tl::unexpected(other.error());
        return earlierTarget(words, other->rig, words.substr(colon + 1));
    }
    for (const rig::Camera& camera : rig.cameras) {
        if (camera.letter != words) continue;
        target.cameraId = camera.id;
        return target;
    }
    return noTarget(words, base::say("targetJob.noCameraRig"));
}

match::MatchReport matchReport(const rig::Rig& rig,
                               const rig::Take& take,
                               const match::Target& target,
                               bool hasControls) {
    return match::matchTake(rig, take, hasControls, peopleOf(rig, take), target);
}

}  // namespace rigmatch::jobs
