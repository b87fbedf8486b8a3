// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/sharpness_turn.h"

#include <cmath>

namespace rigmatch::match {

std::optional<Measured> overshootDifference(const rig::Reading& reading,
                                            const rig::Reading& reference) {
    if (!reading.sharpness || !reference.sharpness) return std::nullopt;
    return Measured{reading.sharpness->overshootPercent - reference.sharpness->overshootPercent,
                    std::hypot(reading.sharpness->overshootErrorPercent,
                               reference.sharpness->overshootErrorPercent)};
}

std::optional<rig::Turn> sharpnessTurn(const rig::Camera& camera,
                                       const rig::Settings& from,
                                       const rig::Reading& reading,
                                       const rig::Reading& reference,
                                       const Response& answer) {
    const auto apart = overshootDifference(reading, reference);
    if (!apart || !from.detailSteps.isTold()) return std::nullopt;
    const double off = apart->value;
    if (std::abs(off) <= kOvershootGood || std::abs(off) <= 2.0 * apart->uncertainty)
        return std::nullopt;
    const auto left = [&](double step) { return off + answer.share * (step - from.detailSteps); };
    double best = from.detailSteps;
    for (const double step : camera.sheet.detailSteps) {
        if (std::abs(left(step)) < std::abs(left(best))) best = step;
    }
    const double by = best - from.detailSteps;
    if (by == 0.0) return std::nullopt;
    rig::Turn turn;
    turn.cameraId = camera.id;
    turn.control = rig::Control::Sharpness;
    turn.fromValue = from.detailSteps;
    turn.toValue = best;
    turn.fromText = rig::valueText(turn.control, turn.fromValue);
    turn.toText = rig::valueText(turn.control, turn.toValue);
    turn.effect = "overshootPercent";
    turn.before = off;
    turn.after = left(best);
    turn.change.overshootPercent = answer.share * by;
    turn.changeUncertainty.overshootPercent = std::hypot(answer.uncertainty * by, 1.0);
    turn.reason = base::say(off > 0.0 ? "turn.sharper" : "turn.softer") + stepText(answer.takes);
    return turn;
}

}  // namespace rigmatch::match
