// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "base/told.h"
#include "base/units.h"
#include "colour/transfer.h"
#include "optics/exposure.h"

namespace rigmatch::rig {

/// What is set on a camera; any of it may be unknown. Numbers are nominal, as the camera shows
/// them.
struct Settings {
    base::Told<double> isoValue = 800.0;
    base::Told<double> shutterSeconds = 0.02;
    base::Told<double> fNumber = 2.8;
    base::Told<double> ndStops = 0.0;
    /// Of bodies that state a gain instead of an ISO; others never tell it.
    base::Told<double> gainDb = base::Told<double>::assumed(0.0);
    base::Told<double> whiteBalanceKelvin = 5600.0;
    base::Told<double> tintSteps = 0.0;  ///< in this camera's own steps; + is toward green
    base::Told<std::string> profile = std::string("Standard");
    base::Told<double> frameRate = 25.0;
    base::Told<int> width = 1920;
    base::Told<int> height = 1080;
    base::Told<bool> isAutoExposure = false;
    base::Told<bool> isAutoWhiteBalance = false;
    base::Told<std::string> codec = std::string("long-GOP 8 bit 4:2:0");
    base::Told<double> bitRateMbps = 100.0;
    base::Told<double> detailSteps = 0.0;  ///< in-camera sharpening, in this camera's own steps
    base::Told<bool> isAutoFocus = false;
    base::Told<bool> isStabilised = false;  ///< digital stabiliser: crops, and by a varying amount
    base::Told<std::string> soundInput = std::string("line from recorder");
    base::Told<bool> isAutoSoundLevel = false;
    /// The profile's own knobs, by their names ("contrast", "saturation", …), in the camera's own
    /// steps. A knob that is not here is not known.
    std::map<std::string, double> knobs;
    /// What stood there before a lock took over what the automatic had chosen: unlocking puts it
    /// back.
    std::optional<double> isoBeforeLock, kelvinBeforeLock;
    std::string unknownFields;  ///< JSON of keys a later program wrote; kept as they are

    bool operator==(const Settings&) const = default;
};

/// Settings of which nothing is known.
[[nodiscard]] Settings unknownSettings();
/// Puts a setting by its name for scripts and files: "iso", "shutter" (seconds, as 1/50, or as
/// 180deg), "fNumber" (or "aperture"), "ndStops" ("nd"), "gainDb", "kelvin" ("whiteBalance"),
/// "tint", "profile", "frameRate" (25 or 24000/1001), "sharpness", "autoExposure",
/// "autoWhiteBalance"; any other word of letters and digits is one of the camera's own knobs.
/// "unknown" forgets it. Fails with OutOfRange, naming key and value.
[[nodiscard]] base::Result<void> putSetting(const std::string& key,
                                            const std::string& value,
                                            Settings& settings);

/// True where everything that decides brightness is known.
[[nodiscard]] bool isExposureKnown(const Settings& settings);

/// The part of the settings that decides brightness; what is unknown is assumed.
[[nodiscard]] optics::ExposureSettings exposureOf(const Settings& settings);

/// A picture profile of a body.
struct Profile {
    std::string name;
    std::optional<colour::TransferCurve> curve{};  ///< where it is published or declared
    std::string primaries{};  ///< of the recorded colours: "" as the file says, "bt709", "bt2020",
                              ///< "bt601", "p3-d65", or a name of colour::publishedPrimaries()
    std::string unknownFields{};

    bool operator==(const Profile&) const = default;
};

/// A way of recording that a body offers.
struct RecordingMode {
    std::string name = "long-GOP 8 bit 4:2:0";
    int bitDepth = 8;
    bool isIntra = false;
    std::string unknownFields{};

    bool operator==(const RecordingMode&) const = default;
};

/// From this frame rate on the body reads only a part of its sensor.
struct RateCrop {
    double fromFps = 50.0;
    double factor = 1.0;  ///< full width over used width, 1..4
    std::string unknownFields{};

