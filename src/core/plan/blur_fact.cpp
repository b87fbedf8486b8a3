// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/blur_fact.h"

#include <algorithm>
#include <cmath>

#include "optics/lens.h"
#include "optics/shutter.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;

constexpr double kLean = 0.15;  // m that a speaker leans either way (common practice)
constexpr double kNearFactor = 1.26, kOffFactor = 1.6;  // of the goal's disc: 2/3 stop, 1 1/3
constexpr double kLeastNd = 0.3;                        // stops

/// Disc of a point behind, share of the width (own choice: at 1920 px 10, 25 and 60 px).
double goalOf(const std::string& choice) {
    if (choice == "gentle") return 0.005;
    if (choice == "soft") return 0.013;
    return choice == "melted" ? 0.030 : 0.0;
}

/// Whether the lens opens that far, as far as its sheet tells.
bool canOpen(const rig::Camera& camera, double fNumber) {
    const auto& stops = camera.sheet.fNumbers;
    return stops.empty() || *std::min_element(stops.begin(), stops.end()) <= 1.03 * fNumber;
}

/// "Open to f/2.0, and put on 2 stops of ND."
void propose(const SetAnalysis& set, const PlacedCamera& camera, double wanted, Fact& fact) {
    const optics::LensState& lens = camera.view->lens();
    const rig::Camera& body = *camera.camera;
    const bool isOpening = wanted < lens.fNumber;
    if (isOpening && !canOpen(body, wanted)) {
        const double widest =
            *std::min_element(body.sheet.fNumbers.begin(), body.sheet.fNumbers.end());
        fact.change =
            say("blur.needsFLens", {{"wanted", Number{wanted, 1}}, {"widest", Number{widest, 1}}});
        return;
    }
    const double stops = 2.0 * std::log2(lens.fNumber / wanted);
    fact.change = say(isOpening ? "blur.openTo" : "blur.closeTo", {{"fNumber", Number{wanted, 1}}});
    if (isOpening && stops > kLeastNd)
        fact.change += rig::hasOwnNd(body.sheet)
                           ? say("blur.addStopsNd", {{"stops", Number{stops, 1}}})
                           : say("blur.wearStopsNd", {{"stops", Number{stops, 1}}});
    if (!isOpening) fact.change += say("blur.giveBackStops", {{"stops", Number{-stops, 1}}});
    fact.change += say("common.fullStop");
    optics::LensState then = lens;
    then.fNumber = wanted;
    const auto depth = optics::depthOfField(
        then,
        std::min(optics::circleOfConfusionMm(lens.area),
                 optics::criticalCircleMm(lens.area, set.rig().choices.deliveryWidthPx)));
    if (!depth) return;
    const double near = (lens.distanceMm - depth->nearMm) / 1000.0;
    const double far = depth->farMm ? (*depth->farMm - lens.distanceMm) / 1000.0 : 10.0 * kLean;
    fact.change += say(
        "blur.sharpThen",
        {{"near", lengthText(set.plan(), depth->nearMm / 1000.0)},
         {"far",
          depth->farMm ? lengthText(set.plan(), *depth->farMm / 1000.0) : say("common.infinity")}});
    fact.change +=
        std::min(near, far) < kLean ? say("blur.speakerWhoLeans") : say("blur.enoughOneWho");
}

}  // namespace

Fact blurFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"blur", say("blur.backgroundBlur"), say("common.unknown"), base::Verdict::Unknown};
    fact.unit = "%";
    const FaceSeen* seen = camera.subjectSeen();
    if (seen == nullptr || seen->backgroundName.empty()) {
        fact.why = say("blur.noBackgroundKnown");
        return fact;
    }
    const optics::LensState& lens = camera.view->lens();
    const auto share = optics::backgroundBlurShare(lens, seen->backgroundMetres * 1000.0);
    if (!share) {
        fact.why = share.error().detail;
        return fact;
    }
    fact.verdict = base::Verdict::Good;
    fact.number = 100.0 * *share;
    fact.value = say("blur.width", {{"percent", Number{100.0 * *share, 2}}});
    fact.why = say("blur.pointBecomesDisc",
                   {{"backgroundName", seen->backgroundName},
                    {"deliveryWidthPx", Number{*share * set.rig().choices.deliveryWidthPx}}});
    const double goal = goalOf(set.rig().choices.blur);
    if (goal <= 0.0 || *share <= 0.0) return fact;
    fact.why += say("blur.goalDiscPx",
                    {{"deliveryWidthPx", Number{goal * set.rig().choices.deliveryWidthPx}}});
    const double apart = std::max(*share / goal, goal / *share);
    if (apart <= kNearFactor) return fact;
    fact.verdict = apart <= kOffFactor ? base::Verdict::Near : base::Verdict::Off;
    // The disc grows as the f-number falls.
    propose(set, camera, lens.fNumber * *share / goal, fact);
    return fact;
}

}  // namespace rigmatch::plan
