// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "image/frame.h"

namespace rigmatch::image {

/// Box-averaged by two, as shrunkSignal() of twice the step gives it; odd rests are dropped.
[[nodiscard]] Frame halved(const Frame& signal);

}  // namespace rigmatch::image
