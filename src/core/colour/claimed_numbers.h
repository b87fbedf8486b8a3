// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace rigmatch::colour {

/// How many numbers a look-up table says that it holds; 0 where it says nothing of the kind. A
/// library makes room for as many before it reads one, so that a damaged size of a few bytes takes
/// all memory. Reads .cube, .clf and .ctf, .spi1d and .spi3d, whatever the file is called: the
/// library tries them all.
[[nodiscard]] double claimedNumbers(const std::string& content);

}  // namespace rigmatch::colour
