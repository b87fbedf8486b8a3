// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "match/judge.h"
#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

struct LutOptions {
    int size = 33;          ///< 17, 33 or 65 points to a side
    double strength = 1.0;  ///< 0..1
};

/// One camera's look-up table, and what it does to patches and skin.
struct WrittenLut {
    std::string cameraId;
    std::filesystem::path file;
    std::string failure;  ///< why there is none; then the rest is empty
    match::ColourDifference before, after;
    std::optional<double> skinBefore, skinAfter;  ///< mean ΔE2000 over people seen by both
    double leftOutSignal = 0.0;  ///< mean distance of patches left out of the fit, signal
    double beyondShare = 0.0;    ///< of the table's points, results outside 0..1
};

/// Writes a .cube for every camera of the take but the reference into `folder`, made where it is
/// missing: recorded signal (0 black, 1 nominal white) to the reference's, names and comments in
/// words. Cameras that cannot be corrected are said. Fails with WriteFailed, or with Unmeasurable
/// where the reference has no chart.
[[nodiscard]] base::Result<std::vector<WrittenLut>> writeLuts(const rig::Rig& rig,
                                                              const rig::Take& take,
                                                              const std::filesystem::path& folder,
                                                              const LutOptions& options);

}  // namespace rigmatch::jobs
