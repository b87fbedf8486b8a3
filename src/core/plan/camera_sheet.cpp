// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_sheet.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "optics/lens.h"
#include "optics/shutter.h"
#include "plan/analysis.h"
#include "plan/camera_supply.h"
#include "plan/shot_size.h"
#include "plan/shutter_fact.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using base::signedFixed;
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

/// A setting that a fact rests on, and its name.
struct Rests {
    bool isTold;
    const char* name;
};

/// `fact`, or that it is not known, where nobody told what it rests on.
Fact ifTold(Fact fact, std::initializer_list<Rests> settings) {
    std::string untold;
    for (const Rests& each : settings) {
        if (!each.isTold) untold += (untold.empty() ? "" : ", ") + std::string(each.name);
    }
    if (untold.empty()) return fact;
    Fact unknown{fact.key, fact.title, "unknown", base::Verdict::Unknown};
    unknown.why = "Not known of this camera: " + untold + ".";
    unknown.change = "Enter it on Cameras.";
    return unknown;
}

Fact exposureFact(const Rig& rig, const Camera& camera) {
    const Camera* reference = referenceOf(rig);
    Fact fact{"plannedExposure", "Brightness against reference", "reference"};
    fact.unit = "stop";
    if (reference == nullptr || reference->id == camera.id) {
        fact.why = "The others are planned against this camera.";
        return fact;
    }
    if (camera.settings.isAutoExposure) {
        fact.value = "unknown";
        fact.verdict = base::Verdict::Unknown;
        fact.why = "Exposure is on automatic: nobody knows what it will choose.";
        fact.change = "Lock it.";
        return fact;
    }
    const double stops = plannedDifferenceStops(rig, camera, *reference);
    const double loss = glassLossStops(rig, camera);
    fact.number = stops;
    fact.uncertainty = 0.15;
    fact.value = signedFixed(stops, 2) + " ± 0.15 stop";
    fact.verdict = std::abs(stops) <= 0.17  ? base::Verdict::Good
                   : std::abs(stops) <= 0.4 ? base::Verdict::Near
                                            : base::Verdict::Off;
    fact.why = "From ISO, shutter, aperture and ND";
    if (loss > 0.01)
        fact.why += "; prompter, filter and lens glass take " + fixed(loss, 2) + " stop";
    fact.why += ". Sensor size plays no part in exposure: f/2.8 is f/2.8 on every sensor.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Turn by " + optics::thirdsText(base::Stops(-stops)) + ".";
    }
    return fact;
}

Fact equivalentFact(const Rig& rig, const Camera& camera) {
    const optics::SensorArea area = areaOf(camera);
    const double focal = optics::equivalentFocalLength(camera.lens.focalLengthMm, area);
    const double fNumber = optics::equivalentFNumber(camera.settings.fNumber, area);
    Fact fact{"equivalent", "Looks like, on full frame"};
    fact.value = fixed(focal, 0) + " mm f/" + fixed(fNumber, 1);
    fact.number = focal;
    fact.unit = "mm";
    fact.why =
        "Crop " + fixed(optics::cropFactor(area), 2) + ": framing and blur as that lens on 36 mm";
    const double crop = rig::cropAtRate(camera.sheet, camera.settings.frameRate);
    if (crop > 1.01) {
        fact.why += ", " + fixed(crop, 2) + "× of it because the body crops at " +
                    fixed(camera.settings.frameRate, 0) + " fps";
    }
    fact.why += ".";
    const rig::PlanObject* place = rig.plan ? rig::findPlanCamera(*rig.plan, camera.id) : nullptr;
    if (place == nullptr) return fact;
    for (const Camera& other : rig.cameras) {
        const rig::PlanObject* theirs = rig::findPlanCamera(*rig.plan, other.id);
        if (&other == &camera || theirs == nullptr || theirs->shot != place->shot) continue;
        if (shotSizeOf(place->shot).headShare <= 0.0) continue;
        if (!other.settings.fNumber.isTold()) continue;
        const double apart = 2.0 * std::log2(fNumber / optics::equivalentFNumber(
                                                           other.settings.fNumber, areaOf(other)));
        fact.why += " Background blur " +
                    std::string(std::abs(apart) < 0.1 ? "as "
                                : apart > 0.0         ? "less than "
                                                      : "more than ") +
                    other.letter + "'s.";
        if (std::abs(apart) > 1.0) {
            fact.verdict = base::Verdict::Near;
            fact.change = "Set f/" +
                          fixed(optics::equivalentFNumber(other.settings.fNumber, areaOf(other)) /
                                    optics::cropFactor(area),
                                1) +
                          " for the same blur, and make up the light by ISO or ND.";
        }
    }
    return fact;
}

