// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/shutter.h"

#include <cmath>
#include <numbers>

namespace rigmatch::optics {
namespace {

constexpr double kNearTieStops = 0.15;

double stopsFromHalf(double seconds, double framesPerSecond) {
    return std::log2(seconds * 2.0 * framesPerSecond);
}

}  // namespace

base::Seconds shutterOfAngle(double angleDegrees, double framesPerSecond) {
    return base::Seconds(angleDegrees / (360.0 * framesPerSecond));
}

double shutterAngleDegrees(base::Seconds shutter, double framesPerSecond) {
    return 360.0 * framesPerSecond * shutter.value();
}

std::vector<SafeShutter> safeShutters(double framesPerSecond, double mainsHz) {
    std::vector<SafeShutter> times;
    const double ripple = 2.0 * mainsHz;
    for (int n = 1; n <= 64; ++n) {
        const base::Seconds time(n / ripple);
        const double angle = shutterAngleDegrees(time, framesPerSecond);
        if (angle > 360.0 + 1e-9) break;
        times.push_back({time, angle});
    }
    return times;
}

SafeShutter recommendedShutter(double framesPerSecond, double mainsHz) {
    const base::Seconds half = shutterOfAngle(180.0, framesPerSecond);
    SafeShutter best{half, 180.0};
    double nearest = 1e9;
    for (const SafeShutter& safe : safeShutters(framesPerSecond, mainsHz)) {
        const double away = std::abs(stopsFromHalf(safe.time.value(), framesPerSecond));
        // Shortest first: a later one must be clearly nearer to win.
        if (away > nearest - kNearTieStops) continue;
        nearest = away;
        best = safe;
    }
    return best;
}

double rippleResidual(base::Seconds shutter, double mainsHz) {
    const double x = std::numbers::pi * 2.0 * mainsHz * shutter.value();
    return x < 1e-9 ? 1.0 : std::abs(std::sin(x) / x);
}

double beatHz(double framesPerSecond, double mainsHz) {
    const double ripple = 2.0 * mainsHz;
    return std::abs(ripple - std::round(ripple / framesPerSecond) * framesPerSecond);
}

base::Stops flickerStops(base::Seconds shutter, double mainsHz, double modulation) {
    const double share = modulation * rippleResidual(shutter, mainsHz);
    return base::Stops(std::log2((1.0 + share) / (1.0 - share)));
}

SlowMotion slowMotion(double deliveredFps, double factor) {
    return {deliveredFps * factor,
            shutterOfAngle(180.0, deliveredFps * factor),
            base::Stops(std::log2(factor))};
}

}  // namespace rigmatch::optics
