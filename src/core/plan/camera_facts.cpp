// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "optics/lens.h"
#include "plan/analysis.h"
#include "plan/blur_fact.h"
#include "plan/shot_size.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::PlanKind;
using rig::PlanObject;

base::Text mm(double focalMm) {
    return say("lens.mm", {{"mm", Number{focalMm, focalMm < 12.0 ? 1 : 0}}});
}

Fact lensFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const bool isNamedShot = camera.place->shot.find("shot") != std::string::npos;
    Fact fact{"lens",
              say("lens.lens",
                  {{"shot", camera.place->shot},
                   {"word", isNamedShot ? base::Text{} : say("lens.shot")}}),
              say("common.unknown"),
              base::Verdict::Unknown};
    fact.unit = "mm";
    if (camera.place->shot == "top-down") fact.title = say("lens.lensTopDown");
    const auto width = wantedWidth(set.plan(), *camera.place, *camera.view);
    if (!width) {
        fact.why = say("lens.nobodyNothingPlan");
        fact.change = say("lens.aimPersonTable");
        return fact;
    }
    const LensChoice choice = chooseLens(set.plan(), *camera.view, *width);
    const double set0 = camera.camera->lens.focalLengthMm;
    const double off = optics::frameExtentMm(
                           camera.view->lens().area.widthMm, set0, camera.view->lens().distanceMm) /
                           (*width * 1000.0) -
                       1.0;
    fact.number = choice.wantedMm;
    fact.value = mm(set0);
    fact.verdict = std::abs(off) <= 0.15   ? base::Verdict::Good
                   : std::abs(off) <= 0.35 ? base::Verdict::Near
                                           : base::Verdict::Off;
    fact.why = say("lens.exactlyFrameWide",
                   {{"wantedMm", mm(choice.wantedMm)},
                    {"width", lengthText(set.plan(), *width)},
                    {"setMm", mm(set0)},
                    {"difference",
                     off >= 0.0 ? say("lens.more", {{"off", percentText(off)}})
                                : say("lens.less", {{"off", percentText(-off)}})}});
    if (choice.chosenMm) {
        fact.why += say(
            "lens.lensesComesNearest",
            {{"chosenMm", mm(*choice.chosenMm)},
             {"off",
              std::abs(choice.tooWideShare) < 0.02 ? say("common.fullStop")
              : choice.tooWideShare > 0.0
                  ? say("lens.tooWide", {{"tooWideShare", percentText(choice.tooWideShare)}})
                  : say("lens.tooTight", {{"tooWideShare", percentText(-choice.tooWideShare)}})}});
    } else {
        fact.why += say("lens.tellProgramWhich");
    }
    if (fact.verdict != base::Verdict::Good) {
        const bool isOtherLens = choice.chosenMm && std::abs(*choice.chosenMm - set0) > 0.05 * set0;
        const double factor = set0 / choice.wantedMm;
        fact.change =
            isOtherLens
                ? say("lens.put", {{"chosenMm", mm(*choice.chosenMm)}})
                : say("lens.moveCameraSubject",
                      {{"distance", lengthText(set.plan(), camera.view->focusMetres() * factor)}});
    }
    return fact;
}

Fact viewFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const CameraView& view = *camera.view;
    const double s = view.focusMetres();
    Fact fact{"fieldOfView", say("fieldOfView.fieldView")};
    fact.value = say("fieldOfView.numbers",
                     {{"horizontal", Number{view.horizontalDegrees(), 1}},
                      {"vertical", Number{view.verticalDegrees(), 1}}});
    fact.number = view.horizontalDegrees();
    fact.unit = "°";
    fact.why =
        say("fieldOfView.frameLikeFull",
            {{"width", lengthText(set.plan(), view.widthAt(s))},
             {"height", lengthText(set.plan(), view.heightAt(s))},
             {"distance", lengthText(set.plan(), s)},
             {"focal",
              mm(optics::equivalentFocalLength(view.lens().focalLengthMm, view.lens().area))}});
    return fact;
}

Fact distanceFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const double s = (headOf(*camera.subject).eyes - camera.view->position()).norm();
    Fact fact{"distance", say("distance.lensEyes"), lengthText(set.plan(), s)};
    fact.number = s;
    fact.unit = "m";
    fact.verdict = s < 0.9   ? base::Verdict::Off
                   : s < 1.2 ? base::Verdict::Near
                             : base::Verdict::Good;
    fact.why = say("distance.noseDrawnLarger",
                   {{"percent", Number{100.0 * (optics::noseRatio(s) - 1.0)}}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change = say("distance.goBackM");
    }
    return fact;
}

Fact backgroundFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"background",
              say("background.eyesBackground"),
              say("common.unknown"),
              base::Verdict::Unknown};
    fact.unit = "m";
    const FaceSeen* seen = camera.subjectSeen();
    if (seen == nullptr || seen->backgroundName.empty()) {
        fact.why = say("background.headNotPicture");
        return fact;
    }
    const double s = (headOf(*camera.subject).eyes - camera.view->position()).norm();
    const double behind = seen->backgroundMetres - s;
    fact.number = behind;
    fact.value = lengthText(set.plan(), behind);
    fact.verdict = behind < 0.7   ? base::Verdict::Off
                   : behind < 1.0 ? base::Verdict::Near
                                  : base::Verdict::Good;
    fact.why = say("background.leastMGood", {{"backgroundName", seen->backgroundName}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change = say("background.moveSeatOff");
    }
    return fact;
}

