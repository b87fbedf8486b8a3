// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "optics/light.h"
#include "plan/analysis.h"
#include "plan/shot_size.h"
#include "rig/framing_goals.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using rig::PlanKind;
using rig::PlanObject;

constexpr double kShoulderMetres = 0.46;  // common practice
constexpr double kUprightShare = 81.0 / 256.0;
constexpr double kSquareShare = 9.0 / 16.0;

std::string percent(double share) { return fixed(100.0 * share, 0) + " %"; }

Fact headFact(const SetAnalysis& set, const PlacedCamera& camera, const HeadBox& box) {
    Fact fact{
        "headHeight", "Head in the picture", fixed(100.0 * box.height(), 1) + " % of the height"};
    fact.number = 100.0 * box.height();
    fact.unit = "%";
    fact.why = "Chin to crown of " + nameOf(*camera.subject) + ", " +
               fixed(box.height() * set.rig().choices.deliveryHeightPx, 0) + " px delivered";
    const PlacedCamera* twin = nullptr;
    double twinHeight = 0.0;
    for (const PlacedCamera& other : set.cameras()) {
        if (&other == &camera || !other.view || other.subject == nullptr) continue;
        if (other.place->shot != camera.place->shot || other.subject == camera.subject) continue;
        const auto others = headBox(*other.view, *other.subject);
        if (!others) continue;
        twin = &other;
        twinHeight = others->height();
        break;
    }
    if (twin == nullptr || shotSizeOf(camera.place->shot).headShare <= 0.0) {
        fact.why += ".";
        return fact;
    }
    const double ratio = box.height() / twinHeight;
    fact.why += "; " + fixed(ratio, 2) + " : 1 against " + twin->camera->letter +
                ", the other single. Within 5 % nobody sees it in the cut.";
    const double away = std::abs(ratio - 1.0);
    fact.verdict = away <= 0.05   ? base::Verdict::Good
                   : away <= 0.12 ? base::Verdict::Near
                                  : base::Verdict::Off;
    if (fact.verdict != base::Verdict::Good) {
        const double distance = camera.view->focusMetres() * ratio;
        fact.change = "Stand " + lengthText(set.plan(), distance) + " from the eyes instead of " +
                      lengthText(set.plan(), camera.view->focusMetres()) + ", as far as " +
                      twin->camera->letter + " needs for the same size.";
    }
    return fact;
}

Fact headroomFact(const SetAnalysis& set, const PlacedCamera& camera, const HeadBox& box) {
    const bool isWide = set.rig().choices.headroom == "wide";
    const double room = box.crown.y;
    const auto [low, high] = rig::wantedHeadroom(set.rig().choices, box.height());
    Fact fact{"headroom", "Headroom", percent(room) + " of the height"};
    fact.number = 100.0 * room;
    fact.unit = "%";
    fact.why = "Wanted is " + percent(low) + " to " + percent(high) + " (" +
               (isWide ? "about a fifth, room for punch-ins" : "three fingers to a fist") + ").";
    const double away = room < low ? low - room : room > high ? room - high : 0.0;
    fact.verdict = room < 0.0                    ? base::Verdict::Off
                   : away <= rig::kHeadroomSlack ? base::Verdict::Good
                   : away <= rig::kHeadroomNear  ? base::Verdict::Near
                                                 : base::Verdict::Off;
    if (fact.verdict != base::Verdict::Good) {
        const double shift =
            (room - 0.5 * (low + high)) * camera.view->heightAt(camera.view->focusMetres());
        fact.change = std::string(shift > 0.0 ? "Lower" : "Raise") + " the aim by " +
                      lengthText(set.plan(), std::abs(shift)) + ".";
    }
    return fact;
}

Fact eyeLineFact(const HeadBox& box) {
    Fact fact{"eyeLine", "Eyes below the top edge", percent(box.eyes.y)};
    fact.number = 100.0 * box.eyes.y;
    fact.unit = "%";
    const double away =
        std::max({rig::kEyeLine.low - box.eyes.y, box.eyes.y - rig::kEyeLine.high, 0.0});
    fact.verdict = away <= 0.0                 ? base::Verdict::Good
                   : away <= rig::kEyeLineNear ? base::Verdict::Near
                                               : base::Verdict::Off;
    fact.why = "The upper third (33 %) is usual, 30–42 % is accepted.";
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Tilt until the eyes lie on the upper guide.";
    return fact;
}

