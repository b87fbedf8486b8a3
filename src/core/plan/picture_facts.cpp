// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "optics/light.h"
#include "plan/analysis.h"
#include "plan/shot_size.h"
#include "rig/framing_goals.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::PlanKind;
using rig::PlanObject;

constexpr double kShoulderMetres = 0.46;  // common practice
constexpr double kUprightShare = 81.0 / 256.0;
constexpr double kSquareShare = 9.0 / 16.0;

Fact headFact(const SetAnalysis& set, const PlacedCamera& camera, const HeadBox& box) {
    Fact fact{"headHeight",
              say("headHeight.headPicture"),
              say("headHeight.height", {{"height", Number{100.0 * box.height(), 1}}})};
    fact.number = 100.0 * box.height();
    fact.unit = "%";
    fact.why =
        say("headHeight.chinCrownPx",
            {{"subject", nameOf(*camera.subject)},
             {"deliveryHeightPx", Number{box.height() * set.rig().choices.deliveryHeightPx}}});
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
        fact.why += say("common.fullStop");
        return fact;
    }
    const double ratio = box.height() / twinHeight;
    fact.why += say("headHeight.againstOtherSingle",
                    {{"ratio", Number{ratio, 2}}, {"camera", twin->camera->letter}});
    const double away = std::abs(ratio - 1.0);
    fact.verdict = away <= 0.05   ? base::Verdict::Good
                   : away <= 0.12 ? base::Verdict::Near
                                  : base::Verdict::Off;
    if (fact.verdict != base::Verdict::Good) {
        const double distance = camera.view->focusMetres() * ratio;
        fact.change = say("headHeight.standEyesInstead",
                          {{"distance", lengthText(set.plan(), distance)},
                           {"focus", lengthText(set.plan(), camera.view->focusMetres())},
                           {"camera", twin->camera->letter}});
    }
    return fact;
}

Fact headroomFact(const SetAnalysis& set, const PlacedCamera& camera, const HeadBox& box) {
    const bool isWide = set.rig().choices.headroom == "wide";
    const double room = box.crown.y;
    const auto [low, high] = rig::wantedHeadroom(set.rig().choices, box.height());
    Fact fact{"headroom",
              say("headroom.headroom"),
              say("headroom.height", {{"room", percentText(room)}})};
    fact.number = 100.0 * room;
    fact.unit = "%";
    fact.why =
        say("headroom.wanted",
            {{"low", percentText(low)},
             {"high", percentText(high)},
             {"goal", isWide ? say("headroom.aboutFifthRoom") : say("headroom.threeFingersFist")}});
    const double away = room < low ? low - room : room > high ? room - high : 0.0;
    fact.verdict = room < 0.0                    ? base::Verdict::Off
                   : away <= rig::kHeadroomSlack ? base::Verdict::Good
                   : away <= rig::kHeadroomNear  ? base::Verdict::Near
                                                 : base::Verdict::Off;
    if (fact.verdict != base::Verdict::Good) {
        const double shift =
            (room - 0.5 * (low + high)) * camera.view->heightAt(camera.view->focusMetres());
        fact.change =
            say("headroom.aim",
                {{"direction", shift > 0.0 ? say("headroom.lower") : say("headroom.raise")},
                 {"shift", lengthText(set.plan(), std::abs(shift))}});
    }
    return fact;
}

Fact eyeLineFact(const HeadBox& box) {
    Fact fact{"eyeLine", say("eyeLine.eyesBelowTop"), percentText(box.eyes.y)};
    fact.number = 100.0 * box.eyes.y;
    fact.unit = "%";
    const double away =
        std::max({rig::kEyeLine.low - box.eyes.y, box.eyes.y - rig::kEyeLine.high, 0.0});
    fact.verdict = away <= 0.0                 ? base::Verdict::Good
                   : away <= rig::kEyeLineNear ? base::Verdict::Near
                                               : base::Verdict::Off;
    fact.why = say("eyeLine.upperThirdUsual");
    if (fact.verdict != base::Verdict::Good) fact.change = say("eyeLine.tiltUntilEyes");
    return fact;
}

