// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "base/format.h"
#include "optics/lens.h"
#include "plan/analysis.h"
#include "plan/blur_fact.h"
#include "plan/shot_size.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using base::signedFixed;
using rig::PlanKind;
using rig::PlanObject;

std::string mm(double focalMm) { return fixed(focalMm, focalMm < 12.0 ? 1 : 0) + " mm"; }
std::string percent(double share, int decimals = 0) {
    return fixed(100.0 * share, decimals) + " %";
}

Fact lensFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const bool isNamedShot = camera.place->shot.find("shot") != std::string::npos;
    Fact fact{"lens",
              "Lens for a " + camera.place->shot + (isNamedShot ? "" : " shot"),
              "unknown",
              base::Verdict::Unknown};
    fact.unit = "mm";
    if (camera.place->shot == "top-down") fact.title = "Lens for the top-down picture";
    const auto width = wantedWidth(set.plan(), *camera.place, *camera.view);
    if (!width) {
        fact.why = "Nobody and nothing on the plan is in front of this camera.";
        fact.change = "Aim it at a person or a table.";
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
    fact.why = "Exactly it would be " + mm(choice.wantedMm) + " for a frame " +
               lengthText(set.plan(), *width) + " wide; " + mm(set0) + " shows " +
               (off >= 0.0 ? percent(off) + " more." : percent(-off) + " less.");
    if (choice.chosenMm) {
        fact.why +=
            " Of your lenses " + mm(*choice.chosenMm) + " comes nearest" +
            (std::abs(choice.tooWideShare) < 0.02 ? "."
             : choice.tooWideShare > 0.0 ? ", too wide by " + percent(choice.tooWideShare) + "."
                                         : ", too tight by " + percent(-choice.tooWideShare) + ".");
    } else {
        fact.why += " Tell the program which lenses you own, and it chooses among them.";
    }
    if (fact.verdict != base::Verdict::Good) {
        const bool isOtherLens = choice.chosenMm && std::abs(*choice.chosenMm - set0) > 0.05 * set0;
        const double factor = set0 / choice.wantedMm;
        fact.change = isOtherLens
                          ? "Put the " + mm(*choice.chosenMm) + " on."
                          : "Move the camera to " +
                                lengthText(set.plan(), camera.view->focusMetres() * factor) +
                                " from the subject.";
    }
    return fact;
}

Fact viewFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const CameraView& view = *camera.view;
    const double s = view.focusMetres();
    Fact fact{"fieldOfView", "Field of view"};
    fact.value =
        fixed(view.horizontalDegrees(), 1) + "° × " + fixed(view.verticalDegrees(), 1) + "°";
    fact.number = view.horizontalDegrees();
    fact.unit = "°";
    fact.why = "Frame " + lengthText(set.plan(), view.widthAt(s)) + " × " +
               lengthText(set.plan(), view.heightAt(s)) + " at " + lengthText(set.plan(), s) +
               "; like " +
               mm(optics::equivalentFocalLength(view.lens().focalLengthMm, view.lens().area)) +
               " on full frame.";
    return fact;
}

Fact distanceFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const double s = (headOf(*camera.subject).eyes - camera.view->position()).norm();
    Fact fact{"distance", "Lens to eyes", lengthText(set.plan(), s)};
    fact.number = s;
    fact.unit = "m";
    fact.verdict = s < 0.9   ? base::Verdict::Off
                   : s < 1.2 ? base::Verdict::Near
                             : base::Verdict::Good;
    fact.why = "The nose is drawn " + fixed(100.0 * (optics::noseRatio(s) - 1.0), 0) +
               " % larger than the ears; perspective depends on distance alone.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Go back to 1.2–1.5 m and take a longer lens.";
    }
    return fact;
}

Fact backgroundFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"background", "Eyes to background", "unknown", base::Verdict::Unknown};
    fact.unit = "m";
    const FaceSeen* seen = camera.subjectSeen();
    if (seen == nullptr || seen->backgroundName.empty()) {
        fact.why = "The head is not in the picture, or something stands before it.";
        return fact;
    }
    const double s = (headOf(*camera.subject).eyes - camera.view->position()).norm();
    const double behind = seen->backgroundMetres - s;
    fact.number = behind;
    fact.value = lengthText(set.plan(), behind);
    fact.verdict = behind < 0.7   ? base::Verdict::Off
                   : behind < 1.0 ? base::Verdict::Near
                                  : base::Verdict::Good;
    fact.why = "To " + seen->backgroundName + "; at least 1 m, good from 2 m.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Move the seat off the wall, or shoot along the diagonal of the room.";
    }
    return fact;
}

