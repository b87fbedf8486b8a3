// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/left_over.h"

#include <cmath>

#include "rig/turn.h"

namespace rigmatch::match {
namespace {

using rig::Control;

/// The exposure controls that the sheet has, as set.
base::Text exposureText(const Problem& p, const rig::Settings& to) {
    std::vector<base::Text> values;
    const auto add = [&](bool isThere, Control control, double value) {
        if (isThere) values.push_back(rig::valueText(control, value));
    };
    const rig::ControlSheet& sheet = p.camera->sheet;
    add(!sheet.isoValues.empty() && to.isoValue.isTold(), Control::Iso, to.isoValue);
    add(!sheet.gainsDb.empty(), Control::Gain, to.gainDb);
    add(!sheet.fNumbers.empty(), Control::Aperture, to.fNumber);
    add(!sheet.ndStops.empty(), Control::Nd, to.ndStops);
    add(p.options.shutters.size() > 1, Control::Shutter, to.shutterSeconds);
    return values.empty() ? base::say("left.whatIsSet") : base::joined(values, base::asIs(", "));
}

/// Where the white balance ends: its Kelvin, and the amber axis where there is one.
base::Text whiteBalanceText(const Problem& p, const rig::Settings& to) {
    base::Text text = rig::valueText(Control::WhiteBalance, to.whiteBalanceKelvin);
    for (const rig::Knob& knob : p.camera->sheet.knobs) {
        const auto at = to.knobs.find(knob.name);
        if (knob.kind == rig::KnobKind::Amber && at != to.knobs.end())
            text += base::asIs(", " + knob.name + " ") + rig::valueText(Control::Knob, at->second);
    }
    return text;
}

}  // namespace

void nameLeftOver(const Problem& p, const rig::Settings& to, TurnPlan& plan) {
    const double rest = p.exposure + plan.total.exposureStops;
    if (p.isExposureTurned && canTurnExposure(*p.camera, p.from, p.options) &&
        std::abs(rest) > p.differences.of(Quality::Exposure).accept) {
        plan.leftOver.push_back({Quality::Exposure,
                                 base::say("left.exposure",
                                           {{"stops", base::Number{rest, 2, true}},
                                            {"nearest", exposureText(p, to)}})});
    }
    if (!p.differences.exposureReason.empty() && p.differences.exposureBasis == ExposureBasis::None)
        plan.leftOver.push_back(
            {Quality::Exposure, base::say("left.notTurned") + p.differences.exposureReason});
    const double mired = p.mired + plan.total.whiteBalanceMired;
    if (p.options.isKelvinKnown && p.from.whiteBalanceKelvin.isTold() &&
        std::abs(mired) > p.differences.of(Quality::WhiteBalance).accept) {
        plan.leftOver.push_back({Quality::WhiteBalance,
                                 base::say("left.whiteBalance",
                                           {{"mired", base::Number{mired, 0, true}},
                                            {"end", whiteBalanceText(p, to)}})});
    }
    const double duv = p.duv + plan.total.tintDuv;
    if (p.from.tintSteps.isTold() && std::abs(duv) > p.differences.of(Quality::Tint).accept) {
        plan.leftOver.push_back(
            {Quality::Tint, base::say("left.tint", {{"duv", base::Number{duv, 4, true}}})});
    }
}

}  // namespace rigmatch::match
