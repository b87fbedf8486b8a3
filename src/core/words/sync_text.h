// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/feed_latency.h"
#include "jobs/sync_job.h"

namespace rigmatch::words {

/// "channel 1: speech 34 dB above the noise".
[[nodiscard]] std::string microphoneText(const jobs::MicrophoneRank& rank);

/// Sentences about one result, for people.
enum class SyncWords { All, WithoutFindings };
[[nodiscard]] std::vector<std::string> syncLines(const jobs::SyncResult& result,
                                                 SyncWords words = SyncWords::All);

/// Sentences about one of them.
[[nodiscard]] std::vector<std::string> feedLines(const jobs::FeedLatency& feed);

}  // namespace rigmatch::words
