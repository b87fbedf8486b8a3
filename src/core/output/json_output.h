// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/history_job.h"
#include "jobs/lut_job.h"
#include "jobs/probe_job.h"
#include "jobs/target_job.h"
#include "match/match_report.h"
#include "plan/lamp_advice.h"
#include "rig/rig.h"

namespace rigmatch::output {

/// A file and what became of it.
struct MeasuredFile {
    std::string file;
    rig::Shot shot;
};

/// The document of `rigmatch-cli measure --json`, version 1.
[[nodiscard]] std::string measureJson(const std::vector<MeasuredFile>& files);

/// The document of `rigmatch-cli probe --json`, version 1.
[[nodiscard]] std::string probeJson(const rig::Rig& rig, const jobs::Probe& probe);

/// The document of `rigmatch-cli match --json`, version 1, of that take of the rig; with what every
/// camera would cost as the reference, and how differences moved over earlier takes, where `costs`
/// and `history` tell it.
[[nodiscard]] std::string matchJson(const rig::Rig& rig,
                                    const rig::Take& take,
                                    const match::MatchReport& report,
                                    const std::vector<jobs::TargetCost>& costs = {},
                                    const jobs::History& history = {});

/// The document of `rigmatch-cli take --json`, version 1.
[[nodiscard]] std::string takeJson(const rig::Rig& rig,
                                   const rig::Take& take,
                                   const std::vector<MeasuredFile>& files);

/// The document of `rigmatch-cli lut --json`, version 1.
[[nodiscard]] std::string lutJson(const rig::Rig& rig,
                                  const rig::Take& take,
                                  const std::vector<jobs::WrittenLut>& luts,
                                  const jobs::LutOptions& options);

/// The document of `rigmatch-cli done --json`, version 1: the turns that were carried out.
[[nodiscard]] std::string turnsJson(const rig::Rig& rig,
                                    const std::vector<rig::Turn>& turns,
                                    const std::vector<plan::LampAdvice>& lamps = {});

}  // namespace rigmatch::output