Fact depthFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const optics::LensState& lens = camera.view->lens();
    Fact fact{"depthOfField", say("depthOfField.sharpF", {{"fNumber", Number{lens.fNumber, 1}}})};
    const auto normal = optics::depthOfField(lens, optics::circleOfConfusionMm(lens.area));
    const auto critical = optics::depthOfField(
        lens, optics::criticalCircleMm(lens.area, set.rig().choices.deliveryWidthPx));
    if (!normal || !critical) {
        fact.value = say("common.unknown");
        fact.verdict = base::Verdict::Unknown;
        fact.why = normal ? critical.error().detail : normal.error().detail;
        return fact;
    }
    const auto farText = [&](const optics::DepthOfField& depth) {
        return depth.farMm ? lengthText(set.plan(), *depth.farMm / 1000.0) : say("common.infinity");
    };
    const bool isCriticalStricter = critical->nearMm > normal->nearMm;
    const optics::DepthOfField& strict = isCriticalStricter ? *critical : *normal;
    fact.value =
        say("depthOfField.numbers",
            {{"near", lengthText(set.plan(), strict.nearMm / 1000.0)}, {"far", farText(strict)}});
    const double total = strict.farMm ? (*strict.farMm - strict.nearMm) / 1000.0 : 1e9;
    fact.number = std::min(total, 1000.0);
    fact.unit = "m";
    fact.why =
        say("depthOfField.stricterTwoSchools",
            {{"school",
              isCriticalStricter ? say("depthOfField.twoPixelsDelivery")
                                 : say("depthOfField.normalViewingDiagonal")},
             {"near",
              lengthText(set.plan(), (isCriticalStricter ? *normal : *critical).nearMm / 1000.0)},
             {"far", farText(isCriticalStricter ? *normal : *critical)}});
    if (camera.subject == nullptr) return fact;
    // Eyes to ears is about 0.10 m; a talker leans 0.15 m either way (common practice).
    fact.verdict = total < 0.08   ? base::Verdict::Off
                   : total < 0.20 ? base::Verdict::Near
                                  : base::Verdict::Good;
    if (fact.verdict != base::Verdict::Good) {
        fact.why += total < 0.08 ? say("depthOfField.notBothEyes") : say("depthOfField.eyesButNot");
        fact.change = say("depthOfField.closeApertureStop");
    }
    return fact;
}

Fact eyeHeightFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const Vec eyes = headOf(*camera.subject).eyes;
    const Vec way = camera.view->position() - eyes;
    const double above = way.y();
    const double angle = std::atan2(above, std::hypot(way.x(), way.z())) / base::kRadiansPerDegree;
    Fact fact{"eyeHeight", say("eyeHeight.lensAgainstEye")};
    fact.value = set.plan().isInFeet
                     ? say("eyeHeight.in", {{"above", Number{above / 0.0254, 1, true}}})
                     : say("eyeHeight.cm", {{"above", Number{above * 100.0, 0, true}}});
    fact.number = above;
    fact.unit = "m";
    fact.verdict = std::abs(angle) <= 3.0   ? base::Verdict::Good
                   : std::abs(angle) <= 7.0 ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why =
        say("eyeHeight.cmAboveEyes",
            {{"angle", Number{std::abs(angle), 1}},
             {"direction", above < 0.0 ? say("eyeHeight.upFace") : say("eyeHeight.downFace")}});
    if (fact.verdict != base::Verdict::Good) {
        fact.change =
            say("eyeHeight.setLens", {{"height", lengthText(set.plan(), eyes.y() + 0.03)}});
    }
    return fact;
}

Fact axisFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"axis", say("axis.axisAction")};
    int plus = 0;
    int minus = 0;
    std::string others;
    const int own = set.sideOfAxis(camera);
    for (const PlacedCamera& other : set.cameras()) {
        const int side = set.sideOfAxis(other);
        plus += side > 0;
        minus += side < 0;
        if (side != 0 && own != 0 && side != own) {
            others += (others.empty() ? "" : ", ") + other.camera->letter;
        }
    }
    if (objectsOf(set.plan(), PlanKind::Person).size() < 2) {
        fact.value = say("common.none");
        fact.why = say("axis.onePersonAlone");
        return fact;
    }
    if (own == 0) {
        fact.value = say("axis.line");
        fact.why = say("axis.withinLineThrough");
        return fact;
    }
    const bool isMinority = own > 0 ? plus < minus : minus < plus;
    fact.value = others.empty() ? say("axis.kept")
                 : isMinority   ? say("axis.crossed")
                                : say("axis.keptMost");
    fact.verdict = others.empty() ? base::Verdict::Good
                   : isMinority   ? base::Verdict::Off
                                  : base::Verdict::Near;
    fact.why = others.empty() ? say("axis.allCamerasStand")
                              : say("axis.otherSideStand", {{"others", others}});
    if (isMinority) fact.change = say("axis.moveCameraOther");
    return fact;
}

