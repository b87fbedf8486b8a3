// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_sheet.h"

#include <algorithm>
#include <cmath>

#include "optics/lens.h"
#include "optics/shutter.h"
#include "plan/analysis.h"
#include "plan/camera_supply.h"
#include "plan/shot_size.h"
#include "plan/shutter_fact.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::Camera;
using rig::Rig;

const Camera* referenceOf(const Rig& rig) {
    const Camera* reference = rig::findCamera(rig, rig.referenceId);
    return reference == nullptr && !rig.cameras.empty() ? &rig.cameras.front() : reference;
}

optics::SensorArea areaOf(const Camera& camera) {
    const double crop = rig::cropAtRate(camera.sheet, camera.settings.frameRate);
    return {camera.sensorWidthMm / crop, camera.sensorHeightMm / crop};
}

/// A setting that a fact rests on, and the code of its name.
struct Rests {
    bool isTold;
    const char* code;
};

/// `fact`, or that it is not known, where nobody told what it rests on.
Fact ifTold(Fact fact, std::initializer_list<Rests> settings) {
    std::vector<base::Text> names;
    for (const Rests& each : settings) {
        if (!each.isTold) names.push_back(say(each.code));
    }
    if (names.empty()) return fact;
    const base::Text untold = base::joined(names, say("common.comma"));
    Fact unknown{fact.key, fact.title, say("common.unknown"), base::Verdict::Unknown};
    unknown.why = say("sheet.notKnownCamera", {{"untold", untold}});
    unknown.change = say("sheet.enterCameras");
    return unknown;
}

Fact exposureFact(const Rig& rig, const Camera& camera) {
    const Camera* reference = referenceOf(rig);
    Fact fact{"plannedExposure",
              say("plannedExposure.brightnessAgainstReference"),
              say("common.reference")};
    fact.unit = "stop";
    if (reference == nullptr || reference->id == camera.id) {
        fact.why = say("plannedExposure.othersPlannedAgainst");
        return fact;
    }
    if (camera.settings.isAutoExposure) {
        fact.value = say("common.unknown");
        fact.verdict = base::Verdict::Unknown;
        fact.why = say("plannedExposure.exposureAutomaticNobody");
        fact.change = say("common.lockIt");
        return fact;
    }
    const double stops = plannedDifferenceStops(rig, camera, *reference);
    const double loss = glassLossStops(rig, camera);
    fact.number = stops;
    fact.uncertainty = 0.15;
    fact.value = say("plannedExposure.stop", {{"stops", Number{stops, 2, true}}});
    fact.verdict = std::abs(stops) <= 0.17  ? base::Verdict::Good
                   : std::abs(stops) <= 0.4 ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why = say("plannedExposure.isoShutterAperture");
    if (loss > 0.01)
        fact.why += say("plannedExposure.prompterFilterLens", {{"loss", Number{loss, 2}}});
    fact.why += say("plannedExposure.sensorSizePlays");
    if (fact.verdict != base::Verdict::Good) {
        fact.change =
            say("plannedExposure.turn", {{"stops", optics::thirdsText(base::Stops(-stops))}});
    }
    return fact;
}

Fact equivalentFact(const Rig& rig, const Camera& camera) {
    const optics::SensorArea area = areaOf(camera);
    const double focal = optics::equivalentFocalLength(camera.lens.focalLengthMm, area);
    const double fNumber = optics::equivalentFNumber(camera.settings.fNumber, area);
    Fact fact{"equivalent", say("equivalent.looksLikeFull")};
    fact.value = say("equivalent.mmF", {{"focal", Number{focal}}, {"fNumber", Number{fNumber, 1}}});
    fact.number = focal;
    fact.unit = "mm";
    fact.why = say("equivalent.cropFramingBlur", {{"crop", Number{optics::cropFactor(area), 2}}});
    const double crop = rig::cropAtRate(camera.sheet, camera.settings.frameRate);
    if (crop > 1.01) {
        fact.why +=
            say("equivalent.becauseBodyCrops",
                {{"crop", Number{crop, 2}}, {"frameRate", Number{camera.settings.frameRate}}});
    }
    fact.why += say("common.fullStop");
    const rig::PlanObject* place = rig.plan ? rig::findPlanCamera(*rig.plan, camera.id) : nullptr;
    if (place == nullptr) return fact;
    for (const Camera& other : rig.cameras) {
        const rig::PlanObject* theirs = rig::findPlanCamera(*rig.plan, other.id);
        if (&other == &camera || theirs == nullptr || theirs->shot != place->shot) continue;
        if (shotSizeOf(place->shot).headShare <= 0.0) continue;
        if (!other.settings.fNumber.isTold()) continue;
        const double apart = 2.0 * std::log2(fNumber / optics::equivalentFNumber(
                                                           other.settings.fNumber, areaOf(other)));
        fact.why += say("equivalent.backgroundBlurS",
                        {{"comparison",
                          std::abs(apart) < 0.1 ? say("equivalent.as")
                          : apart > 0.0         ? say("equivalent.lessThan")
                                                : say("equivalent.moreThan")},
                         {"other", other.letter}});
        if (std::abs(apart) > 1.0) {
            fact.verdict = base::Verdict::Near;
            fact.change =
                say("equivalent.setFSame",
                    {{"fNumber",
                      Number{optics::equivalentFNumber(other.settings.fNumber, areaOf(other)) /
                                 optics::cropFactor(area),
                             1}}});
        }
    }
    return fact;
}