Fact depthFact(const Rig& rig, const Camera& camera) {
    Fact fact{"depthOfField", "Depth of field", "unknown", base::Verdict::Unknown};
    const rig::PlanObject* place = rig.plan ? rig::findPlanCamera(*rig.plan, camera.id) : nullptr;
    const auto view = place == nullptr ? tl::unexpected(base::Error{})
                                       : CameraView::of(*rig.plan, camera, *place);
    if (!view) {
        fact.why = "The distance is not known: the camera is not on the plan.";
        fact.change = "Place it on the Set screen.";
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
        return d.farMm ? fixed((*d.farMm - d.nearMm) / 10.0, 0) + " cm"
                       : std::string("to infinity");
    };
    fact.verdict = base::Verdict::Good;
    fact.value = total(*depth);
    if (depth->farMm) fact.number = (*depth->farMm - depth->nearMm) / 1000.0;
    fact.unit = "m";
    fact.why = "At " + lengthText(*rig.plan, view->focusMetres()) +
               ", normal viewing; critical viewing (two pixels of the delivery) " +
               total(*critical) + ".";
    return fact;
}

Fact rateFact(const Rig& rig, const Camera& camera) {
    const rig::Choices& choices = rig.choices;
    const double wanted = choices.rates == "24/25" ? (choices.mainsHz > 55.0 ? 24.0 : 25.0)
                          : choices.rates == "30"  ? 30.0
                                                   : choices.deliveryFps;
    const auto slow = optics::slowMotion(wanted, choices.slowMotionFactor);
    const double fps = camera.settings.frameRate;
    Fact fact{"frameRate", "Frame rate"};
    fact.number = fps;
    fact.unit = "fps";
    fact.value = fixed(fps, std::abs(fps - std::round(fps)) < 1e-6 ? 0 : 3) + " fps";
    const bool isWanted = std::abs(fps - wanted) < 0.0005;
    const bool isSlow = choices.slowMotionFactor > 1.0 && fps >= slow.recordFps - 0.1;
    fact.verdict = isWanted || isSlow ? base::Verdict::Good : base::Verdict::Off;
    const bool isWhole = std::abs(wanted - std::round(wanted)) < 1e-6;
    fact.why = "Delivered is " + fixed(wanted, isWhole ? 0 : 3) + " fps.";
    // A thousandth apart: 24.000 is not 23.976.
    if (!isWanted && std::abs(fps / wanted - 1.0) < 0.002)
        fact.why += " " + fixed(fps, 3) + " is not " + fixed(wanted, 3) +
                    ": in an hour they part by " + fixed(3600.0 * std::abs(fps / wanted - 1.0), 1) +
                    " s.";
    const auto hasRate = [&](double rate) {
        const auto& rates = camera.sheet.frameRates;
        return rates.empty() || std::any_of(rates.begin(), rates.end(), [&](double one) {
                   return std::abs(one - rate) < 0.0005;
               });
    };
    if (!isWanted && !isSlow && hasRate(wanted)) {
        fact.change = "Set " + fixed(wanted, 3) + " fps.";
    } else if (!isWanted && !isSlow) {
        // What a body cannot record is not asked of it.
        const auto& rates = camera.sheet.frameRates;
        const double nearest =
            *std::min_element(rates.begin(), rates.end(), [&](double a, double b) {
                return std::abs(a - wanted) < std::abs(b - wanted);
            });
        fact.why += " This body does not record that.";
        fact.change = std::abs(fps - nearest) < 0.0005
                          ? "Deliver in its rate, convert it in the edit, or use another body."
                          : "Set " + fixed(nearest, 3) + " fps, the nearest it has, and convert.";
    }
    if (choices.slowMotionFactor > 1.0) {
        const bool canDo = std::any_of(camera.sheet.frameRates.begin(),
                                       camera.sheet.frameRates.end(),
                                       [&](double rate) { return rate >= slow.recordFps - 0.1; });
        fact.why += " Slow motion of " + fixed(choices.slowMotionFactor, 1) + "× needs " +
                    fixed(slow.recordFps, 0) + " fps at " +
                    optics::shutterText(slow.shutter.value()) + " and " +
                    fixed(slow.lightNeeded.value(), 1) + " stops more light";
        fact.why += canDo ? "." : "; this body cannot.";
        if (!optics::safeShutters(slow.recordFps, choices.mainsHz).empty()) {
            fact.why +=
                " Mains-safe there: " +
                optics::shutterText(
                    optics::recommendedShutter(slow.recordFps, choices.mainsHz).time.value()) +
                ".";
        }
    }
    return fact;
}