Fact cropsFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"crops", say("crops.outFrame")};
    std::vector<const PlanObject*> seen;
    for (const PlanObject* person : objectsOf(set.plan(), PlanKind::Person)) {
        if (camera.faces.at(person->id).isInPicture) seen.push_back(person);
    }
    const double width = camera.view->widthAt(camera.view->focusMetres());
    const double upright = kUprightShare * width;
    const double square = kSquareShare * width;
    fact.why = say("crops.windowWideWindow",
                   {{"upright", lengthText(set.plan(), upright)},
                    {"square", lengthText(set.plan(), square)},
                    {"shoulder", lengthText(set.plan(), kShoulderMetres)}});
    if (seen.empty()) {
        fact.value = say("crops.noFace");
        return fact;
    }
    if (seen.size() > 1) {
        const auto first = camera.view->project(headOf(*seen.front()).centre);
        const auto last = camera.view->project(headOf(*seen.back()).centre);
        const double span = std::abs(first->x - last->x) + 0.2 / width;
        fact.value = span <= kUprightShare  ? say("crops.bothFit")
                     : span <= kSquareShare ? say("crops.only")
                                            : say("crops.oneTime");
        fact.verdict = span <= kUprightShare || !set.rig().choices.isUprightWanted
                           ? base::Verdict::Good
                           : base::Verdict::Near;
        if (fact.verdict != base::Verdict::Good) {
            fact.change = say("crops.cutUprightVersion");
        }
        return fact;
    }
    fact.value = upright >= kShoulderMetres ? say("crops.holdsHeadShoulders")
                 : upright >= 0.24          ? say("crops.holdsHead")
                                            : say("crops.cutsFace");
    const bool isWanted = set.rig().choices.isUprightWanted;
    fact.verdict = upright >= 0.24 || !isWanted ? base::Verdict::Good : base::Verdict::Near;
    if (fact.verdict != base::Verdict::Good) fact.change = say("crops.frameLittleWider");
    return fact;
}

Fact punchInFact(const SetAnalysis& set,
                 const PlacedCamera& camera,
                 const std::optional<HeadBox>& box) {
    const double source = camera.camera->settings.width;
    const double most = source / set.rig().choices.deliveryWidthPx;
    const double wanted = set.rig().choices.largestZoom;
    Fact fact{"punchIn",
              say("punchIn.roomPunchCuts"),
              say("punchIn.up", {{"most", Number{std::max(most, 1.0), 2}}})};
    fact.number = most;
    fact.unit = "×";
    fact.why = say("punchIn.pxRecordedPx",
                   {{"recordedPx", Number{source}},
                    {"deliveredPx", Number{set.rig().choices.deliveryWidthPx}},
                    {"wanted", Number{wanted, 2}}});
    if (most < 0.99) {
        fact.verdict = base::Verdict::Off;
        fact.change = say("punchIn.recordLeastDelivered");
        return fact;
    }
    if (most < wanted - 0.005) {
        fact.verdict = base::Verdict::Near;
        fact.change = say("punchIn.recordLargerSize");
    }
    if (!box) return fact;
    const double left = box->eyes.y - wanted * (box->eyes.y - box->crown.y);
    fact.why += say("punchIn.punchedAboutEyes", {{"left", percentText(left)}});
    if (left < 0.03) {
        fact.verdict = std::max(fact.verdict, base::Verdict::Near);
        fact.change = say("punchIn.leaveMoreHeadroom");
    }
    return fact;
}

Fact intruderFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"intruders", say("intruders.pictureAccident"), say("intruders.nothing")};
    const std::vector<Intruder> found = set.intruders(camera);
    fact.number = static_cast<double>(found.size());
    if (found.empty()) {
        fact.why = say("intruders.ceilingBackdropsEnds");
        return fact;
    }
    const Intruder& first = found.front();
    fact.value = first.text + (found.size() > 1 ? say("intruders.more",
                                                      {{"count", Number{double(found.size() - 1)}}})
                                                : base::Text{});
    fact.verdict = first.share < 0.06 ? base::Verdict::Near : base::Verdict::Off;
    for (const Intruder& one : found) {
        fact.why +=
            (fact.why.empty() ? base::Text{} : say("common.semicolon")) +
            say("intruders.intoFrame",
                {{"what", one.text}, {"edge", say(one.edge)}, {"share", percentText(one.share)}});
    }
    fact.why += say("common.fullStop");
    fact.change = first.isRoom && first.moveMetres == 0.0 ? say("intruders.tiltDownLower")
                  : first.isRoom                          ? say("intruders.bringPersonBackdrop")
                                                          : say("intruders.moveOut",
                                       {{"what", first.text},
                                                                 {"move", lengthText(set.plan(), first.moveMetres + 0.05)}});
    return fact;
}

