// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// A file and what became of it.
struct MeasuredFile {
    std::string file;
    rig::Shot shot;
};

/// The document of `rigmatch-cli measure --json`, version 1.
[[nodiscard]] std::string measureJson(const std::vector<MeasuredFile>& files);

/// The document of `rigmatch-cli match --json`, version 1. `withControls` false: turns are amounts.
[[nodiscard]] std::string matchJson(const rig::Rig& rig, const match::MatchReport& report);

}  // namespace rigmatch::jobs
