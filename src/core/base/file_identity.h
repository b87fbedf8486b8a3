// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

namespace rigmatch::base {

/// What a file is known by wherever it lies and whatever it is called: its size and a hash of its
/// first, middle and last megabyte (all of it up to three), as "SIZE-HASH" (FNV-1a of 64 bit,
/// Fowler, Noll and Vo; sources 11.18). Empty for what cannot be read. Three megabytes are read.
[[nodiscard]] std::string fileIdentity(const std::filesystem::path& file);

/// The size that an identity tells; 0 for none.
[[nodiscard]] std::uintmax_t sizeOfIdentity(const std::string& identity);

}  // namespace rigmatch::base
