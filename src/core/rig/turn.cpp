// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/turn.h"

#include <cmath>

#include "optics/exposure.h"

namespace rigmatch::rig {
namespace {

Settings withValue(Settings settings, const Turn& turn, double value, bool isAutomatic) {
    switch (turn.control) {
        case Control::LockExposure:
            settings.isAutoExposure = isAutomatic;
            break;
        case Control::LockWhiteBalance:
            settings.isAutoWhiteBalance = isAutomatic;
            break;
        case Control::Nd:
            settings.ndStops = value;
            break;
        case Control::Aperture:
            settings.fNumber = value;
            break;
        case Control::Shutter:
            settings.shutterSeconds = value;
            break;
        case Control::Sharpness:
            settings.detailSteps = value;
            break;
        case Control::Iso:
            settings.isoValue = value;
            break;
        case Control::Gain:
            settings.gainDb = value;
            break;
        case Control::Knob:
            settings.knobs[turn.knob] = value;
            break;
        case Control::WhiteBalance:
            settings.whiteBalanceKelvin = value;
            break;
        case Control::Tint:
            settings.tintSteps = value;
            break;
        case Control::Exposure:
            break;
    }
    return settings;
}

bool isSame(double first, double second) { return std::abs(first - second) < 1e-6; }
bool isSet(const base::Told<double>& setting, double value) {
    return setting.isTold() && isSame(setting, value);
}

}  // namespace

std::string nameOf(Control control) {
    switch (control) {
        case Control::LockExposure:
            return "lockExposure";
        case Control::LockWhiteBalance:
            return "lockWhiteBalance";
        case Control::Nd:
            return "nd";
        case Control::Aperture:
            return "aperture";
        case Control::Shutter:
            return "shutter";
        case Control::Sharpness:
            return "sharpness";
        case Control::Iso:
            return "iso";
        case Control::Gain:
            return "gainDb";
        case Control::Knob:
            return "knob";
        case Control::Exposure:
            return "exposure";
        case Control::WhiteBalance:
            return "whiteBalance";
        case Control::Tint:
            return "tint";
    }
    return "unknown";
}

std::string nameOf(const Turn& turn) {
    return turn.control == Control::Knob ? turn.knob : nameOf(turn.control);
}

Settings applied(const Settings& settings, const Turn& turn) {
    return turn.isAmount ? settings : withValue(settings, turn, turn.toValue, false);
}

Settings applied(const Settings& settings, const Turn& turn, const Settings& shot) {
    Settings locked = applied(settings, turn);
    if (turn.control == Control::LockExposure && settings.isAutoExposure) {
        locked.isoBeforeLock = settings.isoValue.told();
        locked.isoValue = shot.isoValue;
    }
    if (turn.control == Control::LockWhiteBalance && settings.isAutoWhiteBalance) {
        locked.kelvinBeforeLock = settings.whiteBalanceKelvin.told();
        locked.whiteBalanceKelvin = shot.whiteBalanceKelvin;
    }
    return locked;
}

Settings takenBack(const Settings& settings, const Turn& turn) {
    if (turn.isAmount) return settings;
    Settings back = withValue(settings, turn, turn.fromValue, true);
    const auto putBack = [](base::Told<double>& value, std::optional<double>& before) {
        if (before) value = *before;
        before.reset();
    };
    if (turn.control == Control::LockExposure) putBack(back.isoValue, back.isoBeforeLock);
    if (turn.control == Control::LockWhiteBalance)
        putBack(back.whiteBalanceKelvin, back.kelvinBeforeLock);
    return back;
}

bool isDone(const Settings& settings, const Turn& turn) {
    if (turn.isAmount) return false;
    switch (turn.control) {
        case Control::LockExposure:
            return !settings.isAutoExposure;
        case Control::LockWhiteBalance:
            return !settings.isAutoWhiteBalance;
        case Control::Nd:
            return isSet(settings.ndStops, turn.toValue);
        case Control::Aperture:
            return isSet(settings.fNumber, turn.toValue);
        case Control::Shutter:
            return isSet(settings.shutterSeconds, turn.toValue);
        case Control::Sharpness:
            return isSet(settings.detailSteps, turn.toValue);
        case Control::Iso:
            return isSet(settings.isoValue, turn.toValue);
        case Control::Gain:
            return isSet(settings.gainDb, turn.toValue);
        case Control::Knob: {
            const auto knob = settings.knobs.find(turn.knob);
            return knob != settings.knobs.end() && isSame(knob->second, turn.toValue);
        }
        case Control::WhiteBalance:
            return isSet(settings.whiteBalanceKelvin, turn.toValue);
        case Control::Tint:
            return isSet(settings.tintSteps, turn.toValue);
        case Control::Exposure:
            break;
    }
    return false;
}

base::Text valueText(Control control, double value) {
    const int decimals = isSame(value, std::round(value)) ? 0 : 1;
    const base::Number number{value, decimals}, steps{value, decimals, true};
    switch (control) {
        case Control::Nd:
            return isSame(value, 0.0) ? base::say("value.noNd")
                                      : base::say("value.nd", {{"stops", number}});
        case Control::Aperture:
            return base::say("value.aperture", {{"number", number}});
        case Control::Shutter:
            return base::asIs(optics::shutterText(value));
        case Control::Iso:
            return base::say("value.iso", {{"iso", base::Number{value}}});
        case Control::WhiteBalance:
            return base::say("value.kelvin", {{"kelvin", base::Number{value}}});
        case Control::Tint:
        case Control::Knob:
        case Control::Sharpness:
            return base::say("value.steps", {{"steps", steps}});
        case Control::Gain:
            return base::say("value.gain", {{"gain", steps}});
        default:
            break;
    }
    return {};
}

}  // namespace rigmatch::rig