Fact depthFact(const Rig& rig, const Camera& camera) {
    Fact fact{"depthOfField",
              say("depthOfField.depthField"),
              say("common.unknown"),
              base::Verdict::Unknown};
    const rig::PlanObject* place = rig.plan ? rig::findPlanCamera(*rig.plan, camera.id) : nullptr;
    const auto view = place == nullptr ? tl::unexpected(base::Error{})
                                       : CameraView::of(*rig.plan, camera, *place);
    if (!view) {
        fact.why = say("depthOfField.distanceNotKnown");
        fact.change = say("depthOfField.placeSetScreen");
        return fact;
    }
    const auto depth =
        optics::depthOfField(view->lens(), optics::circleOfConfusionMm(view->lens().area));
    const auto critical = optics::depthOfField(
        view->lens(), optics::criticalCircleMm(view->lens().area, rig.choices.deliveryWidthPx));
    if (!depth || !critical) {
        fact.why = depth ? critical.error().detail : depth.error().detail;
        return fact;
    }
    const auto total = [](const optics::DepthOfField& d) {
        return d.farMm ? say("depthOfField.total", {{"cm", Number{(*d.farMm - d.nearMm) / 10.0}}})
                       : say("depthOfField.toInfinity");
    };
    fact.verdict = base::Verdict::Good;
    fact.value = total(*depth);
    if (depth->farMm) fact.number = (*depth->farMm - depth->nearMm) / 1000.0;
    fact.unit = "m";
    fact.why =
        say("depthOfField.normalViewingCritical",
            {{"focus", lengthText(*rig.plan, view->focusMetres())}, {"total", total(*critical)}});
    return fact;
}

/// What a body that has not the rate does instead: the nearest, or its own converted.
base::Text rateInstead(const Camera& camera, double fps, double wanted) {
    const auto& rates = camera.sheet.frameRates;
    const double nearest = *std::min_element(rates.begin(), rates.end(), [&](double a, double b) {
        return std::abs(a - wanted) < std::abs(b - wanted);
    });
    return std::abs(fps - nearest) < 0.0005
               ? say("frameRate.deliverRateConvert")
               : say("frameRate.setFpsNearest", {{"nearest", Number{nearest, 3}}});
}

/// What slow motion asks for, whether the body can, and what mains lamps allow there.
base::Text slowMotionText(const rig::Choices& choices,
                          const Camera& camera,
                          const optics::SlowMotion& slow) {
    const bool canDo = std::any_of(camera.sheet.frameRates.begin(),
                                   camera.sheet.frameRates.end(),
                                   [&](double rate) { return rate >= slow.recordFps - 0.1; });
    base::Text text = say("frameRate.slowMotionNeeds",
                          {{"slowMotionFactor", Number{choices.slowMotionFactor, 1}},
                           {"recordFps", Number{slow.recordFps}},
                           {"shutter", optics::shutterText(slow.shutter.value())},
                           {"lightNeeded", Number{slow.lightNeeded.value(), 1}}});
    text += canDo ? say("common.fullStop") : say("frameRate.bodyCannot");
    if (!optics::safeShutters(slow.recordFps, choices.mainsHz).empty()) {
        const auto safe = optics::recommendedShutter(slow.recordFps, choices.mainsHz);
        text += say("frameRate.mainsSafeThere", {{"time", optics::shutterText(safe.time.value())}});
    }
    return text;
}

