// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>

#include "base/result.h"

namespace rigmatch::sim {

/// How simulated cameras shoot a take.
struct ShootOptions {
    double seconds = 2.0;  ///< length of the take, 0.2..60
    std::uint64_t seed = 1;
    /// Clips get sound and begin at unlike moments, as cameras that are started by hand do, and
    /// chains that stutter show it.
    bool hasSound = false;
    bool isAlive = true;  ///< people sway, lean and, where it has sound, clap
    bool isFine = false;  ///< half shadows from many more rays: slower

    [[nodiscard]] base::Result<void> validate() const;
};

}  // namespace rigmatch::sim
