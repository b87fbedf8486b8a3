// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "jobs/frame_job.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// What moved a camera, in words, with what undoes it: in degrees too where the lens is known.
[[nodiscard]] std::string driftText(const rig::FrameDrift& drift,
                                    const std::optional<jobs::FrameLens>& lens,
                                    int widthPx);

/// Sentences about one file's framing, for people.
[[nodiscard]] std::vector<std::string> frameLines(const jobs::FramedFile& framed);

}  // namespace rigmatch::words
