// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <string>
#include <string_view>

#include "rig/json_object.h"
#include "rig/rig_json.h"

namespace rigmatch::rig {

/// All of the document but its lists (cameras, sources, takes).
[[nodiscard]] Json headJson(const Rig& rig);
/// On one line. Replacing broken UTF-8 beats throwing away the document because of one odd file
/// name.
[[nodiscard]] std::string textOf(const Json& json);
/// As parseRig(), with `change` taken on the document before it is read.
[[nodiscard]] base::Result<ParsedRig> parseDocument(std::string_view text,
                                                    const std::function<void(Json&)>& change);

}  // namespace rigmatch::rig
