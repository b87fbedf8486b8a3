// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/rest_reasons.h"
#include "words/english.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

#include "optics/exposure.h"

namespace rigmatch::words {
namespace {

using match::Difference;
using match::Quality;

/// How far it is from neutral, in the unit of its steps: ratios by their logarithm.
double sizeOf(Quality quality, const Difference& difference) {
    return match::isRatio(quality) ? std::abs(std::log(std::max(*difference.value, 1e-6)))
                                   : std::abs(*difference.value);
}

/// From one value of a list to the nearest other one, by `distance`; nothing where there is none.
template <class Distance>
void keepStep(const std::vector<double>& values,
              double at,
              Distance distance,
              std::optional<double>& smallest) {
    for (const double value : values) {
        const double step = std::abs(distance(at, value));
        if (step > 1e-9) smallest = std::min(smallest.value_or(step), step);
    }
}

/// The smallest step of what moves this row, in the row's unit; nothing where nothing does or where
/// nobody told.
std::optional<double> smallestStep(const rig::Camera& camera,
                                   const rig::Settings& set,
                                   const match::CameraMatch& match,
                                   Quality quality) {
    const rig::ControlSheet& sheet = camera.sheet;
    std::optional<double> step;
    const auto stops = [](double a, double b) { return std::log2(b / a); };
    const auto plain = [](double a, double b) { return b - a; };
    switch (quality) {
        case Quality::Exposure:
            if (set.isoValue.isTold()) keepStep(sheet.isoValues, set.isoValue, stops, step);
            if (set.fNumber.isTold())
                keepStep(
                    sheet.fNumbers,
                    set.fNumber,
                    [](double a, double b) { return 2.0 * std::log2(b / a); },
                    step);
            if (set.gainDb.isTold())
                keepStep(
                    sheet.gainsDb,
                    set.gainDb,
                    [](double a, double b) { return (b - a) / optics::kDecibelsPerStop; },
                    step);
            break;
        case Quality::WhiteBalance:
            if (set.whiteBalanceKelvin.isTold())
                keepStep(
                    sheet.kelvins,
                    set.whiteBalanceKelvin,
                    [](double a, double b) { return 1e6 / b - 1e6 / a; },
                    step);
            if (step) step = *step * match.learned.whiteBalance.share;
            break;
        case Quality::Tint:
            if (set.tintSteps.isTold()) keepStep(sheet.tintSteps, set.tintSteps, plain, step);
            if (step) step = *step * sheet.tintDuvPerStep * match.learned.tint.share;
            break;
        default:
            break;
    }
    return step;
}

/// The kind of knob that moves a row of the picture's look.
std::optional<rig::KnobKind> knobFor(Quality quality) {
    switch (quality) {
        case Quality::Contrast:
            return rig::KnobKind::Contrast;
        case Quality::BlackLevel:
            return rig::KnobKind::Black;
        case Quality::Saturation:
            return rig::KnobKind::Saturation;
        case Quality::Hue:
            return rig::KnobKind::Hue;
        default:
            return std::nullopt;
    }
}

/// What a turn is mainly for.
bool isFor(const rig::Turn& turn, Quality quality) {
    switch (quality) {
        case Quality::Exposure:
            return turn.effect == "exposureStops";
        case Quality::WhiteBalance:
            return turn.effect == "whiteBalanceMired";
        case Quality::Tint:
            return turn.effect == "tintDuv";
        case Quality::Contrast:
            return turn.effect == "contrastRatio";
        case Quality::BlackLevel:
            return turn.effect == "blackLevelPercent";
        case Quality::Saturation:
            return turn.effect == "saturationRatio";
        case Quality::Hue:
            return turn.effect == "hueDegrees";
        default:
            return !turn.isFine;  // made of all the others
    }
}

RestReason reasonFor(const rig::Camera& camera,
                     const rig::Settings& set,
                     const match::CameraMatch& match,
                     Quality quality,
                     const Difference& difference) {
    RestReason rest{camera.id, quality, RestCause::OutOfReach, {}};
    const double size = sizeOf(quality, difference);
    if (size <= 2.0 * difference.uncertainty) {
        rest.cause = RestCause::Unsure;
        rest.text = "Less than the reading is good to: it may be nothing.";
        return rest;
    }
    if (const auto kind = knobFor(quality)) {
        const bool hasKnob = std::any_of(camera.sheet.knobs.begin(),
                                         camera.sheet.knobs.end(),
                                         [&](const rig::Knob& knob) { return knob.kind == *kind; });
        rest.cause = hasKnob ? RestCause::BelowStep : RestCause::NoControl;
        rest.text = hasKnob ? "No step of its knob brings the colours nearer as a whole."
                            : "No control on this camera's sheet moves it: enter the profile's "
                              "knobs on Cameras, try another profile, or export a correction.";
        return rest;
    }
    if (quality == Quality::DeltaE || quality == Quality::SkinLevel ||
        quality == Quality::SkinHue) {
        rest.cause = RestCause::Follows;
        rest.text = quality == Quality::DeltaE
                        ? "What curves and sensors make of colours: a correction takes it out."
                        : "It follows from the rows above and from where each lens stands.";
        return rest;
    }
    const auto step = smallestStep(camera, set, match, quality);
    if (step && size <= 0.55 * *step) {
        rest.cause = RestCause::BelowStep;
        rest.text = "Less than half of the smallest step that this camera has.";
        return rest;
    }
    for (const match::LeftOver& left : match.plan.leftOver) {
        if (left.quality != quality) continue;
        rest.text = inEnglish(left.text);
        return rest;
    }
    rest.cause = step ? RestCause::BelowStep : RestCause::NoControl;
    rest.text = step ? "No step of this camera brings the colours nearer as a whole."
                     : "This camera's sheet has no control for it, or nobody told what is set.";
    return rest;
}

}  // namespace

std::string nameOf(RestCause cause) {
    constexpr std::array kNames{"belowStep", "unsure", "outOfReach", "noControl", "follows"};
    return kNames.at(static_cast<std::size_t>(cause));
}

std::vector<RestReason> restReasons(const rig::Rig& rig,
                                    const rig::Take& take,
                                    const match::MatchReport& report) {
    std::vector<RestReason> reasons;
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        const rig::Shot* shot = rig::findShot(take, match.cameraId);
        if (match.isReference || camera == nullptr || shot == nullptr) continue;
        for (std::size_t i = 0; i < match::kQualityCount; ++i) {
            const auto quality = static_cast<Quality>(i);
            const Difference& difference = match.differences.judged(quality);
            const bool isOpen = difference.verdict == match::Verdict::Near ||
                                difference.verdict == match::Verdict::Off;
            const bool isTurned = std::any_of(
                match.plan.turns.begin(), match.plan.turns.end(), [&](const rig::Turn& turn) {
                    return isFor(turn, quality);
                });
            if (!isOpen || !difference.value || isTurned) continue;
            reasons.push_back(reasonFor(*camera, shot->settings, match, quality, difference));
        }
    }
    return reasons;
}

std::string restHeadline(const std::vector<RestReason>& reasons, bool hasFineTurns) {
    if (reasons.empty() && hasFineTurns)
        return "Good enough: every row is good. The turns below are for the last bit.";
    if (reasons.empty()) return "Done: every row that can be judged is good.";
    const bool isSmall = std::all_of(reasons.begin(), reasons.end(), [](const RestReason& reason) {
        return reason.cause == RestCause::BelowStep || reason.cause == RestCause::Unsure ||
               reason.cause == RestCause::Follows;
    });
    if (isSmall) return "Stop: the rest is below a step.";
    return hasFineTurns ? "Nothing that needs a turn is left. What turns do not reach, and what "
                          "would help:"
                        : "No turn brings the cameras nearer. What is left, and what would help:";
}

}  // namespace rigmatch::words
