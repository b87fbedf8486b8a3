// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>

#include "rig/settings.h"

namespace rigmatch::match {

/// By how much each control is moved: stops of ISO or gain (and of exposure where nobody tells by
/// what), mired and Duv by the sheet; stops of shutter, f-number and ND; then how far white
/// balance, tint, f-number and ND go along stretches of their range, where they may do otherwise
/// than elsewhere; then steps of each knob of the sheet, in its order.
using Moves = Eigen::VectorXd;
inline constexpr int kDials = 3;
inline constexpr int kShutterMove = kDials, kApertureMove = kDials + 1, kNdMove = kDials + 2;
inline constexpr int kAllDials = kDials + 3;
inline constexpr int kKelvinBends = 9, kTintBends = 7, kApertureBends = 9, kNdBends = 9;
inline constexpr int kFirstKelvinBend = kAllDials;
inline constexpr int kFirstTintBend = kFirstKelvinBend + kKelvinBends;
inline constexpr int kFirstApertureBend = kFirstTintBend + kTintBends;
inline constexpr int kFirstNdBend = kFirstApertureBend + kApertureBends;
inline constexpr int kFirstKnob = kFirstNdBend + kNdBends;
/// Moves between two settings of a camera; knobs that one of them does not tell do not move.
[[nodiscard]] Moves movesBetween(const rig::ControlSheet& sheet,
                                 const rig::Settings& from,
                                 const rig::Settings& to);

/// Puts into `moves` what turning between two values of the Kelvin dial moves …
void putMiredMoves(double fromKelvin, double toKelvin, Moves& moves);
/// … what turning the tint does, both in Duv by the sheet …
void putDuvMoves(double from, double to, Moves& moves);
/// … what closing the iris does between two f-numbers, and …
void putApertureMoves(double fromNumber, double toNumber, Moves& moves);
/// … what ND of so many stops in place of others does.
void putNdMoves(double fromStops, double toStops, Moves& moves);

/// Places along the range of white balance, mired of its dial, of tint, Duv by the sheet, and of
/// ND, stops, between which what they do is learned stretch by stretch: `place` from 0 to one less
/// than there are.
[[nodiscard]] double miredPlace(int place);
[[nodiscard]] double duvPlace(int place);
[[nodiscard]] double ndPlace(int place);

/// How far dials may lie off what they do elsewhere, before anything is learned, into the
/// covariances of what they do to exposure, white balance and tint (docs/sources.md, 6.6).
void putBendPriors(Eigen::MatrixXd& ofStops, Eigen::MatrixXd& ofMired, Eigen::MatrixXd& ofDuv);

}  // namespace rigmatch::match
