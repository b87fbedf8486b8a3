// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/settings.h"
#include "base/format.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <sstream>

namespace rigmatch::rig {

optics::ExposureSettings exposureOf(const Settings& settings) {
    return {settings.isoValue,
            settings.shutterSeconds,
            settings.fNumber,
            settings.ndStops,
            settings.gainDb};
}

Settings unknownSettings() {
    Settings s;
    const auto forget = [](auto&... settings) { (settings.forget(), ...); };
    forget(s.isoValue, s.shutterSeconds, s.fNumber, s.ndStops, s.whiteBalanceKelvin, s.tintSteps);
    forget(s.profile, s.frameRate, s.width, s.height, s.isAutoExposure, s.isAutoWhiteBalance);
    forget(s.codec, s.bitRateMbps, s.detailSteps, s.isAutoFocus, s.isStabilised, s.soundInput);
    forget(s.isAutoSoundLevel, s.gainDb);
    return s;
}

namespace {

base::Error refused(const std::string& key, const std::string& value, const base::Text& allowed) {
    return {base::ErrorCode::OutOfRange,
            base::say("planChecks.cannotSet", {{"title", key}}),
            base::say("given.allowedIs", {{"value", value}, {"allowed", allowed}}),
            base::say("given.giveAs", {{"key", key}})};
}

std::optional<double> numberIn(const std::string& text) {
    double value = 0.0;
    const char* end = text.data() + text.size();
    const auto [at, code] = std::from_chars(text.data(), end, value);
    if (code != std::errc() || at != end || !std::isfinite(value)) return std::nullopt;
    return value;
}

/// "25", "1/50" or "24000/1001".
std::optional<double> ratioIn(const std::string& text) {
    const auto bar = text.find('/');
    if (bar == std::string::npos) return numberIn(text);
    const auto above = numberIn(text.substr(0, bar));
    const auto below = numberIn(text.substr(bar + 1));
    if (!above || !below || *below == 0.0) return std::nullopt;
    return *above / *below;
}

std::optional<bool> truthIn(const std::string& text) {
    if (text == "on" || text == "true" || text == "yes" || text == "1") return true;
    if (text == "off" || text == "false" || text == "no" || text == "0") return false;
    return std::nullopt;
}

base::Result<void> putNumber(const std::string& key,
                             const std::string& value,
                             double lowest,
                             double highest,
                             const std::string& unit,
                             base::Told<double>& setting) {
    const auto number = ratioIn(value);
    if (!number || *number < lowest || *number > highest) {
        return tl::unexpected(refused(key,
                                      value,
                                      base::say("given.range",
                                                {{"lowest", base::shortest(lowest)},
                                                 {"highest", base::shortest(highest)},
                                                 {"unit", unit}})));
    }
    setting = *number;
    return {};
}

base::Result<void> putTruth(const std::string& key,
                            const std::string& value,
                            base::Told<bool>& setting) {
    const auto truth = truthIn(value);
    if (!truth) return tl::unexpected(refused(key, value, base::say("given.off")));
    setting = *truth;
    return {};
}

base::Result<void> putShutter(const std::string& value, Settings& settings) {
    const base::Text allowed = base::say("given.shutter");
    constexpr std::string_view kDegrees = "deg";
    if (!value.ends_with(kDegrees)) {
        const auto seconds = ratioIn(value);
        if (!seconds || *seconds < 1e-5 || *seconds > 60.0)
            return tl::unexpected(refused("shutter", value, allowed));
        settings.shutterSeconds = *seconds;
        return {};
    }
    const auto degrees = numberIn(value.substr(0, value.size() - kDegrees.size()));
    if (!degrees || *degrees <= 0.0 || *degrees > 360.0)
        return tl::unexpected(refused("shutter", value, allowed));
    if (!settings.frameRate.isTold())
        return tl::unexpected(refused("shutter", value, base::say("given.timeSecondsWhile")));
    settings.shutterSeconds = *degrees / 360.0 / settings.frameRate;
    return {};
}

bool isWord(const std::string& key) {
    return !key.empty() && key.size() <= 40 &&
           std::all_of(key.begin(), key.end(), [](unsigned char c) {
               return std::isalnum(c) != 0 || c == '-' || c == '_';
           });
}

/// True where `key` names a setting, and forgets it.
bool forgot(const std::string& key, Settings& s) {
    const auto forget = [](auto& setting) {
        setting.forget();
        return true;
    };
    if (key == "iso") return forget(s.isoValue);
    if (key == "shutter") return forget(s.shutterSeconds);
    if (key == "fNumber" || key == "aperture") return forget(s.fNumber);
    if (key == "ndStops" || key == "nd") return forget(s.ndStops);
    if (key == "gainDb") return forget(s.gainDb);
    if (key == "kelvin" || key == "whiteBalance") return forget(s.whiteBalanceKelvin);
    if (key == "tint") return forget(s.tintSteps);
    if (key == "profile") return forget(s.profile);
    if (key == "frameRate") return forget(s.frameRate);
    if (key == "sharpness") return forget(s.detailSteps);
    if (key == "autoExposure") return forget(s.isAutoExposure);
    if (key == "autoWhiteBalance") return forget(s.isAutoWhiteBalance);
    return s.knobs.erase(key) > 0;
}

}  // namespace

base::Result<void> putSetting(const std::string& key, const std::string& value, Settings& s) {
    if (!isWord(key))
        return tl::unexpected(refused(key, value, base::say("given.wordLettersDigits")));
    if (value == "unknown") {
        forgot(key, s);
        return {};
    }
    if (key == "iso") return putNumber(key, value, 1.0, 1e7, "", s.isoValue);
    if (key == "shutter") return putShutter(value, s);
    if (key == "fNumber" || key == "aperture")
        return putNumber(key, value, 0.5, 90.0, "", s.fNumber);
    if (key == "ndStops" || key == "nd")
        return putNumber(key, value, 0.0, 20.0, " stops", s.ndStops);
    if (key == "gainDb") return putNumber(key, value, -60.0, 100.0, " dB", s.gainDb);
    if (key == "kelvin" || key == "whiteBalance")
        return putNumber(key, value, 1000.0, 40000.0, " K", s.whiteBalanceKelvin);
    if (key == "tint") return putNumber(key, value, -1000.0, 1000.0, " steps", s.tintSteps);
    if (key == "frameRate") return putNumber(key, value, 1.0, 2000.0, " fps", s.frameRate);
    if (key == "sharpness") return putNumber(key, value, -1000.0, 1000.0, " steps", s.detailSteps);
    if (key == "autoExposure") return putTruth(key, value, s.isAutoExposure);
    if (key == "autoWhiteBalance") return putTruth(key, value, s.isAutoWhiteBalance);
    if (key == "profile") {
        if (value.empty() || value.size() > 80)
            return tl::unexpected(refused(key, value, base::say("given.nameLetters")));
        s.profile = value;
        return {};
    }
    base::Told<double> knob;
    if (auto put = putNumber(key, value, -1e5, 1e5, " steps", knob); !put) return put;
    s.knobs[key] = knob;
    return {};
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

KnobKind knobKindOf(const std::string& name) {
    std::string word;
    for (const char letter : name)
        word += static_cast<char>(std::tolower(static_cast<unsigned char>(letter)));
    const auto has = [&](const char* part) { return word.find(part) != std::string::npos; };
    if (has("contrast") || has("gamma")) return KnobKind::Contrast;
    if (has("black") || has("pedestal")) return KnobKind::Black;
    if (has("saturation") || has("chroma")) return KnobKind::Saturation;
    if (has("hue") || has("phase")) return KnobKind::Hue;
    if (has("amber")) return KnobKind::Amber;
    if (has("knee") || has("highlight")) return KnobKind::Knee;
    return KnobKind::Other;
}

const Knob* findKnob(const ControlSheet& sheet, const std::string& name) {
    const auto found = std::find_if(sheet.knobs.begin(), sheet.knobs.end(), [&](const Knob& knob) {
        return knob.name == name;
    });
    return found == sheet.knobs.end() ? nullptr : &*found;
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
