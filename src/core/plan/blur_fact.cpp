// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/blur_fact.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "optics/lens.h"
#include "optics/shutter.h"

namespace rigmatch::plan {
namespace {

using base::fixed;

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
        fact.change = "It needs f/" + fixed(wanted, 1) + "; this lens opens to f/" +
                      fixed(widest, 1) +
                      ": go longer and further back, or move the seat off the background.";
        return;
    }
    const double stops = 2.0 * std::log2(lens.fNumber / wanted);
    fact.change = (isOpening ? "Open to f/" : "Close to f/") + fixed(wanted, 1);
    if (isOpening && stops > kLeastNd)
        fact.change += rig::hasOwnNd(body.sheet)
                           ? ", and add " + fixed(stops, 1) + " stops of ND"
                           : ", and wear " + fixed(stops, 1) + " stops of ND before the lens";
    if (!isOpening)
        fact.change +=
            ", and give back " + fixed(-stops, 1) + " stops by ND taken off, ISO or lamp";
    fact.change += ".";
    optics::LensState then = lens;
    then.fNumber = wanted;
    const auto depth = optics::depthOfField(
        then,
        std::min(optics::circleOfConfusionMm(lens.area),
                 optics::criticalCircleMm(lens.area, set.rig().choices.deliveryWidthPx)));
    if (!depth) return;
    const double near = (lens.distanceMm - depth->nearMm) / 1000.0;
    const double far = depth->farMm ? (*depth->farMm - lens.distanceMm) / 1000.0 : 10.0 * kLean;
    fact.change +=
        " Sharp then from " + lengthText(set.plan(), depth->nearMm / 1000.0) + " to " +
        (depth->farMm ? lengthText(set.plan(), *depth->farMm / 1000.0) : std::string("∞"));
    fact.change += std::min(near, far) < kLean
                       ? ": a speaker who leans or nods leaves it. Follow the focus, or take less "
                         "blur."
                       : ": enough for one who leans.";
}

}  // namespace

Fact blurFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"blur", "Background blur", "unknown", base::Verdict::Unknown};
    fact.unit = "%";
    const FaceSeen* seen = camera.subjectSeen();
    if (seen == nullptr || seen->backgroundName.empty()) {
        fact.why = "No background is known behind the head.";
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
    fact.value = fixed(100.0 * *share, 2) + " % of the width";
    fact.why = "A point of " + seen->backgroundName + " becomes a disc of " +
               fixed(*share * set.rig().choices.deliveryWidthPx, 0) +
               " px in the delivered picture.";
    const double goal = goalOf(set.rig().choices.blur);
    if (goal <= 0.0 || *share <= 0.0) return fact;
    fact.why += " The goal is a disc of " + fixed(goal * set.rig().choices.deliveryWidthPx, 0) +
                " px, on all cameras.";
    const double apart = std::max(*share / goal, goal / *share);
    if (apart <= kNearFactor) return fact;
    fact.verdict = apart <= kOffFactor ? base::Verdict::Near : base::Verdict::Off;
    // The disc grows as the f-number falls.
    propose(set, camera, lens.fNumber * *share / goal, fact);
    return fact;
}

}  // namespace rigmatch::plan
