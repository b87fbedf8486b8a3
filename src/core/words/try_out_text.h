// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "jobs/try_out.h"

namespace rigmatch::words {

/// The ranking in words, best first.
[[nodiscard]] std::string tryOutText(const rig::Rig& rig, const jobs::TryOutReport& report);

}  // namespace rigmatch::words
