// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/text.h"
#include "rig/settings.h"

namespace rigmatch::rig {

/// What a turn turns, in the order in which turns are done.
enum class Control {
    LockExposure,
    LockWhiteBalance,
    Nd,
    Aperture,
    Shutter,
    Iso,
    Gain,
    Exposure,
    WhiteBalance,
    Tint,
    Knob,  ///< one of the profile's, by its name
    Sharpness
};

/// Change of the differences to the reference, and of a picture.
struct TurnEffect {
    double exposureStops = 0.0;
    double whiteBalanceMired = 0.0;  ///< + warmer
    double tintDuv = 0.0;            ///< + greener
    double contrast = 0.0;           ///< natural logarithm of the ratio
    double blackPercent = 0.0;       ///< of signal
    double saturation = 0.0;         ///< natural logarithm of the ratio
    double hueDegrees = 0.0;
    double knee = 0.0;  ///< of the slope of light tones, above 70 % of signal: natural logarithm of
                        ///< the ratio
    double overshootPercent = 0.0;  ///< beside an edge, of its step

    bool operator==(const TurnEffect&) const = default;
};

/// One instruction for one camera. Where the camera's controls are not known, `control` is
/// Exposure, WhiteBalance or Tint, `isAmount` is true and `toText` is the amount ("+2/3 stop", "−21
/// mired").
struct Turn {
    std::string cameraId;
    Control control = Control::Iso;
    std::string knob;        ///< which one, where `control` is Knob
    double fromValue = 0.0;  ///< 0 where nobody told what is set: then fromText is empty
    double toValue = 0.0;
    base::Text fromText;
    base::Text toText;
    bool isAmount = false;
    std::string effect;            ///< "exposureStops", "whiteBalanceMired", "tintDuv",
                                   ///< "contrastRatio", "blackLevelPercent", "saturationRatio",
                                   ///< "hueDegrees", "deltaE2000" or "overshootPercent"
    double before = 0.0;           ///< the difference measured
    double after = 0.0;            ///< and expected once this and the turns before it are done
    TurnEffect change;             ///< what this turn promises to all differences …
    TurnEffect changeUncertainty;  ///< … and one standard deviation of that
    base::Text reason;
    bool isFine = false;  ///< what it turns is good already: it may be left

    bool operator==(const Turn&) const = default;
};

/// Name in files and for scripts: "iso", "aperture", … A knob is called by its own name.
[[nodiscard]] std::string nameOf(Control control);
[[nodiscard]] std::string nameOf(const Turn& turn);

/// The settings after the turn. Amounts change nothing: nobody knows where they would lead.
[[nodiscard]] Settings applied(const Settings& settings, const Turn& turn);
/// The same, where a lock takes over what the automatic had chosen when `shot` was recorded, and
/// remembers what stood there before.
[[nodiscard]] Settings applied(const Settings& settings, const Turn& turn, const Settings& shot);
/// The settings with the turn taken back; a lock puts back what it had overwritten.
[[nodiscard]] Settings takenBack(const Settings& settings, const Turn& turn);
/// True where `settings` show the turn as done.
[[nodiscard]] bool isDone(const Settings& settings, const Turn& turn);

/// A control's value as its camera shows it: "f/2.8", "ISO 800", "5600 K", "ND 2 stops", "+2".
[[nodiscard]] base::Text valueText(Control control, double value);

}  // namespace rigmatch::rig
