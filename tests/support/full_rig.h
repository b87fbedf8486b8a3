// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "rig/bodies.h"
#include "rig/rig_store.h"

namespace rigmatch::support {

/// The demo's rig as its file has it, without its takes.
inline rig::Rig demoRig() {
    rig::Rig rig = rig::loadRig(RIGMATCH_SOURCE_DIR "/demo/clock-bench/clock-bench.rigmatch")->rig;
    rig.takes.clear();
    return rig;
}

/// The demo rig with a take in which every field has a value of its own.
inline rig::Rig fullRig(const std::filesystem::path& folder) {
    rig::Rig rig = demoRig();
    rig.judge = "linear";
    rig::Take take;
    take.id = "take-1";
    take.number = 3;
    take.purposes = {rig::Purpose::Match, rig::Purpose::Timing};
    rig.sources = {{"source-1", rig::SourceKind::Switcher, "the mixer's recording", {}}};
    take.startedAt = "2026-01-05T10:20:30";
    take.doneAtLamps = {{"light-1", rig::LampControl::Kelvin, 5600.0, 5000.0}};
    rig::Shot shot;
    shot.cameraId = rig.cameras[1].id;
    shot.media = folder / "clips" / "b.mov";
    shot.settings = rig.cameras[1].settings;
    shot.laterParts = {folder / "clips" / "b2.mov", folder / "clips" / "b3.mov"};
    shot.settings.isoValue = 1234.0;
    shot.settings.tintSteps.forget();
    shot.settings.knobs = {{"contrast", -2.0}};
    shot.manualCorners = rig::PictureQuad{{{1, 2}, {3.5, 4}, {5, 6}, {7, 8}}};
    shot.rangeOverride = "full";
    rig::Reading reading;
    reading.hasChart = true;
    reading.width = 1920;
    reading.range = "limited";
    reading.framesUsed = 12;
    reading.warnings = {
        {"Code",
         base::say("some.code",
                   {{"name", std::string("white")}, {"percent", base::Number{90.5, 1}}}),
         base::asIs("hint")}};
    reading.patches = {{"white",
                        true,
                        {.9, .9, .9},
                        {.95, .94, .93},
                        {.001, .002, .003},
                        {.0001, .0002, .0003},
                        0.25,
                        0.125,
                        {10.5, 11.5}}};
    reading.reasonCode = "NotMarked";
    reading.layout = "grey-card";
    rig::FramedPerson person;
    person.headroom = {0.12, 0.002};
    person.lookRoom = rig::Doubted{1.8, 0.2};
    person.isCut = person.isCrownEstimate = true;
    rig::FramingReading framing;
    framing.roll = rig::RollReading{0.2, 0.1, 1.0, "uprights"};
    framing.people = {person};
    framing.focus = {1.2, 1.3, 1.4, 2.0, 1.7, "eyes"};
    framing.drift = rig::FrameDrift{};
    framing.drift->reason = base::asIs("nothing to lay it on");
    framing.darkest = rig::Doubted{0.03, 0.002};
    rig::KeyScreen screen;
    screen.hue = "green";
    screen.levelDoubt = 0.01;
    screen.saturationDoubt = 0.02;
    screen.spillDoubt = 0.03;
    framing.keyScreen = screen;
    reading.framing = framing;
    reading.identity = "12-ab";
    sound::ChannelReport channel;
    channel.speechDbfs = -20.0;
    channel.loudnessLufs = -23.0;
    channel.noiseDbfs = -60.0;
    channel.humDbfs = -70.0;
    channel.humHz = 50.0;
    channel.clippedRuns = 2;
    channel.gaps = {{1.0, 0.02}};
    channel.offsetPercent = 0.4;
    channel.bandwidthHz = 12000.0;
    channel.decaySeconds = 0.4;
    channel.levelRisePerSecond = 6.0;
    channel.rumbleDbfs = -50.0;
    sound::SoundReport heard;
    heard.channels = {channel};
    heard.loudnessLufs = -23.0;
    heard.loudnessRangeLu = 6.0;
    heard.truePeakDbtp = -3.0;
    heard.envelopeDbfs = {-30.0, -20.5};
    heard.clapSeconds = 4.2;
    heard.findings = {{"Code", base::asIs("text"), base::asIs("hint")}};
    reading.heard = heard;
    timing::FrameReport frames;
    frames.rateText = "25/1";
    frames.isVariable = true;
    frames.intervals = {{0.04, 30}, {0.05, 3}};
    frames.repeated = {1.0};
    frames.missing = {2.0};
    frames.late = {3.0};
    frames.notJudged = {{4.0, 5.0}};
    frames.unsteady = {{6.0, 7.0}};
    frames.pattern = base::asIs("every second frame");
    reading.frames = frames;
    rig::SyncReading sync;
    sync.against = "/tmp/a.mov";
    sync.sound = timing::SoundOffset{};
    sync.sound->driftPpm = 12.0;
    sync.sound->isInverted = true;
    sync.sound->jump = timing::OffsetPoint{1.0, 2.0, 3.0, true};
    sync.picture = timing::PictureOffset{};
    sync.reason = base::asIs("none");
    sync.distanceSeconds = 0.003;
    sync.findings = {{"Code", base::asIs("text"), base::asIs("hint")}};
    reading.sync = sync;
    reading.columns = 1;
    reading.rows = 1;
    reading.trust = base::ValueTrust::Found;
    shot.cornersAtSeconds = 1.25;
    shot.skinMarks = {{10.0, 20.0, 30.5, 40.0, 0.75}};
    shot.matrixOverride = "bt601";
    shot.isWholeWanted = true;
    rig::FaceReading face;
    face.left = 411.5;
    face.width = 120.0;
    face.turnDegrees = -12.0;
    face.leftEye = {470.0, 300.0};
    face.forehead = rig::SkinReading{{0.5, 0.4, 0.3}, {0.001, 0.001, 0.002}, 0.0, 900};
    face.background = rig::SkinReading{{0.2, 0.2, 0.25}, {0.002, 0.002, 0.002}, 0.1, 50};
    face.isManual = true;
    reading.faces = {face};
    reading.noise = rig::NoiseReading{{0.002, 0.0018, 0.003}, {0.004, 0.0031, 0.005}};
    reading.sharpness = rig::SharpnessReading{2.4, 0.1, 6.5, 1.0};
    reading.drift = rig::DriftReading{{0.001, 0.0, -0.001}, {1e-4, 2e-4, 3e-4}, 2.5};
    shot.reading = reading;
    take.shots.push_back(shot);
    rig.takes.push_back(take);
    rig.chart = (folder / "charts" / "mine.csv").string();
    rig.cameras[1].sheet.stopsPerStop = 0.94;
    rig.cameras[1].sheet.ndTaught = {{2.0, 1.7, {}}};
    rig.cameras[1].sheet.profiles.push_back(
        {"Worklog",
         *colour::tableCurve({"worklog.cube", {0.0, 0.2, 0.5, 1.0}, {0.0, 0.05, 0.2, 4.0}})});
    rig.cameras[1].viewingLut = folder / "luts" / "look.cube";
    return rig;
}

}  // namespace rigmatch::support
