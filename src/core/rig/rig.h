// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "rig/reading.h"
#include "rig/settings.h"
#include "rig/simulated_body.h"

namespace rigmatch::rig {

struct Lens {
    std::string name = "50 mm f/1.8";
    double focalLengthMm = 50.0;
    double largestAperture = 1.8;  ///< smallest f-number at this focal length
    double smallestAperture = 16.0;

    bool operator==(const Lens&) const = default;
};

/// One camera of the rig.
struct Camera {
    std::string id;      ///< never changes; takes refer to it
    std::string letter;  ///< "A", "B", … in the order of the rig
    std::string role;    ///< "wide front"
    std::string body;    ///< "full-frame hybrid body"
    std::string sensorFormat;
    Lens lens;
    ControlSheet sheet;
    Settings settings;
    std::optional<SimulatedBody> simulated;  ///< a stand-in that can shoot by itself
    std::string unknownFields;

    bool operator==(const Camera&) const = default;
};

/// What one camera gave in one take.
struct Shot {
    std::string cameraId;
    std::filesystem::path media;  ///< absolute in memory, relative to the rig file on disk
    Settings settings;            ///< at that moment
    bool isIsoRecorded =
        false;  ///< the file (or stand-in) told the ISO that was used, automatic or not
    bool isKelvinRecorded = false;  ///< the same for the white balance
    std::optional<PictureQuad> manualCorners;
    std::string rangeOverride;  ///< "", "limited" or "full"
    std::optional<Reading> reading;
    std::string failure;  ///< why the file could not be read; empty if it could
    std::string unknownFields;

    bool operator==(const Shot&) const = default;
};

/// One test take of all cameras.
struct Take {
    std::string id;
    int number = 1;
    std::string startedAt;  ///< ISO 8601, local time
    std::vector<Shot> shots;
    std::string unknownFields;

    bool operator==(const Take&) const = default;
};

/// All cameras of one set: the document.
struct Rig {
    std::string name = "Untitled rig";
    std::string referenceId;
    std::string judge = "recorded";  ///< "recorded" or "linear"
    std::vector<Camera> cameras;
    std::vector<Take> takes;
    std::string unknownFields;

    bool operator==(const Rig&) const = default;
};

inline constexpr std::size_t kMostCameras = 8;

[[nodiscard]] const Camera* findCamera(const Rig& rig, const std::string& id);
[[nodiscard]] Camera* findCamera(Rig& rig, const std::string& id);
[[nodiscard]] const Shot* findShot(const Take& take, const std::string& cameraId);
[[nodiscard]] Shot* findShot(Take& take, const std::string& cameraId);

/// Letters A, B, C… in the order of the cameras; the reference falls back to the first camera.
void renumber(Rig& rig);

/// An id that no camera and no take of `rig` has: "camera-3", "take-2".
[[nodiscard]] std::string freshCameraId(const Rig& rig);
[[nodiscard]] std::string freshTakeId(const Rig& rig);

/// Things that will hurt the match, to be flagged at the camera's row. Empty: nothing.
struct CameraFlag {
    std::string field;  ///< "frameRate", "shutter", "autoExposure", "autoWhiteBalance", "size"
    std::string title;  ///< a few words for a table
    std::string text;   ///< the whole sentence

    bool operator==(const CameraFlag&) const = default;
};
[[nodiscard]] std::vector<CameraFlag> cameraFlags(const Rig& rig, const Camera& camera);

}  // namespace rigmatch::rig
