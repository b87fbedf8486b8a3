// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/settings.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::rig {

optics::ExposureSettings exposureOf(const Settings& settings) {
    return {settings.isoValue, settings.shutterSeconds, settings.fNumber, settings.ndStops};
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

}  // namespace rigmatch::rig
