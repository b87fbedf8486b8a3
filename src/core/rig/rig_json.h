// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::rig {

/// The version this program writes. Reads 1 and 2; a higher one is read as far as it is understood.
inline constexpr int kStoreVersion = 3;

struct ParsedRig {
    Rig rig;
    int version = kStoreVersion;
    [[nodiscard]] bool isNewer() const { return version > kStoreVersion; }
};

/// The document as JSON text (docs/store-format.md). Media paths are written as they stand.
[[nodiscard]] std::string jsonText(const Rig& rig);

/// Fails with CorruptDocument, naming the place and what should stand there.
[[nodiscard]] base::Result<ParsedRig> parseRig(std::string_view text);

}  // namespace rigmatch::rig
