// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/units.h"

namespace rigmatch::optics {

/// t = angle / (360 fps) and back (sources 4.3). Rates and times above 0.
[[nodiscard]] base::Seconds shutterOfAngle(double angleDegrees, double framesPerSecond);
[[nodiscard]] double shutterAngleDegrees(base::Seconds shutter, double framesPerSecond);

/// A shutter time that takes in whole ripples of unregulated lamps.
struct SafeShutter {
    base::Seconds time;
    double angleDegrees = 0.0;
};
/// Times n / (2 x mains) that fit into one frame, shortest first (sources 4.3).
[[nodiscard]] std::vector<SafeShutter> safeShutters(double framesPerSecond, double mainsHz);

/// The safe time nearest to 180° in stops. Where two are nearly as near (within 0.15 stop of each
/// other), the shorter: sharper motion is the lesser change (common practice: 24 fps at 60 Hz is
/// shot at 1/60). The 180° time itself where no safe time fits.
[[nodiscard]] SafeShutter recommendedShutter(double framesPerSecond, double mainsHz);

/// Share of a lamp's ripple that is left: |sinc(F t)| with F = 2 x mains; 0 is none, 1 all.
[[nodiscard]] double rippleResidual(base::Seconds shutter, double mainsHz);
/// Frequency at which what is left beats in the clip, Hz; 0: every frame alike.
[[nodiscard]] double beatHz(double framesPerSecond, double mainsHz);

/// Peak-to-peak flicker in stops of a lamp with modulation `modulation` (0..1).
[[nodiscard]] base::Stops flickerStops(base::Seconds shutter, double mainsHz, double modulation);

/// What slow motion asks for.
struct SlowMotion {
    double recordFps = 0.0;   ///< delivered rate times the factor
    base::Seconds shutter;    ///< 180° at that rate
    base::Stops lightNeeded;  ///< more light than at the delivered rate with 180°
};
[[nodiscard]] SlowMotion slowMotion(double deliveredFps, double factor);

}  // namespace rigmatch::optics
