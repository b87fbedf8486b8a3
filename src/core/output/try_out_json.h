// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "jobs/try_out.h"

namespace rigmatch::output {

/// For scripts.
[[nodiscard]] std::string tryOutJson(const rig::Rig& rig, const jobs::TryOutReport& report);

}  // namespace rigmatch::output
