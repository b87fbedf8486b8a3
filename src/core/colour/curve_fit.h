// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "colour/published_curves.h"

namespace rigmatch::colour {

/// One grey of a chart as recorded.
struct FittedGrey {
    double linear = 0.0;  ///< luminance of the patch, 1 = perfect white
    double signal = 0.0;  ///< luma
    double error = 0.0;   ///< standard error of `signal`
};

/// A published curve that could have made a grey row.
struct CurveCandidate {
    std::string name;            ///< "BT.709", "HLG", or as the colour library calls it
    double exposureStops = 0.0;  ///< light on the chart against 18 % grey at its nominal signal
    double errorPercent = 0.0;   ///< root mean square of predicting each grey from the others, %
};

/// How well one curve explains the greys with the exposure as the only unknown: each grey is
/// predicted from the others (leave one out), so that no curve is praised for what it was fitted
/// to. `isLimited`: the file was read as limited range.
[[nodiscard]] CurveCandidate fitCurve(const PublishedCurve& curve,
                                      const std::vector<FittedGrey>& greys,
                                      bool isLimited);

/// Every published curve so, best first. Needs four greys; empty otherwise.
[[nodiscard]] std::vector<CurveCandidate> fitPublishedCurves(const std::vector<FittedGrey>& greys,
                                                             bool isLimited);

}  // namespace rigmatch::colour