Fact rateFact(const Rig& rig, const Camera& camera) {
    const rig::Choices& choices = rig.choices;
    const double wanted = choices.rates == "24/25" ? (choices.mainsHz > 55.0 ? 24.0 : 25.0)
                          : choices.rates == "30"  ? 30.0
                                                   : choices.deliveryFps;
    const auto slow = optics::slowMotion(wanted, choices.slowMotionFactor);
    const double fps = camera.settings.frameRate;
    Fact fact{"frameRate", say("frameRate.frameRate")};
    fact.number = fps;
    fact.unit = "fps";
    fact.value = say("frameRate.fps",
                     {{"fps", Number{fps, std::abs(fps - std::round(fps)) < 1e-6 ? 0 : 3}}});
    const bool isWanted = std::abs(fps - wanted) < 0.0005;
    const bool isSlow = choices.slowMotionFactor > 1.0 && fps >= slow.recordFps - 0.1;
    fact.verdict = isWanted || isSlow ? base::Verdict::Good : base::Verdict::Off;
    const bool isWhole = std::abs(wanted - std::round(wanted)) < 1e-6;
    fact.why = say("frameRate.deliveredFps", {{"wanted", Number{wanted, isWhole ? 0 : 3}}});
    // A thousandth apart: 24.000 is not 23.976.
    if (!isWanted && std::abs(fps / wanted - 1.0) < 0.002)
        fact.why += say("frameRate.notHourThey",
                        {{"fps", Number{fps, 3}},
                         {"wanted", Number{wanted, 3}},
                         {"seconds", Number{3600.0 * std::abs(fps / wanted - 1.0), 1}}});
    const auto hasRate = [&](double rate) {
        const auto& rates = camera.sheet.frameRates;
        return rates.empty() || std::any_of(rates.begin(), rates.end(), [&](double one) {
                   return std::abs(one - rate) < 0.0005;
               });
    };
    if (!isWanted && !isSlow && hasRate(wanted)) {
        fact.change = say("frameRate.setFps", {{"wanted", Number{wanted, 3}}});
    } else if (!isWanted && !isSlow) {
        // What a body cannot record is not asked of it.
        fact.why += say("frameRate.bodyNotRecord");
        fact.change = rateInstead(camera, fps, wanted);
    }
    if (choices.slowMotionFactor > 1.0) fact.why += slowMotionText(choices, camera, slow);
    return fact;
}

Fact whiteBalanceFact(const Camera& camera, const SetAnalysis* set) {
    const double dial = camera.settings.whiteBalanceKelvin;
    Fact fact{"whiteBalance", say("whiteBalance.whiteBalanceAgainst")};
    fact.unit = "mired";
    fact.value = say("whiteBalance.mired", {{"mired", Number{1e6 / dial}}});
    fact.why = say("whiteBalance.kKelvinDials", {{"dial", Number{dial}}});
    const PlacedCamera* placed = nullptr;
    if (set != nullptr) {
        for (const PlacedCamera& each : set->cameras()) {
            if (each.camera->id == camera.id) placed = &each;
        }
    }
    const FaceLight* face = placed == nullptr || placed->subject == nullptr
                                ? nullptr
                                : set->faceOf(placed->subject->id);
    if (face == nullptr && set != nullptr && !set->faces().empty()) face = &set->faces().front();
    const LampOnFace* key = face == nullptr ? nullptr : face->keyLamp();
    const Source* source = key == nullptr ? nullptr : set->field().sourceOf(key->objectId);
    if (camera.settings.isAutoWhiteBalance) {
        fact.value = say("common.unknown");
        fact.verdict = base::Verdict::Unknown;
        fact.change = say("common.lockIt");
        fact.why = say("whiteBalance.whiteBalanceAutomatic");
        return fact;
    }
    if (source == nullptr) return fact;
    // A dial above the light's kelvin renders warm: + is warmer.
    const double apart = 1e6 / source->kelvin - 1e6 / dial;
    fact.number = apart;
    fact.uncertainty = 10.0;
    fact.value = say("whiteBalance.mired2", {{"apart", Number{apart, 0, true}}});
    fact.verdict = std::abs(apart) <= 15.0   ? base::Verdict::Good
                   : std::abs(apart) <= 35.0 ? base::Verdict::Near
                                             : base::Verdict::Off;
    fact.why = say("whiteBalance.dialMiredKey",
                   {{"dialMired", Number{1e6 / dial}},
                    {"keyMired", Number{1e6 / source->kelvin}},
                    {"why", fact.why}});
    if (fact.verdict != base::Verdict::Good)
        fact.change = say("whiteBalance.startK", {{"kelvin", Number{source->kelvin}}});
    return fact;
}

