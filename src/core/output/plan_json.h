// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "rig/rig.h"

namespace rigmatch::output {

/// The document of `rigmatch-cli plan --json`, version 1: facts of room, objects and camera sheet,
/// and the notes. `rig.plan` must be set.
[[nodiscard]] std::string planJson(const rig::Rig& rig);

}  // namespace rigmatch::output
