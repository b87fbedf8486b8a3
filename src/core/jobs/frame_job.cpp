// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/frame_job.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <functional>

#include "base/constants.h"
#include "face/face_finder.h"
#include "framing/framing_look.h"
#include "framing/picture_drift.h"
#include "image/frame.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

constexpr int kMoments = 5;  // over a clip, away from its ends

/// Hands the frames that are looked at to `see`; the first stands for the whole.
base::Result<void> lookAt(const fs::path& file,
                          std::optional<double> atSeconds,
                          int count,
                          const std::function<void(const image::CodedFrame&, bool isFirst)>& see,
                          const base::Progress& progress) {
    auto reader = media::MediaReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    const double length = reader->info().isStill ? 0.0 : reader->info().durationSeconds;
    std::vector<double> times;
    if (atSeconds) {
        times = {*atSeconds};
    } else {
        // The middle first, then around it.
        for (int i = 0; i < (length > 0.0 ? count : 1); ++i) {
            const int step = (i + 1) / 2 * (i % 2 == 0 ? 1 : -1);
            times.push_back(length * (0.5 + 0.2 * step));
        }
    }
    std::size_t seen = 0;
    for (const double time : times) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        if (length > 0.0) {
            if (auto moved = reader->seek(base::Seconds(time)); !moved) {
                if (seen == 0) return tl::unexpected(moved.error());
                break;
            }
        }
        const auto frame = reader->next();
        if (!frame) return tl::unexpected(frame.error());
        if (!*frame) break;
        see(**frame, seen == 0);
        ++seen;
        progress.report(static_cast<double>(seen) / static_cast<double>(times.size()),
                        base::say("progress.looking"));
    }
    if (seen > 0) return {};
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("frameJob.cannotLook", {{"filename", file.filename().string()}}),
                      base::say("frameJob.noFrameTime"),
                      base::say("media.chooseTimeWithin"));
}

}  // namespace

double FrameLens::degrees(double px, int width) const {
    return std::atan(px * sensorWidthMm / (width * focalLengthMm)) * base::kDegreesPerRadian;
}

std::optional<FrameLens> lensOf(const rig::Camera& camera) {
    if (!camera.isLensTold || camera.lens.focalLengthMm <= 0.0) return std::nullopt;
    return FrameLens{camera.lens.focalLengthMm, camera.sensorWidthMm};
}

const rig::Camera* cameraOf(const rig::Rig& rig, const fs::path& file) {
    std::error_code ignored;
    const fs::path whole = fs::weakly_canonical(file, ignored);
    for (const rig::Take& take : rig.takes) {
        for (const rig::Shot& shot : take.shots) {
            if (!shot.media.empty() && fs::weakly_canonical(shot.media, ignored) == whole)
                return rig::findCamera(rig, shot.cameraId);
        }
    }
    const std::string name = file.stem().string();
    for (const rig::Camera& camera : rig.cameras) {
        const std::string& letter = camera.letter;
        const bool isIts = !letter.empty() && name.starts_with(letter) &&
                           (name.size() == letter.size() ||
                            std::isalpha(static_cast<unsigned char>(name[letter.size()])) == 0);
        if (isIts) return &camera;
    }
    return nullptr;
}

base::Result<FramedFile> frameOf(const fs::path& file,
                                 const FrameOptions& options,
                                 const std::optional<fs::path>& against,
                                 const base::Progress& progress) {
    auto look = framing::FramingLook::create();
    if (!look) return tl::unexpected(look.error());
    FramedFile framed;
    image::CodedFrame first;
    const auto seen = lookAt(
        file,
        options.atSeconds,
        kMoments,
        [&](const image::CodedFrame& frame, bool isFirst) {
            using When = framing::FramingLook::Moment;
            look->take(frame, isFirst ? When::Main : When::Other);
            if (isFirst) first = frame;
        },
        progress.part(0.0, 0.7));
    if (!seen) return tl::unexpected(seen.error());
    framed.file = file.string();
    auto reference = against;
    if (options.rig != nullptr) {
        if (const rig::Camera* camera = cameraOf(*options.rig, file)) {
            framed.lens = lensOf(*camera);
            if (!reference && camera->savedFraming) reference = camera->savedFraming->picture;
        }
    }
    framed.width = first.width;
    framed.height = first.height;
    framed.framing = look->reading();
    if (!reference) return framed;
    const auto drift = driftAgainst(*reference,
                                    against ? options.atSeconds : std::nullopt,
                                    first,
                                    look->faces(),
                                    progress.part(0.7, 0.9));
    if (!drift) return tl::unexpected(drift.error());
    framed.framing.drift = *drift;
    return framed;
}

base::Result<rig::FrameDrift> driftAgainst(const fs::path& reference,
                                           std::optional<double> atSeconds,
                                           const image::CodedFrame& frame,
                                           const std::vector<face::Face>& people,
                                           const base::Progress& progress) {
    auto finder = face::FaceFinder::create();
    if (!finder) return tl::unexpected(finder.error());
    rig::FrameDrift drift;
    const auto seen = lookAt(
        reference,
        atSeconds,
        1,
        [&](const image::CodedFrame& before, bool) {
            const auto then = framing::refinedFaces(*finder, before);
            drift = framing::driftReading(framing::pictureDrift(before, then, frame, people),
                                          reference.string());
        },
        progress);
    if (!seen) return tl::unexpected(seen.error());
    return drift;
}

base::Result<rig::FrameDrift> driftOf(const fs::path& file,
                                      double atSeconds,
                                      const fs::path& reference,
                                      const base::Progress& progress) {
    auto finder = face::FaceFinder::create();
    if (!finder) return tl::unexpected(finder.error());
    base::Result<rig::FrameDrift> drift;
    const auto seen =
        lookAt(file,
               atSeconds,
               1,
               [&](const image::CodedFrame& frame, bool) {
                   drift = driftAgainst(
                       reference, {}, frame, framing::refinedFaces(*finder, frame), progress);
               },
               {});
    if (!seen) return tl::unexpected(seen.error());
    return drift;
}

}  // namespace rigmatch::jobs
