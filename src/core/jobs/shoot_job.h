// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"
#include "sim/shoot_options.h"

namespace rigmatch::sim {
class SimulatedSet;
}

namespace rigmatch::jobs {

/// One file that a simulated camera shot, with the settings it used.
struct ShotFile {
    std::string cameraId;  ///< or of the recorder
    std::filesystem::path file;
    rig::Settings settings;
};

/// The demo set, for shootTake(). One thread at a time.
[[nodiscard]] std::shared_ptr<sim::SimulatedSet> simulatedSet();

/// Lets all simulated cameras of `rig` shoot into `folder` (made if missing) as A.mov, B.mov, …;
/// `stem` is put before the letter. With sound the rig's first sound recorder runs too
/// (recorder.wav). Fails with OutOfRange where no camera is simulated,
/// WriteFailed, or Cancelled (files of this call are removed).
[[nodiscard]] base::Result<std::vector<ShotFile>> shootTake(sim::SimulatedSet& set,
                                                            const rig::Rig& rig,
                                                            const std::filesystem::path& folder,
                                                            const std::string& stem,
                                                            const sim::ShootOptions& options,
                                                            const base::Progress& progress);

/// The demo rig: four simulated cameras, unmatched, without a take.
[[nodiscard]] rig::Rig demoRig();

/// What an ideal measurement of the simulated cameras would find, as JSON text; automatics as they
/// were used.
[[nodiscard]] std::string truthText(const rig::Rig& rig, const std::vector<ShotFile>& files);

}  // namespace rigmatch::jobs
