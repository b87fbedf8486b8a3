// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "match/learning.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// One short take of a probe: where the control is to stand, and whether it was shot.
struct ProbeStep {
    double value = 0.0;
    base::Text text;  ///< as the camera shows it
    bool isShot = false;
};

/// How one control of one camera is probed, and what its takes have told.
struct Probe {
    std::string cameraId;
    std::string control;  ///< "iso", "gainDb", "fNumber", "ndStops", "kelvin", "tint", or a knob
    std::vector<ProbeStep> steps;  ///< the present value, below, back, above, back
    bool isLearned = false;
    /// What one unit does: a stop by the numbers, a mired of the dial, a step of tint or of a knob;
    /// with one standard deviation.
    match::Change perUnit, uncertainty;
    std::string unit;  ///< "stop", "mired", "step"
    int takes = 0;     ///< pairs of takes it was learned from
};

/// The probe of a control: two steps below and above where it stands (more of a finely stepped one,
/// so that it shows), with the way back each time, as takes of purpose *probe*; the reference stays
/// as it is meanwhile. Fails with OutOfRange where the camera has no such control with three
/// values, or nobody told where it stands.
[[nodiscard]] base::Result<Probe> probeOf(const rig::Rig& rig,
                                          const std::string& cameraId,
                                          const std::string& control);

}  // namespace rigmatch::jobs
