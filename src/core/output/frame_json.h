// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/frame_job.h"

namespace rigmatch::output {

/// The document of `rigmatch-cli frame --json`, version 1.
[[nodiscard]] std::string frameJson(const std::vector<jobs::FrameResult>& results);

}  // namespace rigmatch::output
