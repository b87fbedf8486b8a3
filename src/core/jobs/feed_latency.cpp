// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/feed_latency.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::jobs {
namespace {

using base::fixed;
using base::signedFixed;

constexpr double kLongestWay =
    0.5;  // s; converters, wireless links and computers (own choice, sources 13.11)
constexpr double kSteadyFrames = 1.2;   // between parts of a picture's offset that stands
constexpr double kSteadySound = 0.005;  // s, of sound
constexpr double kNothing = 0.0005;     // s

FeedLatency ofReference(const SyncReport& report) {
    FeedLatency feed;
    feed.file = report.reference;
    if (report.referenceFrames) {
        feed.pictureSeconds = feed.pictureUncertainty = 0.0;
        if (report.referenceFrames->rate > 0.0)
            feed.frameSeconds = 1.0 / report.referenceFrames->rate;
    }
    if (report.referenceHeard) feed.soundSeconds = feed.soundUncertainty = 0.0;
    return feed;
}

FeedLatency of(const SyncResult& result) {
    FeedLatency feed;
    feed.file = result.file;
    if (result.frames && result.frames->rate > 0.0) feed.frameSeconds = 1.0 / result.frames->rate;
    if (result.picture) {
        feed.pictureSeconds = result.picture->offsetSeconds;
        feed.pictureUncertainty = result.picture->uncertaintySeconds;
        feed.wanderSeconds = result.picture->wanderSeconds;
        feed.isWandering =
            feed.wanderSeconds && *feed.wanderSeconds > kSteadyFrames * feed.frameSeconds;
    }
    if (result.sound) {
        feed.soundSeconds = result.sound->offsetSeconds - result.distanceSeconds.value_or(0.0);
        feed.soundUncertainty = result.sound->uncertaintySeconds;
        const auto& wander = result.sound->wanderSeconds;
        if (!feed.wanderSeconds) feed.wanderSeconds = wander;
        feed.isWandering = feed.isWandering || (wander && *wander > kSteadySound);
    }
    return feed;
}

}  // namespace

bool mayBeFeeds(const SyncReport& report) {
    return !report.results.empty() &&
           std::all_of(report.results.begin(), report.results.end(), [](const SyncResult& result) {
               const auto offset = result.offsetSeconds();
               return offset && std::abs(*offset) <= kLongestWay;
           });
}

std::vector<FeedLatency> feedLatencies(const SyncReport& report) {
    std::vector<FeedLatency> feeds{ofReference(report)};
    for (const SyncResult& result : report.results) feeds.push_back(of(result));
    std::optional<double> latest;
    for (const FeedLatency& feed : feeds) {
        if (feed.pictureSeconds) latest = std::max(latest.value_or(-1e9), *feed.pictureSeconds);
    }
    if (!latest) return feeds;
    for (FeedLatency& feed : feeds) {
        if (feed.pictureSeconds) feed.pictureDelaySeconds = *latest - *feed.pictureSeconds;
        if (feed.soundSeconds && *feed.soundSeconds <= *latest)
            feed.soundDelaySeconds = *latest - *feed.soundSeconds;
    }
    return feeds;
}

}  // namespace rigmatch::jobs