Fact cropsFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"crops", "9:16 and 1:1 out of the frame"};
    std::vector<const PlanObject*> seen;
    for (const PlanObject* person : objectsOf(set.plan(), PlanKind::Person)) {
        if (camera.faces.at(person->id).isInPicture) seen.push_back(person);
    }
    const double width = camera.view->widthAt(camera.view->focusMetres());
    const double upright = kUprightShare * width;
    const double square = kSquareShare * width;
    fact.why = "The 9:16 window is " + lengthText(set.plan(), upright) + " wide, the 1:1 window " +
               lengthText(set.plan(), square) + "; shoulders need " +
               lengthText(set.plan(), kShoulderMetres) + ".";
    if (seen.empty()) {
        fact.value = "no face";
        return fact;
    }
    if (seen.size() > 1) {
        const auto first = camera.view->project(headOf(*seen.front()).centre);
        const auto last = camera.view->project(headOf(*seen.back()).centre);
        const double span = std::abs(first->x - last->x) + 0.2 / width;
        fact.value = span <= kUprightShare  ? "both fit"
                     : span <= kSquareShare ? "1:1 only"
                                            : "one at a time";
        fact.verdict = span <= kUprightShare || !set.rig().choices.isUprightWanted
                           ? base::Verdict::Good
                           : base::Verdict::Near;
        if (fact.verdict != base::Verdict::Good) {
            fact.change =
                "Cut the upright version from the singles; a two-shot does not survive it.";
        }
        return fact;
    }
    fact.value = upright >= kShoulderMetres ? "9:16 holds head and shoulders"
                 : upright >= 0.24          ? "9:16 holds the head"
                                            : "9:16 cuts the face";
    const bool isWanted = set.rig().choices.isUprightWanted;
    fact.verdict = upright >= 0.24 || !isWanted ? base::Verdict::Good : base::Verdict::Near;
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Frame a little wider, and punch in for 16:9.";
    return fact;
}

Fact punchInFact(const SetAnalysis& set,
                 const PlacedCamera& camera,
                 const std::optional<HeadBox>& box) {
    const double source = camera.camera->settings.width;
    const double most = source / set.rig().choices.deliveryWidthPx;
    const double wanted = set.rig().choices.largestZoom;
    Fact fact{"punchIn", "Room for punch-in cuts", "up to " + fixed(std::max(most, 1.0), 2) + "×"};
    fact.number = most;
    fact.unit = "×";
    fact.why = fixed(source, 0) + " px recorded for " +
               fixed(set.rig().choices.deliveryWidthPx, 0) + " px delivered; wanted is " +
               fixed(wanted, 2) + "×.";
    if (most < 0.99) {
        fact.verdict = base::Verdict::Off;
        fact.change = "Record at least the delivered width.";
        return fact;
    }
    if (most < wanted - 0.005) {
        fact.verdict = base::Verdict::Near;
        fact.change = "Record a larger size, or frame for the tighter cut from the start.";
    }
    if (!box) return fact;
    const double left = box->eyes.y - wanted * (box->eyes.y - box->crown.y);
    fact.why += " Punched in about the eyes, " + percent(left) + " headroom is left.";
    if (left < 0.03) {
        fact.verdict = std::max(fact.verdict, base::Verdict::Near);
        fact.change = "Leave more headroom, or plan no punch-in on this camera.";
    }
    return fact;
}