Fact whiteBalanceFact(const Camera& camera, const SetAnalysis* set) {
    const double dial = camera.settings.whiteBalanceKelvin;
    Fact fact{"whiteBalance", "White balance against the light"};
    fact.unit = "mired";
    fact.value = fixed(1e6 / dial, 0) + " mired";
    fact.why = fixed(dial, 0) +
               " K. Kelvin dials of two bodies do not agree: match the picture, not the number.";
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
        fact.value = "unknown";
        fact.verdict = base::Verdict::Unknown;
        fact.change = "Lock it.";
        fact.why = "White balance is on automatic: it will follow its own frame.";
        return fact;
    }
    if (source == nullptr) return fact;
    // A dial above the light's kelvin renders warm: + is warmer.
    const double apart = 1e6 / source->kelvin - 1e6 / dial;
    fact.number = apart;
    fact.uncertainty = 10.0;
    fact.value = signedFixed(apart, 0) + " ± 10 mired";
    fact.verdict = std::abs(apart) <= 15.0   ? base::Verdict::Good
                   : std::abs(apart) <= 35.0 ? base::Verdict::Near
                                             : base::Verdict::Off;
    fact.why = "Dial " + fixed(1e6 / dial, 0) + " mired, key light " +
               fixed(1e6 / source->kelvin, 0) + " mired; + will look warm. " + fact.why;
    if (fact.verdict != base::Verdict::Good)
        fact.change = "Start from " + fixed(source->kelvin, 0) + " K.";
    return fact;
}

Fact automaticsFact(const Rig& rig, const Camera& camera) {
    std::string on;
    const auto add = [&](bool isOn, const char* name) {
        if (isOn) on += (on.empty() ? "" : ", ") + std::string(name);
    };
    add(camera.settings.isAutoExposure, "exposure");
    add(camera.settings.isAutoWhiteBalance, "white balance");
    add(camera.settings.isAutoFocus, "focus");
    add(camera.settings.isStabilised, "stabiliser");
    add(camera.settings.isAutoSoundLevel, "sound level");
    Fact fact{"automatics", "Automatics on", on.empty() ? "none" : on};
    const bool isMatchAtRisk = camera.settings.isAutoExposure || camera.settings.isAutoWhiteBalance;
    const bool isAccepted = rig.choices.automatics == "automatic";
    const bool isOther = camera.settings.isStabilised || camera.settings.isAutoSoundLevel;
    fact.verdict = isMatchAtRisk && !isAccepted ? base::Verdict::Off
                   : isMatchAtRisk || isOther   ? base::Verdict::Near
                                                : base::Verdict::Good;
    fact.why = on.empty() ? "Nothing drifts by itself."
               : isMatchAtRisk
                   ? "Each camera's automatic sees another frame, so they must disagree."
                   : "Exposure and white balance stay put.";
    if (camera.settings.isAutoFocus)
        fact.why +=
            " Focus on a face is right for one who speaks alone; it may leave the face for a "
            "hand or a microphone.";
    if (camera.settings.isStabilised)
        fact.why += " A digital stabiliser crops by a varying amount.";
    if (fact.verdict != base::Verdict::Good) {
        fact.change = isAccepted ? "Lock them after the chart at least, and limit the ISO range."
                                 : "Switch them off, or lock them after the chart.";
    }
    return fact;
}