Fact angleFact(const SetAnalysis& set, const PlacedCamera& camera, double headHeight) {
    Fact fact{"cutAngle", say("cutAngle.stepCutNearest"), say("cutAngle.noneNear")};
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
        fact.value = say("cutAngle.size",
                         {{"angle", Number{angle}},
                          {"camera", other.camera->letter},
                          {"ratio", Number{ratio, 1}}});
        fact.verdict = angle >= 30.0 || ratio >= 1.3 ? base::Verdict::Good : base::Verdict::Near;
    }
    fact.why = say("cutAngle.cutReadsCut");
    if (fact.verdict != base::Verdict::Good) fact.change = say("cutAngle.turnOneCamera");
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
base::Text exposureAdvice(const rig::Camera& camera, double overStops) {
    const rig::Settings& now = camera.settings;
    const double iso =
        rig::nearestAllowed(camera.sheet.isoValues, now.isoValue * std::exp2(-overStops));
    const double rest = overStops + std::log2(iso / now.isoValue);
    base::Text advice = say("exposureAtMark.isoWouldFit", {{"iso", Number{iso}}});
    if (rest > 0.4) advice += say("exposureAtMark.withNd", {{"stops", Number{rest, 1}}});
    advice += say(overStops > 0.0 ? "exposureAtMark.orDimKey" : "exposureAtMark.orMoreKey",
                  {{"stops", Number{std::abs(overStops), 1}}});
    if (overStops < 0.0 && now.fNumber > camera.lens.largestAperture * 1.1)
        advice +=
            say("exposureAtMark.lensOpens", {{"fNumber", Number{camera.lens.largestAperture, 1}}});
    return advice + say("common.fullStop");
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
    Fact ratio{"keyToFill", say("keyToFill.litSideShadow"), say("keyToFill.oneSideOnly")};
    if (seen.ratioStops) {
        ratio.number = *seen.ratioStops;
        ratio.uncertainty = light.ratioUncertainty;
        ratio.unit = "stop";
        ratio.value = say("keyToFill.stops",
                          {{"ratio", Number{*seen.ratioStops, 1}},
                           {"ratioUncertainty", Number{light.ratioUncertainty, 1}}});
    }
    ratio.why = say("keyToFill.cheekCheekLens", {{"subject", nameOf(*camera.subject)}});
    if (seen.keyAngleDegrees) {
        ratio.why += say("keyToFill.keyStandsLens", {{"keyAngle", Number{*seen.keyAngleDegrees}}});
    }
    return ratio;
}

Fact backgroundFact(const SetAnalysis& set, const FaceSeen& seen) {
    Fact background{"faceToBackground",
                    say("faceToBackground.backgroundAgainstFace"),
                    say("common.unknown"),
                    base::Verdict::Unknown};
    background.unit = "stop";
    if (!seen.backgroundStops) {
        background.why = say("faceToBackground.nothingMeasurableBeside");
        return background;
    }
    const double stops = *seen.backgroundStops;
    background.number = stops;
    background.uncertainty = 0.4;
    background.value = say("faceToBackground.stop", {{"stops", Number{stops, 1, true}}});
    const auto [low, high] = backgroundGoal(set.rig().choices);
    background.verdict = stops <= high && stops >= low ? base::Verdict::Good
                         : stops > high + 1.2          ? base::Verdict::Off
                                                       : base::Verdict::Near;
    background.why = say("faceToBackground.besideHeadMood",
                         {{"backgroundName", seen.backgroundName},
                          {"low", Number{low, 1, true}},
                          {"high", Number{high, 1, true}}});
    if (stops > high) {
        const PlanObject* lamp = rig::findObject(set.plan(), seen.backgroundLightId);
        background.change = lamp == nullptr
                                ? say("faceToBackground.useGridsRoom")
                                : say("faceToBackground.dimKeepOff", {{"lamp", nameOf(*lamp)}});
    }
    if (stops < low) background.change = say("faceToBackground.giveBackgroundOwn");
    return background;
}

Fact markFact(const SetAnalysis& set, const PlacedCamera& camera, const FaceLight& light) {
    const rig::Settings& settings = camera.camera->settings;
    const double asked = optics::illuminanceFor(rig::exposureOf(settings)) *
                         std::exp2(glassLossStops(set.rig(), *camera.camera));
    const double over = std::log2(light.faceLux / asked);
    Fact level{"exposureAtMark", say("exposureAtMark.lightMark"), luxText(light.faceLux)};
    level.number = over;
    level.unit = "stop";
    level.uncertainty = 0.3;
    level.verdict = std::abs(over) <= 0.7   ? base::Verdict::Good
                    : std::abs(over) <= 1.2 ? base::Verdict::Near
                                            : base::Verdict::Off;
    level.why = say("exposureAtMark.isoFAsk",
                    {{"isoValue", Number{settings.isoValue}},
                     {"fNumber", Number{settings.fNumber, 1}},
                     {"shutterSeconds", optics::shutterText(settings.shutterSeconds)},
                     {"asked", luxText(asked)},
                     {"over", Number{over, 1, true}}});
    if (!rig::isExposureKnown(settings)) {
        level.number.reset();
        level.verdict = base::Verdict::Unknown;
        level.why = say("exposureAtMark.whatCameraAsks");
        level.change = say("exposureAtMark.enterCameras");
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
