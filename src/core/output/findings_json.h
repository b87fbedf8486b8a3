// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "rig/rig.h"
#include "words/all_findings.h"

namespace rigmatch::output {

/// The document of `rigmatch-cli findings --json`, version 1. Cameras by their letters.
[[nodiscard]] std::string findingsJson(const rig::Rig& rig,
                                       const std::vector<words::ToldFinding>& findings);

}  // namespace rigmatch::output
