// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/lamp_advice.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "colour/primaries.h"
#include "colour/white_point.h"
#include "plan/geometry.h"
#include "plan/light_field.h"

namespace rigmatch::plan {
namespace {

using rig::LampControl;
using rig::LampTurn;
using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

constexpr double kOneIsEnough = 0.5;   // of the light
constexpr double kCounts = 0.05;       // of the light
constexpr double kOthersStops = 0.3;   // how well the rest of the light is known
constexpr double kDialShare = 0.1;     // of a change, what dimmers and colour dials leave open
constexpr double kMostLeft = 1.0 / 3;  // of what is wanted
constexpr double kMostFilm = 4.0;
constexpr double kWarmestKelvin = 2700.0, kCoolestKelvin = 6500.0, kKelvinStep = 50.0;

struct Spot {
    std::string id;
    Vec place, normal;
};

/// Where the chart is held; without one, the faces.
std::vector<Spot> spotsOf(const SetPlan& plan) {
    std::vector<Spot> charts, faces;
    for (const PlanObject& object : plan.objects) {
        if (object.kind == PlanKind::Chart)
            charts.push_back({object.id, placeOf(object), chartNormal(object)});
        if (object.kind == PlanKind::Person)
            faces.push_back({object.id, placeOf(object), facingVector(object.facingDegrees)});
    }
    return charts.empty() ? faces : charts;
}

/// The light on all of the spots.
struct Light {
    double stops = 0.0;  ///< mean of log2 lux
    double mired = 0.0;
    std::vector<double> shares;   ///< of each object of the plan
    std::vector<double> unknown;  ///< how well its level is known, stops
};

std::optional<Light> lightOn(const SetPlan& plan, const std::vector<Spot>& spots) {
    if (spots.empty()) return std::nullopt;
    const LightField field(plan);
    Light light;
    light.shares.assign(plan.objects.size(), 0.0);
    for (const PlanObject& object : plan.objects) {
        const Source* source = field.sourceOf(object.id);
        light.unknown.push_back(source != nullptr ? source->uncertaintyStops : 0.0);
    }
    const auto count = static_cast<double>(spots.size());
    for (const Spot& spot : spots) {
        const SpotLight here = field.at(spot.place, spot.normal, spot.id);
        if (!(here.totalLux > 0.0)) return std::nullopt;
        const auto white = colour::whitePointOf(
            colour::chromaticityOf(colour::rgbToXyz(colour::kBt709) * here.colour));
        if (!white) return std::nullopt;
        light.stops += std::log2(here.totalLux) / count;
        light.mired += white->mired.value() / count;
        for (std::size_t i = 0; i < plan.objects.size(); ++i)
            light.shares[i] += here.luxOf(plan.objects[i].id) / here.totalLux / count;
    }
    return light;
}

double PlanObject::*valueOf(LampControl control) {
    switch (control) {
        case LampControl::Dimmer:
            return &PlanObject::dimPercent;
        case LampControl::Kelvin:
            return &PlanObject::kelvin;
        case LampControl::Film:
            break;
    }
    return &PlanObject::filmStops;
}

/// Has it a dimmer, a colour dial, or glass for a film that may be used.
bool has(const PlanObject& object, LampControl control) {
    if (control == LampControl::Film)
        return object.kind == PlanKind::Window && !object.isBlackedOut;
    if (object.kind != PlanKind::Light || !object.isOn || object.isInPicture) return false;
    const bool isLed = object.lightType.starts_with("LED");
    return control == LampControl::Dimmer || (isLed && !object.isMeantToDiffer);
}

/// The lamps that serve: the one that gives half, or all that count.
std::vector<std::size_t> lampsFor(const SetPlan& plan, const Light& light, LampControl control) {
    std::vector<std::size_t> all;
    double sum = 0.0;
    for (std::size_t i = 0; i < plan.objects.size(); ++i) {
        if (!has(plan.objects[i], control) || light.shares[i] < kCounts) continue;
        all.push_back(i);
        sum += light.shares[i];
    }
    if (sum < kOneIsEnough) return {};
    const auto largest = *std::max_element(
        all.begin(), all.end(), [&](auto a, auto b) { return light.shares[a] < light.shares[b]; });
    if (light.shares[largest] >= kOneIsEnough) return {largest};
    return all;
}

/// What a lamp is set to for `by`: stops of its own light, or mired of its own colour.
double turnedBy(const PlanObject& object, LampControl control, double by) {
    switch (control) {
        case LampControl::Dimmer:
            return std::clamp(std::round(object.dimPercent * std::exp2(by)), 1.0, 100.0);
        case LampControl::Kelvin: {
            const double kelvin = 1e6 / std::max(1e6 / object.kelvin + by, 1.0);
            // A lamp that stands beyond the usual dials stays what it is, or comes nearer.
            const double warmest = std::min(kWarmestKelvin, object.kelvin);
            const double coolest = std::max(kCoolestKelvin, object.kelvin);
            return std::clamp(kKelvinStep * std::round(kelvin / kKelvinStep), warmest, coolest);
        }
        case LampControl::Film:
            break;
    }
    return std::clamp(std::round(object.filmStops - by), 0.0, kMostFilm);
}

SetPlan turned(SetPlan plan,
               const std::vector<std::size_t>& lamps,
               LampControl control,
               double by) {
    for (const std::size_t i : lamps)
        plan.objects[i].*valueOf(control) = turnedBy(plan.objects[i], control, by);
    return plan;
}

double partOf(const Light& light, LampControl control) {
    return control == LampControl::Kelvin ? light.mired : light.stops;
}

/// By how much the lamps themselves are to be turned for `wanted` where the light falls: more than
/// that, for they are not all of it. By secants, as what comes off the walls turns with them.
double ownChange(const SetPlan& plan,
                 const std::vector<Spot>& spots,
                 const Light& before,
                 const std::vector<std::size_t>& lamps,
                 LampControl control,
                 double wanted) {
    double share = 0.0;
    for (const std::size_t i : lamps) share += before.shares[i];
    double by = wanted / std::clamp(share, kOneIsEnough, 1.0);
    if (control != LampControl::Kelvin) {
        // Lamps add: of the whole, all but these stay.
        const double rest = (std::exp2(wanted) - 1.0 + share) / share;
        if (rest > 0.01) by = std::log2(rest);
    }
    for (int round = 0; round < 2; ++round) {
        const auto after = lightOn(turned(plan, lamps, control, by), spots);
        if (!after) break;
        const double reached = partOf(*after, control) - partOf(before, control);
        if (std::abs(reached) < 1e-6) break;
        by *= std::clamp(wanted / reached, 0.5, 2.0);
    }
    return by;
}

/// Of the light's change by a turn of one lamp. Its share p of the light is known as its level
/// against the others': dp = p (1 − p) ln 2 · stops.
double uncertaintyOf(const LampTurn& turn, double share, double unknownStops, double change) {
    const double sigma = share * (1.0 - share) * std::hypot(unknownStops, kOthersStops);
    double byShare = 0.0;
    if (turn.control == LampControl::Kelvin) {
        byShare = sigma * std::numbers::ln2 * (1e6 / turn.to - 1e6 / turn.from);
    } else {
        const double left = turn.control == LampControl::Dimmer ? turn.to / turn.from
                                                                : std::exp2(turn.from - turn.to);
        byShare = sigma * (left - 1.0) / (1.0 + (left - 1.0) * share);
    }
    return std::hypot(byShare, kDialShare * change);
}

/// Turns of one kind of control for one wanted change; empty where they do not serve. Changes the
/// plan with them.
std::vector<LampAdvice> adviceWith(SetPlan& plan,
                                   const std::vector<Spot>& spots,
                                   LampControl control,
                                   double wanted) {
    const auto before = lightOn(plan, spots);
    if (!before) return {};
    const auto lamps = lampsFor(plan, *before, control);
    if (lamps.empty()) return {};
    const double by = ownChange(plan, spots, *before, lamps, control, wanted);
    std::vector<LampAdvice> advice;
    SetPlan now = plan;
    Light last = *before;
    for (const std::size_t i : lamps) {
        const PlanObject& object = plan.objects[i];
        const double to = turnedBy(object, control, by);
        if (to == object.*valueOf(control)) continue;
        now.objects[i].*valueOf(control) = to;
        const auto after = lightOn(now, spots);
        if (!after) return {};
        const LampTurn turn{object.id, control, object.*valueOf(control), to};
        const double change = partOf(*after, control) - partOf(last, control);
        advice.push_back({turn,
                          object.name.empty() ? object.id : object.name,
                          after->stops - last.stops,
                          after->mired - last.mired,
                          before->shares[i],
                          uncertaintyOf(turn, before->shares[i], before->unknown[i], change)});
        last = *after;
    }
    const double left = wanted - (partOf(last, control) - partOf(*before, control));
    if (std::abs(left) > kMostLeft * std::abs(wanted)) return {};
    plan = std::move(now);
    return advice;
}

}  // namespace

std::vector<LampAdvice> lampAdvice(const SetPlan& plan, const LightChange& wanted) {
    const std::vector<Spot> spots = spotsOf(plan);
    SetPlan now = plan;
    std::vector<LampAdvice> all;
    if (wanted.stops) {
        all = adviceWith(now, spots, LampControl::Dimmer, *wanted.stops);
        if (all.empty()) all = adviceWith(now, spots, LampControl::Film, *wanted.stops);
    }
    if (wanted.mired) {
        for (LampAdvice& one : adviceWith(now, spots, LampControl::Kelvin, *wanted.mired))
            all.push_back(std::move(one));
    }
    return all;
}

SetPlan withLampTurn(SetPlan plan, const LampTurn& turn, bool isDone) {
    if (PlanObject* object = rig::findObject(plan, turn.objectId))
        object->*valueOf(turn.control) = isDone ? turn.to : turn.from;
    return plan;
}

}  // namespace rigmatch::plan
