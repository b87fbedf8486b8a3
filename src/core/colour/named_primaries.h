// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "colour/primaries.h"

namespace rigmatch::colour {

/// ITU-R BT.601 for 525 lines (SMPTE ST 170).
inline constexpr Primaries kBt601{{0.630, 0.340}, {0.310, 0.595}, {0.155, 0.070}, kD65};
/// ITU-R BT.601 for 625 lines (EBU Tech 3213).
inline constexpr Primaries kBt601Lines625{{0.640, 0.330}, {0.290, 0.600}, {0.150, 0.060}, kD65};
/// P3 with D65 white (SMPTE EG 432-1).
inline constexpr Primaries kP3D65{{0.680, 0.320}, {0.265, 0.690}, {0.150, 0.060}, kD65};

/// Linear light in the named primaries to linear BT.709; white stays white (rows sum to 1). Names:
/// "bt709", "bt2020", "bt601", "bt601-625", "p3-d65", and those of cameraPrimaries(). Nothing for
/// any other name. The camera's own matrices are those of OpenColorIO's built-in transforms, from
/// its white to D65 by Bradford.
[[nodiscard]] std::optional<Matrix3> toBt709(const std::string& name);

/// Names of the recordings whose primaries the colour library publishes, as it brings them.
[[nodiscard]] const std::vector<std::string>& cameraPrimaries();

/// "BT.2020", "P3-D65", …: plain name for screens; other names stay as they are.
[[nodiscard]] std::string primariesTitle(const std::string& name);

}  // namespace rigmatch::colour
