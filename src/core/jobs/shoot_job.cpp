// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/shoot_job.h"

#include <algorithm>
#include <system_error>

#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/shoot.h"
#include "sim/truth.h"

namespace rigmatch::jobs {

namespace fs = std::filesystem;

namespace {

/// The uppermost folder on the way to `folder` that is not there yet; empty where all are.
fs::path firstMissing(const fs::path& folder) {
    std::error_code code;
    fs::path missing;
    for (fs::path at = folder; !at.empty() && !fs::exists(at, code); at = at.parent_path())
        missing = at;
    return missing;
}

/// Takes away the folders that a broken-off shoot has made, as far as nothing else lies in them.
void removeEmpty(const fs::path& folder, const fs::path& made) {
    if (made.empty()) return;
    std::error_code code;
    fs::path at = folder;
    while (fs::remove(at, code) && at != made && at.has_parent_path()) at = at.parent_path();
}

}  // namespace

std::shared_ptr<sim::SimulatedSet> simulatedSet() { return std::make_shared<sim::SimulatedSet>(); }

base::Result<std::vector<ShotFile>> shootTake(sim::SimulatedSet& set,
                                              const rig::Rig& rig,
                                              const fs::path& folder,
                                              const std::string& stem,
                                              const sim::ShootOptions& options,
                                              const base::Progress& progress) {
    const auto count =
        std::count_if(rig.cameras.begin(), rig.cameras.end(), [](const rig::Camera& camera) {
            return camera.simulated.has_value();
        });
    if (count == 0) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("shootJob.noCameraHere"),
                          base::say("shootJob.rigNoSimulated"),
                          base::say("shootJob.recordClipEach"));
    }
    std::error_code code;
    const fs::path made = firstMissing(folder);
    fs::create_directories(folder, code);
    if (code) {
        return base::fail(base::ErrorCode::WriteFailed,
                          base::say("shootJob.cannotMakeFolder", {{"folder", folder.string()}}),
                          base::say("shootJob.systemSays", {{"message", code.message()}}),
                          base::say("shootJob.chooseFolderCan"));
    }
    if (rig.plan) set.follow(*rig.plan);
    const rig::Rig placed = sim::placedRig(rig);
    std::vector<ShotFile> files;
    for (const rig::Camera& camera : placed.cameras) {
        if (!camera.simulated) continue;
        const fs::path file = folder / (stem + camera.letter + ".mov");
        const double share = static_cast<double>(files.size()) / static_cast<double>(count);
        const auto used = set.shoot(
            camera, options, file, progress.part(share, share + 1.0 / static_cast<double>(count)));
        if (!used) {
            files.push_back({camera.id, file, {}});
            for (const ShotFile& written : files) fs::remove(written.file, code);
            removeEmpty(folder, made);
            return tl::unexpected(used.error());
        }
        files.push_back({camera.id, file, *used});
    }
    if (options.hasSound) {
        for (const rig::Source& source : rig.sources) {
            if (source.kind != rig::SourceKind::SoundRecorder) continue;
            const fs::path file = folder / (stem + "recorder.wav");
            if (const auto written = set.recordSound(options, file); !written)
                return tl::unexpected(written.error());
            files.push_back({source.id, file, {}});
            break;
        }
    }
    progress.report(1.0, base::say("progress.takeFinished"));
    return files;
}

rig::Rig demoRig() { return sim::clockBenchRig(); }

std::string truthText(const rig::Rig& rig, const std::vector<ShotFile>& files) {
    rig::Rig used = sim::placedRig(rig);
    for (const ShotFile& file : files) {
        if (rig::Camera* camera = rig::findCamera(used, file.cameraId))
            camera->settings = file.settings;
    }
    return sim::truthJson(used);
}

}  // namespace rigmatch::jobs