Fact intruderFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"intruders", "In this picture by accident", "nothing"};
    const std::vector<Intruder> found = set.intruders(camera);
    fact.number = static_cast<double>(found.size());
    if (found.empty()) {
        fact.why = "Ceiling, backdrop's ends, stands, lamps, boards and other cameras are outside.";
        return fact;
    }
    const Intruder& first = found.front();
    fact.value =
        first.text + (found.size() > 1 ? " and " + std::to_string(found.size() - 1) + " more" : "");
    fact.verdict = first.share < 0.06 ? base::Verdict::Near : base::Verdict::Off;
    for (const Intruder& one : found) {
        fact.why += (fact.why.empty() ? "" : "; ") + one.text + ", " + one.edge + ", " +
                    percent(one.share) + " into the frame";
    }
    fact.why += ".";
    fact.change =
        first.isRoom && first.moveMetres == 0.0 ? "Tilt down, lower the lens, or go tighter."
        : first.isRoom ? "Bring the person or the backdrop nearer together, or go tighter."
                       : "Move " + first.text + " out by " +
                             lengthText(set.plan(), first.moveMetres + 0.05) + ".";
    return fact;
}

Fact angleFact(const SetAnalysis& set, const PlacedCamera& camera, double headHeight) {
    Fact fact{"cutAngle", "Step in a cut to the nearest camera", "none near"};
    for (const PlacedCamera& other : set.cameras()) {
        if (&other == &camera || !other.view) continue;
        const auto seen = other.faces.find(camera.subject->id);
        if (seen == other.faces.end() || !seen->second.isInPicture) continue;
        const Vec face = headOf(*camera.subject).eyes;
        const double angle =
            angleBetween(camera.view->position() - face, other.view->position() - face);
        const auto box = headBox(*other.view, *camera.subject);
        const double ratio = box && box->height() > 0.0
                                 ? std::max(headHeight / box->height(), box->height() / headHeight)
                                 : 99.0;
        if (fact.number && angle >= *fact.number) continue;
        fact.number = angle;
        fact.unit = "°";
        fact.value =
            fixed(angle, 0) + "° to " + other.camera->letter + ", size " + fixed(ratio, 1) + " : 1";
        fact.verdict = angle >= 30.0 || ratio >= 1.3 ? base::Verdict::Good : base::Verdict::Near;
    }
    fact.why =
        "A cut reads as a cut from 30° or a size step of 1.3 on; below it looks like a jump.";
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Turn one camera further round, or make one tighter.";
    return fact;
}

}  // namespace

namespace {

/// Stops of the background against the face that the rig's mood asks for (common practice).
rig::Wanted backgroundGoal(const rig::Choices& choices) {
    if (choices.mood == "moody") return {-5.0, -1.5};
    if (choices.mood == "friendly") return {-2.2, 0.2};
    if (choices.mood == "flat") return {-1.7, 0.5};
    return {-3.5, -0.7};
}

/// What this camera would be set to for the light at the mark, in its own values.
std::string exposureAdvice(const rig::Camera& camera, double overStops) {
    const rig::Settings& now = camera.settings;
    const double iso =
        rig::nearestAllowed(camera.sheet.isoValues, now.isoValue * std::exp2(-overStops));
    const double rest = overStops + std::log2(iso / now.isoValue);
    std::string advice = "ISO " + fixed(iso, 0) + " would fit";
    if (rest > 0.4) advice += " with " + fixed(rest, 1) + " stops of ND";
    advice += overStops > 0.0 ? ", or dim the key by " + fixed(overStops, 1) + " stops"
                              : ", or " + fixed(-overStops, 1) + " stops more key";
    if (overStops < 0.0 && now.fNumber > camera.lens.largestAperture * 1.1) {
        advice += "; the lens opens to f/" + fixed(camera.lens.largestAperture, 1);
    }
    return advice + ".";
}

}  // namespace

std::vector<Fact> pictureFacts(const SetAnalysis& set, const PlacedCamera& camera) {
    std::vector<Fact> facts{intruderFact(set, camera)};
    std::optional<HeadBox> box;
    if (camera.subject != nullptr) box = headBox(*camera.view, *camera.subject);
    const bool isSingle = shotSizeOf(camera.place->shot).headShare > 0.0;
    if (box) {
        facts.push_back(headFact(set, camera, *box));
        if (isSingle) {
            facts.push_back(headroomFact(set, camera, *box));
            facts.push_back(eyeLineFact(*box));
        }
        facts.push_back(angleFact(set, camera, box->height()));
    }
    facts.push_back(cropsFact(set, camera));
    facts.push_back(punchInFact(set, camera, isSingle ? box : std::nullopt));
    return facts;
}

