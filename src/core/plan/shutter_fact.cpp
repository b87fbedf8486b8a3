// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shutter_fact.h"

#include <cmath>

#include "base/format.h"
#include "optics/shutter.h"
#include "rig/lamp_flicker.h"

namespace rigmatch::plan {
namespace {

using base::fixed;
using rig::Camera;
using rig::Rig;

using Known = rig::LampFlicker::Known;

/// Why nothing follows the mains, in a few words and as a sentence.
struct FreeWords {
    std::string words, why;
};
FreeWords freeWords(const rig::LampFlicker& lamps) {
    const std::string take = "take " + std::to_string(lamps.takeNumber);
    if (lamps.known == Known::NotSeen)
        return {"no flicker in " + take, "None was measured at this shutter in " + take + "."};
    if (lamps.known == Known::NoLampIsOn)
        return {"no lamp is on", "No lamp of the plan is on: nothing beats against the shutter."};
    return {"lamps are flicker-free",
            "All lamps of the plan that are on are flicker-free: nothing beats against the "
            "shutter."};
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
Fact freeShutter(Fact fact, const rig::LampFlicker& lamps, double angle, double fps) {
    const FreeWords words = freeWords(lamps);
    fact.value = fixed(angle, 0) + "°, " + words.words;
    fact.why += " " + words.why;
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
    const rig::LampFlicker lamps = rig::lampFlicker(rig, camera);
    if (ripple >= 0.02 && lamps.isRuledOut()) return freeShutter(fact, lamps, angle, fps);
    if (lamps.isSeen()) {
        fact.verdict = base::Verdict::Off;
        fact.value = fixed(angle, 0) + "°, flicker was measured";
        fact.why += " Take " + std::to_string(lamps.takeNumber) + ": " + lamps.seen;
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