Fact profileFact(const Rig& rig, const Camera& camera) {
    const rig::Profile* own = rig::findProfile(camera.sheet, camera.settings.profile);
    const rig::RecordingMode* codec = rig::findCodec(camera.sheet, camera.settings.codec);
    const bool isLog = own != nullptr && own->curve && own->curve->kind == colour::CurveKind::Log;
    Fact fact{"profile", "Profile mix", isLog ? "log" : "as it is seen"};
    const Camera* reference = referenceOf(rig);
    if (reference != nullptr && reference->id != camera.id) {
        fact.value =
            (camera.settings.profile == reference->settings.profile ? "same as " : "not as ") +
            reference->letter;
    }
    fact.why = isLog ? "Log needs a grade, exposure discipline and 10 bit."
                     : "Ready to be shown as it is.";
    if (isLog && codec != nullptr && codec->bitDepth < 10) {
        fact.verdict = base::Verdict::Off;
        fact.why = "Log in 8 bit bands in skies and walls, and breaks in the grade.";
        fact.change = "Record 10 bit, or take a neutral profile.";
        return fact;
    }
    if (isLog && rig.choices.look != "log") {
        fact.verdict = base::Verdict::Near;
        fact.change = "Take a neutral profile, or choose log for the rig.";
    } else if (!isLog && rig.choices.look == "log") {
        fact.verdict = base::Verdict::Near;
        fact.why = "The rig is to be shot in log.";
        fact.change = "Choose a log profile, if the body has one in 10 bit.";
    }
    if (reference != nullptr && reference->id != camera.id) {
        const rig::Profile* theirs =
            rig::findProfile(reference->sheet, reference->settings.profile);
        const bool isTheirsLog =
            theirs != nullptr && theirs->curve && theirs->curve->kind == colour::CurveKind::Log;
        if (isLog != isTheirsLog) {
            fact.verdict = base::Verdict::Off;
            fact.why += " The reference records " + reference->settings.profile.value() +
                        ": contrast and colour differ until each has its own LUT.";
            fact.change = "Take the same family of profile on all cameras.";
        } else if (camera.settings.profile != reference->settings.profile) {
            fact.verdict = std::max(fact.verdict, base::Verdict::Near);
            fact.why += " The reference records " + reference->settings.profile.value() +
                        ": curves differ.";
            if (fact.change.empty()) fact.change = "Take the nearest profile to the reference's.";
        } else if (camera.body != reference->body) {
            fact.why += " Even under one name, curves of two bodies differ: measure.";
        }
    }
    return fact;
}

