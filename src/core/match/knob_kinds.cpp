// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/knob_kinds.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "match/predict.h"

namespace rigmatch::match {
namespace {

constexpr std::size_t kKnobKinds = rig::kKnobKindNames.size();
/// What a knob is guessed to do over half its range, where nobody told (common practice); of
/// contrast, saturation and knee the logarithm.
constexpr std::array<double, kChangeParts> kUsualReach{0.0, 45.0, 0.0, 0.3, 5.0, 0.5, 20.0, 0.4};
constexpr double kToldDoubt = 0.35;  // of what it does, one standard deviation
/// What a knob may do beside what it is for, over half its range, by its kind. Contrast that is a
/// straight stretch of the signal looks in this model like a lift of black and of exposure. The
/// last: what a knob of unknown purpose may do.
constexpr std::array<std::array<double, kChangeParts>, kKnobKinds> kAside{
    {{0.25, 2.0, 0.0005, 0.0, 6.0, 0.12, 2.0, 0.15},
     {0.2, 2.0, 0.0005, 0.12, 0.0, 0.12, 2.0, 0.05},
     {0.12, 2.0, 0.0005, 0.05, 0.7, 0.0, 3.0, 0.05},
     {0.08, 2.0, 0.0005, 0.04, 0.7, 0.15, 0.0, 0.05},
     {0.04, 0.0, 0.003, 0.01, 0.2, 0.02, 1.0, 0.02},
     {0.05, 2.0, 0.0005, 0.05, 0.3, 0.05, 1.0, 0.0},
     {0.5, 40.0, 0.008, 0.4, 5.0, 0.5, 20.0, 0.4}}};

/// What one step does to the part that it is for.
double nominalStep(const rig::Knob& knob, double reach) {
    const std::size_t part = partOf(knob.kind);
    if (part == kChangeParts) return 0.0;
    if (knob.perStep == 0.0) return kUsualReach[part] / reach;
    const bool isShare = knob.kind == rig::KnobKind::Contrast ||
                         knob.kind == rig::KnobKind::Saturation || knob.kind == rig::KnobKind::Knee;
    return isShare ? std::log(std::max(1.0 + knob.perStep, 0.1)) : knob.perStep;
}

}  // namespace

std::size_t partOf(rig::KnobKind kind) {
    switch (kind) {
        case rig::KnobKind::Contrast:
            return 3;
        case rig::KnobKind::Black:
            return 4;
        case rig::KnobKind::Saturation:
            return 5;
        case rig::KnobKind::Hue:
            return 6;
        case rig::KnobKind::Amber:
            return 1;
        case rig::KnobKind::Knee:
            return 7;
        case rig::KnobKind::Other:
            break;
    }
    return kChangeParts;
}

const char* effectOfKnob(rig::KnobKind kind) {
    switch (kind) {
        case rig::KnobKind::Contrast:
            return "contrastRatio";
        case rig::KnobKind::Black:
            return "blackLevelPercent";
        case rig::KnobKind::Saturation:
            return "saturationRatio";
        case rig::KnobKind::Hue:
            return "hueDegrees";
        case rig::KnobKind::Amber:
            return "whiteBalanceMired";
        case rig::KnobKind::Knee:  // no row of the board shows light tones alone
        case rig::KnobKind::Other:
            break;
    }
    return "";
}

double reachOf(const std::vector<double>& steps) {
    double reach = 1.0;
    for (const double step : steps) reach = std::max(reach, std::abs(step));
    return reach;
}

StepPrior stepPrior(const rig::Knob& knob, std::size_t part) {
    const double reach = reachOf(knob.steps);
    if (part != partOf(knob.kind))
        return {0.0, kAside[static_cast<std::size_t>(knob.kind)][part] / reach};
    const double step = nominalStep(knob, reach);
    return {step, (knob.perStep == 0.0 ? kUsualDoubt : kToldDoubt) * std::abs(step)};
}

}  // namespace rigmatch::match
