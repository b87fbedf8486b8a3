// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/frame_job.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "face/face_finder.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

constexpr int kMoments = 5;  // over a clip, away from its ends

struct Moment {
    image::CodedFrame frame;
    std::vector<face::Face> faces;
};

/// The frames that are looked at, with their faces; the first stands for the whole.
base::Result<std::vector<Moment>> momentsOf(const fs::path& file,
                                            std::optional<double> atSeconds,
                                            int count,
                                            const base::Progress& progress) {
    auto reader = media::MediaReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    auto finder = face::FaceFinder::create();
    if (!finder) return tl::unexpected(finder.error());
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
    std::vector<Moment> moments;
    for (const double time : times) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        if (length > 0.0) {
            if (auto moved = reader->seek(base::Seconds(time)); !moved) {
                if (moments.empty()) return tl::unexpected(moved.error());
                break;
            }
        }
        const auto frame = reader->next();
        if (!frame) return tl::unexpected(frame.error());
        if (!*frame) break;
        Moment moment;
        moment.frame = **frame;
        if (const auto faces = finder->find(moment.frame)) {
            for (const face::Face& face : *faces)
                moment.faces.push_back(finder->refined(moment.frame, face));
        }
        moments.push_back(std::move(moment));
        progress.report(static_cast<double>(moments.size()) / static_cast<double>(times.size()),
                        "Looking");
    }
    if (moments.empty()) {
        return base::fail(base::ErrorCode::OutOfRange,
                          "Cannot look at " + file.filename().string(),
                          "It has no frame at that time.",
                          "Choose a time within the clip.");
    }
    return moments;
}

}  // namespace

double FrameLens::degrees(double px, int width) const {
    constexpr double kDegrees = 57.29577951308232;
    return std::atan(px * sensorWidthMm / (width * focalLengthMm)) * kDegrees;
}

std::optional<FrameLens> lensOf(const rig::Rig& rig, const fs::path& file) {
    const auto lens = [&](const std::string& id) -> std::optional<FrameLens> {
        for (const rig::Camera& camera : rig.cameras) {
            if (camera.id == id && camera.lens.focalLengthMm > 0.0)
                return FrameLens{camera.lens.focalLengthMm, camera.sensorWidthMm};
        }
        return std::nullopt;
    };
    std::error_code ignored;
    const fs::path whole = fs::weakly_canonical(file, ignored);
    for (const rig::Take& take : rig.takes) {
        for (const rig::Shot& shot : take.shots) {
            if (!shot.media.empty() && fs::weakly_canonical(shot.media, ignored) == whole)
                return lens(shot.cameraId);
        }
    }
    const std::string name = file.stem().string();
    for (const rig::Camera& camera : rig.cameras) {
        const std::string& letter = camera.letter;
        const bool isIts = !letter.empty() && name.starts_with(letter) &&
                           (name.size() == letter.size() ||
                            std::isalpha(static_cast<unsigned char>(name[letter.size()])) == 0);
        if (isIts) return lens(camera.id);
    }
    return std::nullopt;
}

base::Result<FramedFile> frameOf(const fs::path& file,
                                 const FrameOptions& options,
                                 const std::optional<fs::path>& reference,
                                 const base::Progress& progress) {
    const auto moments = momentsOf(file, options.atSeconds, kMoments, progress.part(0.0, 0.7));
    if (!moments) return tl::unexpected(moments.error());
    FramedFile framed;
    framed.file = file.string();
    if (options.rig != nullptr) framed.lens = lensOf(*options.rig, file);
    const Moment& first = moments->front();
    framed.width = first.frame.width;
    framed.height = first.frame.height;
    framed.frames = static_cast<int>(moments->size());
    framed.roll = framing::pictureRoll(first.frame);
    std::vector<std::vector<framing::PersonFrame>> people;
    for (const Moment& moment : *moments)
        people.push_back(framing::personFrames(moment.frame, moment.faces));
    framed.people = framing::peopleOverTime(people);
    if (!framed.roll && !first.faces.empty()) {
        // Heads are held level to a few degrees only.
        const face::Face& face = first.faces.front();
        const double dx = face.points.leftEye.x - face.points.rightEye.x;
        const double dy = face.points.leftEye.y - face.points.rightEye.y;
        constexpr double kHeads = 3.0, kDegrees = 57.29577951308232;
        if (std::abs(face.turnDegrees) < 40.0 && dx > 0.0)
            framed.roll = framing::PictureRoll{std::atan2(dy, dx) * kDegrees, kHeads, 0.0, "eyes"};
    }
    framed.focus = framing::eyeFocus(first.frame, first.faces);
    if (!reference) return framed;
    const auto before = momentsOf(*reference, options.atSeconds, 1, progress.part(0.7, 0.9));
    if (!before) return tl::unexpected(before.error());
    const auto drift = framing::pictureDrift(
        before->front().frame, before->front().faces, first.frame, first.faces);
    if (drift)
        framed.drift = *drift;
    else
        framed.driftReason = base::fullText(drift.error());
    return framed;
}

}  // namespace rigmatch::jobs
