// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/sound_job.h"

namespace rigmatch::output {

/// The document of `rigmatch-cli sound --json`, version 1.
[[nodiscard]] std::string soundJson(const std::vector<jobs::HeardFile>& files);

}  // namespace rigmatch::output
