// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/probe_job.h"

#include <algorithm>
#include <cmath>

#include "rig/turn.h"

namespace rigmatch::jobs {
namespace {

/// A control as the probe needs it.
struct Dial {
    std::vector<double> values;
    std::optional<double> present;
    rig::Control kind = rig::Control::Knob;
};

Dial dialOf(const rig::ControlSheet& sheet, const rig::Settings& s, const std::string& name) {
    if (name == "iso") return {sheet.isoValues, s.isoValue.told(), rig::Control::Iso};
    if (name == "gainDb") return {sheet.gainsDb, s.gainDb.told(), rig::Control::Gain};
    if (name == "fNumber") return {sheet.fNumbers, s.fNumber.told(), rig::Control::Aperture};
    if (name == "ndStops") return {sheet.ndStops, s.ndStops.told(), rig::Control::Nd};
    if (name == "kelvin")
        return {sheet.kelvins, s.whiteBalanceKelvin.told(), rig::Control::WhiteBalance};
    if (name == "tint") return {sheet.tintSteps, s.tintSteps.told(), rig::Control::Tint};
    if (name == "sharpness")
        return {sheet.detailSteps, s.detailSteps.told(), rig::Control::Sharpness};
    Dial dial;
    const auto knob = s.knobs.find(name);
    if (knob != s.knobs.end()) dial.present = knob->second;
    if (const rig::Knob* found = rig::findKnob(sheet, name)) dial.values = found->steps;
    return dial;
}

tl::unexpected<base::Error> noProbe(const std::string& control,
                                    const base::Text& why,
                                    const base::Text& remedy) {
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("probeJob.cannotProbe", {{"control", control}}),
                      why,
                      remedy);
}

/// Present, below, back, above, back.
std::vector<double> valuesFor(const std::vector<double>& values, double present) {
    const auto nearest = std::min_element(values.begin(), values.end(), [&](double a, double b) {
        return std::abs(a - present) < std::abs(b - present);
    });
    const auto at = static_cast<std::ptrdiff_t>(nearest - values.begin());
    const auto last = static_cast<std::ptrdiff_t>(values.size()) - 1;
    const std::ptrdiff_t reach = 2 * std::max<std::ptrdiff_t>(1, (last + 1) / 20);
    const auto value = [&](std::ptrdiff_t index) {
        return values[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(index, 0, last))];
    };
    std::vector<double> steps{*nearest};
    for (const std::ptrdiff_t by : {-reach, reach}) {
        if (value(at + by) == *nearest) continue;
        steps.push_back(value(at + by));
        steps.push_back(*nearest);
    }
    return steps;
}

/// Marks the steps that takes of the probe have, in their order.
void markShot(const rig::Rig& rig, const std::string& cameraId, Probe& probe) {
    std::size_t next = 0;
    for (const rig::Take& take : rig.takes) {
        const rig::Shot* shot = rig::findShot(take, cameraId);
        if (next >= probe.steps.size()) break;
        if (!rig::isFor(take, rig::Purpose::Probe) || shot == nullptr || !shot->reading ||
            !shot->reading->hasChart)
            continue;
        const rig::Camera* camera = rig::findCamera(rig, cameraId);
        const auto stood = dialOf(camera->sheet, shot->settings, probe.control).present;
        if (!stood || std::abs(*stood - probe.steps[next].value) > 1e-6) continue;
        probe.steps[next++].isShot = true;
    }
}

void tellLearned(const rig::Camera& camera, const match::LearnedControls& learned, Probe& probe) {
    const auto put = [&](const match::Response& response,
                         double match::Change::*part,
                         double unit,
                         const char* name) {
        probe.perUnit.*part = response.share * unit;
        probe.uncertainty.*part = response.uncertainty * std::abs(unit);
        probe.takes = response.takes;
        probe.unit = name;
    };
    if (probe.control == "kelvin") {
        put(learned.whiteBalance, &match::Change::whiteBalanceMired, 1.0, "mired");
    } else if (probe.control == "tint") {
        put(learned.tint, &match::Change::tintDuv, camera.sheet.tintDuvPerStep, "step");
    } else if (probe.control == "sharpness") {
        put(learned.sharpness, &match::Change::overshootPercent, 1.0, "step");
    } else if (const auto knob = std::find_if(
                   learned.knobs.begin(),
                   learned.knobs.end(),
                   [&](const match::KnobResponse& one) { return one.name == probe.control; });
               knob != learned.knobs.end()) {
        probe.perUnit = knob->shown;
        probe.uncertainty = knob->shownUncertainty;
        probe.takes = knob->takes;
        probe.unit = "step";
    } else {
        put(probe.control == "fNumber"   ? learned.aperture
            : probe.control == "ndStops" ? learned.nd
                                         : learned.exposure,
            &match::Change::exposureStops,
            1.0,
            "stop");
    }
    probe.isLearned = probe.takes > 0;
}

}  // namespace

base::Result<Probe> probeOf(const rig::Rig& rig,
                            const std::string& cameraId,
                            const std::string& control) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr || cameraId == rig.referenceId)
        return noProbe(control,
                       base::say("probeJob.referenceStaysLight"),
                       base::say("probeJob.probeAnotherCamera"));
    // Where it stood before the probe began, if it has begun.
    rig::Settings settings = camera->settings;
    for (const rig::Take& take : rig.takes) {
        const rig::Shot* shot = rig::findShot(take, cameraId);
        if (!rig::isFor(take, rig::Purpose::Probe) || shot == nullptr) continue;
        settings = shot->settings;
        break;
    }
    const Dial dial = dialOf(camera->sheet, settings, control);
    if (dial.values.size() < 3)
        return noProbe(control,
                       base::say("probeJob.cameraNoSuch", {{"camera", camera->letter}}),
                       base::say("probeJob.sayStepsRigmatch",
                                 {{"camera", camera->letter}, {"control", control}}));
    if (!dial.present)
        return noProbe(control,
                       base::say("probeJob.nobodyToldWhere", {{"camera", camera->letter}}),
                       base::say("probeJob.sayRigmatchCli",
                                 {{"camera", camera->letter}, {"control", control}}));
    Probe probe;
    probe.cameraId = cameraId;
    probe.control = control;
    for (const double value : valuesFor(dial.values, *dial.present))
        probe.steps.push_back({value, rig::valueText(dial.kind, value), false});
    markShot(rig, cameraId, probe);
    if (!rig.takes.empty())
        tellLearned(
            *camera, match::learnControls(rig, std::as_const(rig.takes).back(), cameraId), probe);
    return probe;
}

}  // namespace rigmatch::jobs
