// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sim/prepared_scene.h"

namespace rigmatch::sim {

/// Light that leaves what a ray met, toward where the ray comes from, linear BT.709.
[[nodiscard]] Vec shade(const PreparedScene& prepared,
                        const Ray& ray,
                        const Hit& hit,
                        const RenderOptions& options);

}  // namespace rigmatch::sim
