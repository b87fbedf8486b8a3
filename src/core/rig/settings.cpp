// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/settings.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::rig {

optics::ExposureSettings exposureOf(const Settings& settings) {
    return {settings.isoValue, settings.shutterSeconds, settings.fNumber, settings.ndStops};
}

Settings unknownSettings() {
    Settings s;
    const auto forget = [](auto&... settings) { (settings.forget(), ...); };
    forget(s.isoValue, s.shutterSeconds, s.fNumber, s.ndStops, s.whiteBalanceKelvin, s.tintSteps);
    forget(s.profile, s.frameRate, s.width, s.height, s.isAutoExposure, s.isAutoWhiteBalance);
    forget(s.codec, s.bitRateMbps, s.detailSteps, s.isAutoFocus, s.isStabilised, s.soundInput);
    forget(s.isAutoSoundLevel);
    return s;
}

bool isExposureKnown(const Settings& settings) {
    return settings.isoValue.isTold() && settings.shutterSeconds.isTold() &&
           settings.fNumber.isTold() && settings.ndStops.isTold();
}

double nearestAllowed(const std::vector<double>& values, double value) {
    if (values.empty()) return value;
    return *std::min_element(values.begin(), values.end(), [&](double a, double b) {
        return std::abs(a - value) < std::abs(b - value);
    });
}

const Profile* findProfile(const ControlSheet& sheet, const std::string& name) {
    const auto found = std::find_if(sheet.profiles.begin(),
                                    sheet.profiles.end(),
                                    [&](const Profile& p) { return p.name == name; });
    return found == sheet.profiles.end() ? nullptr : &*found;
}

const RecordingMode* findCodec(const ControlSheet& sheet, const std::string& name) {
    const auto found = std::find_if(sheet.codecs.begin(),
                                    sheet.codecs.end(),
                                    [&](const RecordingMode& mode) { return mode.name == name; });
    return found == sheet.codecs.end() ? nullptr : &*found;
}

double cropAtRate(const ControlSheet& sheet, double framesPerSecond) {
    double factor = 1.0;
    double from = 0.0;
    for (const RateCrop& crop : sheet.rateCrops) {
        if (framesPerSecond < crop.fromFps - 0.01 || crop.fromFps < from) continue;
        from = crop.fromFps;
        factor = crop.factor;
    }
    return factor;
}

}  // namespace rigmatch::rig
