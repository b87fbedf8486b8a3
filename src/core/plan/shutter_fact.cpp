// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shutter_fact.h"

#include <cmath>

#include "optics/shutter.h"
#include "rig/lamp_flicker.h"

namespace rigmatch::plan {
namespace {

using base::Number;
using base::say;
using rig::Camera;
using rig::Rig;

using Known = rig::LampFlicker::Known;

/// Why nothing follows the mains, in a few words and as a sentence.
struct FreeWords {
    base::Text words, why;
};
FreeWords freeWords(const rig::LampFlicker& lamps) {
    const Number take{double(lamps.takeNumber)};
    if (lamps.known == Known::NotSeen)
        return {say("shutter.noFlicker", {{"take", take}}),
                say("shutter.noneMeasured", {{"take", take}})};
    if (lamps.known == Known::NoLampIsOn)
        return {say("shutter.noLamp"), say("shutter.noLampBeats")};
    return {say("shutter.lampsFree"), say("shutter.freeLampsBeat")};
}

/// "180° would be 1/50 s; safe under lamps on 50 Hz: 1/50 s, 1/100 s."
base::Text safeWords(double fps, double hz) {
    std::string safe;
    for (const optics::SafeShutter& each : optics::safeShutters(fps, hz))
        safe += (safe.empty() ? "" : ", ") + optics::shutterText(each.time.value());
    return say("shutter.safeTimes",
               {{"half", optics::shutterText(optics::shutterOfAngle(180.0, fps).value())},
                {"hz", Number{hz}},
                {"safe", safe.empty() ? say("common.none") : base::asIs(safe)}});
}

/// What an ordinary lamp would do at a time that its ripple does not divide.
base::Text flickerWords(base::Seconds time, double fps, double hz) {
    const double beat = optics::beatHz(fps, hz);
    return say("shutter.wouldFlicker",
               {{"stops", Number{optics::flickerStops(time, hz, 0.3).value(), 2}},
                {"how",
                 beat > 0.01 ? say("shutter.timesASecond", {{"times", Number{beat, 1}}})
                             : say("shutter.fixedBands")}});
}

/// Nothing there follows the mains: the shutter is free.
Fact freeShutter(Fact fact, const rig::LampFlicker& lamps, double angle, double fps) {
    const FreeWords words = freeWords(lamps);
    fact.value = say("shutter.numbers", {{"angle", Number{angle}}, {"words", words.words}});
    fact.why += say("shutter.numbers2", {{"why", words.why}});
    if (std::abs(std::log2(angle / 180.0)) > 0.6) {
        fact.verdict = base::Verdict::Near;
        fact.why += say("shutter.motionLooksDifferent");
        fact.change =
            say("shutter.set",
                {{"time", optics::shutterText(optics::shutterOfAngle(180.0, fps).value())}});
    }
    return fact;
}

}  // namespace

Fact shutterFact(const Rig& rig, const Camera& camera) {
    const base::Seconds time(camera.settings.shutterSeconds);
    const double fps = camera.settings.frameRate;
    const double hz = rig.choices.mainsHz;
    const double angle = optics::shutterAngleDegrees(time, fps);
    const double ripple = optics::rippleResidual(time, hz);
    const optics::SafeShutter wanted = optics::recommendedShutter(fps, hz);
    Fact fact{"shutter", say("shutter.shutterMains")};
    fact.value = say("shutter.hz",
                     {{"angle", Number{angle}},
                      {"state", ripple < 0.02 ? say("shutter.safe") : say("shutter.flickers")},
                      {"hz", Number{hz}}});
    fact.number = angle;
    fact.unit = "°";
    fact.why = safeWords(fps, hz);
    if (angle > 360.5) {
        fact.verdict = base::Verdict::Off;
        fact.value = say("shutter.longerThanFrame");
        fact.change = say("shutter.set2", {{"time", optics::shutterText(wanted.time.value())}});
        return fact;
    }
    const double away = std::abs(std::log2(time.value() / wanted.time.value()));
    const rig::LampFlicker lamps = rig::lampFlicker(rig, camera);
    if (ripple >= 0.02 && lamps.isRuledOut()) return freeShutter(fact, lamps, angle, fps);
    if (lamps.isSeen()) {
        fact.verdict = base::Verdict::Off;
        fact.value = say("shutter.flickerMeasured", {{"angle", Number{angle}}});
        fact.why += say("shutter.take",
                        {{"takeNumber", base::whole(lamps.takeNumber)}, {"seen", lamps.seen}});
        fact.change =
            say("shutter.setChangeLamp", {{"time", optics::shutterText(wanted.time.value())}});
        return fact;
    }
    if (ripple >= 0.02) {
        fact.verdict = ripple > 0.1 ? base::Verdict::Off : base::Verdict::Near;
        fact.why += flickerWords(time, fps, hz);
    } else if (away > 0.6) {
        fact.verdict = base::Verdict::Near;
        fact.why += say("shutter.motionLooksDifferent");
    }
    if (fact.verdict != base::Verdict::Good) {
        fact.change = say("shutter.set3",
                          {{"time", optics::shutterText(wanted.time.value())},
                           {"angle", Number{wanted.angleDegrees}}});
    }
    return fact;
}

}  // namespace rigmatch::plan
