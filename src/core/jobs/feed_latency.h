// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "jobs/sync_job.h"

namespace rigmatch::jobs {

/// How late one feed arrives at a device that records several and begins all of them at once: then
/// what lies between two files is not their start but their way. Times in s against the
/// reference's, whose picture and sound are taken as together.
struct FeedLatency {
    std::string file;
    std::optional<double> pictureSeconds, pictureUncertainty;
    std::optional<double> soundSeconds, soundUncertainty;
    std::optional<double> wanderSeconds;  ///< of the picture, else of the sound
    bool isWandering = false;             ///< no constant delay sets it right
    double frameSeconds = 0.0;            ///< of its picture; 0 without
    /// To enter for its picture and its sound, so that all come together with the latest picture.
    std::optional<double> pictureDelaySeconds, soundDelaySeconds;
};

/// The reference first. Sound that comes later than the latest picture gets no delay.
[[nodiscard]] std::vector<FeedLatency> feedLatencies(const SyncReport& report);
/// All offsets are as short as the ways of feeds are.
[[nodiscard]] bool mayBeFeeds(const SyncReport& report);

}  // namespace rigmatch::jobs
