// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>

#include "rig/settings.h"

namespace rigmatch::match {

/// By how much each control is moved: stops of exposure, mired and Duv by the sheet; then how far
/// white balance and tint go along stretches of their range, where they may do otherwise than
/// elsewhere; then steps of each knob of the sheet, in its order.
using Moves = Eigen::VectorXd;
inline constexpr int kDials = 3, kKelvinBends = 9, kTintBends = 7;
inline constexpr int kFirstKnob = kDials + kKelvinBends + kTintBends;
/// Moves between two settings of a camera; knobs that one of them does not tell do not move.
[[nodiscard]] Moves movesBetween(const rig::ControlSheet& sheet,
                                 const rig::Settings& from,
                                 const rig::Settings& to);

/// Puts into `moves` what turning between two values of the Kelvin dial moves …
void putMiredMoves(double fromKelvin, double toKelvin, Moves& moves);
/// … and what turning the tint does, both in Duv by the sheet.
void putDuvMoves(double from, double to, Moves& moves);

/// Places along the range of white balance, mired of its dial, and of tint, Duv by the sheet,
/// between which what they do is learned stretch by stretch: `place` from 0 to one less than there
/// are.
[[nodiscard]] double miredPlace(int place);
[[nodiscard]] double duvPlace(int place);

/// How far both dials may lie off what they do elsewhere, before anything is learned, into the
/// covariances of their moves (docs/sources.md, 6.6).
void putBendPriors(Eigen::MatrixXd& ofMired, Eigen::MatrixXd& ofDuv);

}  // namespace rigmatch::match
