// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "framing/eye_focus.h"
#include "framing/person_frame.h"
#include "framing/picture_drift.h"
#include "framing/picture_roll.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// What a camera of a rig looks through.
struct FrameLens {
    double focalLengthMm = 0.0;
    double sensorWidthMm = 0.0;

    /// Degrees that a shift near the middle stands for, of a picture so many px wide.
    [[nodiscard]] double degrees(double px, int width) const;
};

struct FrameOptions {
    std::optional<double> atSeconds;  ///< this one moment of a clip instead of several over it
    const rig::Rig* rig = nullptr;    ///< tells lens and sensor of its cameras
};

/// How a file frames its people.
struct FramedFile {
    std::string file;
    int width = 0, height = 0;  ///< px
    std::optional<framing::PictureRoll> roll;
    std::vector<framing::PersonOverTime> people;
    framing::EyeFocus focus;
    std::optional<framing::PictureDrift> drift;  ///< against the reference, where one was given
    std::string driftReason;                     ///< why there is none
    std::optional<FrameLens> lens;               ///< where a rig tells it
    int frames = 0;                              ///< that were looked at
};

/// Looks at a still, or at five moments of a clip. Fails as media::MediaReader::open does.
[[nodiscard]] base::Result<FramedFile> frameOf(
    const std::filesystem::path& file,
    const FrameOptions& options = {},
    const std::optional<std::filesystem::path>& reference = {},
    const base::Progress& progress = {});

struct FrameResult {
    std::string file;
    base::Result<FramedFile> framed;
};

/// The camera of a rig that a file is of: by a take that holds it, else by the letter that its name
/// begins with ("B.mov", "B_0012.mov"). Nothing where neither tells.
[[nodiscard]] std::optional<FrameLens> lensOf(const rig::Rig& rig,
                                              const std::filesystem::path& file);

/// Sentences about one file's framing, for people.
[[nodiscard]] std::vector<std::string> frameLines(const FramedFile& framed);

/// The document of `rigmatch-cli frame --json`, version 1.
[[nodiscard]] std::string frameJson(const std::vector<FrameResult>& results);

}  // namespace rigmatch::jobs
