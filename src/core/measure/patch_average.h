// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "chart/patch_reader.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// Patches of one frame of a span.
struct SpanFrame {
    double seconds = 0.0;
    chart::PatchSamples samples;
};

/// Mean signal per patch over the frames, without the frames in which a patch departs from the
/// others (a finger, a shadow passing). Standard errors come from the spread between frames (more
/// where they wander in time), never below what the pixel noise leaves after averaging (pixels
/// counted as a quarter: cameras' noise reduction ties neighbours, common practice), and hold what
/// rounding to whole codes leaves where there is little noise.
[[nodiscard]] std::vector<rig::PatchReading> averagePatches(
    const std::vector<SpanFrame>& frames,
    const chart::ReferenceChart& chart = chart::classicChart());

/// Straight line through the mid-grey of the chart over the time of the frames. Nothing under six
/// frames or half a second.
[[nodiscard]] std::optional<rig::DriftReading> driftOf(
    const std::vector<SpanFrame>& frames,
    const chart::ReferenceChart& chart = chart::classicChart());

}  // namespace rigmatch::measure