Fact automaticsFact(const Rig& rig, const Camera& camera) {
    std::vector<base::Text> names;
    const auto add = [&](bool isOn, const char* code) {
        if (isOn) names.push_back(say(code));
    };
    add(camera.settings.isAutoExposure, "automatics.exposure");
    add(camera.settings.isAutoWhiteBalance, "automatics.whiteBalance");
    add(camera.settings.isAutoFocus, "automatics.focus");
    add(camera.settings.isStabilised, "automatics.stabiliser");
    add(camera.settings.isAutoSoundLevel, "automatics.soundLevel");
    const base::Text on = base::joined(names, say("common.comma"));
    Fact fact{"automatics", say("automatics.automatics"), on.empty() ? say("common.none") : on};
    const bool isMatchAtRisk = camera.settings.isAutoExposure || camera.settings.isAutoWhiteBalance;
    const bool isAccepted = rig.choices.automatics == "automatic";
    const bool isOther = camera.settings.isStabilised || camera.settings.isAutoSoundLevel;
    fact.verdict = isMatchAtRisk && !isAccepted ? base::Verdict::Off
                   : isMatchAtRisk || isOther   ? base::Verdict::Near
                                                : base::Verdict::Good;
    fact.why = on.empty()      ? say("automatics.nothingDriftsItself")
               : isMatchAtRisk ? say("automatics.eachCamerasAutomatic")
                               : say("automatics.exposureWhiteBalance");
    if (camera.settings.isAutoFocus) fact.why += say("automatics.focusFaceRight");
    if (camera.settings.isStabilised) fact.why += say("automatics.digitalStabiliserCrops");
    if (fact.verdict != base::Verdict::Good) {
        fact.change =
            isAccepted ? say("automatics.lockThemAfter") : say("automatics.switchThemOff");
    }
    return fact;
}

Fact profileFact(const Rig& rig, const Camera& camera) {
    const rig::Profile* own = rig::findProfile(camera.sheet, camera.settings.profile);
    const rig::RecordingMode* codec = rig::findCodec(camera.sheet, camera.settings.codec);
    const bool isLog = own != nullptr && own->curve && own->curve->kind == colour::CurveKind::Log;
    Fact fact{
        "profile", say("profile.profileMix"), isLog ? say("profile.log") : say("profile.seen")};
    const Camera* reference = referenceOf(rig);
    if (reference != nullptr && reference->id != camera.id) {
        fact.value = say(camera.settings.profile == reference->settings.profile ? "profile.sameAs"
                                                                                : "profile.notAs",
                         {{"reference", reference->letter}});
    }
    fact.why = isLog ? say("profile.logNeedsGrade") : say("profile.readyShown");
    if (isLog && codec != nullptr && codec->bitDepth < 10) {
        fact.verdict = base::Verdict::Off;
        fact.why = say("profile.logBitBands");
        fact.change = say("profile.recordBitTake");
        return fact;
    }
    if (isLog && rig.choices.look != "log") {
        fact.verdict = base::Verdict::Near;
        fact.change = say("profile.takeNeutralProfile");
    } else if (!isLog && rig.choices.look == "log") {
        fact.verdict = base::Verdict::Near;
        fact.why = say("profile.rigShotLog");
        fact.change = say("profile.chooseLogProfile");
    }
    if (reference != nullptr && reference->id != camera.id) {
        const rig::Profile* theirs =
            rig::findProfile(reference->sheet, reference->settings.profile);
        const bool isTheirsLog =
            theirs != nullptr && theirs->curve && theirs->curve->kind == colour::CurveKind::Log;
        if (isLog != isTheirsLog) {
            fact.verdict = base::Verdict::Off;
            fact.why += say("profile.referenceRecordsContrast",
                            {{"profile", reference->settings.profile.value()}});
            fact.change = say("profile.takeSameFamily");
        } else if (camera.settings.profile != reference->settings.profile) {
            fact.verdict = std::max(fact.verdict, base::Verdict::Near);
            fact.why += say("profile.referenceRecordsCurves",
                            {{"profile", reference->settings.profile.value()}});
            if (fact.change.empty()) fact.change = say("profile.takeNearestProfile");
        } else if (camera.body != reference->body) {
            fact.why += say("profile.evenUnderOne");
        }
    }
    return fact;
}