    bool operator==(const RateCrop&) const = default;
};

/// What a knob of a profile is for: what it mainly does to the picture. Others do what was learned
/// of them.
enum class KnobKind { Contrast, Black, Saturation, Hue, Amber, Knee, Other };
inline constexpr std::array kKnobKindNames{
    "contrast", "black", "saturation", "hue", "amber", "knee", "other"};
/// By the word that a knob is called by: "contrast", "gamma", "black", "saturation", "hue",
/// "amber", "knee", "highlights" …
[[nodiscard]] KnobKind knobKindOf(const std::string& name);

/// One knob of a profile.
struct Knob {
    std::string name;  ///< as in Settings::knobs
    KnobKind kind = KnobKind::Other;
    std::vector<double> steps;  ///< its values, rising
    /// What one step does: contrast, saturation and knee (the slope of light tones) as a share
    /// (0.05: 5 % more), black in % of signal, hue in degrees, amber (the second axis of a white
    /// balance) in mired, + warmer. 0: nobody told; then it is guessed from its range until
    /// learned.
    double perStep = 0.0;
    std::string unknownFields{};

    bool operator==(const Knob&) const = default;
};

/// What a filter of a body's ND really takes, as takes taught it.
struct TaughtNd {
    double stops = 0.0;  ///< what it says
    double realStops = 0.0;
    std::string unknownFields{};

    bool operator==(const TaughtNd&) const = default;
};

/// What can be turned on a camera, and to which values. An empty list: the control does not exist
/// or is fixed.
struct ControlSheet {
    std::vector<double> isoValues;
    std::vector<double> nativeIsoValues;  ///< the low-noise steps; empty: the lowest
    std::vector<double> shutterSeconds;
    std::vector<double> fNumbers;
    std::vector<double> ndStops;
    std::vector<double> gainsDb;
    std::vector<double> kelvins;
    std::vector<double> tintSteps;
    /// What the dials really do of what they say, where takes taught it: stops of ISO or gain,
    /// mired of white balance, filters of the body's own ND.
    double stopsPerStop = 1.0;
    double miredPerMired = 1.0;
    std::vector<TaughtNd> ndTaught;
    double tintDuvPerStep =
        0.001;  ///< effect of one tint step on the rendered neutral; a guess until learned
    std::vector<double> frameRates;
    std::vector<std::string> sizes;  ///< "1920x1080"
    std::vector<Profile> profiles;
    std::vector<RecordingMode> codecs;
    std::vector<double> bitRatesMbps;
    std::vector<double> detailSteps;
    std::vector<Knob> knobs;
    std::vector<std::string> soundInputs;
    std::vector<RateCrop> rateCrops;
    bool hasAutoFocus = true;
    bool hasStabiliser = true;
    std::string unknownFields;

    bool operator==(const ControlSheet&) const = default;
};

/// The member of `values` nearest to `value`; `value` itself where there are none.
[[nodiscard]] double nearestAllowed(const std::vector<double>& values, double value);

/// The profile of that name on the sheet, or nullptr.
[[nodiscard]] const Profile* findProfile(const ControlSheet& sheet, const std::string& name);
/// The knob of that name on the sheet, or nullptr.
[[nodiscard]] const Knob* findKnob(const ControlSheet& sheet, const std::string& name);
/// The recording mode of that name on the sheet, or nullptr.
[[nodiscard]] const RecordingMode* findCodec(const ControlSheet& sheet, const std::string& name);
/// True for a body with ND of its own. Others wear one before the lens: any strength, which is put
/// on and off by hand and never turned by the program.
[[nodiscard]] inline bool hasOwnNd(const ControlSheet& sheet) { return sheet.ndStops.size() > 1; }

/// Crop of the sensor at a frame rate; 1 where the body reads all of it.
[[nodiscard]] double cropAtRate(const ControlSheet& sheet, double framesPerSecond);

}  // namespace rigmatch::rig
