// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/lut_job.h"

#include <algorithm>
#include <cctype>
#include <cstdio>

#include "base/atomic_file.h"
#include "base/format.h"
#include "colour/viewing_lut.h"
#include "jobs/curve_job.h"
#include "jobs/match_job.h"
#include "jobs/people_job.h"
#include "match/correction.h"

namespace rigmatch::jobs {
namespace {

/// "B-restorer-close-to-A.cube": letters, digits and hyphens.
std::string fileName(const rig::Camera& camera, const rig::Camera& reference) {
    std::string name = camera.letter;
    const auto add = [&](const std::string& words) {
        for (const char letter : words) {
            const bool isPlain = std::isalnum(static_cast<unsigned char>(letter)) != 0;
            if (isPlain) name += letter;
            if (!isPlain && name.back() != '-') name += '-';
        }
    };
    if (!camera.role.empty()) add("-" + camera.role);
    if (name.back() == '-') name.pop_back();
    return name + "-to-" + reference.letter + ".cube";
}

/// A comment's line: no line may be broken by a name.
std::string oneLine(std::string text) {
    std::replace_if(
        text.begin(), text.end(), [](unsigned char c) { return c < 32 || c == '"'; }, ' ');
    return text;
}

std::string cubeText(const match::Correction& correction,
                     const LutOptions& options,
                     const std::string& title,
                     const std::vector<std::string>& comments,
                     double& beyondShare) {
    std::string text = "TITLE \"" + oneLine(title) + "\"\n";
    for (const std::string& comment : comments) text += "# " + oneLine(comment) + "\n";
    text += "LUT_3D_SIZE " + std::to_string(options.size) +
            "\nDOMAIN_MIN 0.0 0.0 0.0\nDOMAIN_MAX 1.0 1.0 1.0\n";
    const double last = options.size - 1;
    std::size_t beyond = 0, points = 0;
    std::array<char, 96> line{};
    for (int b = 0; b < options.size; ++b) {
        for (int g = 0; g < options.size; ++g) {
            for (int r = 0; r < options.size; ++r) {
                const auto out = correction.apply({r / last, g / last, b / last}, options.strength);
                ++points;
                if (std::any_of(
                        out.begin(), out.end(), [](double v) { return v < 0.0 || v > 1.0; }))
                    ++beyond;
                std::snprintf(line.data(), line.size(), "%.6f %.6f %.6f\n", out[0], out[1], out[2]);
                text += line.data();
            }
        }
    }
    beyondShare = static_cast<double>(beyond) / static_cast<double>(points);
    return text;
}

/// Primaries other than BT.709's that a shot is recorded in; empty: none.
std::string primariesOf(const rig::Camera& camera, const rig::Shot* shot) {
    if (shot == nullptr || !shot->reading) return {};
    std::string name = shot->primariesOverride;
    if (name.empty()) name = primariesFor(camera, shot->settings.profile);
    if (name.empty()) name = shot->reading->primaries;
    return name == "bt709" || name == "unknown" ? std::string() : name;
}

/// Why a camera gets no table; empty: it does.
std::string reasonAgainst(const rig::Camera& camera,
                          const rig::Shot* shot,
                          const match::CameraMatch& match) {
    if (!match.body || !match.compared)
        return "Camera " + camera.letter +
               " shows no chart that can be measured in this take: no table is written for it. "
               "Shoot the chart with it.";
    const std::string wide = primariesOf(camera, shot);
    if (!wide.empty())
        return "Camera " + camera.letter + " records in " + wide +
               ": a table from its recorded signal is made for BT.709 alone. Convert it first.";
    if (shot != nullptr && (shot->settings.isAutoExposure || shot->settings.isAutoWhiteBalance))
        return "Camera " + camera.letter +
               " was on automatic: its picture will not stay as it was. Lock it and shoot again.";
    return {};
}

/// Mean ΔE2000 of the skin of people whom both see, before and after.
void judgeSkin(const rig::Rig& rig,
               const rig::Take& take,
               const colour::ViewingLut& table,
               WrittenLut& written) {
    const rig::Shot* mine = rig::findShot(take, written.cameraId);
    const rig::Shot* theirs = rig::findShot(take, rig.referenceId);
    if (mine == nullptr || theirs == nullptr || !mine->reading || !theirs->reading) return;
    match::PatchSignals before, after, reference;
    for (const match::Person& person : peopleOf(rig, take)) {
        const auto a = person.faces.find(written.cameraId);
        const auto b = person.faces.find(rig.referenceId);
        if (a == person.faces.end() || b == person.faces.end()) continue;
        const auto& faceA = mine->reading->faces[a->second];
        const auto& faceB = theirs->reading->faces[b->second];
        if (!faceA.forehead || !faceB.forehead) continue;
        before.push_back(faceA.forehead->signal);
        after.push_back(table.apply(faceA.forehead->signal));
        reference.push_back(faceB.forehead->signal);
    }
    if (before.empty()) return;
    written.skinBefore = match::colourDifference(before, {}, reference, {}).mean;
    written.skinAfter = match::colourDifference(after, {}, reference, {}).mean;
}

}  // namespace

base::Result<std::vector<WrittenLut>> writeLuts(const rig::Rig& rig,
                                                const rig::Take& take,
                                                const std::filesystem::path& folder,
                                                const LutOptions& options) {
    const match::MatchReport report = matchReport(rig, take);
    const match::CameraMatch* reference = report.find(report.referenceId);
    const rig::Camera* target = rig::findCamera(rig, report.referenceId);
    if (reference == nullptr || target == nullptr || !reference->compared ||
        !reference->differences.fit) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          "No look-up tables",
                          "The reference shows no chart that can be measured in take " +
                              std::to_string(take.number) + ".",
                          "Choose another reference, or shoot the chart with it.");
    }
    const std::string wide = primariesOf(*target, rig::findShot(take, target->id));
    if (!wide.empty()) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          "No look-up tables",
                          "The reference records in " + wide +
                              ": a table to it would have to change the primaries too.",
                          "Choose a reference that records in BT.709.");
    }
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    const match::BodyModel theirs(*reference->compared, *reference->differences.fit);
    std::vector<WrittenLut> all;
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        if (match.isReference || camera == nullptr) continue;
        WrittenLut written;
        written.cameraId = match.cameraId;
        written.failure = reasonAgainst(*camera, rig::findShot(take, camera->id), match);
        if (!written.failure.empty()) {
            all.push_back(written);
            continue;
        }
        const match::Correction correction(
            *match.compared, *match.body, *reference->compared, theirs);
        const match::PatchSignals before = match::signalsOf(*match.compared);
        const match::PatchSignals aim = match::signalsOf(*reference->compared);
        match::PatchSignals planned;
        for (const auto& signal : before)
            planned.push_back(correction.apply(signal, options.strength));
        written.before = match::colourDifference(before, {}, aim, {});
        written.leftOutSignal = correction.left().leftOut;
        const std::string text = cubeText(
            correction,
            options,
            camera->letter + " " + camera->role + " to " + target->letter + " " + target->role,
            {"From the recorded signal of camera " + camera->letter + " to that of camera " +
                 target->letter + ", 0 black, 1 nominal white.",
             "Rig: " + rig.name + ", take " + std::to_string(take.number) + " of " +
                 take.startedAt + ". Made in the light of that take: it holds for that light.",
             "Mean dE2000 of the patches " + base::fixed(written.before.mean, 2) + " before, " +
                 base::fixed(match::colourDifference(planned, {}, aim, {}).mean, 2) +
                 " after; strength " + base::fixed(100.0 * options.strength, 0) + " %."},
            written.beyondShare);
        written.file = folder / fileName(*camera, *target);
        if (auto saved = base::writeAtomically(written.file, text); !saved)
            return tl::unexpected(saved.error());
        // Judged as others will see it: through the table that was written.
        const auto table = colour::ViewingLut::read(written.file);
        if (!table) return tl::unexpected(table.error());
        match::PatchSignals after;
        for (const auto& signal : before) after.push_back(table->apply(signal));
        written.after = match::colourDifference(after, {}, aim, {});
        judgeSkin(rig, take, *table, written);
        all.push_back(written);
    }
    return all;
}

}  // namespace rigmatch::jobs