/// Two-step sensors are quietest at their native values (common practice): one of the two rather
/// than one between.
Fact nativeIsoFact(const Camera& camera) {
    const double iso = camera.settings.isoValue;
    const auto& natives = camera.sheet.nativeIsoValues;
    Fact fact{"nativeIso",
              say("nativeIso.isoAgainstNative"),
              say("common.unknown"),
              base::Verdict::Unknown};
    if (natives.empty()) {
        fact.why = say("nativeIso.noNativeValue");
        return fact;
    }
    double below = natives.front();
    for (const double native : natives) {
        if (native <= iso * 1.01) below = native;
    }
    const double stops = std::log2(iso / below);
    fact.number = stops;
    fact.unit = "stop";
    fact.value = std::abs(stops) < 0.05
                     ? say("nativeIso.native")
                     : say("nativeIso.stop", {{"stops", Number{stops, 1, true}}});
    fact.verdict = stops < -0.05   ? base::Verdict::Near
                   : stops <= 3.05 ? base::Verdict::Good
                                   : base::Verdict::Near;
    fact.why = say("nativeIso.aboveNativeEach", {{"below", Number{below}}});
    if (stops < -0.05)
        fact.why = say("nativeIso.belowNativeHighlights", {{"below", Number{below}}});
    for (const double native : natives) {
        if (native > iso * 1.01 && std::log2(native / iso) < 0.7 && stops > 0.9) {
            fact.verdict = base::Verdict::Near;
            fact.change = say("nativeIso.isoNativeQuieter",
                              {{"native", Number{native}}, {"iso", Number{iso}}});
        }
    }
    if (fact.change.empty() && fact.verdict == base::Verdict::Near) {
        fact.change = stops < 0.0 ? say("nativeIso.raiseIsoAdd", {{"below", Number{below}}})
                                  : say("nativeIso.moreLightBetter");
    }
    return fact;
}

}  // namespace

std::vector<Fact> sheetFacts(const Rig& rig, const Camera& camera) {
    std::optional<SetAnalysis> set;
    if (rig.plan) set.emplace(rig);
    const rig::Settings& s = camera.settings;
    const Rests fNumber{s.fNumber.isTold(), "setting.fNumber"};
    const Rests rate{s.frameRate.isTold(), "setting.frameRate"};
    const Camera* reference = referenceOf(rig);
    std::vector<Fact> facts{
        ifTold(exposureFact(rig, camera),
               {{rig::isExposureKnown(s), "setting.exposure"},
                {reference == nullptr || rig::isExposureKnown(reference->settings),
                 "setting.referenceExposure"}}),
        ifTold(equivalentFact(rig, camera), {fNumber}),
        ifTold(depthFact(rig, camera), {fNumber}),
        ifTold(shutterFact(rig, camera), {{s.shutterSeconds.isTold(), "setting.shutter"}, rate}),
        ifTold(rateFact(rig, camera), {rate}),
        ifTold(whiteBalanceFact(camera, set ? &*set : nullptr),
               {{s.whiteBalanceKelvin.isTold(), "setting.whiteBalance"}}),
        ifTold(nativeIsoFact(camera), {{s.isoValue.isTold(), "setting.iso"}}),
        ifTold(
            automaticsFact(rig, camera),
            {{s.isAutoExposure.isTold() && s.isAutoWhiteBalance.isTold(), "setting.automatics"}}),
        ifTold(profileFact(rig, camera), {{s.profile.isTold(), "setting.profile"}})};
    for (Fact& fact : storageFacts(rig, camera))
        facts.push_back(ifTold(std::move(fact), {{s.bitRateMbps.isTold(), "setting.bitRate"}}));
    facts.push_back(powerFact(rig, camera));
    facts.push_back(
        ifTold(soundFact(rig, camera), {{s.soundInput.isTold(), "setting.soundInput"}}));
    return facts;
}

std::vector<SheetMark> sheetMarks(const Rig& rig, const Camera& camera) {
    std::vector<SheetMark> marks;
    for (const rig::CameraFlag& flag : rig::cameraFlags(rig, camera)) {
        const bool isAutomatic = flag.field.rfind("auto", 0) == 0;
        const bool isAccepted = isAutomatic && rig.choices.automatics == "automatic";
        marks.push_back(
            {flag.field, isAccepted ? base::Verdict::Near : base::Verdict::Off, flag.text});
    }
    const Camera* reference = referenceOf(rig);
    if (reference == nullptr || reference->id == camera.id) return marks;
    const auto& own = camera.settings.profile;
    const auto& theirs = reference->settings.profile;
    if (own.isTold() && theirs.isTold() && own != theirs)
        marks.push_back(
            {"profile",
             base::Verdict::Near,
             say("mark.profile", {{"own", own.value()}, {"reference", theirs.value()}})});
    if (camera.settings.width * reference->settings.height !=
        camera.settings.height * reference->settings.width)
        marks.push_back({"size", base::Verdict::Near, say("mark.shape")});
    if (camera.settings.isStabilised)
        marks.push_back({"stabilised", base::Verdict::Near, say("mark.stabilised")});
    return marks;
}

}  // namespace rigmatch::plan
