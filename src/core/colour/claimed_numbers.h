// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace rigmatch::colour {

/// How many numbers a look-up table says that it holds; 0 where it says nothing of the kind. A
/// library makes room for as many before it reads one, so that a damaged size of a few bytes takes
/// all memory. `suffix` with its dot, in small letters: ".cube", ".clf", ".ctf", ".spi1d",
/// ".spi3d"; others say nothing here.
[[nodiscard]] double claimedNumbers(const std::string& content, const std::string& suffix);

}  // namespace rigmatch::colour
