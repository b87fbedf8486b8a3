// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::image {
struct CodedFrame;
}
namespace rigmatch::face {
struct Face;
}

namespace rigmatch::jobs {

/// What a camera of a rig looks through.
struct FrameLens {
    double focalLengthMm = 0.0;
    double sensorWidthMm = 0.0;

    /// Degrees that a shift near the middle stands for, of a picture so many px wide.
    [[nodiscard]] double degrees(double px, int width) const;
};

/// Nothing where nobody told which lens it wears.
[[nodiscard]] std::optional<FrameLens> lensOf(const rig::Camera& camera);

struct FrameOptions {
    std::optional<double> atSeconds;  ///< this one moment of a clip instead of several over it
    const rig::Rig* rig = nullptr;    ///< tells lens, sensor and saved framing of its cameras
};

/// How a file frames its people.
struct FramedFile {
    std::string file;
    int width = 0, height = 0;      ///< px
    rig::FramingReading framing;    ///< with its drift where a reference was given
    std::optional<FrameLens> lens;  ///< where a rig tells it
};

/// Looks at a still, or at five moments of a clip, and lays it on a reference: the one that is
/// given, else the saved framing of its camera in the rig. Fails as media::MediaReader::open does.
[[nodiscard]] base::Result<FramedFile> frameOf(
    const std::filesystem::path& file,
    const FrameOptions& options = {},
    const std::optional<std::filesystem::path>& against = {},
    const base::Progress& progress = {});

/// How a frame with its people stands against the middle of another file, or that moment of it.
/// Fails as media::MediaReader::open does; what could not be laid on it stands as the reason.
[[nodiscard]] base::Result<rig::FrameDrift> driftAgainst(const std::filesystem::path& reference,
                                                         std::optional<double> atSeconds,
                                                         const image::CodedFrame& frame,
                                                         const std::vector<face::Face>& people,
                                                         const base::Progress& progress = {});
/// The same of one moment of a file.
[[nodiscard]] base::Result<rig::FrameDrift> driftOf(const std::filesystem::path& file,
                                                    double atSeconds,
                                                    const std::filesystem::path& reference,
                                                    const base::Progress& progress = {});

struct FrameResult {
    std::string file;
    base::Result<FramedFile> framed;
};

/// The camera of a rig that a file is of: by a take that holds it, else by the letter that its name
/// begins with ("B.mov", "B_0012.mov"). Null where neither tells.
[[nodiscard]] const rig::Camera* cameraOf(const rig::Rig& rig, const std::filesystem::path& file);

}  // namespace rigmatch::jobs