Fact depthFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const optics::LensState& lens = camera.view->lens();
    Fact fact{"depthOfField", "Sharp from – to at f/" + fixed(lens.fNumber, 1)};
    const auto normal = optics::depthOfField(lens, optics::circleOfConfusionMm(lens.area));
    const auto critical = optics::depthOfField(
        lens, optics::criticalCircleMm(lens.area, set.rig().choices.deliveryWidthPx));
    if (!normal || !critical) {
        fact.value = "unknown";
        fact.verdict = base::Verdict::Unknown;
        fact.why = normal ? critical.error().detail : normal.error().detail;
        return fact;
    }
    const auto farText = [&](const optics::DepthOfField& depth) {
        return depth.farMm ? lengthText(set.plan(), *depth.farMm / 1000.0) : std::string("∞");
    };
    const bool isCriticalStricter = critical->nearMm > normal->nearMm;
    const optics::DepthOfField& strict = isCriticalStricter ? *critical : *normal;
    fact.value = lengthText(set.plan(), strict.nearMm / 1000.0) + " – " + farText(strict);
    const double total = strict.farMm ? (*strict.farMm - strict.nearMm) / 1000.0 : 1e9;
    fact.number = std::min(total, 1000.0);
    fact.unit = "m";
    fact.why = "By " +
               std::string(isCriticalStricter ? "two pixels of the delivery"
                                              : "normal viewing (diagonal / 1500)") +
               ", the stricter of two schools; the other gives " +
               lengthText(set.plan(), (isCriticalStricter ? *normal : *critical).nearMm / 1000.0) +
               " – " + farText(isCriticalStricter ? *normal : *critical) + ".";
    if (camera.subject == nullptr) return fact;
    // Eyes to ears is about 0.10 m; a talker leans 0.15 m either way (common practice).
    fact.verdict = total < 0.08   ? base::Verdict::Off
                   : total < 0.20 ? base::Verdict::Near
                                  : base::Verdict::Good;
    if (fact.verdict != base::Verdict::Good) {
        fact.why += total < 0.08 ? " Not both eyes at once are sharp when the head turns."
                                 : " Eyes, but not a speaker who leans.";
        fact.change = "Close the aperture by a stop or two and give the light back by ISO or lamp.";
    }
    return fact;
}

Fact eyeHeightFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const Vec eyes = headOf(*camera.subject).eyes;
    const Vec way = camera.view->position() - eyes;
    const double above = way.y();
    const double angle = std::atan2(above, std::hypot(way.x(), way.z())) / base::kRadiansPerDegree;
    Fact fact{"eyeHeight", "Lens against eye height"};
    fact.value = set.plan().isInFeet ? signedFixed(above / 0.0254, 1) + " in"
                                     : signedFixed(above * 100.0, 0) + " cm";
    fact.number = above;
    fact.unit = "m";
    fact.verdict = std::abs(angle) <= 3.0   ? base::Verdict::Good
                   : std::abs(angle) <= 7.0 ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why = fixed(std::abs(angle), 1) + "° " +
               (above < 0.0 ? "up at the face" : "down on the face") +
               "; 0–5 cm above the eyes is usual, both schools lie within 3°.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Set the lens to " + lengthText(set.plan(), eyes.y() + 0.03) + ".";
    }
    return fact;
}

Fact axisFact(const SetAnalysis& set, const PlacedCamera& camera) {
    Fact fact{"axis", "Axis of action"};
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
        fact.value = "none";
        fact.why = "One person alone has no line to another; keep to one side of the look.";
        return fact;
    }
    if (own == 0) {
        fact.value = "on the line";
        fact.why = "Within 5° of the line through the two heads: belongs to neither side.";
        return fact;
    }
    const bool isMinority = own > 0 ? plus < minus : minus < plus;
    fact.value = others.empty() ? "kept" : isMinority ? "crossed" : "kept by most";
    fact.verdict = others.empty() ? base::Verdict::Good
                   : isMinority   ? base::Verdict::Off
                                  : base::Verdict::Near;
    fact.why = others.empty() ? "All cameras stand on one side of the line through the two heads."
                              : "On the other side stand: " + others +
                                    ". Cut together, people "
                                    "jump sides and looks.";
    if (isMinority) fact.change = "Move this camera to the other side of the line.";
    return fact;
}

