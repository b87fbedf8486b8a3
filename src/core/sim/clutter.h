// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>

#include "image/frame.h"
#include "sim/random.h"

namespace rigmatch::sim {

/// Paints a random room-like background of grids, stripes, blobs and soft gradients, linear light.
void paintClutter(image::Frame& linear, Random& random);

}  // namespace rigmatch::sim
