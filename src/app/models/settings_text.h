// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

#include "rig/settings.h"

namespace rigmatch::app {

/// "ISO 800 · f/2.8 · 1/50 s" and the like, used by several screens.
[[nodiscard]] QString exposureText(const rig::Settings& settings);
[[nodiscard]] QString colourText(const rig::Settings& settings);

}  // namespace rigmatch::app
