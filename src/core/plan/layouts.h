// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "rig/user_files.h"

namespace rigmatch::plan {

/// The sets to start from that ship with the program: single host, host and guest with three
/// cameras, desk with top-down, small stage. Each stands free of notes that are off.
[[nodiscard]] const std::vector<rig::Layout>& builtInLayouts();

}  // namespace rigmatch::plan
