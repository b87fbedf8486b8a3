// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "jobs/sync_job.h"

namespace rigmatch::output {

/// Whether the files are feeds that one device began to record at once; see FeedLatency.
enum class SyncFeeds { Apart, OneDevice };
/// The document of `rigmatch-cli sync --json`, version 1.
[[nodiscard]] std::string syncJson(const jobs::SyncReport& report,
                                   SyncFeeds feeds = SyncFeeds::Apart);

}  // namespace rigmatch::output
