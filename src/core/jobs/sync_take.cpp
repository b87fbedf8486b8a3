// SPDX-License-Identifier: GPL-3.0-or-later
// Syncing a take of a rig: which files, how far sound has to go, and what is kept of it.
#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "jobs/sync_job.h"
#include "jobs/sync_judge.h"
#include "plan/geometry.h"

namespace rigmatch::jobs {
namespace {

/// From a camera's lens to the people of the plan, m, on average; nothing without a plan.
std::optional<double> metresToPeople(const rig::Rig& rig, const std::string& cameraId) {
    if (!rig.plan) return std::nullopt;
    for (const rig::PlanObject& place : rig.plan->objects) {
        if (place.kind != rig::PlanKind::Camera || place.cameraId != cameraId) continue;
        double sum = 0.0;
        int people = 0;
        for (const rig::PlanObject& person : rig.plan->objects) {
            if (person.kind != rig::PlanKind::Person) continue;
            sum += (plan::placeOf(place) - plan::placeOf(person)).norm();
            ++people;
        }
        if (people > 0) return sum / people;
    }
    return std::nullopt;
}

/// How long a recording of this source gets: what is recorded in a day, or the longest its body
/// goes on.
double plannedMinutes(const rig::Rig& rig, const std::string& cameraId) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    const double longest = camera != nullptr ? camera->equipment.longestTakeMinutes : 0.0;
    return longest > 0.0 ? std::min(longest, rig.choices.dayMinutes) : rig.choices.dayMinutes;
}

/// Measured shots with a file, the reference's first.
std::vector<const rig::Shot*> shotsToSync(const rig::Rig& rig, const rig::Take& take) {
    std::vector<const rig::Shot*> shots;
    for (const rig::Shot& shot : take.shots) {
        if (shot.media.empty() || !shot.reading || shot.reading->isStill) continue;
        shots.insert(shot.cameraId == rig.referenceId ? shots.begin() : shots.end(), &shot);
    }
    return shots;
}

}  // namespace

base::Result<SyncReport> syncTake(const rig::Rig& rig,
                                  const rig::Take& take,
                                  const base::Progress& progress) {
    const auto shots = shotsToSync(rig, take);
    if (shots.size() < 2) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("syncTake.nothingSync"),
                          base::say("syncTake.takeHoldsCould",
                                    {{"count", base::whole(shots.size())},
                                     {"recordings",
                                      shots.size() == 1 ? base::say("syncTake.recording")
                                                        : base::say("syncTake.recordings")}}),
                          base::say("syncTake.addClipsOther"));
    }
    std::vector<std::filesystem::path> files;
    SoundWays ways;
    for (const rig::Shot* shot : shots) {
        files.push_back(shot->media);
        if (const auto metres = metresToPeople(rig, shot->cameraId))
            ways[shot->media.string()] = *metres;
    }
    auto report = syncFiles(files.front(), {files.begin() + 1, files.end()}, progress, ways);
    if (!report) return report;
    for (SyncResult& result : report->results) {
        for (const rig::Shot* shot : shots) {
            if (shot->media.string() == result.file)
                foretellDrift(result, plannedMinutes(rig, shot->cameraId));
        }
    }
    return report;
}

std::optional<rig::Reading> withSync(const rig::Shot& shot, const SyncReport& report) {
    if (!shot.reading) return std::nullopt;
    rig::Reading reading = *shot.reading;
    const std::string file = shot.media.string();
    rig::SyncReading sync;
    sync.against = report.reference;
    if (file == report.reference) {
        reading.frames = report.referenceFrames;
        reading.heard = report.referenceHeard;
        sync.findings = report.referenceFindings;
        if (report.referenceTimecode) sync.timecode = report.referenceTimecode->text;
        reading.sync = std::move(sync);
        return reading;
    }
    for (const SyncResult& result : report.results) {
        if (result.file != file) continue;
        if (result.failure) {
            sync.reason = base::fullText(*result.failure);
            reading.sync = std::move(sync);
            return reading;
        }
        reading.frames = result.frames;
        reading.heard = result.heard;
        sync.sound = result.sound;
        if (sync.sound) sync.sound->points.clear();
        sync.picture = result.picture;
        sync.reason = result.reason;
        sync.distanceSeconds = result.distanceSeconds;
        if (result.timecode) sync.timecode = result.timecode->text;
        sync.timecodeSeconds = result.timecodeSeconds;
        sync.findings = result.findings;
        reading.sync = std::move(sync);
        return reading;
    }
    return std::nullopt;
}

std::optional<SyncReport> keptSync(const rig::Rig& rig, const rig::Take& take) {
    const auto shots = shotsToSync(rig, take);
    if (shots.size() < 2) return std::nullopt;
    SyncReport report;
    report.reference = shots.front()->media.string();
    for (const rig::Shot* shot : shots) {
        const rig::Reading& reading = *shot->reading;
        if (!reading.sync || reading.sync->against != report.reference) {
            if (shot == shots.front()) return std::nullopt;
            continue;
        }
        if (shot == shots.front()) {
            report.referenceSeconds = reading.durationSeconds;
            report.referenceFrames = reading.frames;
            report.referenceHeard = reading.heard;
            report.referenceFindings = reading.sync->findings;
            if (!reading.sync->timecode.empty())
                report.referenceTimecode = media::Timecode{reading.sync->timecode, 0.0};
            continue;
        }
        SyncResult result;
        result.file = shot->media.string();
        result.sound = reading.sync->sound;
        result.picture = reading.sync->picture;
        result.reason = reading.sync->reason;
        result.frames = reading.frames;
        result.heard = reading.heard;
        result.durationSeconds = reading.durationSeconds;
        result.distanceSeconds = reading.sync->distanceSeconds;
        if (!reading.sync->timecode.empty())
            result.timecode = media::Timecode{reading.sync->timecode, 0.0};
        result.timecodeSeconds = reading.sync->timecodeSeconds;
        result.findings = reading.sync->findings;
        report.results.push_back(std::move(result));
    }
    return report.results.empty() ? std::nullopt : std::optional(report);
}

std::vector<MicrophoneRank> rankMicrophones(const SyncReport& report) {
    std::vector<MicrophoneRank> ranks;
    const auto add = [&](const std::string& file, const std::optional<sound::SoundReport>& heard) {
        if (!heard) return;
        for (std::size_t c = 0; c < heard->channels.size(); ++c) {
            const sound::ChannelReport& channel = heard->channels[c];
            if (!channel.speechDbfs) continue;
            const double over =
                std::min(60.0, *channel.speechDbfs - channel.noiseDbfs.value_or(-120.0));
            MicrophoneRank rank{file, c, over, channel.decaySeconds, channel.code};
            // A dB more of distance from noise, or a tenth of a second less of room, is as good;
            // faults that no edit undoes come last.
            rank.worth = over - 40.0 * channel.decaySeconds.value_or(0.0);
            if (channel.code == "clipped") rank.worth -= 60.0;
            if (!channel.gaps.empty()) rank.worth -= 30.0;
            if (channel.bandwidthHz && *channel.bandwidthHz < 4500.0) rank.worth -= 20.0;
            ranks.push_back(rank);
        }
    };
    add(report.reference, report.referenceHeard);
    for (const SyncResult& result : report.results) add(result.file, result.heard);
    std::stable_sort(
        ranks.begin(), ranks.end(), [](const auto& a, const auto& b) { return a.worth > b.worth; });
    return ranks;
}

}  // namespace rigmatch::jobs
