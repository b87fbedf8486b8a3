// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/match_report.h"
#include "measure/patch_average.h"
#include "support/own_chart.h"

namespace rigmatch::support {

struct OwnRandom {
    std::mt19937 generator;
    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(generator);
    }
    double normal(double sigma) { return std::normal_distribution<double>(0.0, sigma)(generator); }
    int whole(int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(generator);
    }
};

/// Some frames of a camera of its own making, read as a clip's steady span is.
inline rig::Reading ownReading(const OwnCamera& camera, OwnRandom& random, int frames) {
    const auto picture = ownPicture(camera);
    const chart::ChartPose pose = ownPose();
    std::vector<measure::SpanFrame> span;
    int bits = 8;
    for (int i = 0; i < frames; ++i) {
        const auto frame = ownFrame(picture, camera, random.generator);
        bits = frame.bitDepth;
        span.push_back({0.1 * i, chart::readPatches(frame, pose).value()});
    }
    rig::Reading reading;
    reading.hasChart = true;
    reading.layout = "classic-24";
    reading.bitDepth = bits;
    reading.range = camera.isFullRange ? "full" : "limited";
    if (camera.curve == OwnCamera::Curve::Hlg) reading.transfer = "hlg";
    reading.patches = measure::averagePatches(span);
    reading.drift = measure::driftOf(span);
    return reading;
}

/// Two cameras of one take, reported as the Match screen has them.
inline match::MatchReport matched(const rig::Reading& mine, const rig::Reading& theirs) {
    rig::Rig rig;
    rig::Take take;
    for (const char* id : {"a", "b"}) {
        rig::Camera camera;
        camera.id = id;
        rig.cameras.push_back(camera);
        rig::Shot shot;
        shot.cameraId = id;
        shot.reading = std::string(id) == "a" ? theirs : mine;
        take.shots.push_back(shot);
    }
    rig::renumber(rig);
    return match::matchTake(rig, take, false);
}

/// Notes of camera B in one text.
inline std::string notesOf(const match::MatchReport& report) {
    std::string all;
    for (const std::string& note : report.find("b")->differences.notes) all += note + "\n";
    return all;
}

}  // namespace rigmatch::support
