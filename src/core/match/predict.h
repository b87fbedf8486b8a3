// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/judge.h"
#include "match/neutral_fit.h"
#include "rig/turn.h"

namespace rigmatch::match {

/// What turning controls does: to the recorded neutral, and to curve and colour after it.
using Change = rig::TurnEffect;

/// Its parts, in the order of the board.
inline constexpr std::size_t kChangeParts = 8;
inline constexpr std::array<double Change::*, kChangeParts> kPartsOfChange{
    &Change::exposureStops,
    &Change::whiteBalanceMired,
    &Change::tintDuv,
    &Change::contrast,
    &Change::blackPercent,
    &Change::saturation,
    &Change::hueDegrees,
    &Change::knee};

/// The signals of a reading's patches, in chart order.
[[nodiscard]] PatchSignals signalsOf(const rig::Reading& reading);

/// What a change does to any recorded signal of a camera: linearised by its own measured curve,
/// each channel scaled, and put through the curve again.
class ChangeMap {
public:
    ChangeMap(const NeutralFit& fit, const Change& change);

    /// Signal of `channel` (0 red, 1 green, 2 blue) after the change; at most 1.09, the top of
    /// limited range. Colours beyond the gamut, below the curve's foot, stay as they are.
    [[nodiscard]] double apply(std::size_t channel, double signal) const;

private:
    ToneCurve m_curve;
    std::array<double, 3> m_shift;  ///< stops
};

/// The patches as this camera would record them after `change`. Whites that leave the colour
/// space stay as they are.
[[nodiscard]] PatchSignals predicted(const rig::Reading& reading,
                                     const NeutralFit& fit,
                                     const Change& change);

/// Where the rendered white goes under `change`, and by how much luminance moves with it, stops
/// (green stays fixed).
[[nodiscard]] colour::WhitePoint changedWhite(const NeutralFit& fit, const Change& change);

}  // namespace rigmatch::match
