// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "rig/rig.h"

namespace rigmatch::rig {

/// Whether lamps beat against a camera's shutter, as far as the rig knows. What was measured in the
/// newest take at this shutter and rate outranks what the plan's lamps are said to be.
struct LampFlicker {
    enum class Known {
        Nothing,
        Seen,          ///< it was measured
        NotSeen,       ///< it was looked for and is not there
        LampsAreFree,  ///< all lamps of the plan that are on are said to be flicker-free
        NoLampIsOn,    ///< of the plan
    };
    Known known = Known::Nothing;
    int takeNumber = 0;  ///< in which it was seen or not
    base::Text seen;     ///< what the measurement said of it

    [[nodiscard]] bool isSeen() const { return known == Known::Seen; }
    /// Nothing follows the mains: the shutter is free.
    [[nodiscard]] bool isRuledOut() const { return known != Known::Nothing && !isSeen(); }
};
[[nodiscard]] LampFlicker lampFlicker(const Rig& rig, const Camera& camera);

}  // namespace rigmatch::rig
