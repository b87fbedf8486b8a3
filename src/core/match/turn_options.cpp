// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/turn_options.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "optics/shutter.h"
#include "rig/lamp_flicker.h"

namespace rigmatch::match {
namespace {

constexpr double kSafeRipple = 0.02;  // of a lamp's ripple, left at a shutter time

/// Share of a frame that the shutter is open; 0 where that is not known.
double openShare(const rig::Settings& settings) {
    return settings.shutterSeconds.isTold() && settings.frameRate.isTold()
               ? settings.shutterSeconds * settings.frameRate
               : 0.0;
}

double noiseOf(const rig::Shot& shot) {
    if (!shot.reading || !shot.reading->noise) return 0.0;
    const auto& grey = shot.reading->noise->grey;
    return std::hypot(base::kLumaBt709[0] * grey[0],
                      base::kLumaBt709[1] * grey[1],
                      base::kLumaBt709[2] * grey[2]);
}

}  // namespace

std::vector<double> freeShutters(const rig::Rig& rig,
                                 const rig::Camera& camera,
                                 const rig::Settings& shot,
                                 const rig::Settings& reference) {
    const double open = openShare(shot);
    if (open <= 0.0) return {};
    const double wanted = openShare(reference) > 0.0 ? openShare(reference) : open;
    const auto away = [&](double seconds) {
        return std::abs(std::log2(seconds * shot.frameRate / wanted));
    };
    const bool isFree = rig::lampFlicker(rig, camera).isRuledOut();
    const bool areMainsTold = !rig.choices.region.empty();
    const double farthest = std::max(1.0, away(shot.shutterSeconds)) + 0.05;
    std::vector<double> free{shot.shutterSeconds};
    for (const double seconds : camera.sheet.shutterSeconds) {
        constexpr double kSame = 0.01;  // of a time
        const auto isNear = [&](double other) { return std::abs(seconds / other - 1.0) < kSame; };
        const bool isLikeReference =
            reference.shutterSeconds.isTold() && isNear(reference.shutterSeconds);
        const bool isSafe =
            isFree || isLikeReference ||
            (areMainsTold &&
             optics::rippleResidual(base::Seconds(seconds), rig.choices.mainsHz) < kSafeRipple);
        const bool isWithinFrame = seconds * shot.frameRate <= 1.001;
        if (isSafe && isWithinFrame && away(seconds) <= farthest && !isNear(free.front()))
            free.push_back(seconds);
    }
    return free;
}

SolverOptions turnOptions(const rig::Rig& rig,
                          const rig::Camera& camera,
                          const rig::Shot& shot,
                          const rig::Shot& reference) {
    SolverOptions options;
    options.isIsoKnown = !shot.settings.isAutoExposure || shot.isIsoRecorded;
    options.isKelvinKnown = !shot.settings.isAutoWhiteBalance || shot.isKelvinRecorded;
    options.shutters = freeShutters(rig, camera, shot.settings, reference.settings);
    options.openShare = openShare(reference.settings);
    // A camera that is noisier than the other is to stay near its clean ISO the more.
    const double mine = noiseOf(shot);
    const double theirs = noiseOf(reference);
    if (mine > 0.0 && theirs > 0.0)
        options.isoPerStopAboveNative *= std::clamp(mine / theirs, 0.5, 1.5);
    return options;
}

}  // namespace rigmatch::match
