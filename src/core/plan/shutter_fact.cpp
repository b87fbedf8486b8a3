// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shutter_fact.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "optics/shutter.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using rig::Camera;
using rig::Rig;

/// Whether anything can beat against the shutter: what was measured in the newest take at this
/// shutter outranks what the plan's lamps are said to be.
struct LampFlicker {
    bool isMeasured = false;  ///< it was seen
    bool isRuledOut = false;  ///< it was not, or no lamp can
    std::string words, why;
};
LampFlicker lampFlicker(const Rig& rig, const Camera& camera) {
    LampFlicker found;
    for (std::size_t i = rig.takes.size(); i-- > 0;) {
        const rig::Shot* shot = rig::findShot(rig.takes[i], camera.id);
        if (shot == nullptr || !shot->reading || shot->reading->isStill) continue;
        const bool isSame = shot->settings.shutterSeconds.isTold() &&
                            shot->settings.shutterSeconds == camera.settings.shutterSeconds &&
                            shot->settings.frameRate == camera.settings.frameRate;
        if (!isSame) break;
        for (const base::Warning& warning : shot->reading->warnings) {
            if (warning.code != "Flicker") continue;
            found.isMeasured = true;
            found.why = "Take " + std::to_string(rig.takes[i].number) + ": " + warning.text;
            return found;
        }
        const bool isWatched = std::any_of(shot->reading->measuredBy.begin(),
                                           shot->reading->measuredBy.end(),
                                           [](const auto& one) { return one.name == "flicker"; });
        if (!isWatched) break;
        found.isRuledOut = true;
        found.words = "no flicker in take " + std::to_string(rig.takes[i].number);
        found.why = "None was measured at this shutter in take " +
                    std::to_string(rig.takes[i].number) + ".";
        return found;
    }
    if (!rig.plan) return found;
    bool hasLamp = false;
    for (const rig::PlanObject& object : rig.plan->objects) {
        if (object.kind != rig::PlanKind::Light || !object.isOn) continue;
        hasLamp = true;
        if (!object.isFlickerFree) return found;
    }
    found.isRuledOut = true;
    found.words = hasLamp ? "lamps are flicker-free" : "no lamp is on";
    found.why = hasLamp ? "All lamps of the plan that are on are flicker-free: nothing beats "
                          "against the shutter."
                        : "No lamp of the plan is on: nothing beats against the shutter.";
    return found;
}

/// "180° would be 1/50 s; safe under lamps on 50 Hz: 1/50 s, 1/100 s."
std::string safeWords(double fps, double hz) {
    std::string safe;
    for (const optics::SafeShutter& each : optics::safeShutters(fps, hz))
        safe += (safe.empty() ? "" : ", ") + optics::shutterText(each.time.value());
    return "180° would be " + optics::shutterText(optics::shutterOfAngle(180.0, fps).value()) +
           "; safe under lamps on " + fixed(hz, 0) + " Hz: " + (safe.empty() ? "none" : safe) + ".";
}

/// What an ordinary lamp would do at a time that its ripple does not divide.
std::string flickerWords(base::Seconds time, double fps, double hz) {
    const double beat = optics::beatHz(fps, hz);
    return " A lamp of 30 % ripple would flicker by " +
           fixed(optics::flickerStops(time, hz, 0.3).value(), 2) + " stop" +
           (beat > 0.01 ? ", " + fixed(beat, 1) + " times a second" : ", as fixed bands") + ".";
}

/// Nothing there follows the mains: the shutter is free.
Fact freeShutter(Fact fact, const LampFlicker& lamps, double angle, double fps) {
    fact.value = fixed(angle, 0) + "°, " + lamps.words;
    fact.why += " " + lamps.why;
    if (std::abs(std::log2(angle / 180.0)) > 0.6) {
        fact.verdict = base::Verdict::Near;
        fact.why += " Motion looks different from 180°.";
        fact.change =
            "Set " + optics::shutterText(optics::shutterOfAngle(180.0, fps).value()) + ".";
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
    Fact fact{"shutter", "Shutter and mains"};
    fact.value = fixed(angle, 0) + "°, " + (ripple < 0.02 ? "safe at " : "flickers at ") +
                 fixed(hz, 0) + " Hz";
    fact.number = angle;
    fact.unit = "°";
    fact.why = safeWords(fps, hz);
    if (angle > 360.5) {
        fact.verdict = base::Verdict::Off;
        fact.value = "longer than a frame";
        fact.change = "Set " + optics::shutterText(wanted.time.value()) + ".";
        return fact;
    }
    const double away = std::abs(std::log2(time.value() / wanted.time.value()));
    const LampFlicker lamps = lampFlicker(rig, camera);
    if (ripple >= 0.02 && lamps.isRuledOut) return freeShutter(fact, lamps, angle, fps);
    if (lamps.isMeasured) {
        fact.verdict = base::Verdict::Off;
        fact.value = fixed(angle, 0) + "°, flicker was measured";
        fact.why += " " + lamps.why;
        fact.change =
            "Set " + optics::shutterText(wanted.time.value()) + ", or change the lamp that beats.";
        return fact;
    }
    if (ripple >= 0.02) {
        fact.verdict = ripple > 0.1 ? base::Verdict::Off : base::Verdict::Near;
        fact.why += flickerWords(time, fps, hz);
    } else if (away > 0.6) {
        fact.verdict = base::Verdict::Near;
        fact.why += " Motion looks different from 180°.";
    }
    if (fact.verdict != base::Verdict::Good) {
        fact.change = "Set " + optics::shutterText(wanted.time.value()) + " (" +
                      fixed(wanted.angleDegrees, 0) + "°).";
    }
    return fact;
}

}  // namespace rigmatch::plan