Fact lookFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const PlanObject& person = *camera.subject;
    const Vec eyes = headOf(person).eyes;
    const PlanObject* partner = partnerOf(set.plan(), person);
    Fact fact{"look", say("look.lookPastLens")};
    fact.unit = "°";
    const Vec toLens = camera.view->position() - eyes;
    if (person.looksToLens || partner == nullptr) {
        const double off = std::abs(bearingFromFace(person, camera.view->position()));
        fact.value = say("look.numbers", {{"off", Number{off}}});
        fact.number = off;
        fact.why = say("look.speaksLensEyes");
        fact.title = say("look.lookLens");
        fact.verdict = off <= 20.0 ? base::Verdict::Good : base::Verdict::Near;
        if (off > 20.0) {
            fact.why = say("look.faceTurnedAway", {{"off", Number{off}}});
            if (camera.place->isSideMeant) {
                fact.verdict = base::Verdict::Good;
                fact.why += say("look.meant");
            } else {
                fact.change = say("look.bringCameraSpeakers");
            }
        }
        return fact;
    }
    const Vec look = headOf(*partner).eyes - eyes;
    const double off = angleBetween(Vec(look.x(), 0.0, look.z()), Vec(toLens.x(), 0.0, toLens.z()));
    fact.number = off;
    fact.value = say("look.numbers", {{"off", Number{off}}});
    const bool isSingle = shotSizeOf(camera.place->shot).headShare > 0.0;
    fact.verdict = !isSingle || off <= 35.0 ? base::Verdict::Good
                   : off <= 60.0            ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why = say("look.betweenLensEyes", {{"partner", nameOf(*partner)}});
    if (isSingle && off > 35.0) {
        fact.change = say("look.bringCameraNearer");
    }
    return fact;
}

Fact exposureFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const PlacedCamera* reference = set.reference();
    Fact fact{"exposureAgainstReference", say("exposureAgainstReference.brightnessAgainst")};
    if (reference == nullptr || reference == &camera) {
        fact.title = say("exposureAgainstReference.brightness");
        fact.value = say("common.reference");
        fact.why = say("exposureAgainstReference.othersPlannedAgainst");
        return fact;
    }
    fact.title =
        say("exposureAgainstReference.brightnessAgainst2", {{"camera", reference->camera->letter}});
    const double stops = plannedDifferenceStops(set.rig(), *camera.camera, *reference->camera);
    const double loss = glassLossStops(set.rig(), *camera.camera);
    fact.number = stops;
    fact.unit = "stop";
    fact.uncertainty = 0.15;
    fact.value = say("exposureAgainstReference.stop", {{"stops", Number{stops, 2, true}}});
    const double size = std::abs(stops);
    fact.verdict = size <= 0.17  ? base::Verdict::Good
                   : size <= 0.4 ? base::Verdict::Near
                                 : base::Verdict::Off;
    fact.why = loss > 0.05
                   ? say("exposureAgainstReference.glassFilterTake",
                         {{"loss", Number{loss, 2}}, {"settings", Number{stops + loss, 2, true}}})
                   : say("exposureAgainstReference.isoShutterAperture");
    if (camera.camera->settings.isAutoExposure) {
        fact.verdict = base::Verdict::Unknown;
        fact.value = say("common.unknown");
        fact.number.reset();
        fact.uncertainty.reset();
        fact.why = say("exposureAgainstReference.exposureAutomaticNobody");
        fact.change = say("common.lockIt");
    } else if (fact.verdict != base::Verdict::Good) {
        fact.change = say("exposureAgainstReference.turn",
                          {{"stops", optics::thirdsText(base::Stops(-stops))},
                           {"how",
                            stops < 0.0 ? say("exposureAgainstReference.openUpRaise")
                                        : say("exposureAgainstReference.closeDownLower")}});
    }
    return fact;
}

}  // namespace

std::vector<Fact> cameraFacts(const SetAnalysis& set, const PlacedCamera& camera) {
    if (!camera.view) {
        return {{"picture",
                 say("picture.picture"),
                 say("common.none"),
                 base::Verdict::Off,
                 camera.failure.detail,
                 camera.failure.hint}};
    }
    std::vector<Fact> facts{lensFact(set, camera), viewFact(set, camera)};
    const auto append = [&](std::vector<Fact> more) {
        facts.insert(facts.end(), more.begin(), more.end());
    };
    append(pictureFacts(set, camera));
    facts.push_back(depthFact(set, camera));
    if (camera.subject != nullptr) {
        facts.push_back(blurFact(set, camera));
        facts.push_back(eyeHeightFact(set, camera));
        facts.push_back(distanceFact(set, camera));
        facts.push_back(backgroundFact(set, camera));
        facts.push_back(lookFact(set, camera));
    }
    facts.push_back(axisFact(set, camera));
    facts.push_back(exposureFact(set, camera));
    append(cameraLightFacts(set, camera));
    return facts;
}

}  // namespace rigmatch::plan
