// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "chart/chart_finder.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// What is wrong with a chart as it was read, put into the reading's warnings in words with a
/// remedy: where it stands in the picture (several charts, a mirror) …
void warnOfPlace(rig::Reading& reading, const chart::FoundChart& chart);
/// … and what its patches tell (clipped, crushed, shining, out of order, turned away, small).
void warnOfPatches(rig::Reading& reading, const chart::ChartPose& pose);
/// Corners set by hand may lie beside the patches: then colours do not fit the chart, or patches
/// hold edges. Marks such a reading, so that no turn is made from it.
void judgeMarkedColours(rig::Reading& reading, const chart::ReferenceChart& chart);

}  // namespace rigmatch::measure
