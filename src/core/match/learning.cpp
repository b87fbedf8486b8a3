// SPDX-License-Identifier: GPL-3.0-or-later
// What takes teach of the controls of a camera.
#include "match/learning.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "match/change_fit.h"
#include "match/side_view.h"

namespace rigmatch::match {
namespace {

using base::Number;
using base::say;

constexpr std::ptrdiff_t kMostTakes = 12;  // older ones tell of another day
// Of one reading of a difference, with what scene and method add.
constexpr double kTurnStops = 0.03, kTurnMired = 1.4, kTurnDuv = 0.0005;

/// One camera against the reference in one take.
struct SeenTurn {
    const rig::Take* take;
    const rig::Shot* camera;
    const rig::Shot* reference;
    NeutralFit mine, theirs;
};

std::optional<SeenTurn> seenIn(const rig::Rig& rig, const rig::Take& take, const std::string& id) {
    const rig::Shot* camera = rig::findShot(take, id);
    const rig::Shot* reference = rig::findShot(take, rig.referenceId);
    const auto hasChart = [](const rig::Shot* shot) {
        return shot != nullptr && shot->reading && shot->reading->hasChart &&
               !shot->reading->areColoursDoubtful;
    };
    const bool isToLearn =
        rig::isFor(take, rig::Purpose::Match) || rig::isFor(take, rig::Purpose::Probe);
    if (!isToLearn || !hasChart(camera) || !hasChart(reference)) return std::nullopt;
    const auto mine = fitNeutrals(*camera->reading);
    const auto theirs = fitNeutrals(*reference->reading);
    if (!mine || !theirs || !mine->isCastKnown || !theirs->isCastKnown) return std::nullopt;
    return SeenTurn{&take, camera, reference, *mine, *theirs};
}

/// Light at which the camera records the reference's grey, against its own: the exposure it would
/// have to be turned by.
double exposureOf(const SeenTurn& seen) {
    return -(seen.mine.greyStops(seen.theirs.greySignal(0.0)));
}

/// Settings by which pictures differ, apart from what can be learned of, are the same.
bool isOtherwiseSame(const rig::ControlSheet& sheet,
                     const rig::Settings& a,
                     const rig::Settings& b) {
    const auto told = [&](const rig::Settings& s) {
        std::vector<std::pair<std::string, double>> others;
        for (const auto& [name, value] : s.knobs)
            others.emplace_back(name, rig::findKnob(sheet, name) == nullptr ? value : 0.0);
        return others;
    };
    return a.profile == b.profile && told(a) == told(b) && !a.isAutoExposure && !b.isAutoExposure &&
           !a.isAutoWhiteBalance && !b.isAutoWhiteBalance;
}

bool isReferenceLeftAlone(const rig::Settings& a, const rig::Settings& b) {
    return a == b && !a.isAutoExposure && !a.isAutoWhiteBalance;
}

/// What was seen of one camera between two takes.
struct Observed {
    Change change, error;
};

/// By its neutrals, where no knob moved: what they did against the reference's, seen back through
/// the body.
Observed observedNeutrals(const SeenTurn& before, const SeenTurn& now, const BodyModel& body) {
    Change shown;
    shown.exposureStops = exposureOf(now) - exposureOf(before);
    shown.whiteBalanceMired = ((now.mine.white.mired - now.theirs.white.mired) -
                               (before.mine.white.mired - before.theirs.white.mired))
                                  .value();
    shown.tintDuv = ((now.mine.white.duv - now.theirs.white.duv) -
                     (before.mine.white.duv - before.theirs.white.duv))
                        .value();
    return {body.dialFor(shown, before.theirs.greySignal(0.0)), {}};
}

/// By all patches, where knobs moved; what the light did meanwhile is seen by the reference.
std::optional<Observed> observedPatches(const SeenTurn& before,
                                        const SeenTurn& now,
                                        const BodyModel& body) {
    const auto mine = fitChange(body, *before.camera->reading, *now.camera->reading);
    const BodyModel other(*before.reference->reading, before.theirs);
    const auto theirs = fitChange(other, *before.reference->reading, *now.reference->reading);
    if (!mine || !theirs) return std::nullopt;
    Observed observed{mine->change, mine->uncertainty};
    for (const auto part : {&Change::exposureStops, &Change::whiteBalanceMired, &Change::tintDuv}) {
        observed.change.*part -= theirs->change.*part;
        observed.error.*part = std::hypot(observed.error.*part, theirs->uncertainty.*part);
    }
    return observed;
}

/// With what scene and method add to a reading of such a change (docs/sources.md, 6.6).
Change withMethod(const Change& error, const Change& nominal) {
    return {std::hypot(error.exposureStops, kTurnStops, 0.0004 * nominal.whiteBalanceMired),
            std::hypot(error.whiteBalanceMired, kTurnMired, 0.03 * nominal.whiteBalanceMired),
            std::hypot(error.tintDuv,
                       std::hypot(kTurnDuv, 0.05 * nominal.tintDuv),
                       1e-5 * nominal.whiteBalanceMired),
            std::hypot(error.contrast, 0.015, 0.1 * nominal.contrast),
            std::hypot(error.blackPercent, 0.3, 0.1 * nominal.blackPercent),
            std::hypot(error.saturation, 0.015, 0.05 * nominal.saturation),
            std::hypot(error.hueDegrees, 0.5, 0.05 * nominal.hueDegrees),
            std::hypot(error.knee, 0.03, 0.1 * nominal.knee)};
}

void tellSurprise(const SeenTurn& now, LearnedControls& learned) {
    learned.surprises.push_back(
        say("learned.takeTurnDid", {{"take", base::whole(now.take->number)}}));
}

/// What in-camera sharpening did to the edges of the chart, against the reference's.
void learnSharpness(const SeenTurn& before, const SeenTurn& now, LearnedControls& learned) {
    const auto& from = before.camera->settings.detailSteps;
    const auto& to = now.camera->settings.detailSteps;
    if (!from.isTold() || !to.isTold() || from == to) return;
    double seen = 0.0;
    double variance = 1.0;  // a chart held a little otherwise: own estimate, %²
    for (const auto& [shot, sign] : {std::pair{now.camera, 1.0},
                                     std::pair{before.camera, -1.0},
                                     std::pair{now.reference, -1.0},
                                     std::pair{before.reference, 1.0}}) {
        if (!shot->reading->sharpness) return;
        seen += sign * shot->reading->sharpness->overshootPercent;
        variance += std::pow(shot->reading->sharpness->overshootErrorPercent, 2.0);
    }
    if (!learned.learnSharpness(to - from, seen, std::sqrt(variance))) tellSurprise(now, learned);
}

void learnPair(const rig::Camera& camera,
               const SeenTurn& before,
               const SeenTurn& now,
               LearnedControls& learned) {
    const rig::Settings& from = before.camera->settings;
    const rig::Settings& to = now.camera->settings;
    Moves moves = movesBetween(camera.sheet, from, to);
    const bool areKnobsMoved = from.knobs != to.knobs;
    const BodyModel body(*before.camera->reading, before.mine);
    const auto observed = areKnobsMoved
                              ? observedPatches(before, now, body)
                              : std::optional<Observed>(observedNeutrals(before, now, body));
    if (!observed) return;
    const bool isExposureTold = rig::isExposureKnown(from) && rig::isExposureKnown(to) &&
                                from.gainDb.isTold() == to.gainDb.isTold();
    const bool areBalancesTold = from.whiteBalanceKelvin.isTold() &&
                                 to.whiteBalanceKelvin.isTold() && from.tintSteps.isTold() &&
                                 to.tintSteps.isTold();
    // What nobody told twice is taken to stand as it stood.
    const bool areBalancesLeft = !areBalancesTold &&
                                 from.whiteBalanceKelvin == to.whiteBalanceKelvin &&
                                 from.tintSteps == to.tintSteps;
    if (areBalancesLeft) {
        moves.segment(1, 2).setZero();
        moves.segment(kFirstKelvinBend, kKelvinBends + kTintBends).setZero();
    }
    std::size_t parts = 0;
    if (isExposureTold && (areBalancesTold || areBalancesLeft)) parts |= 0b1U;
    if (areBalancesTold) parts |= 0b110U;
    if (areKnobsMoved) parts |= 0b11111000U;
    const Change error = withMethod(observed->error, learned.answer(moves));
    if (!learned.learn(moves, observed->change, error, parts)) tellSurprise(now, learned);
}

}  // namespace

LearnedControls learnControls(const rig::Rig& rig,
                              const rig::Take& upTo,
                              const std::string& cameraId) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr) return {};
    LearnedControls learned(camera->sheet);
    if (cameraId == rig.referenceId) return learned;
    std::optional<SeenTurn> before;
    const auto last = std::find_if(
        rig.takes.begin(), rig.takes.end(), [&](const rig::Take& t) { return t.id == upTo.id; });
    const auto all = std::distance(rig.takes.begin(), last);
    for (auto at = rig.takes.begin() + std::max<std::ptrdiff_t>(0, all - kMostTakes);
         at != rig.takes.end();
         ++at) {
        if (at->id == camera->forgottenUpTo) {
            learned = LearnedControls(camera->sheet);
            before = seenIn(rig, *at, cameraId);
        } else if (auto now = seenIn(rig, *at, cameraId)) {
            const bool isUsable =
                before && !(before->camera->settings == now->camera->settings) &&
                isReferenceLeftAlone(before->reference->settings, now->reference->settings) &&
                isOtherwiseSame(camera->sheet, before->camera->settings, now->camera->settings);
            if (isUsable) {
                learnPair(*camera, *before, *now, learned);
                learnSharpness(*before, *now, learned);
            }
            before = std::move(now);
        }
        if (at->id == upTo.id) break;
    }
    if (before && learned.isAnythingLearned())
        learned.show(BodyModel(*before->camera->reading, before->mine),
                     before->theirs.greySignal(0.0));
    return learned;
}

base::Text stepText(int takes) {
    if (takes == 0) return say("turn.stepGuessed");
    return base::say(takes == 1 ? "turn.stepLearnedOnce" : "turn.stepLearnedOften",
                     {{"turns", Number{double(takes)}}});
}

}  // namespace rigmatch::match
