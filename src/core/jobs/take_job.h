// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "base/text.h"
#include "rig/rig.h"
#include "rig/turn.h"

namespace rigmatch::jobs {

/// A value given to one camera: "B", "iso", "800".
struct GivenSetting {
    std::string letter;
    std::string key;
    std::string value;
};

/// What became of it.
struct AddedTake {
    std::size_t index = 0;
    /// Where the take's settings contradict the turns that were ticked before it, in words.
    std::vector<base::Text> notes;
};

/// A take to be measured and added to a rig.
struct TakeRequest {
    std::map<std::string, std::filesystem::path> files;  ///< by the letter of the camera
    std::vector<GivenSetting> settings;  ///< of this take; the cameras stand so from here on
    std::vector<rig::Purpose> purposes{rig::Purpose::Match};
    std::string referenceLetter;  ///< empty: the rig's
    std::string startedAt;        ///< ISO 8601, local time
    bool isWholeWanted = false;   ///< long clips are looked at from end to end
};

/// Measures the files and adds them to `rig` as its newest take. Cameras that the rig does not have
/// are made, in the order of their letters, with a general body and settings of which nothing is
/// known. A setting that is not given is the camera's as it stands, or what the file tells. What
/// cannot be read stands in the shot's `failure`. Fails with OutOfRange where a letter, a setting
/// or the reference makes no sense; the rig is then as it was.
[[nodiscard]] base::Result<AddedTake> addTake(const TakeRequest& request,
                                              rig::Rig& rig,
                                              const base::Progress& progress);

/// The camera of that letter, made where the rig has none: with all before it where its letters
/// have no gap. Fails with OutOfRange for what is no letter, or beyond kMostCameras.
[[nodiscard]] base::Result<std::string> cameraOfLetter(const std::string& letter, rig::Rig& rig);

/// A camera with that letter, which must be free, of which nothing else is known, at its place
/// among the letters; its id.
std::string makeCamera(const std::string& letter, rig::Rig& rig);

/// Carries out the open turns of the newest take for matching: of all cameras, or of the one whose
/// id is given. Turns by amounts change nothing, and are not among those that are given back.
[[nodiscard]] std::vector<rig::Turn> carryOutTurns(rig::Rig& rig, const std::string& cameraId);

/// Puts the values of a control on a camera's sheet: "iso", "shutter", "fNumber", "ndStops",
/// "kelvin", "tint", "gainDb", "sharpness" or "frameRate", as "100,125,160" or "-9..9:1"; any other
/// word of letters and digits is a knob of the profile. Fails with OutOfRange.
[[nodiscard]] base::Result<void> putSteps(const std::string& control,
                                          const std::string& values,
                                          rig::ControlSheet& sheet);

/// The values that stand there; empty where the control has none, or is no such control.
[[nodiscard]] std::vector<double> stepsOf(const std::string& control,
                                          const rig::ControlSheet& sheet);
/// True for a word that names a knob of a profile, and no other setting.
[[nodiscard]] bool isKnobName(const std::string& name);

/// Says what one step of tint or of a knob does (Duv, or as rig::Knob::perStep). Fails
/// with OutOfRange where the sheet has no such knob.
[[nodiscard]] base::Result<void> putPerStep(const std::string& knob,
                                            const std::string& value,
                                            rig::ControlSheet& sheet);

}  // namespace rigmatch::jobs
