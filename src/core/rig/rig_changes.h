// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <string>
#include <string_view>

#include "base/result.h"
#include "rig/rig_json.h"

namespace rigmatch::rig {

/// What turns `before` into `after`, as one line of JSON without its end (docs/store-format.md,
/// "The journal"): what both share is named by its place, so that an edit costs what it changes,
/// not what the rig holds. Empty where they are equal.
[[nodiscard]] std::string changesText(const Rig& before, const Rig& after);

/// The rig that a document of `documentBytes` and the lines of changes behind it make, each line
/// taken on the one before. A line that breaks off, or speaks of what is not there, ends them: what
/// came before it counts. Fails with CorruptDocument where the document itself is none.
[[nodiscard]] base::Result<ParsedRig> parseChanged(std::string_view text,
                                                   std::size_t documentBytes);

}  // namespace rigmatch::rig
