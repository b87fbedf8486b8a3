// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "colour/transfer.h"
#include "rig/reading.h"

namespace rigmatch::match {

/// One take of a bracket: the same chart in the same light, exposed by a known step.
struct BracketStep {
    const rig::Reading* reading = nullptr;
    double exposureStops = 0.0;  ///< against the first take, from the camera's settings
    std::string name;            ///< "take 2"
};

/// A camera's curve from takes with known steps: the grey row is seen at several exposures, so that
/// more of the curve shows than one chart reaches.
struct BracketCurve {
    colour::TransferCurve curve;  ///< light 0.18 is the chart's 18 % in the first take
    double fromStops = 0.0;       ///< reach against 18 % grey
    double toStops = 0.0;
    double stepErrorStops = 0.0;  ///< root mean square of stated against measured steps
    int points = 0;
};

/// Needs two takes with charts and at least 0.3 stop between the least and the most exposed. Fails
/// with Unmeasurable saying what is missing, or that the stated steps and the pictures do not agree
/// (over 0.15 stop): then an automatic was on, or a setting is not what the takes say.
[[nodiscard]] base::Result<BracketCurve> curveFromBracket(const std::vector<BracketStep>& steps);

}  // namespace rigmatch::match
