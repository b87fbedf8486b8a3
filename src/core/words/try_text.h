// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <string>

#include "jobs/what_if.h"

namespace rigmatch::words {

/// "ISO", "White balance", or the knob's own name.
[[nodiscard]] std::string tryTitle(const jobs::TryControl& control);
/// "ISO 800", "+2/3 stop", "−10 mired".
[[nodiscard]] std::string tryText(const jobs::TryControl& control, std::size_t index);

}  // namespace rigmatch::words
