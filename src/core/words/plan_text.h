// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "rig/rig.h"

namespace rigmatch::words {

/// Facts of room, objects and camera sheet, and the notes, for reading. `rig.plan` must be set.
[[nodiscard]] std::string planText(const rig::Rig& rig);

}  // namespace rigmatch::words
