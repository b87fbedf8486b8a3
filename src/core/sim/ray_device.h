// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <embree3/rtcore.h>

namespace rigmatch::sim {

/// Embree, begun once for the program.
[[nodiscard]] RTCDevice rayDevice();

}  // namespace rigmatch::sim
