// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/differences.h"

namespace rigmatch::match {

/// Two sides with their views; both readings have charts of one grid.
struct Comparison {
    const Side& camera;
    const SideView& mine;
    const Side& reference;
    const SideView& theirs;
    Judging judging;
};

/// Variance that scene and method add to what repeats, one standard deviation: the light, the chart
/// and the place of the camera are never quite the same (docs/measurement.md, uncertainty).
inline constexpr double kSceneStops = 0.02;
inline constexpr double kSceneMired = 1.0;
inline constexpr double kSceneDuv = 0.0003;

/// Steps of compare(): camera-referred exposure, white balance, tint, contrast and black level.
/// Both fits must be there.
void compareNeutrals(const Comparison& both, CameraDifferences& result);
/// Scene-referred exposure, and the one by which turns are made.
void compareExposures(const Comparison& both, CameraDifferences& result);
/// Saturation and hue.
void compareChroma(const Comparison& both, CameraDifferences& result);
/// CIEDE2000 under the judge.
void compareColours(const Comparison& both, CameraDifferences& result);
/// What to know before trusting the board.
void addNotes(const Comparison& both, CameraDifferences& result);

/// Luminance of a patch through the camera's curve, its cast taken out, stops against 18 %; nothing
/// beyond the measured curve.
[[nodiscard]] std::optional<double> patchLight(const rig::PatchReading& patch,
                                               const NeutralFit& fit);

/// Standard errors of a reading's patches, in chart order.
[[nodiscard]] PatchErrors errorsOf(const rig::Reading& reading);

}  // namespace rigmatch::match