/// Two-step sensors are quietest at their native values (common practice): one of the two rather
/// than one between.
Fact nativeIsoFact(const Camera& camera) {
    const double iso = camera.settings.isoValue;
    const auto& natives = camera.sheet.nativeIsoValues;
    Fact fact{"nativeIso", "ISO against native", "unknown", base::Verdict::Unknown};
    if (natives.empty()) {
        fact.why = "No native value of this body is known.";
        return fact;
    }
    double below = natives.front();
    for (const double native : natives) {
        if (native <= iso * 1.01) below = native;
    }
    const double stops = std::log2(iso / below);
    fact.number = stops;
    fact.unit = "stop";
    fact.value = std::abs(stops) < 0.05 ? "native" : signedFixed(stops, 1) + " stop";
    fact.verdict = stops < -0.05   ? base::Verdict::Near
                   : stops <= 3.05 ? base::Verdict::Good
                                   : base::Verdict::Near;
    fact.why = "Above native " + fixed(below, 0) + "; each stop up costs 3 dB of noise.";
    if (stops < -0.05)
        fact.why = "Below its native " + fixed(below, 0) + ": highlights clip earlier.";
    for (const double native : natives) {
        if (native > iso * 1.01 && std::log2(native / iso) < 0.7 && stops > 0.9) {
            fact.verdict = base::Verdict::Near;
            fact.change = "ISO " + fixed(native, 0) + " is native, and quieter than ISO " +
                          fixed(iso, 0) + ": take it, with ND or a smaller aperture.";
        }
    }
    if (fact.change.empty() && fact.verdict == base::Verdict::Near) {
        fact.change = stops < 0.0 ? "Raise it to ISO " + fixed(below, 0) + " and add ND."
                                  : "More light is better than more ISO.";
    }
    return fact;
}

}  // namespace

std::vector<Fact> sheetFacts(const Rig& rig, const Camera& camera) {
    std::optional<SetAnalysis> set;
    if (rig.plan) set.emplace(rig);
    const rig::Settings& s = camera.settings;
    const Rests fNumber{s.fNumber.isTold(), "f-number"};
    const Rests rate{s.frameRate.isTold(), "frame rate"};
    const Camera* reference = referenceOf(rig);
    std::vector<Fact> facts{
        ifTold(exposureFact(rig, camera),
               {{rig::isExposureKnown(s), "ISO, shutter, f-number or ND"},
                {reference == nullptr || rig::isExposureKnown(reference->settings),
                 "the reference's exposure"}}),
        ifTold(equivalentFact(rig, camera), {fNumber}),
        ifTold(depthFact(rig, camera), {fNumber}),
        ifTold(shutterFact(rig, camera), {{s.shutterSeconds.isTold(), "shutter"}, rate}),
        ifTold(rateFact(rig, camera), {rate}),
        ifTold(whiteBalanceFact(camera, set ? &*set : nullptr),
               {{s.whiteBalanceKelvin.isTold(), "white balance"}}),
        ifTold(nativeIsoFact(camera), {{s.isoValue.isTold(), "ISO"}}),
        ifTold(automaticsFact(rig, camera),
               {{s.isAutoExposure.isTold() && s.isAutoWhiteBalance.isTold(), "automatics"}}),
        ifTold(profileFact(rig, camera), {{s.profile.isTold(), "profile"}})};
    for (Fact& fact : storageFacts(rig, camera))
        facts.push_back(ifTold(std::move(fact), {{s.bitRateMbps.isTold(), "bit rate"}}));
    facts.push_back(powerFact(rig, camera));
    facts.push_back(ifTold(soundFact(rig, camera), {{s.soundInput.isTold(), "sound input"}}));
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
    using Words = base::Told<std::string>;
    const auto compare =
        [&](const char* field, const Words& own, const Words& theirs, const char* why) {
            if (own.isTold() && theirs.isTold() && own != theirs)
                marks.push_back({field,
                                 base::Verdict::Near,
                                 own.value() + "; reference " + theirs.value() + ": " + why});
        };
    compare("profile",
            camera.settings.profile,
            reference->settings.profile,
            "contrast and colour will differ.");
    if (camera.settings.width * reference->settings.height !=
        camera.settings.height * reference->settings.width) {
        marks.push_back(
            {"size", base::Verdict::Near, "Another shape of picture than the reference's."});
    }
    if (camera.settings.isStabilised) {
        marks.push_back(
            {"stabilised", base::Verdict::Near, "A digital stabiliser crops by a varying amount."});
    }
    return marks;
}

}  // namespace rigmatch::plan
