// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "chart/reference_chart.h"
#include "measure/clip_scan.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// Puts what a span tells into a reading: place and patches of the chart, whites that are cut, and,
/// where the span has them, noise, edges and drift, each with its standard deviation.
void putSpan(rig::Reading& reading, const SteadySpan& span, const chart::ReferenceChart& chart);

}  // namespace rigmatch::measure
