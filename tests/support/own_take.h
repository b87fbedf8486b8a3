// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/match_report.h"
#include "measure/patch_average.h"
#include "support/own_chart.h"
#include "words/english.h"

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

/// A camera like no other: curve, sensor, colour after the curve, noise, drawing and depth at
/// random.
inline OwnCamera randomOwnCamera(OwnRandom& random) {
    OwnCamera camera;
    camera.curve = static_cast<OwnCamera::Curve>(random.whole(0, 6));
    camera.stops = random.between(-0.5, 0.15);
    // 66 mired a stop of red against blue, 0.019 Duv a stop of green against both
    // (docs/sources.md).
    const double warm = random.normal(14.0) / 66.0;
    const double green = random.normal(0.003) / 0.019;
    camera.gains = {std::exp2(0.5 * warm - green), 1.0, std::exp2(-0.5 * warm - green)};
    for (std::size_t row = 0; row < 3; ++row) {
        double sum = 0.0;
        for (std::size_t c = 0; c < 3; ++c) {
            if (c == row) continue;
            camera.matrix[3 * row + c] = random.normal(0.05);
            sum += camera.matrix[3 * row + c];
        }
        camera.matrix[4 * row] = 1.0 - sum;
    }
    camera.saturation = random.between(0.85, 1.2);
    camera.hueDegrees = random.normal(1.5);
    camera.pedestal = random.between(-0.004, 0.012);
    camera.readNoise = random.between(0.0006, 0.005);
    camera.photonNoise = random.between(0.001, 0.009);
    camera.noiseRadius = random.whole(0, 1) == 0 ? 0.0 : random.between(0.4, 0.9);
    camera.rowNoise = random.whole(0, 3) == 0 ? random.between(0.0, 0.0008) : 0.0;
    camera.blurPx = random.between(0.4, 1.1);
    camera.sharpening = random.whole(0, 1) == 0 ? 0.0 : random.between(0.1, 0.8);
    camera.bitDepth = random.whole(0, 1) == 0 ? 8 : 10;
    return camera;
}

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
    rig::giveLetters(rig);
    return match::matchTake(rig, take, false);
}

/// Notes of camera B in one text.
inline std::string notesOf(const match::MatchReport& report) {
    std::string all;
    for (const base::Text& note : report.find("b")->differences.notes)
        all += words::inEnglish(note) + "\n";
    return all;
}

}  // namespace rigmatch::support