Fact lookFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const PlanObject& person = *camera.subject;
    const Vec eyes = headOf(person).eyes;
    const PlanObject* partner = partnerOf(set.plan(), person);
    Fact fact{"look", "Look past the lens"};
    fact.unit = "°";
    const Vec toLens = camera.view->position() - eyes;
    if (person.looksToLens || partner == nullptr) {
        const double off = std::abs(bearingFromFace(person, camera.view->position()));
        fact.value = fixed(off, 0) + "°";
        fact.number = off;
        fact.why = "Speaks to a lens: eyes in the lens, prompter text centred on it.";
        fact.title = "Look to the lens";
        fact.verdict = off <= 20.0 ? base::Verdict::Good : base::Verdict::Near;
        if (off > 20.0) {
            fact.why = "The face is turned away from this lens by " + fixed(off, 0) + "°.";
            if (camera.place->isSideMeant) {
                fact.verdict = base::Verdict::Good;
                fact.why += " It is meant so.";
            } else {
                fact.change =
                    "Bring the camera to the speaker's front, or tick Side angle is "
                    "meant.";
            }
        }
        return fact;
    }
    const Vec look = headOf(*partner).eyes - eyes;
    const double off = angleBetween(Vec(look.x(), 0.0, look.z()), Vec(toLens.x(), 0.0, toLens.z()));
    fact.number = off;
    fact.value = fixed(off, 0) + "°";
    const bool isSingle = shotSizeOf(camera.place->shot).headShare > 0.0;
    fact.verdict = !isSingle || off <= 35.0 ? base::Verdict::Good
                   : off <= 60.0            ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why = "Between the lens and the eyes of " + nameOf(*partner) +
               "; a single stands beside the partner's shoulder, 5–30° off.";
    if (isSingle && off > 35.0) {
        fact.change = "Bring the camera nearer to the line to the partner, or turn the seats out.";
    }
    return fact;
}

Fact exposureFact(const SetAnalysis& set, const PlacedCamera& camera) {
    const PlacedCamera* reference = set.reference();
    Fact fact{"exposureAgainstReference", "Brightness against A"};
    if (reference == nullptr || reference == &camera) {
        fact.title = "Brightness";
        fact.value = "reference";
        fact.why = "The others are planned against this camera.";
        return fact;
    }
    fact.title = "Brightness against " + reference->camera->letter;
    const double stops = plannedDifferenceStops(set.rig(), *camera.camera, *reference->camera);
    const double loss = glassLossStops(set.rig(), *camera.camera);
    fact.number = stops;
    fact.unit = "stop";
    fact.uncertainty = 0.15;
    fact.value = signedFixed(stops, 2) + " ± 0.15 stop";
    const double size = std::abs(stops);
    fact.verdict = size <= 0.17  ? base::Verdict::Good
                   : size <= 0.4 ? base::Verdict::Near
                                 : base::Verdict::Off;
    fact.why = loss > 0.05 ? "Glass and filter take " + fixed(loss, 2) +
                                 " stop; the settings give " + signedFixed(stops + loss, 2) + "."
                           : "ISO, shutter, aperture and ND against those of the reference.";
    if (camera.camera->settings.isAutoExposure) {
        fact.verdict = base::Verdict::Unknown;
        fact.value = "unknown";
        fact.number.reset();
        fact.uncertainty.reset();
        fact.why = "Exposure is on automatic: nobody knows what it will choose.";
        fact.change = "Lock it.";
    } else if (fact.verdict != base::Verdict::Good) {
        fact.change =
            "Turn by " + optics::thirdsText(base::Stops(-stops)) +
            (stops < 0.0 ? ": open up, raise ISO, or put the same loss as ND on the others."
                         : ": close down, lower ISO, or add ND.");
    }
    return fact;
}

}  // namespace

std::vector<Fact> cameraFacts(const SetAnalysis& set, const PlacedCamera& camera) {
    if (!camera.view) {
        return {{"picture",
                 "Picture",
                 "none",
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
