// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "jobs/sync_source.h"

namespace rigmatch::jobs {

/// What is to be told of how one file lies on the reference: clocks, polarity, cuts, lip sync.
void judgeOffset(SyncResult& result);
/// What its timecode is worth against that.
void judgeTimecode(SyncResult& result);
/// Its first two channels against the reference's, at an offset that is known: are they turned?
void judgeChannels(const SyncSource& reference, const SyncSource& source, SyncResult& result);
/// Frames whose data is broken.
[[nodiscard]] std::vector<base::Warning> damageFindings(const SyncSource& source);
/// Places at which the timecode within a file does not go on.
[[nodiscard]] std::vector<base::Warning> timecodeFindings(const SyncSource& source);

}  // namespace rigmatch::jobs