namespace {

Fact ratioFact(const PlacedCamera& camera, const FaceSeen& seen, const FaceLight& light) {
    Fact ratio{"keyToFill", "Lit side to shadow side", "one side only"};
    if (seen.ratioStops) {
        ratio.number = *seen.ratioStops;
        ratio.uncertainty = light.ratioUncertainty;
        ratio.unit = "stop";
        ratio.value =
            fixed(*seen.ratioStops, 1) + " ± " + fixed(light.ratioUncertainty, 1) + " stops";
    }
    ratio.why = "Cheek to cheek on " + nameOf(*camera.subject) + " as this lens sees them.";
    if (seen.keyAngleDegrees) {
        ratio.why += " The key stands " + fixed(*seen.keyAngleDegrees, 0) + "° from the lens.";
    }
    return ratio;
}

Fact backgroundFact(const SetAnalysis& set, const FaceSeen& seen) {
    Fact background{
        "faceToBackground", "Background against face", "unknown", base::Verdict::Unknown};
    background.unit = "stop";
    if (!seen.backgroundStops) {
        background.why = "Nothing measurable is beside the head.";
        return background;
    }
    const double stops = *seen.backgroundStops;
    background.number = stops;
    background.uncertainty = 0.4;
    background.value = base::signedFixed(stops, 1) + " ± 0.4 stop";
    const auto [low, high] = backgroundGoal(set.rig().choices);
    background.verdict = stops <= high && stops >= low ? base::Verdict::Good
                         : stops > high + 1.2          ? base::Verdict::Off
                                                       : base::Verdict::Near;
    background.why = "Of " + seen.backgroundName + " beside the head; for this mood " +
                     base::signedFixed(low, 1) + " to " + base::signedFixed(high, 1) +
                     " stops are usual.";
    if (stops > high) {
        const PlanObject* lamp = rig::findObject(set.plan(), seen.backgroundLightId);
        background.change = lamp == nullptr ? "Use grids: the room gives it back."
                                            : "Dim " + nameOf(*lamp) +
                                                  ", or keep it off by grid, flag or distance.";
    }
    if (stops < low) background.change = "Give the background its own lamp, from the key's side.";
    return background;
}

Fact markFact(const SetAnalysis& set, const PlacedCamera& camera, const FaceLight& light) {
    const rig::Settings& settings = camera.camera->settings;
    const double asked = optics::illuminanceFor(rig::exposureOf(settings)) *
                         std::exp2(glassLossStops(set.rig(), *camera.camera));
    const double over = std::log2(light.faceLux / asked);
    Fact level{"exposureAtMark", "Light at the mark", luxText(light.faceLux)};
    level.number = over;
    level.unit = "stop";
    level.uncertainty = 0.3;
    level.verdict = std::abs(over) <= 0.7   ? base::Verdict::Good
                    : std::abs(over) <= 1.2 ? base::Verdict::Near
                                            : base::Verdict::Off;
    level.why = "ISO " + fixed(settings.isoValue, 0) + ", f/" + fixed(settings.fNumber, 1) + ", " +
                optics::shutterText(settings.shutterSeconds) + " ask for " + luxText(asked) + ": " +
                base::signedFixed(over, 1) + " ± 0.3 stop.";
    if (!rig::isExposureKnown(settings)) {
        level.number.reset();
        level.verdict = base::Verdict::Unknown;
        level.why = "What this camera asks for is not known: ISO, shutter, f-number or ND.";
        level.change = "Enter it on Cameras.";
    } else if (level.verdict != base::Verdict::Good) {
        level.change = exposureAdvice(*camera.camera, over);
    }
    return level;
}

}  // namespace

std::vector<Fact> cameraLightFacts(const SetAnalysis& set, const PlacedCamera& camera) {
    const FaceSeen* seen = camera.subjectSeen();
    const FaceLight* light = camera.subject == nullptr ? nullptr : set.faceOf(camera.subject->id);
    if (seen == nullptr || light == nullptr) return {};
    return {ratioFact(camera, *seen, *light),
            backgroundFact(set, *seen),
            markFact(set, camera, *light)};
}

}  // namespace rigmatch::plan
